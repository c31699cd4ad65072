import type { Page } from '@playwright/test';
import { expect, makeShapesBy, note, openStep, placeOf, saved, test, watch } from '../support/bench';

const shelf = (page: Page) => page.getByRole('heading', { name: /Shelf/ });

test('the sample yard stands on the shelf with pictures, tallies and sizes', async ({
  watched: page,
  sampleYard,
}) => {
  await sampleYard();
  await expect(shelf(page)).toContainText('17 pieces');
  await expect(page.locator('yb-piece-card img').first()).toBeVisible({ timeout: 90_000 });
  await expect(page.locator('yb-piece-card').filter({ hasNot: page.locator('img') })).toHaveCount(0, {
    timeout: 90_000,
  });
  await expect(page.locator('yb-piece-card').filter({ hasText: 'Bollard' })).toContainText(
    '0.82 × 0.64 × 0.82 m',
  );
  await page.getByPlaceholder('Filter by name').fill('boat');
  await expect(page.locator('yb-piece-card')).toHaveCount(1);
  await page.getByPlaceholder('Filter by name').fill('');
  await page.getByText('By triangles').click();
  await expect(page.locator('yb-piece-card b').first()).toHaveText('Dinghy');
});

test('a piece is found by name, pointing lights shape and list, keys open steps', async ({
  watched: page,
  sampleYard,
}) => {
  await sampleYard();
  await expect(shelf(page)).toContainText('17 pieces');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('cradle');
  await page.keyboard.press('Enter');
  await expect(page.locator('nav b')).toHaveText('Boat cradle');
  await expect(page.locator('[data-finding=left-out]')).toContainText('1 camera');

  await page.keyboard.press('5');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  // A step that is pressed while the card closes up after Keep, and has moved before it is let go, opens all the same.
  await page.locator('[data-step=trial]').hover();
  await page.mouse.down();
  await page.getByTestId('keep').evaluate((keep: HTMLElement) => keep.querySelector('button')!.click());
  await page.getByTestId('proposal').waitFor({ state: 'detached' });
  await page.mouse.up();
  await expect(page.locator('[data-step=trial]')).toHaveAttribute('aria-expanded', 'true');
  // A pointer that moves off a button before it is let go has changed its mind.
  await page.locator('[data-step=delivery]').hover();
  await page.mouse.down();
  await page.mouse.move(400, 400, { steps: 4 });
  await page.mouse.up();
  await expect(page.locator('[data-step=trial]')).toHaveAttribute('aria-expanded', 'true');
  await page.keyboard.press('5');
  await saved(page);
  const view = page.getByTestId('view');
  const box = (await view.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await expect(page.getByTestId('reading-line')).toContainText('Shape 1, box');
  await expect(page.locator('[data-shape="1"]')).toHaveClass(/lit/);
  await page.mouse.move(box.x + 5, box.y + box.height - 5);
  await expect(page.locator('[data-shape="1"]')).not.toHaveClass(/lit/);
  await page.locator('[data-shape="1"]').hover();
  await expect(page.locator('.tag.lit')).toHaveText('1');

  // Behind the veil the art is under the pointer, with its material and place.
  await page.keyboard.press('4');
  await page.getByRole('slider', { name: /Veil/ }).focus();
  for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowLeft');
  await page.mouse.move(...(await placeOf(page, 'base')));
  await expect(page.getByTestId('reading-line')).toContainText(/base.*(oak|carpet|galvanised)/);

  await page.getByTestId('view').click({ position: { x: 5, y: box.height - 5 } });
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toHaveCount(0);
  await page.getByTestId('undo').click();
  await expect(note(page, 'proxies')).toContainText('no shapes yet');
  await saved(page);
});

test('a name that the target drops stops the delivery until its mend is taken', async ({
  watched: page,
  sampleYard,
}) => {
  await sampleYard();
  await page.getByRole('link', { name: 'Dinghy' }).click();
  await openStep(page, 'names');
  await page.getByLabel('Mesh').fill('old dinghy!');
  await page.getByLabel('Mesh').press('Enter');
  await expect(page.getByText('1 step stopped')).toBeVisible();
  await openStep(page, 'delivery');
  await expect(page.getByTestId('deliver').locator('button')).toBeDisabled();
  await openStep(page, 'names');
  await page.getByRole('button', { name: 'Name it old_dinghy' }).click();
  await openStep(page, 'delivery');
  await page.getByTestId('deliver').click();
  // It has no shapes: a box that an importer makes up is not what was drawn.
  await expect(page.getByTestId('verdict')).toContainText('1 of 15 points differ');
  await expect(page.getByTestId('read-back')).toContainText('one box round everything is made up');
});

test('several pieces are chosen on the shelf, delivered together, and removed only when asked twice', async ({
  watched: page,
  sampleYard,
}) => {
  await sampleYard();
  await page.getByLabel('Choose Bollard').check();
  await page.getByLabel('Choose Quay wall straight').check();
  await expect(page.getByText('2 pieces chosen')).toBeVisible();
  await page.getByRole('button', { name: 'Deliver for prefix tags' }).click();
  await expect(
    page.getByText('2 pieces were delivered; 1 read back differently, as their delivery steps say: Bollard.'),
  ).toBeVisible();
  await page.getByLabel('Choose Bollard').uncheck();
  await page.getByLabel('Choose Quay wall straight').uncheck();
  await page.getByLabel('Choose Rope coil').check();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(shelf(page)).toContainText('17 pieces');
  await page.getByRole('alertdialog').getByRole('button', { name: 'Remove 1 piece' }).click();
  await expect(shelf(page)).toContainText('16 pieces');
  await expect(page.getByText('Rope coil', { exact: true })).toHaveCount(0);
});

test('the original comes back byte for byte, and nothing is asked of the outside', async ({
  page,
  sample,
}) => {
  const errors = watch(page);
  const outside: string[] = [];
  page.on('request', (request) => {
    if (!request.url().startsWith(sample.address) && !/^(blob|data):/.test(request.url()))
      outside.push(request.url());
  });
  await page.goto(sample.address);
  await page.getByRole('link', { name: /Saltgate Slip/ }).click();
  await page.getByRole('link', { name: 'Bollard' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'bollard.obj' }).click();
  const { samplePieces } = await import('@yard-brace/demo');
  const { readFileSync } = await import('node:fs');
  const original = (await samplePieces())
    .flatMap((piece) => piece.files)
    .find((file) => file.name === 'bollard.obj')!;
  expect(readFileSync(await (await download).path()).equals(Buffer.from(original.bytes))).toBe(true);
  const response = await page.request.get(sample.address);
  expect(response.headers()['content-security-policy']).toContain("default-src 'self'");
  expect(response.headers()['content-security-policy']).not.toContain("'unsafe-eval'");
  expect(outside).toEqual([]);
  expect(errors).toEqual([]);
});
