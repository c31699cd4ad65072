import type { Page } from '@playwright/test';
import { bringIn, expect, keep, makeShapesBy, openStep, placeOf, saved, test } from '../support/bench';
import { expectAccessible } from '../support/axe';
import { expectNothingClipped } from '../support/layout';
import { sampleFiles } from '../support/sample';

/** Press on something over the view, move so far, and let go; the key is pressed before that. */
async function drag(page: Page, selector: string, by: [number, number], key?: string): Promise<void> {
  const { x, y, width, height } = (await page.locator(selector).boundingBox())!;
  const [from, to] = [x + width / 2, y + height / 2];
  await page.mouse.move(from, to);
  await page.mouse.down();
  await page.mouse.move(from + by[0] / 2, to + by[1] / 2);
  await page.mouse.move(from + by[0], to + by[1], { steps: 3 });
  if (key) await page.keyboard.press(key);
  else await expect(page.getByTestId('drag-said')).toBeVisible();
  await page.mouse.up();
}

test('a shape is chosen in the view, dragged by a face, moved, typed, copied, cut, joined and removed', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(120_000);
  await newYard('By hand');
  await bringIn(page, ...(await sampleFiles('Boat cradle')));
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await keep(page);
  const size = (axis: string) => page.getByLabel(`Size ${axis}`, { exact: true });
  const metres = async (axis: string) => parseFloat(await size(axis).inputValue());

  // A press on its tag takes it in the hand: a tab at each face and corner, one to turn it by, its numbers in the card.
  await page.locator('[data-tag="1"]').click();
  await expect(page.locator('[data-tab]')).toHaveCount(6 + 8 + 1);
  await expectAccessible(page, 'a shape in the hand');
  await expectNothingClipped(page, 'a shape in the hand');
  const before = await metres('y');
  await drag(page, '[data-tab="+y"]', [0, -60]);
  await expect.poll(() => metres('y')).toBeGreaterThan(before + 0.05);
  await saved(page);
  const grown = await metres('y');

  // One drag is one step; one that is left with Escape is none.
  await drag(page, '[data-tab="+y"]', [0, -60], 'Escape');
  await expect(page.getByTestId('drag-said')).toHaveCount(0);
  expect(await metres('y')).toBe(grown);
  await page.getByTestId('undo').click();
  await expect.poll(() => metres('y')).toBe(before);
  await page.getByTestId('redo').click();
  await expect.poll(() => metres('y')).toBe(grown);

  // Turned by its protractor, grown by a corner; both are taken back.
  const turned = page.getByLabel('Rotation y', { exact: true });
  const faced = await turned.inputValue();
  await drag(page, '[data-tab=turn]', [60, -20]);
  await expect(turned).not.toHaveValue(faced);
  await page.getByTestId('undo').click();
  await expect(turned).toHaveValue(faced);
  // Its own axes lie as the closest box does: which of its extents grow is not said.
  const extents = async () => (await Promise.all(['x', 'y', 'z'].map(metres))).join();
  const small = await extents();
  await drag(page, '[data-tab="corner+++"]', [50, -10]);
  await expect.poll(extents).not.toBe(small);
  await page.getByTestId('undo').click();
  await expect.poll(extents).toBe(small);

  // Its tag moves it; what is typed is worked out.
  const at = page.getByLabel('Position x', { exact: true });
  const stood = await at.inputValue();
  await drag(page, '[data-tag="1"]', [70, 0]);
  await expect(at).not.toHaveValue(stood);
  await at.fill('0.4+0.02');
  await at.press('Enter');
  await expect(at).toHaveValue('0.42 m');

  // Copied, mirrored, cut, joined, removed.
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect(page.locator('[data-shape]')).toHaveCount(2);
  await page.getByRole('button', { name: 'Mirror along x' }).click();
  await expect(page.locator('[data-shape]')).toHaveCount(3);
  await page.getByRole('button', { name: 'Choose shape 3' }).click();
  await page.getByRole('button', { name: 'Cut across y' }).click();
  await expect(page.locator('[data-shape]')).toHaveCount(4);
  await page.getByRole('button', { name: 'Choose shape 1' }).click();
  await page.getByRole('button', { name: 'Choose shape 2' }).click({ modifiers: ['Shift'] });
  await expect(page.locator('[data-tab]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Join 2 in a hull' }).click();
  await expect(page.locator('[data-shape]')).toHaveCount(3);
  await page.getByTestId('view').focus();
  await page.keyboard.press('Delete');
  await expect(page.locator('[data-shape]')).toHaveCount(2);

  // Nothing is in the hand any more, and all of it is there after a reload.
  await expect(page.getByTestId('shape-actions')).toHaveCount(0);
  await saved(page);
  await page.reload();
  await openStep(page, 'proxies');
  await expect(page.locator('[data-shape]')).toHaveCount(2);
});

test('a belly is added, a click beside the shapes lets go, a click on a shape takes it', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Belly');
  await bringIn(page, ...(await sampleFiles('Bollard')));
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await keep(page);
  const view = (await page.getByTestId('view').boundingBox())!;
  await page.mouse.click(view.x + view.width / 2, view.y + view.height / 2);
  await expect(page.locator('[data-tab]')).toHaveCount(6 + 8 + 1);
  await page.getByRole('button', { name: 'Belly' }).click();
  await expect(page.locator('[data-kind=hull]')).toHaveCount(1);
  await expect(page.locator('[data-tab]').first()).toBeVisible();
  await page.mouse.click(view.x + 20, view.y + view.height - 60);
  await expect(page.locator('[data-tab]')).toHaveCount(0);
  await expect(page.getByTestId('shape-numbers')).toHaveCount(0);
});

test('a shape is laid round chosen faces, in the kind that lies closest, and takes another kind', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Around');
  await bringIn(page, ...(await sampleFiles('Boat cradle')));
  await openStep(page, 'proxies');
  await page.getByTestId('chosen-faces').getByRole('button', { name: 'Shell' }).click();
  await page.mouse.click(...(await placeOf(page, 'base')));
  await page.getByTestId('ask-around').click();
  await expect(page.locator('[data-around]')).toHaveCount(14, { timeout: 30_000 });
  await expectAccessible(page, 'kinds around faces');
  await expectNothingClipped(page, 'kinds around faces');
  await page.locator('.closest').getByRole('button').click();
  await expect(page.locator('[data-shape]')).toHaveCount(1);
  await expect(page.locator('[data-tab]').first()).toBeVisible();

  await page.getByRole('button', { name: 'Clear faces' }).click();
  await page.getByTestId('ask-around').click();
  await page.getByRole('button', { name: 'Capsule', exact: true }).click();
  await expect(page.locator('[data-shape="1"]')).toHaveAttribute('data-kind', 'capsule');
  await saved(page);
});
