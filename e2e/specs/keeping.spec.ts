import { ObjText } from '../support/art';
import { bringIn, choose, expect, saved, test, textFile } from '../support/bench';

const crates = ['North crate', 'South crate', 'East crate'].map((name) =>
  textFile(`${name}.obj`, new ObjText().object(name).box([0, 0.5, 0], [0.5, 0.5, 0.5]).text()),
);

test('pieces are removed and put back from the bin, one and all others, and so is their yard', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Bin');
  await bringIn(page, ...crates);
  await expect(page.getByRole('heading', { name: /3 pieces/ })).toBeVisible();
  for (const name of ['North', 'South', 'East']) await page.getByLabel(`Choose ${name} crate`).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('button', { name: 'Remove 3 pieces' }).click();
  await page.getByRole('button', { name: 'Bin, 3' }).click();
  await page.getByRole('button', { name: 'Put North crate back' }).click();
  await expect(page.getByRole('heading', { name: /1 piece/ })).toBeVisible();
  await page.getByRole('button', { name: 'Put all 2 back' }).click();
  await expect(page.getByRole('heading', { name: /3 pieces/ })).toBeVisible();
  await page.getByRole('link', { name: 'North crate', exact: true }).click();
  await saved(page);

  await page.getByRole('link', { name: 'Yards' }).click();
  await page.getByRole('button', { name: 'Remove Bin' }).click();
  await page.getByRole('button', { name: /^Remove the yard/ }).click();
  await expect(page.getByRole('link', { name: /^Bin / })).toHaveCount(0);

  await page.getByRole('button', { name: 'Put Bin back' }).click();
  await page.getByRole('link', { name: /^Bin / }).click();
  await expect(page.getByRole('heading', { name: /3 pieces/ })).toBeVisible();
});

test('a yard is exported to a file and imported beside itself; chosen pieces go alone', async ({
  watched: page,
  newYard,
  application,
}) => {
  await newYard('Moved');
  await bringIn(page, ...crates);
  await expect(page.getByRole('heading', { name: /3 pieces/ })).toBeVisible();
  await page.getByLabel('Choose South crate').click();
  const some = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export' }).click();
  expect((await some).suggestedFilename()).toBe('Moved, 1 chosen.yard.tar');
  await page.goto(application.address);
  const whole = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export Moved' }).click();
  for (const [download, pieces] of [
    [await whole, ['East crate', 'North crate', 'South crate']],
    [await some, ['South crate']],
  ] as const) {
    await page.goto(application.address);
    await page
      .getByRole('link', { name: /^Moved/ })
      .first()
      .waitFor();
    const before = await page.getByRole('link', { name: /^Moved/ }).count();
    await page.getByTestId('yard-file').setInputFiles(await download.path());
    await expect(page.getByRole('link', { name: /^Moved/ })).toHaveCount(before + 1);
    await page
      .getByRole('link', { name: /^Moved/ })
      .last()
      .click();
    for (const name of pieces) await expect(page.getByRole('link', { name })).toBeVisible();
    await expect(page.locator('yb-piece-card')).toHaveCount(pieces.length);
  }
});

test('one step of any kind is done to chosen pieces, and its report says what became of each', async ({
  watched: page,
  newYard,
}) => {
  await newYard('One step');
  await bringIn(page, ...crates);
  await expect(page.getByRole('heading', { name: /3 pieces/ })).toBeVisible();
  await page.getByRole('button', { name: 'Choose all 3' }).click();
  await page.getByRole('button', { name: 'Run a recipe …' }).click();
  await choose(page, 'Recipe', 'One step …');
  await page.getByRole('combobox', { name: 'Step', exact: true }).click();
  await page.getByRole('searchbox').fill('wrap in');
  await page.getByRole('option', { name: 'Wrap in shapes' }).click();
  await page.getByRole('button', { name: 'Run on 3 pieces' }).click();
  await expect(page.getByTestId('job-state')).toContainText('3 of 3 pieces done, 0 failed', {
    timeout: 60_000,
  });
  await expect(page.locator('[data-piece="East crate"]')).toContainText('shape');
});

test('the guide opens each of its pages with its pictures, and the kit sheet lists every piece', async ({
  watched: page,
  newYard,
  application,
}) => {
  await page.goto(`${application.address}/guide`);
  const links = page.getByRole('navigation', { name: 'Pages of the guide' }).getByRole('link');
  await links.first().waitFor();
  const count = await links.count();
  expect(count).toBeGreaterThanOrEqual(10);
  const titles = new Set<string>();
  for (let i = 0; i < count; i++) {
    await links.nth(i).click();
    await expect(links.nth(i)).toHaveAttribute('aria-current', 'page');
    await expect(async () => {
      const title = await page.locator('article h1').innerText();
      expect(titles).not.toContain(title);
      titles.add(title);
    }).toPass();
    for (const picture of await page.locator('article img').all())
      expect(
        await picture.evaluate((image: HTMLImageElement) => image.decode().then(() => image.naturalWidth)),
      ).toBeGreaterThan(0);
  }
  await newYard('Kit');
  await bringIn(page, ...crates);
  await expect(page.getByRole('heading', { name: /3 pieces/ })).toBeVisible();
  await page.getByRole('link', { name: 'Kit sheet' }).click();
  const rows = page.getByTestId('kit').locator('li');
  await expect(rows).toHaveCount(3);
  await expect(rows.first()).toContainText('East crate');
  await expect(rows.first()).toContainText('1.00 × 1.00 × 1.00 m');
  await expect(rows.first()).toContainText('as it came0.000, 0.000, 0.000 m');
  await expect(page.getByRole('button', { name: 'Print' })).toBeEnabled();
});

test('more than a hundred files are read by a job, which goes on without the page', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Hundred');
  const many = Array.from({ length: 104 }, (_, i) =>
    textFile(`crate ${i}.obj`, new ObjText().object('crate').box([0, 0.5, 0], [0.5, 0.5, 0.5]).text()),
  );
  await bringIn(page, ...many, textFile('broken.obj', 'v 0 0 0\n'), textFile('winch.fbx', 'binary'));
  const report = page.getByTestId('import-report');
  await expect(report.getByRole('status')).toHaveText('105 of 106 files handed to a job, 1 ignored', {
    timeout: 60_000,
  });
  const job = await report.getByRole('link', { name: 'Open its job' }).getAttribute('href');
  const shelf = page.url();
  await page.goto('about:blank');
  await page.goto(new URL(job!, shelf).href);
  await expect(page.getByTestId('job-state')).toContainText('104 of 105 files imported, 1 refused.', {
    timeout: 90_000,
  });
  const first = page.getByTestId('job-items').locator('li').first();
  await expect(first).toContainText('broken.obj, line 1: the file has no faces');
  await page.goto(shelf);
  await expect(page.getByRole('heading', { name: /Shelf/ })).toContainText('104 pieces');
});
