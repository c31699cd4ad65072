import type { Page } from '@playwright/test';
import { artBounds, type Bounds, currentDocument, historySchema } from '@yard-brace/core';
import {
  bringIn,
  choose,
  drawn,
  expect,
  keep,
  makeShapesBy,
  note,
  openParts,
  openStep,
  placeOf,
  saved,
  test,
  type TestFile,
} from '../support/bench';
import { sampleFiles } from '../support/sample';

async function onTheBench(page: Page, files: readonly TestFile[]): Promise<void> {
  await bringIn(page, ...files);
  await expect(page.getByText('Job card')).toBeVisible();
  await drawn(page);
}

/** A sample piece under a file name of its own: the same model, and another piece. */
async function sampleAs(name: string, file: string): Promise<TestFile[]> {
  const [main, ...beside] = await sampleFiles(name);
  return [{ ...main!, name: file }, ...beside];
}

async function typeIn(page: Page, label: string, value: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).fill(value);
  await page.keyboard.press('Enter');
}

const proposal = (page: Page) => page.getByTestId('proposal');

async function cutAt(page: Page, metres: string, which: 'Cut off beyond' | 'Cut off before'): Promise<void> {
  await typeIn(page, 'Cut at', metres);
  await page.getByRole('button', { name: which }).click();
  await expect(proposal(page)).toContainText('cut off at the plane');
  await keep(page);
  await drawn(page);
}

async function shelf(page: Page, yard: string): Promise<void> {
  await saved(page);
  await page.getByRole('link', { name: yard, exact: true }).click();
  await expect(page.getByRole('heading', { name: /Shelf/ })).toBeVisible();
}

test('a quay wall is cut to length, bent to a quarter turn and closed with two others without a seam', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(180_000);
  await newYard('Walls');
  // Three lengths of one wall: its beginning, a metre that becomes the turn, and the end that is set to it.
  await onTheBench(page, await sampleAs('Quay wall straight', 'begins.obj'));
  await page.getByRole('button', { name: 'Confirm m' }).click();
  await openStep(page, 'parts');
  await openParts(page, 'Module');
  await cutAt(page, '2.5', 'Cut off beyond');
  await shelf(page, 'Walls');

  await onTheBench(page, await sampleAs('Quay wall straight', 'turns.obj'));
  await page.getByRole('button', { name: 'Confirm m' }).click();
  await openStep(page, 'parts');
  await openParts(page, 'Module');
  await cutAt(page, '2.5', 'Cut off before');
  await cutAt(page, '3.5', 'Cut off beyond');
  await page.getByRole('button', { name: 'Bend', exact: true }).first().click();
  await page.getByTestId('bend').click();
  await expect(proposal(page)).toContainText('2 parts bent by 90° in 8 divisions');
  await keep(page);
  await shelf(page, 'Walls');

  await onTheBench(page, await sampleAs('Quay wall straight', 'ends.obj'));
  await page.getByRole('button', { name: 'Confirm m' }).click();
  await openStep(page, 'parts');
  await openParts(page, 'Module');
  await cutAt(page, '3.5', 'Cut off before');
  await openParts(page, 'Place');
  await choose(page, 'Piece to show beside', 'Turns');
  await typeIn(page, 'Turn by', '-90');
  await page.getByLabel('Turn about y').click();
  await expect(page.getByTestId('undo')).toHaveAttribute('title', /move part/);
  for (const [own, met] of [
    ['back', 'front'],
    ['right', 'right'],
  ] as const) {
    await choose(page, 'Side that is aligned', new RegExp(`^${own}$`));
    await choose(page, 'Side that it meets', new RegExp(`^${met}$`));
    await choose(page, 'What it is aligned to', 'Turns, beside');
    await page.getByTestId('align').click();
    await expect(page.getByText('The piece is moved').last()).toBeVisible();
  }
  const seams = page.getByTestId('beside');
  const meets = /(\d+) of \1 vertices meet(?!, at most)/;
  await expect(seams).toContainText(meets);
  await shelf(page, 'Walls');
  await page.getByRole('link', { name: 'Turns', exact: true }).click();
  await drawn(page);
  await openStep(page, 'parts');
  await openParts(page, 'Place');
  await choose(page, 'Piece to show beside', 'Begins');
  await expect(seams.first()).toContainText(meets);
  await choose(page, 'Piece to show beside', 'Ends');
  await expect(seams.nth(1)).toContainText(meets);
});

