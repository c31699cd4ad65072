import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import {
  bringIn,
  choose,
  drawn,
  expect,
  keep,
  openStep,
  saved,
  test,
  textFile,
  watch,
} from '../support/bench';
import { expectNothingClipped } from '../support/layout';
import { ObjText } from '../support/art';
import { sampleFiles } from '../support/sample';

const CLI = fileURLToPath(new URL('../../cli/bin/yard-brace.mjs', import.meta.url));
const FIVE = ['Oyster tray', 'Copings', 'Slip winch', 'Boat cradle', 'Slip trolley'];

const step = (page: Page, text: string) =>
  page.getByTestId('step-reports').locator('li').filter({ hasText: text });
const item = (page: Page, name: string) => page.locator(`[data-testid=job-items] > [data-piece="${name}"]`);

test('a recipe made of what was done to the bollard is tried on the buoy, run on five, and one is taken back', async ({
  watched: page,
  newYard,
}) => {
  test.setTimeout(300_000);
  await newYard('Recipes');
  const files = await Promise.all(['Bollard', 'Channel buoy', ...FIVE].map(sampleFiles));
  await bringIn(page, ...files.flat());
  await expect(page.getByTestId('import-report')).toContainText('7 of', { timeout: 60_000 });
  await page.getByTestId('import-report').getByRole('button', { name: 'Dismiss' }).click();
  await page.getByRole('link', { name: 'Bollard', exact: true }).click();
  await drawn(page);
  await openStep(page, 'size');
  await openStep(page, 'pivot');
  await page.getByRole('radio', { name: /Base centre/ }).click();
  await openStep(page, 'proxies');
  await page.getByRole('button', { name: 'Break into shapes' }).click();
  await expect(page.getByTestId('keep')).toContainText(/Keep \d+ shapes/, { timeout: 60_000 });
  await keep(page);
  await saved(page);

  // What was done, ticked, is a recipe of the yard.
  await page.getByRole('button', { name: 'Recipes' }).click();
  await expect(page.getByTestId('history-steps').locator('li')).toHaveCount(2);
  await page.getByLabel('Name of the recipe').fill('Quayside solids');
  await page.getByRole('button', { name: 'Keep 2 steps' }).click();
  await expect(page.getByTestId('recipes-to-try')).toContainText('Quayside solids');

  // On the buoy it is a proposal, step by step with figures; kept it is one undo step.
  await page.locator('yb-strip').getByText('Channel buoy').click();
  await expect(page.getByRole('heading', { name: 'Channel buoy', level: 1 })).toBeAttached();
  await drawn(page);
  await page.getByRole('button', { name: 'Try Quayside solids' }).click();
  await expect(page.getByTestId('proposal')).toContainText('Quayside solids', { timeout: 60_000 });
  await expect(step(page, 'Place the pivot')).toContainText('base centre');
  await expect(step(page, 'Break into convex shapes')).toContainText('shapes; excess');
  await keep(page);
  await saved(page);
  await expect(page.getByTestId('undo')).toHaveAttribute('title', /recipe “Quayside solids”/);

  // On five from the shelf, as a job that needs no page.
  await page.getByRole('link', { name: 'Recipes' }).click();
  for (const name of FIVE) await page.getByLabel(`Choose ${name}`).click();
  await page.getByRole('button', { name: 'Run a recipe …' }).click();
  await choose(page, 'Recipe', 'Quayside solids');
  await expect(page.getByText(/Break into convex shapes\. They have \d+ shapes? now/)).toBeVisible();
  await page.getByRole('button', { name: 'Run on 5 pieces' }).click();
  await expect(page.getByTestId('job-state')).toContainText('5 of 5 pieces done, 0 failed', {
    timeout: 180_000,
  });
  await expect(item(page, 'Copings')).toContainText(/\d+ shapes/);
  await expect(page.getByAltText('Copings after')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Take back Copings' }).click();
  await expect(item(page, 'Copings')).toContainText('taken back');
  await expectNothingClipped(page, 'a report');
  await page.getByRole('link', { name: 'Copings' }).click();
  await expect(page.locator('[data-step=proxies]')).toContainText('no shapes yet');
  await page.getByTestId('jobs-line').click();
  await page.getByTestId('jobs').getByText('Quayside solids').click();
  await page.getByRole('link', { name: 'Slip winch' }).click();
  await expect(page.locator('[data-step=proxies]')).toContainText(/\d+ shapes/);
});

test('a job goes on without its page, and what it delivers is what the command line delivers', async ({
  watched: page,
  newYard,
  context,
  application,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'yard-brace-recipe-'));
  const recipe = {
    format: 1,
    name: 'Posts',
    key: 'p',
    steps: [
      { op: 'unit', parameters: { unit: 'cm' } },
      { op: 'weld', parameters: { metres: 0.0002 } },
      { op: 'pivot', parameters: { anchor: 'base-centre' } },
      { op: 'ladder', parameters: { agent: 'deckhand', maxShapes: 8 } },
      { op: 'deliver', parameters: { target: 'prefix-tags' } },
    ],
  };
  const file = join(folder, 'posts.recipe.json');
  writeFileSync(file, JSON.stringify(recipe));
  const art = (height: number) =>
    new ObjText()
      .object('post')
      .box([0, height / 2, 0], [20, height, 20])
      .box([0, height, 0], [60, 10, 30])
      .text();

  // The recipe comes from a file, and is saved with the rules.
  await newYard('Posts');
  await page.getByRole('link', { name: 'Rules' }).click();
  await page.getByRole('button', { name: 'Recipes' }).click();
  await page.getByTestId('recipe-file').setInputFiles(file);
  await page.getByTestId('recipes').getByRole('button', { name: 'Posts', exact: true }).click();
  await expect(page.getByTestId('recipe-steps').locator('yb-step-form')).toHaveCount(5);
  await page.getByTestId('save-rules').click();
  await expect(page.getByText('Version 2, saved.')).toBeVisible();
  await page.getByRole('link', { name: 'Shelf' }).click();
  await bringIn(page, ...[1, 2, 3].map((i) => textFile(`post ${i}.obj`, art(60 + i * 20))));
  await expect(page.locator('yb-piece-card')).toHaveCount(3);
  await page.getByRole('button', { name: 'Choose all 3' }).click();
  await page.getByRole('button', { name: 'Run a recipe …' }).click();
  await choose(page, 'Recipe', 'Posts');
  await page.getByRole('button', { name: 'Run on 3 pieces' }).click();
  await expect(page.getByTestId('job-state')).toBeVisible();
  const address = page.url();
  await page.close();

  const later = await context.newPage();
  const errors = watch(later);
  await later.goto(address);
  await expect(later.getByTestId('job-state')).toContainText('3 of 3 pieces done', { timeout: 60_000 });
  await expect(later.locator('[data-testid=job-items] > li').first()).toContainText(
    'delivered for prefix tags',
  );

  // The same files by the command line, bit by bit.
  for (const i of [1, 2, 3]) writeFileSync(join(folder, `post ${i}.obj`), art(60 + i * 20));
  execFileSync(process.execPath, [
    CLI,
    'run',
    file,
    ...[1, 2, 3].map((i) => join(folder, `post ${i}.obj`)),
    '--out',
    join(folder, 'out'),
  ]);
  await later.getByRole('link', { name: 'Deliveries' }).click();
  await later.waitForURL(/\/yards\/\d+\/deliveries/);
  const bundles = await later.evaluate(async (yard) => {
    const book = await (await fetch(`/api/yards/${yard}/deliveries`)).json();
    return Promise.all(
      book.entries.map(async ({ id }: { id: number }) => {
        const bytes = new Uint8Array(await (await fetch(`/api/deliveries/${id}/bundle`)).arrayBuffer());
        return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
      }),
    );
  }, new URL(later.url()).pathname.split('/')[2]);
  expect(bundles.length).toBe(3);
  for (const bundle of bundles)
    for (const [name, bytes] of Object.entries(unzipSync(Buffer.from(bundle, 'base64'))))
      if (name.endsWith('.glb'))
        expect(Buffer.from(bytes).equals(readFileSync(join(folder, 'out', name)))).toBe(true);
  expect(errors).toEqual([]);
  expect(application.port).toBeGreaterThan(0);
  await later.close();
  rmSync(folder, { recursive: true });
});
