import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import {
  bringIn,
  choose,
  drawn,
  expect,
  inView,
  keep,
  note,
  makeShapesBy,
  openParts,
  openStep,
  placeOf,
  reading,
  saved,
  test,
} from '../support/bench';
import { changedFiles, sampleFiles } from '../support/sample';

/** Bring a sample piece in; the bench opens on it. */
async function onTheBench(page: Page, name: string): Promise<void> {
  await bringIn(page, ...(await sampleFiles(name)));
  await expect(page.getByText('Job card')).toBeVisible();
  await drawn(page);
}

test('the dinghy comes apart into five named parts, each on its own pivot, and goes together again', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Dinghies');
  await onTheBench(page, 'Dinghy');
  await page.getByRole('button', { name: 'Confirm m' }).click();
  await openStep(page, 'parts');
  await page.getByRole('button', { name: 'Material', exact: true }).click();
  await page.getByTitle('Look from the front (F)').click();
  // Every fender of the material at once, then apart by shells: four fenders beside the boat.
  await page.mouse.click(...(await placeOf(page, 'fender rubber')));
  await expect(reading(page)).toContainText('faces chosen');
  await page.getByLabel('Name of the new part').fill('fender');
  await page.getByTestId('split-faces').click();
  await expect(page.getByTestId('proposal')).toContainText('The chosen faces become a part: fender is new.');
  await keep(page);
  await page.locator('[data-part=fender]').click();
  await page.getByTestId('split-shells').click();
  await expect(page.getByTestId('proposal')).toContainText('4 shells');
  await keep(page);
  await expect(note(page, 'parts')).toContainText('5 parts');
  const names = ['Hull', 'Fender_A', 'Fender_B', 'Fender_C', 'Fender_D'];
  for (const [i, name] of names.entries()) {
    await page.getByRole('treeitem').nth(i).dblclick();
    await page.getByLabel('Name of the part').fill(name);
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('treeitem').locator('.name')).toHaveText(names);
  await openStep(page, 'pivot');
  await page.getByRole('button', { name: 'centre', exact: true }).click();
  await page.getByTestId('each-part').getByRole('checkbox').check();
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByRole('button', { name: /^Each of \d+ shells/ }).click();
  await page.getByTestId('propose').click();
  await keep(page);
  await openStep(page, 'delivery');
  await page.getByTestId('deliver').click();
  await expect(page.getByTestId('verdict')).toContainText('exactly what was drawn');
  const download = page.waitForEvent('download');
  await page.getByTestId('bundle').click();
  const files = unzipSync(readFileSync(await (await download).path()));
  for (const name of names) expect(Object.keys(files)).toContain(`${name}.glb`);
  const manifest = JSON.parse(
    new TextDecoder().decode(files[Object.keys(files).find((name) => name.endsWith('.manifest.json'))!]!),
  );
  expect(manifest.meshes.map((mesh: { name: string }) => mesh.name)).toEqual(names);
  expect(new Set(manifest.meshes.map((mesh: { position: number[] }) => mesh.position.join())).size).toBe(5);

  // All five are moved apart, and come back to where they were delivered from.
  const size = await note(page, 'size').textContent();
  await openStep(page, 'parts');
  await openParts(page, 'Tree');
  const x = page.getByLabel('Position x of the part');
  const places: string[] = [];
  for (const [i, name] of names.entries()) {
    await openParts(page, 'Tree');
    await page.locator(`[data-part=${name}]`).click();
    await openParts(page, 'Place');
    places.push(await x.inputValue());
    // Mirrored to and fro on the way.
    for (let times = 0; i === 2 && times < 2; times++) {
      await page.getByRole('button', { name: 'Mirror in place' }).click();
      // There it is on the other side of the pivot, and back again the second time.
      const there = expect(x);
      await (times ? there : there.not).toHaveValue(places[i]!);
    }
    await x.fill(String(7 + 3 * i));
    await x.press('Enter');
    await expect(x).toHaveValue(`${7 + 3 * i} m`);
  }
  await expect(note(page, 'size')).not.toHaveText(size!);
  await page.getByTestId('put-back').click();
  await expect(page.getByTestId('proposal')).toContainText(/Hull.* are back in place/);
  await keep(page);
  for (const [i, name] of names.entries()) {
    await openParts(page, 'Tree');
    await page.locator(`[data-part=${name}]`).click();
    await openParts(page, 'Place');
    await expect(x).toHaveValue(places[i]!);
  }
  await expect(note(page, 'size')).toHaveText(size!);
  await saved(page);

  // Five files on their own pivots, dropped with the manifest, are one dinghy again.
  await newYard('Assembled');
  await bringIn(
    page,
    ...Object.entries(files).map(([name, bytes]) => ({
      name,
      mimeType: 'application/octet-stream',
      buffer: Buffer.from(bytes),
    })),
  );
  await drawn(page);
  await expect(note(page, 'parts')).toContainText('5 parts');
  await expect(note(page, 'size')).toHaveText(size!);
});