test('two copings of different profile are a family, and lie over each other by their pivots', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Copings');
  await onTheBench(page, await sampleFiles('Copings'));
  await page.getByLabel(/and remove this piece/).check();
  await page.getByTestId('split-pieces').click();
  await expect(page.getByRole('heading', { name: /Shelf/ })).toContainText('2 pieces');
  await page.getByRole('link', { name: 'Coping 01', exact: true }).click();
  await drawn(page);
  await openStep(page, 'pivot');
  await page.getByRole('radio', { name: 'left bottom back', exact: true }).click();
  await typeIn(page, 'Family', 'coping');
  await saved(page);
  await page.getByRole('link', { name: 'Coping 02' }).click();
  await expect(page).toHaveTitle(/Coping 02/);
  await drawn(page);
  await openStep(page, 'pivot');
  await typeIn(page, 'Family', 'coping');
  await expect(proposal(page)).toContainText('to where Coping 01 has it');
  await expect(page.getByRole('group', { name: 'What the family has in common' })).toBeVisible();
  await keep(page);
  await page.getByLabel('lay them over it, by their pivots').check();
  await drawn(page);
  await expect(page.locator('[data-finding=family-drift]')).toHaveCount(0);
  await openStep(page, 'parts');
  await openParts(page, 'Place');
  await expect(page.getByTestId('beside')).toContainText('Coping 01');
  await shelf(page, 'Copings');

  // One of them is set on a wall, the other one takes its place by the pivot: both lie on it without a gap.
  await onTheBench(page, await sampleAs('Quay wall straight', 'wall.obj'));
  await page.getByRole('button', { name: 'Confirm m' }).click();
  const wall = await boundsOnBench(page);
  await shelf(page, 'Copings');
  await page.getByRole('link', { name: 'Coping 01', exact: true }).click();
  await drawn(page);
  await openStep(page, 'parts');
  await openParts(page, 'Place');
  await choose(page, 'Piece to show beside', 'Wall');
  for (const [own, met] of [
    ['bottom', 'top'],
    ['left', 'left'],
  ] as const) {
    await choose(page, 'Side that is aligned', new RegExp(`^${own}$`));
    await choose(page, 'Side that it meets', new RegExp(`^${met}$`));
    await choose(page, 'What it is aligned to', 'Wall, beside');
    await page.getByTestId('align').click();
    await expect(page.getByText('The piece is moved').last()).toBeVisible();
  }
  const pivot = await Promise.all(
    [...'xyz'].map((axis) => page.getByLabel(`Position ${axis} of the piece`).inputValue()),
  );
  const first = await boundsOnBench(page);
  expect(first.min[1] - wall.max[1]).toBeCloseTo(0, 6);
  await page.getByRole('link', { name: 'Coping 02' }).click();
  await expect(page).toHaveTitle(/Coping 02/);
  await drawn(page);
  await openStep(page, 'parts');
  await openParts(page, 'Place');
  for (const [i, axis] of [...'xyz'].entries())
    await typeIn(page, `Position ${axis} of the piece`, pivot[i]!);
  const second = await boundsOnBench(page);
  // Their profiles differ; both begin at the end of the wall and lie on its top.
  const depth = ({ min, max }: Bounds) => (max[2] - min[2]) / (max[1] - min[1]);
  expect(depth(second)).not.toBeCloseTo(depth(first), 2);
  for (const coping of [first, second]) {
    expect(coping.min[1] - wall.max[1]).toBeCloseTo(0, 4);
    expect(coping.min[0] - wall.min[0]).toBeCloseTo(0, 4);
  }
});

/** Bounds of the art of the piece on the bench as it was last saved, metres. */
async function boundsOnBench(page: Page): Promise<Bounds> {
  await saved(page);
  const { origin, pathname } = new URL(page.url());
  const piece: { history: unknown } = await (await page.request.get(`${origin}/api${pathname}`)).json();
  return artBounds(currentDocument(historySchema.parse(piece.history)));
}

