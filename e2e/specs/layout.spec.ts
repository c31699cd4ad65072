import { bringIn, drawn, expect, openStep, test } from '../support/bench';
import { expectNothingClipped, WINDOWS } from '../support/layout';
import { sampleFiles } from '../support/sample';

const STEPS = ['intake', 'parts', 'size', 'pivot', 'proxies', 'names', 'trial', 'delivery'] as const;

test('with ordinary scroll bars nothing is cut off or lies over something else, in any step and window', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(240_000);
  await newYard('Layout');
  await bringIn(page, ...(await sampleFiles('Sluice gate')));
  await drawn(page);
  for (const { name, width, height } of WINDOWS) {
    await page.setViewportSize({ width, height });
    for (const step of STEPS) {
      await openStep(page, step);
      await expect(page.locator(`[data-step=${step}]`)).toHaveAttribute('aria-expanded', 'true');
      await expectNothingClipped(page, `${step}, ${name}`);
      if (step !== 'trial') continue;
      await page.getByTestId('walk-by-hand').click();
      await expect(page.getByTestId('walk-bar')).toBeVisible({ timeout: 30_000 });
      await expectNothingClipped(page, `a walk, ${name}`);
      await page.getByRole('button', { name: 'End the walk' }).click();
    }
    await page.goBack();
    await expect(page.getByRole('heading', { name: /Shelf/ })).toBeVisible();
    await expectNothingClipped(page, `cards, ${name}`);
    await page.goForward();
    await drawn(page);
  }
});

test('a ladder with its proposal fits every window; a tall piece is fitted clear of the bars over the view', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(180_000);
  await newYard('Layout of a ladder');
  await bringIn(page, ...(await sampleFiles('Quay stair')));
  await drawn(page);
  await openStep(page, 'proxies');
  await page.getByTestId('break-up').click();
  await expect(page.getByTestId('ladder')).toBeVisible({ timeout: 60_000 });
  for (const { name, width, height } of WINDOWS) {
    await page.setViewportSize({ width, height });
    await expectNothingClipped(page, `ladder, ${name}`);
    for (const button of ['keep', 'discard']) {
      await page.getByTestId(button).scrollIntoViewIfNeeded();
      await expect(page.getByTestId(button)).toBeInViewport();
    }
  }
});
