import { type Document, WebIO } from '@gltf-transform/core';
import { KHRDracoMeshCompression } from '@gltf-transform/extensions';
import { memoryFile, readFile, writeGlb } from '@yard-brace/core';
import draco from 'draco3d';
import { Application } from '../support/application';
import { ObjText } from '../support/art';
import {
  bringIn,
  drawn,
  expect,
  makeShapesBy,
  openStep,
  placeOf,
  reading,
  saved,
  test,
  textFile,
  watch,
} from '../support/bench';
import { sampleFiles } from '../support/sample';

const several = (name: string, parts = 6) => {
  const art = new ObjText();
  for (let i = 0; i < parts; i++) art.object(`part ${i}`).box([i * 0.9, 0.5, 0], [0.5, 0.5, 0.5]);
  return textFile(name, art.text());
};
const crate = (name: string, half = 0.5) =>
  textFile(name, new ObjText().object(name).box([0, half, 0], [half, half, half]).text());

test('1: a file of several meshes dropped at once on a fresh start is drawn, also beside pictures of others', async ({
  browser,
}) => {
  const application = new Application();
  await application.start();
  const page = await browser.newPage();
  const errors = watch(page);
  try {
    await page.goto(application.address);
    await page.getByLabel('New yard').fill('Fresh');
    await page.getByRole('button', { name: 'Create yard' }).click();
    await bringIn(page, several('rail.obj'), several('post.obj'), several('sill.obj'));
    await page.getByRole('link', { name: 'Post', exact: true }).click({ timeout: 30_000 });
    await drawn(page);
    await page.mouse.move(...(await placeOf(page, 'part 2')));
    await expect(reading(page)).toContainText('part 2');
    // Turned to another piece and back at once: what was asked for last is what stands there.
    for (const name of ['Rail', 'Sill', 'Post', 'Sill', 'Rail'])
      await page.locator('yb-strip').getByRole('link', { name }).click({ noWaitAfter: true });
    await expect(page.locator('nav b')).toHaveText('Rail');
    await drawn(page);
    await expect(page.getByRole('alert')).toHaveCount(0);
    expect(errors).toEqual([]);
  } finally {
    await page.close();
    await application.throwAway();
  }
});

test('2: a proposal goes when what it was made for changes, and says so', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Proposals');
  await bringIn(page, ...(await sampleFiles('Bollard')));
  await drawn(page);
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await expect(page.getByTestId('keep')).toBeVisible();
  await openStep(page, 'size');
  await page.getByRole('button', { name: 'Read the file in metres' }).click();
  await expect(page.getByText('The piece has changed, so the proposal')).toBeVisible();
  await openStep(page, 'proxies');
  await expect(page.getByTestId('keep')).toHaveCount(0);
  await expect(page.locator('[data-step=proxies]')).toContainText('no shapes yet');
});

test('3: the stamp of proxies is clear when they were measured and lie close, and says by how much they do not', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Stamps');
  await bringIn(page, crate('crate.obj'));
  await page.getByRole('button', { name: 'Confirm m', exact: true }).click();
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await page.getByTestId('keep').click();
  await expect(page.locator('[data-step=proxies] yb-stamp title')).toContainText('clear', {
    timeout: 15_000,
  });
  // A portal in the same box: what is filled is told in millimetres, and the stamp asks for a look.
  await page.goBack();
  const portal = new ObjText()
    .object('portal')
    .box([-1.4, 1, 0], [0.1, 1, 0.1])
    .box([1.4, 1, 0], [0.1, 1, 0.1])
    .box([0, 2.1, 0], [1.5, 0.1, 0.1]);
  await bringIn(page, textFile('portal.obj', portal.text()));
  await page.getByRole('button', { name: 'Confirm m', exact: true }).click();
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await page.getByTestId('keep').click();
  await expect(page.locator('[data-finding=proxies-excess]')).toContainText(
    'a deckhand feels all above 40.0 mm',
    {
      timeout: 15_000,
    },
  );
  await expect(page.locator('[data-step=proxies] yb-stamp title')).toContainText('look here');
  await saved(page);
});