test('the wheels of the trolley turn on axles that are found in their rounds', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Trolleys');
  await onTheBench(page, await sampleFiles('Slip trolley'));
  await openStep(page, 'parts');
  await page.getByRole('button', { name: 'Number duplicate names' }).click();
  const wheel = (
    await page.locator('[data-part]').evaluateAll((rows) => rows.map((row) => row.getAttribute('data-part')!))
  ).find((name) => /wheel/i.test(name))!;
  await openStep(page, 'pivot');
  await choose(page, 'Whose pivot', new RegExp(`^${wheel}$`));
  await page.getByTestId('axle').click();
  await page.mouse.click(...(await placeOf(page, wheel)));
  await expect(page.getByText(/Axis of a round of .* across/)).toBeVisible();
  await typeIn(page, 'To', '360');
  await page.getByTestId('swing').getByRole('slider').focus();
  for (let i = 0; i < 45; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('swing')).toContainText('45°');
  await page.getByRole('button', { name: 'Keep this pose' }).click();
  await expect(proposal(page)).toContainText('is rotated by 45.0°');
  await keep(page);
  // A trial ends with the step.
  await page.getByTestId('swing').getByRole('slider').focus();
  await page.keyboard.press('ArrowRight');
  await openStep(page, 'size');
  await openStep(page, 'pivot');
  await choose(page, 'Whose pivot', new RegExp(`^${wheel}$`));
  await expect(page.getByTestId('swing')).toContainText('0°');
});

test('the parts of a gangway are moved apart, mirrored and put back where they were', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Gangways');
  await onTheBench(page, await sampleFiles('Gangway'));
  const before = await note(page, 'size').textContent();
  await openStep(page, 'parts');
  await openParts(page, 'Tree');
  await page.locator('[data-part]').nth(1).click();
  await openParts(page, 'Place');
  const field = page.getByLabel('Position x of the part');
  const was = await field.inputValue();
  await typeIn(page, 'Position x of the part', '+9');
  await expect(field).toHaveValue('9 m');
  await expect(note(page, 'size')).not.toHaveText(before!);
  for (let i = 0; i < 2; i++) {
    await page.getByRole('button', { name: 'Mirror in place' }).click();
    await expect(page.getByText(/mirrored; faces look outward/).last()).toBeVisible();
  }
  await expect(field).toHaveValue('9 m');
  await typeIn(page, 'Position x of the part', was);
  await expect(note(page, 'size')).toHaveText(before!);
  await saved(page);
  for (let i = 0; i < 4; i++) await page.getByTestId('undo').click();
  await expect(field).toHaveValue(was);
});

test('an oyster tray without UVs comes to the density of the yard and gets a second set for baked light', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Trays');
  await onTheBench(page, await sampleFiles('Oyster tray'));
  await openStep(page, 'parts');
  await openParts(page, 'UVs');
  const table = page.locator('yb-uv-panel tbody tr');
  await page.getByRole('button', { name: 'Project UVs' }).click();
  await expect(proposal(page)).toContainText('new UVs at 1.00 m a picture');
  await keep(page);
  await page.getByRole('button', { name: 'Set the density' }).click();
  // 512 pixels a metre in a picture of 1,024: half of one.
  await expect(proposal(page)).toContainText('0.5 picture widths a metre');
  // Old and new side by side, under the same checker.
  await expect(page.getByTestId('before')).toHaveCount(0);
  await page.getByTestId('as-it-is').click();
  await expect(page.getByTestId('before')).toBeVisible();
  const widths = async () =>
    Promise.all(['before', 'view'].map(async (id) => (await page.getByTestId(id).boundingBox())!.width));
  await expect.poll(async () => Math.abs((await widths())[0]! - (await widths())[1]!)).toBeLessThan(4);
  await keep(page);
  await expect(page.getByTestId('before')).toHaveCount(0);
  await expect(table.first()).toContainText('2.00 m');
  await page.getByTestId('unwrap').click();
  await expect(proposal(page)).toContainText(/a second UV set of [\d,]+ islands/, { timeout: 60_000 });
  await keep(page);
  await expect(table.nth(1)).toContainText(/px/);
  await expect(table.nth(1)).not.toContainText('overlaps');
  await choose(page, 'What is painted on the piece', 'density');
  await expect(page.getByTestId('uv-legend')).toContainText('Pictures a metre of set 1');
});

