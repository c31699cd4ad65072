import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { Application } from '../support/application';
import { ObjText } from '../support/art';
import {
  bringIn,
  choose,
  expect,
  keep,
  makeShapesBy,
  openStep,
  saved,
  test,
  textFile,
  watch,
} from '../support/bench';

/** Three boxes in metres, wrapped each in a hull, on the bench of a new yard. */
async function wrapped(page: Page, parts = 1): Promise<void> {
  let art = new ObjText();
  for (let i = 0; i < parts; i++) art = art.object(`plank ${i}`).box([3 * i, 1, 0], [1, 1, 1]);
  await bringIn(page, textFile('pontoon deck.obj', art.text()));
  await page.getByRole('button', { name: /^Confirm / }).click();
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await keep(page);
  await saved(page);
}

const rulesOf = async (page: Page) => {
  await page.getByRole('link', { name: 'Rules' }).click();
  await expect(page.getByTestId('rules-form')).toBeVisible();
};
const saveRules = async (page: Page) => {
  await page.getByTestId('save-rules').click();
  await expect(page.getByText(/^Version \d+, saved/)).toBeVisible();
};
const toShelf = (page: Page, yard: string) =>
  page.getByRole('navigation', { name: 'Where you are' }).getByRole('link', { name: yard }).click();

test('a profile of one’s own, copied from one that ships and changed, is delivered for', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Own profile');
  await rulesOf(page);
  await page.getByRole('button', { name: 'Targets and profiles' }).click();
  await page.getByTestId('profiles').locator('li').first().getByRole('button', { name: 'Copy' }).click();
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('house tags');
  await page.getByRole('textbox', { name: 'Name', exact: true }).press('Tab');
  await page.getByRole('textbox', { name: 'Token of a hull' }).fill('HULL.');
  await page.getByRole('textbox', { name: 'Token of a hull' }).press('Tab');
  await page.getByRole('spinbutton', { name: 'Digits' }).fill('3');
  await page.getByRole('spinbutton', { name: 'Digits' }).press('Enter');
  await choose(page, 'Shapes hang', 'Below the art node');
  await page.getByRole('textbox', { name: 'Legal characters' }).fill('A-Z\na-z\n0-9\n_\n.');
  await page.getByRole('textbox', { name: 'Legal characters' }).press('Tab');
  await expect(page.getByTestId('sample-names')).toContainText('UBX_SluiceGate_001');
  await page.getByRole('button', { name: 'Test delivery' }).click();
  await expect(page.getByTestId('tested')).toContainText('points agree');
  await page.getByRole('button', { name: 'All targets' }).click();
  await page.getByRole('checkbox', { name: 'Deliver for house tags' }).click();
  await page.getByRole('checkbox', { name: 'Deliver for prefix tags' }).click();
  await saveRules(page);

  await toShelf(page, 'Own profile');
  await wrapped(page);
  await openStep(page, 'names');
  await expect(page.getByTestId('names').locator('code').last()).toHaveText(/^(HULL\.|UBX_)PontoonDeck_001$/);
  await openStep(page, 'delivery');
  await page.getByTestId('deliver').click();
  await expect(page.getByTestId('verdict')).toContainText('exactly what was drawn');
  await expect(page.getByTestId('read-back')).toContainText('for house tags');
});

test('rules that are changed say which pieces they touch, and their tallies move', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Budgets');
  await wrapped(page);
  await expect(page.locator('[data-step=proxies] yb-stamp title')).toHaveText('clear');
  await toShelf(page, 'Budgets');
  await rulesOf(page);
  await page.getByRole('button', { name: 'Budgets' }).click();
  const corners = page.getByRole('spinbutton', { name: 'Corners' });
  await expect(corners).toHaveCount(4);
  for (const most of await corners.all()) {
    await most.fill('1');
    await most.press('Enter');
  }
  await expect(page.getByTestId('effect')).toContainText('Pontoon deck');
  await saveRules(page);
  await toShelf(page, 'Budgets');
  await page.getByText('Pontoon deck').first().click();
  await openStep(page, 'proxies');
  await expect(page.locator('[data-finding=over-budget]')).toContainText('the budget is 1');
});

test('parts are renamed by a pattern in one step, for every target', async ({ watched: page, newYard }) => {
  await newYard('Patterns');
  await wrapped(page, 12);
  await openStep(page, 'names');
  await page.getByRole('button', { name: 'Rename by a pattern' }).click();
  await page.getByRole('textbox', { name: 'Pattern' }).fill('{subject:pascal}_Plank_{number:2}');
  await expect(page.getByTestId('renames')).toContainText('PontoonDeck_Plank_02');
  await page.getByRole('button', { name: 'Rename 12 parts' }).click();
  await openStep(page, 'parts');
  await expect(page.getByText('PontoonDeck_Plank_07').first()).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('PontoonDeck_Plank_07')).toHaveCount(0);
});