test('4: keys live after a click on a check box or a select; Escape closes the key list and nothing else', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Keys');
  await bringIn(page, crate('crate.obj'));
  await drawn(page);
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await expect(page.getByTestId('keep')).toBeVisible();
  await makeShapesBy(page, 'Ladder');
  await page.getByText('Prefer primitives').click();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toHaveCount(0);
  await expect(page.getByTestId('keep')).toBeVisible();
  await page.getByTestId('keep').click();
  await page.getByText('Prefer primitives').click();
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-step=proxies]')).toContainText('no shapes yet');
  await page.keyboard.press('4');
  await expect(page.locator('[data-step=pivot]')).toHaveAttribute('aria-expanded', 'true');
});

test('7: forty files at once appear as they are read, with one report that stays', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Forty');
  const files = Array.from({ length: 40 }, (_, i) =>
    crate(`crate ${String(i).padStart(2, '0')}.obj`, 0.3 + i / 100),
  );
  await bringIn(page, ...files, textFile('broken.obj', 'v 0 0 0\n'), textFile('winch.fbx', 'binary'));
  await expect(page.locator('yb-piece-card').first()).toBeVisible({ timeout: 10_000 });
  await expect(page.getByText('The shelf is empty')).toHaveCount(0);
  const report = page.getByTestId('import-report');
  await expect(report.getByRole('status')).toHaveText('40 of 42 files imported, 1 refused, 1 ignored', {
    timeout: 60_000,
  });
  await expect(report.locator('[data-state=refused]')).toContainText('broken.obj');
  await expect(report.locator('[data-state=ignored]')).toContainText(
    '.fbx is a closed format; export the mesh as GLB',
  );
  await expect(page.getByRole('heading', { name: /Shelf/ })).toContainText('40 pieces');
  await report.getByRole('button', { name: 'Dismiss' }).click();
  await expect(report).toHaveCount(0);
  await page.getByRole('button', { name: 'Last import' }).click();
  await expect(report).toContainText('broken.obj');
  // Whoever works on a piece has a line of it in the header, and nothing over the view.
  await report.getByRole('link', { name: 'crate 07.obj' }).click();
  await expect(page.getByTestId('view')).toBeVisible();
  await expect(report).toHaveCount(0);
  await page.getByTestId('import-line').click();
  await expect(report).toContainText('broken.obj');
});

test('8: an emptied number field keeps its number', async ({ watched: page, newYard }) => {
  await newYard('Numbers');
  await bringIn(page, crate('crate.obj'));
  await openStep(page, 'proxies');
  const field = page.getByLabel('Max corners of a hull');
  await field.fill('');
  await page.keyboard.press('Tab');
  await expect(field).toHaveValue('32');
  await page.getByTestId('break-up').click();
  await expect(page.getByTestId('ladder')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('11: a Draco file of another make is read in the browser', async ({ watched: page, newYard }) => {
  await newYard('Draco');
  const io = new WebIO()
    .registerExtensions([KHRDracoMeshCompression])
    .registerDependencies({ 'draco3d.encoder': await draco.createEncoderModule() });
  const text = new ObjText().octahedron([0, 1, 0], 1).text();
  const glb = await writeGlb(await readFile(memoryFile('good.obj', new TextEncoder().encode(text))));
  const document: Document = await io.readBinary(glb);
  document.createExtension(KHRDracoMeshCompression).setRequired(true);
  const buffer = Buffer.from(await io.writeBinary(document));
  await bringIn(page, { name: 'packed.glb', mimeType: 'model/gltf-binary', buffer });
  await expect(page.locator('[data-step=intake]')).toContainText('8 triangles');
  await drawn(page);
});

test('13: a piece that cannot be opened leaves the yard reachable and can go back to an older version', async ({
  watched: page,
  newYard,
  application,
}) => {
  await newYard('Damaged');
  await bringIn(page, crate('crate.obj'));
  await page.getByRole('button', { name: 'Confirm m', exact: true }).click();
  await saved(page);
  const id = page.url().split('/').pop();
  await page.route(`**/api/pieces/${id}`, async (route) =>
    route.request().method() === 'GET'
      ? route.fulfill({
          status: 422,
          json: {
            code: 'broken',
            message:
              '“Crate” cannot be opened as it was last saved: it is torn. Go back to an older version.',
          },
        })
      : route.continue(),
  );
  await page.reload();
  await expect(page.getByText('cannot be opened as it was last saved')).toBeVisible();
  await page.unroute(`**/api/pieces/${id}`);
  await page.getByRole('button', { name: 'Go back to this one' }).first().click();
  await expect(page.locator('[data-finding=unit-unconfirmed]')).toBeVisible();
  expect((await page.request.get(`${application.address}/api/pieces/${id}`)).status()).toBe(200);
});
