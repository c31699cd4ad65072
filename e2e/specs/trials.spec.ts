import type { Page } from '@playwright/test';
import {
  bringIn,
  choose,
  drawn,
  expect,
  keep,
  makeShapesBy,
  openParts,
  openStep,
  placeOf,
  saved,
  test,
  textFile,
} from '../support/bench';
import { ObjText } from '../support/art';
import { Hand } from '../support/hand';
import { sampleFiles } from '../support/sample';

/** A sample piece on the bench of a yard of its own. */
async function onBench(page: Page, newYard: (name: string) => Promise<void>, piece: string): Promise<Hand> {
  await newYard(`Trials of ${piece}`);
  await bringIn(page, ...(await sampleFiles(piece)));
  await expect(page.getByText('Job card')).toBeVisible();
  await drawn(page);
  return new Hand(page);
}

const stamp = (page: Page, what: string) =>
  expect(page.locator('[data-step=trial] yb-stamp title')).toContainText(what, { timeout: 30_000 });
const walks = (page: Page) => page.getByTestId('walks');

/** An agent is sent from all sides; what the panel says of it. */
async function send(page: Page, agent: string): Promise<string> {
  await choose(page, 'Who walks', agent);
  await page.getByTestId('walk-all').click();
  await expect(page.getByTestId('walk-all')).toBeDisabled();
  await expect(page.getByTestId('walk-all')).toBeEnabled({ timeout: 60_000 });
  await saved(page);
  return (await walks(page).textContent())!;
}

/** The whole piece by the ladder. */
async function breakUp(page: Page): Promise<void> {
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Ladder');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Break into shapes' }).click();
  await page.getByTestId('proposal').waitFor({ timeout: 60_000 });
  await keep(page);
  await saved(page);
}

/** Something that moves is tried; what the panel comes to say of it. */
async function tryBody(page: Page, what: string, says: RegExp): Promise<RegExpExecArray> {
  await choose(page, 'What is tried', what);
  await page.getByTestId('try-body').click();
  const panel = page.getByTestId('bodies');
  await expect(panel).toContainText(says, { timeout: 60_000 });
  await saved(page);
  return says.exec((await panel.textContent())!)!;
}

test('quay stair: its slope is walked up smoothly, its steps shake the deckhand', async ({
  watched: page,
  newYard,
}) => {
  const hand = await onBench(page, newYard, 'Quay stair');
  await openStep(page, 'proxies');
  await hand.facesBy('Material');
  await hand.place('gritstone');
  await hand.way('Make');
  await hand.make('Slope');
  await hand.click(page.getByTestId('make-it'));
  await hand.keep();
  await openStep(page, 'trial');
  await stamp(page, 'nothing');
  expect(await send(page, 'deckhand')).toContain('shaken0');
  await expect(page.locator('[data-finding^=walk-shaken]')).toHaveCount(0);
  // By hand: it walks to the top by the way there is.
  await page.getByTestId('walk-by-hand').click();
  const bar = page.getByTestId('walk-bar');
  await expect(bar).toContainText('deckhand');
  await page.keyboard.down('ArrowUp');
  await page.waitForTimeout(300);
  await page.keyboard.up('ArrowUp');
  await page.getByTestId('walk-goal').click();
  await page.mouse.click(...(await placeOf(page, 'gritstone', 'highest')));
  await expect(bar.getByRole('status')).toContainText(/1\.[5-8]\d m up/, { timeout: 30_000 });
  await bar.getByRole('button', { name: 'End the walk' }).click();
  await expect(bar).toHaveCount(0);
  // The same stair by its steps: the walk of before tells of it no more, and the new one is shaken.
  await breakUp(page);
  await openStep(page, 'trial');
  await stamp(page, 'look');
  const stepped = await send(page, 'deckhand');
  await expect(page.locator('[data-finding^=walk-shaken]')).toContainText('jolts of up to');
  await stamp(page, 'stopped');
  // Twice the same numbers.
  expect(await send(page, 'deckhand')).toBe(stepped);
});

test('a quay block: the gull’s route leads to its top by a jump, and the deckhand has none', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Routes by jumps');
  const block = new ObjText().object('gritstone').box([0, 0.75, 0], [2, 0.75, 2]);
  await bringIn(page, textFile('quay block.obj', block.text()));
  const hand = new Hand(page);
  await hand.button(/^Confirm /);
  await openStep(page, 'proxies');
  await hand.way('Wrap');
  await hand.click(page.getByTestId('propose'));
  await hand.keep();
  await openStep(page, 'trial');
  const says = page.getByTestId('walk-bar').getByRole('status');
  const walkToTheTop = async (agent: string) => {
    await choose(page, 'Who walks', agent);
    await page.getByTestId('walk-by-hand').click();
    await expect(says).toContainText(agent);
    await page.getByTestId('walk-goal').click();
    await page.mouse.click(...(await placeOf(page, 'gritstone', 'highest')));
  };
  await walkToTheTop('deckhand');
  await expect(says).toContainText('no route leads there, it goes straight on');
  await walkToTheTop('gull');
  await expect(says).toContainText(/^gull, 1\.50 m up/, { timeout: 40_000 });
  await expect(says).not.toContainText('no route');
});