test('the sluice gate: old proxies are recognised, its leaf gets a hinge and is turned on it', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Gates');
  await onTheBench(page, 'Sluice gate');
  await expect(page.locator('[data-finding=came-proxies]')).toContainText(
    '3 proxies were imported with the file',
  );
  await expect(page.locator('[data-finding=set-aside]')).toContainText('SluiceGate_LOD2');
  await expect(note(page, 'proxies')).toContainText('3 shapes');
  await openStep(page, 'pivot');
  await choose(page, 'Whose pivot', 'Leaf');
  await page.getByTitle('Look from the front (F)').click();
  await page.getByTestId('veil').locator('span[role=slider]').focus();
  for (let i = 0; i < 50; i++) await page.keyboard.press('ArrowLeft');
  await page.getByTestId('hinge-points').click();
  await page.mouse.click(...(await placeOf(page, 'Leaf', 'lowest')));
  await page.mouse.click(...(await placeOf(page, 'Leaf', 'highest')));
  await expect(page.getByTestId('swing')).toBeVisible();
  await page.getByTestId('swing').getByRole('slider').focus();
  for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('60°')).toBeVisible();
  await page.getByRole('button', { name: 'Keep this pose' }).click();
  await expect(page.getByTestId('proposal')).toContainText('“Leaf” is rotated by 60.0°');
  await keep(page);
  await saved(page);
  await page.getByTestId('undo').click();
  await expect(page.getByTestId('saving')).toHaveText(/Sav/);
});

test('a centimetre file comes to true size with scale 1', async ({ watched: page, newYard }) => {
  await newYard('Sizes');
  await onTheBench(page, 'Channel buoy');
  await openStep(page, 'size');
  await expect(page.locator('[data-finding=size-implausible]')).toBeVisible();
  await page.getByRole('button', { name: 'Read the file in centimetres' }).click();
  await expect(note(page, 'size')).toContainText('2.80');
  // A known length: the piece is to be 2.60 m high.
  await page.getByLabel('Target height').fill('2.6');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('proposal')).toContainText('its base stays');
  await keep(page);
  await expect(note(page, 'size')).toContainText('× 2.60 ×');
  await page.getByTestId('bake').click();
  await keep(page);
  await expect(note(page, 'size')).toContainText('scale 1');
  await expect(page.getByText('All transforms are identity.')).toBeVisible();
  await page.getByLabel('deckhand').check();
  await page.getByTestId('tape').click();
  await page.mouse.click(...(await placeOf(page, 'buoy', 'highest')));
  await page.mouse.click(...(await placeOf(page, 'buoy', 'lowest')));
  await expect(page.locator('yb-tape-panel li')).toHaveCount(1);
});

