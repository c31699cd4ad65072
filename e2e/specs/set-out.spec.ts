import type { Page } from '@playwright/test';
import { expectAccessible } from '../support/axe';
import { choose, expect, saved, test } from '../support/bench';
import { expectNothingClipped, WINDOWS } from '../support/layout';

interface Probed extends HTMLCanvasElement {
  placeOf(name: string): { x: number; y: number } | null;
  pixelOf(at: readonly number[]): { x: number; y: number };
}

const line = (page: Page) => page.getByTestId('set-out-line');
const faults = (page: Page, kind: string) => page.locator(`[data-fault=${kind}]`);
const tab = (page: Page, name: RegExp) =>
  page.getByRole('group', { name: 'Sheet' }).getByRole('button', { name }).click();
const placeOf = async (page: Page, name: string, view = 'plan'): Promise<[number, number]> => {
  const find = () =>
    page.getByTestId(view).evaluate((canvas, name) => (canvas as Probed).placeOf(name), name);
  await expect.poll(find, { timeout: 60_000 }).not.toBeNull();
  const { x, y } = (await find())!;
  return [x, y];
};
const pixelOf = async (page: Page, at: readonly number[]): Promise<[number, number]> => {
  const { x, y } = await page
    .getByTestId('plan')
    .evaluate((canvas, at) => (canvas as Probed).pixelOf(at), at);
  return [x, y];
};

/** The set-out of the sample yard, drawn and looked at. */
async function onSetOut(page: Page, sampleYard: () => Promise<void>): Promise<void> {
  await sampleYard();
  await page.getByRole('link', { name: 'Set-out' }).click();
  await expect(line(page)).toContainText('12 pieces');
  await expect(page.getByTestId('plan')).toHaveAttribute('data-seen', /\d/);
  await placeOf(page, 'Quay wall straight 3');
}

async function drag(
  page: Page,
  from: readonly [number, number],
  by: readonly [number, number],
): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(from[0] + (by[0] * i) / 8, from[1] + (by[1] * i) / 8);
}