test('net loft wall: the deckhand passes its hatch, and the gantry rig is told what is missing', async ({
  watched: page,
  newYard,
}) => {
  const hand = await onBench(page, newYard, 'Net loft wall');
  await openStep(page, 'proxies');
  await hand.button('Find openings');
  await hand.button(/^Keep .*free for/);
  await breakUp(page);
  await openStep(page, 'trial');
  await send(page, 'deckhand');
  const opening = walks(page).getByRole('list', { name: 'Openings' }).getByRole('listitem').first();
  await expect(opening).toContainText(/✓ .*passes/);
  await expect(page.locator('[data-finding^=walk-opening]')).toHaveCount(0);
  await send(page, 'gantry rig');
  await expect(opening).toContainText(/✕ .*no route: .*mm too low/);
});

test('gangway: the deckhand is stopped by air over one box, and by nothing on the good set', async ({
  watched: page,
  newYard,
}) => {
  const hand = await onBench(page, newYard, 'Gangway');
  await openStep(page, 'proxies');
  await hand.way('Wrap');
  await choose(page, 'Kind of shape', /^Box$/);
  await page.getByTestId('propose').click();
  await keep(page);
  await openStep(page, 'trial');
  await send(page, 'deckhand');
  const air = page.locator('[data-finding^=walk-blocked]');
  await expect(air).toContainText(/stopped by air in \d+ places at shape 1, by up to [\d.]+ m of it/);
  await stamp(page, 'stopped');
  // Its place is gone to by a click, and the shape to blame is in the hand.
  await walks(page).locator('[data-line^=blocked] button').first().click();
  await expect(page.getByTestId('reading-line')).toContainText('1 shape');
  await breakUp(page);
  await openStep(page, 'trial');
  expect(await send(page, 'deckhand')).toContain('stopped by air0');
  await expect(air).toHaveCount(0);
});

test('oyster tray: a hundred balls stay in its container', async ({ watched: page, newYard }) => {
  const hand = await onBench(page, newYard, 'Oyster tray');
  await openStep(page, 'intake');
  await hand.button(/read the file in millimetres$/);
  await openStep(page, 'proxies');
  await hand.way('Make');
  await hand.make('Container');
  await hand.click(page.getByTestId('make-it'));
  await hand.keep();
  await openStep(page, 'trial');
  await tryBody(page, 'Pour balls into it', /100 of 100 balls stay inside/);
  const played = page.getByTestId('play-bar');
  await expect(played).toBeVisible();
  await played.getByRole('button', { name: 'Again' }).click();
  await played.getByRole('button', { name: 'Close' }).click();
  await expect(played).toHaveCount(0);
  // A barrel of few sides rolls more roughly than one of many.
  const wobble = async (sides: string) => {
    await choose(page, 'What is tried', 'Roll a barrel at it');
    await choose(page, 'Sides', sides);
    const says = new RegExp(`barrel of ${sides} rolled.*?down by ([\\d.]+) mm`);
    const [, value] = await tryBody(page, 'Roll a barrel at it', says);
    return Number(value);
  };
  expect(await wobble('6 sides')).toBeGreaterThan((await wobble('12 sides')) * 2);
  // What copies cost, in one sentence.
  await page.getByTestId('measure-cost').click();
  await expect(page.getByTestId('cost-says')).toContainText(/500 of these cost .* a step/, {
    timeout: 60_000,
  });
});

test('a gate: its leaf is swung on its hinge, and meets its frame at the right angle', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Swung gates');
  // A leaf of a metre, hinged at its front edge; half a metre before that stands a rail of the frame.
  const gate = new ObjText()
    .object('frame')
    .box([-0.2, 1, 0], [0.1, 1, 0.1])
    .box([0.8, 1, 0.6], [0.2, 1, 0.05])
    .object('leaf')
    .box([0.5, 1, 0], [0.5, 0.9, 0.05]);
  await bringIn(page, textFile('lock gate.obj', gate.text()));
  const hand = new Hand(page);
  await hand.button(/^Confirm /);
  await openStep(page, 'proxies');
  await hand.way('Wrap');
  await hand.button(/^Each of \d+ shells/);
  await choose(page, 'Kind of shape', /^Box$/);
  await hand.click(page.getByTestId('propose'));
  await hand.keep();
  await openStep(page, 'pivot');
  await hand.choose('Whose pivot', 'leaf');
  for (const [axis, metres] of [
    ['x', '0'],
    ['y', '1'],
    ['z', '0.05'],
  ] as const) {
    const field = page.getByLabel(`Pivot ${axis} in metres`);
    await field.fill(metres);
    await field.press('Enter');
  }
  await page.getByRole('button', { name: 'Axis along y' }).click();
  await page.getByLabel('From', { exact: true }).fill('-90');
  await page.getByLabel('From', { exact: true }).press('Enter');
  await saved(page);
  await openStep(page, 'trial');
  // Its tip comes to the rail where the sine of the angle is a half; the other way it is free.
  const says = /leaf swung ?meets shape 2 at (-[\d.]+)°/;
  const [all, degrees] = await tryBody(page, 'Swing a part', says);
  expect(Number(degrees)).toBe(-30);
  expect((await tryBody(page, 'Swing a part', says))[0]).toBe(all);
});