test('a mirrored corner is baked: nothing moves, no face turns inside out', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Corners');
  await onTheBench(page, 'Quay wall corner');
  const [size] = /[\d.]+ × [\d.]+ × [\d.]+ m/.exec((await note(page, 'size').textContent())!)!;
  await openStep(page, 'size');
  await page.locator('[data-finding=node-mirrored]').getByRole('button', { name: 'Bake scale' }).click();
  await expect(page.getByTestId('proposal')).toContainText('1 mirrored, faces flipped');
  await keep(page);
  await expect(page.locator('[data-finding=node-mirrored]')).toHaveCount(0);
  await expect(note(page, 'size')).toContainText(`${size}, scale 1`);
  await openStep(page, 'intake');
  await expect(page.locator('[data-finding=inside-out]')).toHaveCount(0);
  await openStep(page, 'parts');
  await page.getByRole('button', { name: 'Number duplicate names' }).click();
  await expect(page.locator('[data-finding=doubled-names]')).toHaveCount(0);
});

test('one file of two copings becomes two pieces, and they become a family with one pivot', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Copings');
  await onTheBench(page, 'Copings');
  await page.getByLabel(/and remove this piece/).check();
  await page.getByTestId('split-pieces').click();
  await expect(page.getByRole('heading', { name: /Shelf/ })).toContainText('2 pieces');
  await page.getByRole('link', { name: 'Coping 01', exact: true }).click();
  await drawn(page);
  await openStep(page, 'pivot');
  await page.getByRole('radio', { name: 'left bottom back', exact: true }).click();
  await page.getByLabel('Family').fill('coping');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.getByRole('link', { name: 'Coping 02' }).click();
  await expect(page).toHaveTitle(/Coping 02/);
  await drawn(page);
  await openStep(page, 'pivot');
  await page.getByLabel('Family').fill('coping');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('proposal')).toContainText('to where Coping 01 has it');
  await keep(page);
  await expect(page.getByText('With Coping 01.')).toBeVisible();
  await expect(page.locator('[data-finding=family-drift]')).toHaveCount(0);
  // Drift is a finding, and its mend brings it back.
  await page.getByRole('radio', { name: 'middle', exact: true }).click();
  await saved(page);
  await page.reload();
  await openStep(page, 'pivot');
  await expect(page.locator('[data-finding=family-drift]')).toContainText('mm from where Coping 01');
  await page.getByRole('button', { name: 'Use the family’s pivot' }).click();
  await expect(page.locator('[data-finding=family-drift]')).toHaveCount(0);
});

test('new art is taken in with a report first, and the pivot stays', async ({ watched: page, newYard }) => {
  await newYard('New art');
  await onTheBench(page, 'Bollard');
  await page.getByRole('button', { name: 'Confirm cm' }).click();
  await openStep(page, 'pivot');
  await page.getByRole('radio', { name: 'Base centre' }).click();
  const pivotX = page.getByLabel('Pivot x in metres');
  await expect(pivotX).not.toHaveValue('0');
  const pivot = await pivotX.inputValue();
  await saved(page);
  await page.getByRole('link', { name: 'New art', exact: true }).click();
  await bringIn(page, ...(await changedFiles('Bollard')));
  await expect(page.getByTestId('same-name')).toContainText('bollard.obj was imported before, for Bollard.');
  await page.getByRole('button', { name: 'Compare it with Bollard' }).click();
  await expect(page.getByTestId('new-art')).toContainText('changed');
  await expect(page.getByTestId('new-art')).toContainText('30.0 mm');
  await page.getByTestId('keep').click();
  await expect(page.getByTestId('new-art')).toHaveCount(0);
  await openStep(page, 'pivot');
  await expect(pivotX).toHaveValue(pivot);
  await expect(note(page, 'size')).toContainText('0.71');
  await page.getByTestId('undo').click();
  await expect(note(page, 'size')).toContainText('0.64');
});