test('the winch: slots are added and removed, one set of faces takes a second slot, and nothing else does', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Winches');
  await onTheBench(page, await sampleFiles('Slip winch'));
  await openStep(page, 'parts');
  await openParts(page, 'Materials');
  const slots = page.locator('yb-materials-panel > section > .list li');
  await expect(slots.nth(0)).toContainText(/\d faces/);
  const [, count] = /([\d,]+) faces/.exec((await slots.nth(0).textContent())!)!;
  await expect(page.getByLabel('Assign galvanised')).toBeDisabled();
  await page.getByRole('button', { name: 'Remove 1 unused' }).click();
  await expect(slots).toHaveCount(2);
  await page.getByTestId('add-material').click();
  await page.getByLabel('Name of material 3').fill('brass');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Flat', exact: true }).click();
  await page.mouse.click(...(await placeOf(page, 'frame')));
  await expect(page.getByText(/Faces that take a material: [\d,]+ chosen face/)).toBeVisible();
  const chosen = Number(
    /material: ([\d,]+)/
      .exec((await page.getByText(/Faces that take a material:/).textContent())!)![1]!
      .replace(',', ''),
  );
  await page.getByLabel('Assign brass').click();
  await expect(slots.nth(2)).toContainText(`${chosen.toLocaleString('en-GB')} face`);
  const left = Number(/([\d,]+) faces/.exec((await slots.nth(0).textContent())!)![1]!.replace(',', ''));
  const other = Number(/([\d,]+) faces/.exec((await slots.nth(1).textContent())!)![1]!.replace(',', ''));
  expect(left + other + chosen).toBe(9102);
  expect(Number(count!.replace(',', ''))).toBeGreaterThan(0);
});

test('a corner is made as a true mirrored piece, with its proxies', async ({ watched: page, newYard }) => {
  await newYard('Corners');
  await onTheBench(page, await sampleFiles('Quay wall corner'));
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByRole('button', { name: /^Each of \d+ shells/ }).click();
  await page.getByTestId('propose').click();
  await keep(page);
  const shapes = await note(page, 'proxies').textContent();
  await openStep(page, 'parts');
  await openParts(page, 'Place');
  await page.getByTestId('mirror-as-piece').click();
  await expect(page).toHaveTitle(/\(mirrored\)/);
  await drawn(page);
  await expect(note(page, 'proxies')).toContainText(/\d+ shapes/);
  const [count] = /\d+ shapes, [\d,]+ corners/.exec(shapes!)!;
  await expect(note(page, 'proxies')).toContainText(count!);
  await openStep(page, 'intake');
  await expect(page.locator('[data-finding=inside-out]')).toHaveCount(0);
});

test('sizes are read in centimetres and inches, angles and directions with them', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Units');
  await onTheBench(page, await sampleFiles('Oyster tray'));
  await shelf(page, 'Units');
  for (const [unit, pattern] of [
    ['cm', /[\d.]+ × [\d.]+ × [\d.]+ cm/],
    ['in', /[\d.]+ × [\d.]+ × [\d.]+ in/],
  ] as const) {
    await page.getByRole('link', { name: 'Rules' }).click();
    await choose(page, 'Lengths are shown in', unit);
    await page.getByRole('button', { name: 'Save rules' }).click();
    await expect(page.getByRole('button', { name: 'Save rules' })).toBeDisabled();
    await page.getByRole('link', { name: 'Shelf', exact: true }).click();
    await page.getByRole('link', { name: 'Oyster tray' }).first().click();
    await drawn(page);
    await openStep(page, 'size');
    await expect(page.getByTestId('own-sides')).toHaveText(pattern);
    await shelf(page, 'Units');
  }
});