test('launch channel: a trolley drives over its slab, and not over what has none', async ({
  watched: page,
  newYard,
}) => {
  // A floor that is driven on stays a surface: for a target that takes one as it is.
  await newYard('Driven floors');
  await page.getByRole('link', { name: 'Rules' }).click();
  await page.getByRole('button', { name: 'Targets and profiles' }).click();
  await page.getByRole('checkbox', { name: 'Deliver for suffix tags' }).click();
  await page.getByRole('checkbox', { name: 'Deliver for prefix tags' }).click();
  await page.getByTestId('save-rules').click();
  await expect(page.getByText(/^Version \d+, saved/)).toBeVisible();
  await page
    .getByRole('navigation', { name: 'Where you are' })
    .getByRole('link', { name: 'Driven floors' })
    .click();
  await bringIn(page, ...(await sampleFiles('Launch channel')));
  await drawn(page);
  const hand = new Hand(page);
  await openStep(page, 'proxies');
  await hand.facesBy('Shell');
  await hand.place('channel floor');
  await hand.way('Make');
  await hand.make('Slab');
  await hand.click(page.getByTestId('make-it'));
  await hand.keep();
  await openStep(page, 'trial');
  await choose(page, 'What is tried', 'Drive over it');
  await choose(page, 'Direction', '+z');
  const says = /trolley ?(drives through|falls through|is stopped|tips over)/;
  const [, slab] = await tryBody(page, 'Drive over it', says);
  expect(slab).toBe('drives through');
});

test('launch channel: the trolley is driven by keys, and falls through a floor that looks down', async ({
  watched: page,
  newYard,
}) => {
  // A floor that is driven on stays a surface: for a target that takes one as it is.
  await newYard('Driven floors');
  await page.getByRole('link', { name: 'Rules' }).click();
  await page.getByRole('button', { name: 'Targets and profiles' }).click();
  await page.getByRole('checkbox', { name: 'Deliver for suffix tags' }).click();
  await page.getByRole('checkbox', { name: 'Deliver for prefix tags' }).click();
  await page.getByTestId('save-rules').click();
  await expect(page.getByText(/^Version \d+, saved/)).toBeVisible();
  await page
    .getByRole('navigation', { name: 'Where you are' })
    .getByRole('link', { name: 'Driven floors' })
    .click();
  await bringIn(page, ...(await sampleFiles('Launch channel')));
  await drawn(page);
  const hand = new Hand(page);
  /** The floor's own triangles as its only shape. */
  const floorOfTriangles = async () => {
    await openStep(page, 'proxies');
    await hand.facesBy('Shell');
    await hand.place('channel floor');
    await hand.way('Make');
    await hand.make('Triangles');
    await hand.click(page.getByTestId('make-it'));
    await hand.keep();
    await saved(page);
    await openStep(page, 'trial');
    await choose(page, 'What is tried', 'Drive over it');
    await choose(page, 'Direction', '+z');
  };
  const bar = page.getByTestId('drive-bar');
  const says = bar.getByRole('status');
  await floorOfTriangles();
  const driven = /trolley ?(drives through|falls through)/;
  expect((await tryBody(page, 'Drive over it', driven))[1]).toBe('drives through');
  await page.getByTestId('drive-by-keys').click();
  await expect(says).toContainText('4 of 4 wheels stand');
  await page.keyboard.down('ArrowUp');
  await expect(says).toContainText(/1\.\d m\/s/);
  await page.keyboard.up('ArrowUp');
  await bar.getByRole('button', { name: 'Restart' }).click();
  await expect(says).toContainText(/0\.0 m\/s, 4 of 4 wheels stand/);
  await bar.getByRole('button', { name: 'End the drive' }).click();
  await expect(bar).toHaveCount(0);

  // The same floor turned over: nothing carries what drives on it, and that is told.
  await page.getByTestId('undo').click();
  await openStep(page, 'parts');
  await openParts(page, 'Tree');
  await hand.button(/^Flip$/);
  await hand.keep();
  await saved(page);
  await floorOfTriangles();
  const [text] = await tryBody(page, 'Drive over it', /trolley ?falls through.*look down/);
  expect(text).toContain('the faces of shape 1 look down');
  expect((await tryBody(page, 'Drive over it', /trolley ?falls through.*look down/))[0]).toBe(text);
  await page.getByTestId('drive-by-keys').click();
  await expect(says).toContainText('falls; the faces under it look down');
});