test('faults are lit, mends count first, views and choosing have their keys', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Mends');
  await onTheBench(page, 'Quay stair');
  await page.locator('[data-finding=open-edges]').hover();
  await page
    .locator('[data-finding=open-edges]')
    .getByRole('button', { name: /^Weld .* mm …/ })
    .click();
  await expect(page.getByTestId('proposal')).toContainText(/vertices become [\d,]+, [\d,]+ borders close/);
  await page.getByTestId('discard').click();
  await expect(page.locator('[data-finding=open-edges]')).toBeVisible();
  await page
    .locator('[data-finding=open-edges]')
    .getByRole('button', { name: /^Weld .* mm/ })
    .click();
  await keep(page);
  await openStep(page, 'parts');
  await openParts(page, 'Surface');
  await page.getByLabel('Weld distance').fill('0.5');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/vertices become/)).toBeVisible();
  await openParts(page, 'Tree');
  await page.getByRole('button', { name: 'By material' }).click();
  await expect(page.getByTestId('proposal')).toContainText('by 2 materials');
  await keep(page);
  await expect(note(page, 'parts')).toContainText('2 parts');
  await page.getByTestId('view').click();
  for (const [key, name] of [
    ['s', 'Side'],
    ['t', 'Top'],
    ['f', 'Front'],
    ['p', 'Free'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole('button', { name, exact: true })).toHaveAttribute('aria-pressed', 'true');
  }
  for (const [key, name] of [
    ['w', 'Wire'],
    ['b', 'Facing'],
    ['k', 'Checker'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole('button', { name, exact: true })).toHaveAttribute('aria-pressed', 'true');
    await page.keyboard.press(key);
  }
  await page.keyboard.press('c');
  await expect(page.getByTestId('cut-handle')).toBeVisible();
  const handle = (await page.getByTestId('cut-handle').boundingBox())!;
  await page.mouse.move(handle.x + 10, handle.y + 8);
  await page.mouse.down();
  await page.mouse.move(handle.x + 60, handle.y + 30, { steps: 5 });
  await page.mouse.up();
  expect((await page.getByTestId('cut-handle').boundingBox())!.x).not.toBe(handle.x);
  await page.getByRole('button', { name: 'Along the cut' }).click();
  await expect(page.getByTestId('proposal')).toContainText('cuts off');
  await page.getByTestId('discard').click();
  await page.keyboard.press('c');
  // A box drawn over the view chooses what is seen, "behind" chooses more.
  await page.getByRole('button', { name: 'Box', exact: true }).click();
  const [from, to] = [await inView(page, 0.3, 0.3), await inView(page, 0.7, 0.75)];
  const drag = async () => {
    await page.mouse.move(...from);
    await page.mouse.down();
    await page.mouse.move(...to, { steps: 4 });
    await page.mouse.up();
    await expect(page.getByTestId('split-faces')).toBeVisible();
    return Number(
      /Split off ([\d,]+) face/
        .exec((await page.getByTestId('split-faces').textContent())!)![1]!
        .replaceAll(',', ''),
    );
  };
  const seen = await drag();
  await page.getByRole('button', { name: 'Clear', exact: true }).click();
  await page.getByLabel('also what is behind').check();
  expect(await drag()).toBeGreaterThan(seen);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('cut the piece open');
  await page.keyboard.press('Escape');
});

test('an opening is laid, and each agent passes or does not', async ({ watched: page, newYard }) => {
  await newYard('Openings');
  await onTheBench(page, 'Net loft wall');
  await expect(page.locator('[data-finding=source-note-0]')).toContainText('loft_boards.png');
  await openStep(page, 'size');
  await page.getByTitle('Look from the front (F)').click();
  await page.getByTestId('add-clearance').click();
  await page.mouse.click(...(await placeOf(page, 'loft wall', 'lowest')));
  await page.mouse.click(...(await placeOf(page, 'loft wall', 'highest')));
  const clearance = page.locator('[data-clearance="opening 1"]');
  await expect(clearance).toBeVisible();
  await page.getByLabel('opening 1 width').fill('2.4');
  await page.keyboard.press('Enter');
  await page.getByLabel('opening 1 height').fill('2.5');
  await page.keyboard.press('Enter');
  await expect(clearance).toContainText('✓ deckhand passes');
  await expect(clearance).toContainText('✕ gantry rig does not pass');
  await expect(clearance).toContainText('−700.0 mm high');
  await saved(page);
});