test('a moved pivot stops the next delivery until it is answered; the folder is replaced while it is read', async ({
  page,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'yard-brace-deliveries-'));
  const application = new Application({ deliveries: folder });
  const errors = watch(page);
  let reading = true;
  try {
    await application.start();
    await page.goto(application.address);
    await page.getByLabel('New yard').fill('Watched');
    await page.getByRole('button', { name: 'Create yard' }).click();
    await wrapped(page);
    await openStep(page, 'delivery');
    await expect(page.getByTestId('place')).toContainText('Goes into prefix-tags');
    await page.getByTestId('deliver').click();
    await expect(page.getByTestId('verdict')).toContainText('exactly what was drawn');
    const place = join(folder, 'prefix-tags');
    expect(readdirSync(place).sort()).toEqual([
      'PontoonDeck.glb',
      'PontoonDeck.import.md',
      'PontoonDeck.manifest.json',
    ]);
    // A program that watches the folder: each file says its own length.
    const torn: number[] = [];
    const watching = (async () => {
      while (reading) {
        const glb = readFileSync(join(place, 'PontoonDeck.glb'));
        if (glb.length < 12 || glb.readUInt32LE(8) !== glb.length) torn.push(glb.length);
        await new Promise((resolve) => setTimeout(resolve, 1));
      }
    })();
    await openStep(page, 'pivot');
    await page
      .getByRole('radio', { name: /^Centre/ })
      .first()
      .click();
    await openStep(page, 'delivery');
    await expect(page.getByTestId('since')).toContainText('The pivot of “PontoonDeck” moved by 1.0000 m');
    await expect(page.getByTestId('place')).toContainText('replaces PontoonDeck.glb');
    await expect(page.getByTestId('deliver').getByRole('button')).toBeDisabled();
    await page.getByTestId('since').getByRole('checkbox').click();
    await page.getByTestId('deliver').click();
    await expect(page.locator('yb-earlier-panel li')).toHaveCount(1);
    reading = false;
    await watching;
    expect(torn).toEqual([]);
    await toShelf(page, 'Watched');
    await page.getByRole('link', { name: 'Deliveries' }).click();
    await page
      .getByRole('checkbox', { name: /^Compare Pontoon deck/ })
      .first()
      .click();
    await page
      .getByRole('checkbox', { name: /^Compare Pontoon deck/ })
      .last()
      .click();
    await expect(page.getByTestId('compared')).toContainText('The pivot of “PontoonDeck” moved');
    expect(errors).toEqual([]);
  } finally {
    reading = false;
    await application.throwAway();
    rmSync(folder, { recursive: true, force: true });
  }
});

test('two pieces are renamed by a pattern, leave in one file where they stood, and are seen beside today’s', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Quayside');
  const post = new ObjText().object('post').box([0, 0.5, 0], [0.2, 0.5, 0.2]);
  const wall = new ObjText().object('wall').box([4, 1, 0], [2, 1, 0.3]);
  await bringIn(page, textFile('post.obj', post.text()), textFile('Mauer & Fels.obj', wall.text()));
  await expect(page.getByText('2 pieces', { exact: true })).toBeVisible();
  for (const box of await page.getByRole('checkbox', { name: /^Choose / }).all()) await box.click();

  await page.getByRole('button', { name: 'Rename by a pattern' }).click();
  await page.getByRole('textbox', { name: 'Pattern' }).fill('SG_{subject:pascal}_{variant:2}');
  await expect(page.getByTestId('piece-renames')).toContainText('SG_Post_01');
  await page.getByRole('button', { name: 'Rename 2 pieces' }).click();
  await expect(page.getByText('2 pieces renamed.')).toBeVisible();

  await page.getByRole('button', { name: 'Deliver in one file' }).click();
  await page.getByRole('textbox', { name: 'Name of the file' }).fill('Quay');
  await page.getByRole('button', { name: 'Deliver 2 in one file' }).click();
  await expect(page.getByText('2 pieces were delivered for prefix tags as Quay')).toBeVisible();

  await page.getByRole('link', { name: 'Deliveries' }).click();
  await page.getByRole('button', { name: 'Post', exact: true }).click();
  const opened = page.getByTestId('opened');
  for (const name of ['Quay.glb', 'SG_Post_01.manifest.json', 'SG_MauerFels_01.import.md'])
    await expect(opened.getByRole('link', { name })).toBeVisible();
  const download = page.waitForEvent('download');
  await opened.getByRole('link', { name: 'Quay.glb' }).click();
  expect((await download).suggestedFilename()).toBe('Quay.glb');
  await page.getByRole('button', { name: 'See it beside today’s' }).click();
  await expect(page.getByTestId('beside-today').locator('canvas')).toHaveCount(2);
  await expect(page.getByText('Fetching …')).toHaveCount(0);

  await page.getByRole('link', { name: 'Sheet to print' }).click();
  await expect(page.getByTestId('sheet')).toHaveCount(2);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('banner')).toBeHidden();
  await expect(page.getByTestId('sheet').first()).toContainText('The model is Quay.glb');
});

test('a new variant stands beside what left before; both keep their files', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'yard-brace-variants-'));
  const application = new Application({ deliveries: folder });
  const errors = watch(page);
  try {
    await application.start();
    await page.goto(application.address);
    await page.getByLabel('New yard').fill('Variants');
    await page.getByRole('button', { name: 'Create yard' }).click();
    await wrapped(page);
    await openStep(page, 'delivery');
    await page.getByTestId('deliver').click();
    await expect(page.getByTestId('verdict')).toContainText('exactly what was drawn');
    await page.getByRole('button', { name: 'Choices' }).click();
    await choose(page, 'Name', 'PontoonDeck_02, a new variant');
    await choose(page, 'Values', 'As small pictures');
    await expect(page.getByTestId('waybill')).toContainText('PontoonDeck_02.glb');
    await page.getByTestId('deliver').click();
    await expect(page.getByTestId('read-back')).toContainText('PontoonDeck_02.glb');
    await expect(page.getByTestId('verdict')).toContainText('exactly what was drawn');
    expect(
      readdirSync(join(folder, 'prefix-tags'))
        .filter((name) => name.endsWith('.glb'))
        .sort(),
    ).toEqual(['PontoonDeck.glb', 'PontoonDeck_02.glb']);
  } finally {
    await application.throwAway();
    rmSync(folder, { recursive: true, force: true });
  }
  expect(errors).toEqual([]);
});