test('the slip: a gap of 12 mm is found, closed by dragging onto the neighbour’s end, and gone', async ({
  watched: page,
  sampleYard,
}) => {
  await onSetOut(page, sampleYard);
  await tab(page, /^Meet/);
  await expect(faults(page, 'seam')).toHaveCount(1, { timeout: 30_000 });
  await expect(faults(page, 'seam')).toContainText('leave a gap of 12.0 mm');
  await expect(faults(page, 'mirror-forgotten')).toContainText('Quay wall corner left has no shapes');
  // A drag that is given up changes nothing.
  const wall = await placeOf(page, 'Quay wall straight 3');
  await page.mouse.click(...wall);
  await drag(page, wall, [60, 0]);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(faults(page, 'seam')).toHaveCount(1);
  await drag(page, wall, [-5, 3]);
  await expect(line(page)).toContainText('end of Quay wall straight 2');
  await page.mouse.up();
  await expect(faults(page, 'seam')).toHaveCount(0, { timeout: 30_000 });
  // And back again, across a reload.
  await saved(page);
  await page.reload();
  await placeOf(page, 'Quay wall straight 3');
  await tab(page, /^Meet/);
  await expect(faults(page, 'mirror-forgotten')).toHaveCount(1, { timeout: 30_000 });
  await expect(faults(page, 'seam')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(faults(page, 'seam')).toContainText('12.0 mm', { timeout: 30_000 });
  await faults(page, 'seam')
    .getByRole('button', { name: /^Move Quay wall straight 3/ })
    .click();
  await expect(faults(page, 'seam')).toHaveCount(0, { timeout: 30_000 });
  // The forgotten shapes of the mirrored corner come from its twin.
  await faults(page, 'mirror-forgotten')
    .getByRole('button', { name: /^Mirror 3 shapes/ })
    .click();
  await expect(faults(page, 'mirror-forgotten')).toHaveCount(0, { timeout: 30_000 });
  await saved(page);
});

test('pieces are put, turned, repeated, grouped, mirrored for true and swapped, each one step back', async ({
  watched: page,
  sampleYard,
}) => {
  await onSetOut(page, sampleYard);
  await page.getByTestId('new-set-out').click();
  await expect(line(page)).toContainText('0 pieces');
  const list = page.getByTestId('placed-list');
  // Put by a click on the grid.
  await page
    .locator('yb-piece-strip')
    .getByRole('button', { name: /^Quay wall corner / })
    .first()
    .click();
  await page.mouse.move(...(await pixelOf(page, [0.3, 0, 0.2])));
  await expect(line(page)).toContainText('in the hand');
  await page.mouse.click(...(await pixelOf(page, [0.3, 0, 0.2])));
  await expect(list).toContainText('0.00, 0.00, 0.00');
  await page.keyboard.press('r');
  await page.getByLabel('x of the pivot').fill('2.5');
  await page.keyboard.press('Enter');
  await expect(list).toContainText('2.50, 0.00, 0.00');
  await page.getByTestId('undo').click();
  await expect(list).toContainText('0.00, 0.00, 0.00');
  // A run of twenty copings, and all swapped at once.
  await choose(page, 'Grid that pivots snap to', '500.0 mm');
  await page
    .locator('yb-piece-strip')
    .getByRole('button', { name: /^Copings/ })
    .click();
  await page.mouse.move(...(await pixelOf(page, [0.9, 0, 1.6])));
  await page.mouse.click(...(await pixelOf(page, [0.9, 0, 1.6])));
  await page.getByLabel('Copies').fill('19');
  await page.keyboard.press('Enter');
  await page.getByLabel('Step', { exact: true }).fill('1.5');
  await page.keyboard.press('Enter');
  await page.getByTestId('repeat').click();
  await expect(line(page)).toContainText('20 pieces');
  await expect(line(page)).toContainText('21 pieces');
  await page.getByRole('button', { name: 'Group', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Ungroup' })).toBeVisible();
  await page.getByText(/^all 20 of this piece at once/).click();
  await choose(page, 'Swap for', 'Bollard');
  await expect(list).toContainText('Bollard 15');
  await expect(list).not.toContainText('Copings');
  await page.keyboard.press('Control+z');
  await expect(list).toContainText('Copings 15');
  // A mirrored instance becomes a piece of its own.
  await page.keyboard.press('Escape');
  await list.getByRole('button', { name: 'Quay wall corner' }).click();
  await page.getByRole('button', { name: 'Mirror', exact: true }).click();
  await expect(list).toContainText('Quay wall corner (mirrored)');
  await page.getByTestId('true-mirror').click();
  await expect(page.getByTestId('true-mirror')).toHaveCount(0, { timeout: 60_000 });
  await expect(
    page.locator('[data-testid=placed-list] button', { hasText: 'Quay wall corner (mirrored)' }),
  ).toHaveCount(1);
  await page.keyboard.press('Delete');
  await expect(line(page)).toContainText('20 pieces');
  await saved(page);
});

test('two windows on one set-out: the second is told, and takes over what the first saved', async ({
  watched: page,
  sampleYard,
  context,
}) => {
  await onSetOut(page, sampleYard);
  await choose(page, 'Set-out', 'Slip');
  const other = await context.newPage();
  await other.goto(page.url());
  await placeOf(other, 'Slip winch');
  const rename = async (window: Page, name: string) => {
    await window.getByLabel('Name of the set-out').fill(name);
    await window.keyboard.press('Enter');
  };
  await rename(page, 'West slip');
  await saved(page);
  await rename(other, 'East slip');
  await expect(other.getByTestId('conflict')).toContainText('saved somewhere else');
  await other.getByRole('button', { name: 'Load their version' }).click();
  await expect(other.getByLabel('Name of the set-out')).toHaveValue('West slip');
  await other.close();
});

test('the deckhand walks across the set, and the set is delivered in every form', async ({
  watched: page,
  sampleYard,
}) => {
  test.setTimeout(240_000);
  await onSetOut(page, sampleYard);
  await tab(page, /^Trial/);
  await page.getByTestId('walk-set-by-hand').click();
  const bar = page.getByTestId('walk-bar');
  await expect(bar).toContainText('deckhand', { timeout: 60_000 });
  await page.keyboard.down('ArrowUp');
  await page.waitForTimeout(400);
  await page.keyboard.up('ArrowUp');
  await bar.getByRole('button', { name: 'End the walk' }).click();
  await page.getByTestId('walk-set').click();
  const trial = page.getByTestId('set-trial-panel');
  await expect(trial).toContainText('runs', { timeout: 120_000 });
  // Something is rolled across the whole set, and played.
  await choose(page, 'What goes across', 'a ball');
  await choose(page, 'Which way', 'against z');
  await page.getByTestId('try-across').click();
  await expect(page.getByTestId('across-panel')).toContainText('ball rolled', { timeout: 60_000 });
  const played = page.getByTestId('play-bar');
  await expect(played).toBeVisible();
  await played.getByRole('button', { name: 'Close' }).click();
  await tab(page, /^Deliver/);
  const panel = page.getByTestId('deliver-panel');
  for (const form of ['One file for all', 'A file a piece and a list of places', 'A file a group']) {
    await choose(page, 'Files', form);
    const name = `Slip${form.length}`;
    await page.getByLabel('Name of the files').fill(name);
    await page.getByTestId('deliver-set').getByRole('button').click();
    await expect(panel.getByRole('link', { name: `${name}.placements.json` })).toBeVisible({
      timeout: 60_000,
    });
    // Only what nobody has drawn shapes for comes otherwise: the target makes a box of its own round it.
    const differing = await panel.locator('[data-differs]').allTextContents();
    expect(differing.filter((point) => !point.includes('one box round everything, made up'))).toEqual([]);
    await expect(page.getByTestId('set-verdict')).toContainText(`${differing.length} differ`);
  }
  await page.getByRole('link', { name: 'Deliveries' }).click();
  await expect(page.locator('yb-deliveries-page')).toContainText('Quay stair');
});

test('the page of a set-out: axe finds nothing, and nothing is cut off in any window', async ({
  watched: page,
  sampleYard,
}) => {
  test.setTimeout(180_000);
  await onSetOut(page, sampleYard);
  const winch = await placeOf(page, 'Slip winch');
  for (const { name, width, height } of WINDOWS) {
    await page.setViewportSize({ width, height });
    for (const sheet of [/^Placed/, /^Meet/, /^Trial/, /^Deliver/]) {
      await tab(page, sheet);
      await expectNothingClipped(page, `${sheet}, ${name}`);
      if (name === WINDOWS[0].name) await expectAccessible(page, `set-out, ${sheet}`);
    }
  }
  await page.setViewportSize(WINDOWS[0]);
  await tab(page, /^Placed/);
  await page.mouse.click(...winch);
  await expect(page.getByTestId('chosen-panel')).toContainText('Slip winch');
  await expectNothingClipped(page, 'a chosen piece');
  await expectAccessible(page, 'a chosen piece');
  await page.getByRole('group', { name: 'Views' }).getByRole('button', { name: 'Both' }).click();
  await placeOf(page, 'Slip trolley', 'set-view');
  await expectNothingClipped(page, 'both views');
  await expectAccessible(page, 'both views');
});
