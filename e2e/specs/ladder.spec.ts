import { bringIn, expect, openStep, saved, test } from '../support/bench';
import { changedFiles, sampleFiles } from '../support/sample';

test('a stair is broken up by a ladder, looked at, kept, named, delivered and read back', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(120_000);
  await newYard('Ladder');
  await bringIn(page, ...(await sampleFiles('Quay stair')));
  await openStep(page, 'proxies');
  await expect(page.getByTestId('agent')).toContainText('deckhand');
  await page.getByTestId('break-up').click();
  const ladder = page.getByTestId('ladder');
  await expect(ladder).toBeVisible({ timeout: 60_000 });

  // Every rung has its button, the chart its points, the good-enough rung its mark; it is the one shown.
  const rungs = page.locator('[data-rung]');
  await expect(page.locator('yb-ladder-chart .apexcharts-marker')).toHaveCount(await rungs.count());
  await expect(page.locator('.rungs .enough')).toHaveClass(/\bon\b/);
  await expect(page.locator('yb-ladder-chart')).toContainText('good enough');

  // Moving along it changes the view at once: as many tags as shapes.
  await page.locator('[data-rung="1"]').click();
  await expect(page.locator('.tags .tag')).toHaveCount(1);
  await expect(page.locator('[data-figure="Excess"]')).toContainText('mm');
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('.tags .tag')).toHaveCount(2);
  await expect(page.locator('[data-step=proxies]')).toContainText('2 shapes proposed');

  // The deviation view measures what is shown, with a legend in millimetres.
  await page.getByTestId('deviation').click();
  await expect(page.getByTestId('legend')).toContainText('40.0 mm excess', { timeout: 30_000 });
  await page.getByTestId('deviation').click();

  // Sixteen: ten steps, four posts, two rails.
  await page.locator('[data-rung="16"]').click();
  await expect(page.locator('[data-kind=box]')).toHaveCount(10);
  await page.getByRole('button', { name: 'Keep 16 shapes' }).click();
  await saved(page);
  await expect(ladder).toHaveCount(0);
  await expect(page.locator('[data-step=proxies]')).toContainText('16 shapes');
  await page.getByTestId('undo').click();
  await expect(page.locator('[data-step=proxies]')).toContainText('no shapes yet');
  await page.getByTestId('redo').click();
  await saved(page);
  await page.reload();
  await expect(page.locator('[data-step=proxies]')).toContainText('16 shapes');

  // A second run has something to stand beside.
  await openStep(page, 'proxies');
  await page.getByTestId('break-up').click();
  await expect(page.locator('[data-figure=Shapes]')).toContainText('16', { timeout: 60_000 });
  await page.getByTestId('discard').click();

  await openStep(page, 'delivery');
  await page.getByTestId('deliver').click();
  // The ladder proposed only kinds that the target knows.
  await expect(page.getByTestId('verdict')).toContainText('exactly what was drawn', { timeout: 30_000 });
});

test('long work shows how far it is and is stopped at once; the piece is as it was', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Stopped');
  await bringIn(page, ...(await sampleFiles('Dinghy')));
  await openStep(page, 'proxies');
  await page.getByTestId('break-up').click();
  await expect(page.locator('yb-header')).toContainText(/Breaking into shapes/);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByTestId('break-up')).toBeEnabled();
  await expect(page.locator('[data-step=proxies]')).toContainText('no shapes yet');
  await expect(page.getByTestId('ladder')).toHaveCount(0);
});

test('new art says which proxies no longer fit, and leaves the others alone', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(120_000);
  await newYard('Misfits');
  await bringIn(page, ...(await sampleFiles('Bollard')));
  await page.getByRole('button', { name: 'Confirm cm' }).click();
  await openStep(page, 'proxies');
  await page.getByTestId('break-up').click();
  await page.getByTestId('keep').click({ timeout: 60_000 });
  await saved(page);
  await openStep(page, 'intake');
  await page.getByTestId('new-art-input').setInputFiles(await changedFiles('Bollard'));
  await expect(page.getByTestId('proxy-fit')).toContainText(/\d+ of \d+ proxies no longer fit/, {
    timeout: 30_000,
  });
  await expect(page.locator('[data-testid=new-art] [data-row^="Shape"]').first()).toContainText(/mm → .* mm/);
});
