import type { Page } from '@playwright/test';
import { expectAccessible } from '../support/axe';
import { bringIn, drawn, expect, openStep, placeOf, saved, test, textFile } from '../support/bench';
import { ObjText } from '../support/art';
import { expectNothingClipped } from '../support/layout';
import { changedFiles, sampleFiles } from '../support/sample';

const STEPS = ['intake', 'parts', 'size', 'pivot', 'proxies', 'names', 'trial', 'delivery'] as const;

test('yards, an empty shelf, a report of an import, cards and a table: axe finds nothing', async ({
  watched: page,
  newYard,
  application,
}) => {
  await newYard('Axe shelf');
  await expectAccessible(page, 'empty shelf');
  await bringIn(
    page,
    ...(await sampleFiles('Bollard')),
    ...(await sampleFiles('Quay stair')),
    textFile('broken.obj', 'v 0 0 0\n'),
  );
  await expect(page.getByRole('heading', { name: /Shelf/ })).toContainText('2 pieces', { timeout: 60_000 });
  await expect(page.locator('yb-piece-card img')).toHaveCount(2, { timeout: 60_000 });
  await expectAccessible(page, 'shelf with a report');
  await page.getByRole('button', { name: 'Table' }).click();
  await expect(page.getByRole('table').first()).toBeVisible();
  await expectAccessible(page, 'shelf as a table');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('bol');
  await expect(page.getByRole('option').first()).toBeVisible();
  await expectAccessible(page, 'finding a piece');
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { name: /Shelf/ }).click();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await expectAccessible(page, 'the key list');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.getByLabel('Choose Bollard').check();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('alertdialog')).toBeVisible();
  await expectAccessible(page, 'a question');
  await page.keyboard.press('Escape');
  await page.goto(application.address);
  await expect(page.getByRole('link', { name: /Axe shelf/ })).toBeVisible();
  await expectAccessible(page, 'yards');
});

test('every step of the bench, its lists and proposals: axe finds nothing', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(240_000);
  await newYard('Axe bench');
  await bringIn(page, ...(await sampleFiles('Sluice gate')));
  await drawn(page);
  for (const step of STEPS) {
    await openStep(page, step);
    await expect(page.locator(`[data-step=${step}]`)).toHaveAttribute('aria-expanded', 'true');
    await expectAccessible(page, step);
  }
  await openStep(page, 'parts');
  await page.mouse.click(...(await placeOf(page, 'Leaf')));
  await expectAccessible(page, 'faces chosen');
  await page.keyboard.press('Escape');
  await openStep(page, 'pivot');
  await page.getByRole('combobox', { name: 'Whose pivot' }).click();
  await expect(page.getByRole('option').first()).toBeVisible();
  await expectAccessible(page, 'an open list');
  await page.keyboard.press('Escape');
  await openStep(page, 'proxies');
  await page.getByTestId('break-up').click();
  await expect(page.getByTestId('ladder')).toBeVisible({ timeout: 60_000 });
  await expectAccessible(page, 'a ladder and its proposal');
  await page.getByTestId('deviation').click();
  await expect(page.getByTestId('legend')).toContainText('excess', { timeout: 30_000 });
  await expectAccessible(page, 'the deviation view');
  await page.getByTestId('keep').click();
  await saved(page);
  await page.keyboard.press('c');
  await expect(page.getByTestId('cut-handle')).toBeVisible();
  await expectAccessible(page, 'cut open');
  await openStep(page, 'delivery');
  await page.getByTestId('deliver').click();
  await expect(page.getByTestId('verdict')).toBeVisible({ timeout: 30_000 });
  await expectAccessible(page, 'a read-back');
});

test('new art beside the old, several pieces, a notice: axe finds nothing', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Axe new art');
  await bringIn(page, ...(await sampleFiles('Bollard')));
  await drawn(page);
  await page.getByTestId('new-art-input').setInputFiles(await changedFiles('Bollard'));
  await expect(page.getByTestId('new-art')).toBeVisible({ timeout: 30_000 });
  await expectAccessible(page, 'new art');
  await openStep(page, 'size');
  await page.getByRole('button', { name: 'Read the file in metres' }).click();
  await expect(page.getByText('The piece has changed, so the proposal')).toBeVisible();
  await expectAccessible(page, 'a notice');
});

test('the main job by keyboard alone: import, unit, pivot, ladder, keep, deliver, download', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(180_000);
  await newYard('Keyboard');
  const press = async (...keys: string[]) => {
    for (const key of keys) await page.keyboard.press(key);
  };
  /** Tab until the focus is on what has this name. */
  const tabTo = async (name: RegExp, role?: string) => {
    for (let i = 0; i < 200; i++) {
      const focused = await page.evaluate(() => {
        const element = document.activeElement as HTMLElement | null;
        const labels = (element as HTMLInputElement | null)?.labels;
        return {
          name:
            element?.getAttribute('aria-label') ||
            (labels?.length ? labels[0]!.textContent : '') ||
            element?.textContent?.trim() ||
            '',
          role: element?.getAttribute('role') ?? element?.tagName.toLowerCase() ?? '',
        };
      });
      if (name.test(focused.name) && (role === undefined || focused.role === role)) return;
      await page.keyboard.press('Tab');
    }
    throw new Error(`nothing named ${name} takes the focus`);
  };
  // Asked for before the key: the browser has to know that somebody waits for its chooser when it opens.
  const chooser = page.waitForEvent('filechooser', { timeout: 60_000 });
  await tabTo(/^Import files/);
  await press('Enter');
  const art = new ObjText()
    .object('gantry foot')
    .box([4200, 60, -900], [60, 60, 40])
    .box([4350, 20, -900], [50, 20, 30]);
  await (await chooser).setFiles([textFile('gantry foot.obj', art.text())]);
  await drawn(page);
  await press('1');
  await tabTo(/^Confirm cm/);
  await press('Enter');
  await expect(page.locator('[data-finding=unit-unconfirmed]')).toHaveCount(0);
  await press('4');
  await tabTo(/Base centre/);
  await press('Space');
  await expect(page.locator('[data-step=pivot]')).toContainText('base centre');
  await press('5');
  await tabTo(/^Break into shapes/);
  await press('Enter');
  await expect(page.getByTestId('ladder')).toBeVisible({ timeout: 60_000 });
  await tabTo(/^Keep \d+ shape/);
  await press('Enter');
  await saved(page);
  await press('8');
  await tabTo(/^Deliver/, 'button');
  await press('Enter');
  await expect(page.getByTestId('verdict')).toBeVisible({ timeout: 30_000 });
  const download = page.waitForEvent('download');
  await tabTo(/^Download/);
  await press('Enter');
  expect((await download).suggestedFilename()).toBe('GantryFoot.zip');
});

test('rules, deliveries, a sheet, what is done to chosen pieces: axe finds nothing and nothing is cut off', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(240_000);
  await newYard('Axe places');
  const post = new ObjText().object('post').box([0, 0.5, 0], [0.2, 0.5, 0.2]);
  const wall = new ObjText().object('wall').box([4, 1, 0], [2, 1, 0.3]);
  await bringIn(page, textFile('post.obj', post.text()), textFile('wall.obj', wall.text()));
  await expect(page.getByRole('heading', { name: /Shelf/ })).toContainText('2 pieces', { timeout: 60_000 });
  for (const name of ['Post', 'Wall']) await page.getByLabel(`Choose ${name}`).check();
  await page.getByRole('button', { name: 'Rename by a pattern' }).click();
  await expectAccessible(page, 'chosen pieces renamed');
  await page.getByRole('button', { name: 'Deliver in one file' }).click();
  await expectAccessible(page, 'chosen pieces in one file');
  await inEveryWindow(page, 'chosen pieces');
  await page.getByRole('button', { name: 'Deliver 2 in one file' }).click();
  await expect(page.getByText(/^2 pieces were delivered/)).toBeVisible();

  await page.getByRole('link', { name: 'Rules' }).click();
  await expect(page.getByTestId('rules-form')).toBeVisible();
  const sections = page.getByRole('navigation', { name: 'Sections' }).getByRole('button');
  await expect(sections).toHaveCount(11);
  for (const section of await sections.all()) {
    await section.click();
    await expectAccessible(page, `rules, ${await section.textContent()}`);
    await inEveryWindow(page, `rules, ${await section.textContent()}`);
  }
  await page.getByRole('button', { name: 'Targets and profiles' }).click();
  await page.getByTestId('profiles').locator('li').first().getByRole('button', { name: 'Copy' }).click();
  await page.getByRole('button', { name: 'Test delivery' }).click();
  await expect(page.getByTestId('tested')).toBeVisible();
  await expectAccessible(page, 'a profile');
  await inEveryWindow(page, 'a profile');
  await page.getByRole('button', { name: 'Discard changes' }).click();

  await page.getByRole('link', { name: 'Deliveries' }).click();
  await page.getByRole('button', { name: 'Post', exact: true }).click();
  await page.getByRole('button', { name: 'See it beside today’s' }).click();
  await expect(page.getByText('Fetching …')).toHaveCount(0);
  await expectAccessible(page, 'a delivery beside today');
  await inEveryWindow(page, 'a delivery beside today');
  for (const box of await page.getByRole('checkbox', { name: /^Compare / }).all()) await box.click();
  await expect(page.getByTestId('compared')).toBeVisible();
  await expectAccessible(page, 'two deliveries compared');
  await inEveryWindow(page, 'two deliveries compared');
  await page.getByRole('link', { name: 'Sheet to print' }).click();
  await expect(page.getByTestId('sheet')).toHaveCount(2);
  await expectAccessible(page, 'a sheet');
  await inEveryWindow(page, 'a sheet');
});

/** Nothing is cut off in an ordinary window, in a narrow one, or with everything twice as large. */
async function inEveryWindow(page: Page, what: string): Promise<void> {
  for (const [width, height] of [
    [1024, 768],
    [640, 400],
    [1280, 800],
  ] as const) {
    await page.setViewportSize({ width, height });
    await expectNothingClipped(page, `${what}, ${width} wide`);
  }
}
