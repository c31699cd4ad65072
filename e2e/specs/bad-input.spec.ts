import { mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { memoryFile, readFile, writeGlb } from '@yard-brace/core';
import { ObjText } from '../support/art';
import { bringIn, expect, test, textFile, type TestFile } from '../support/bench';

const TETRA = new ObjText().octahedron([0, 1, 0], 1).text();
const glb = async () => writeGlb(await readFile(memoryFile('good.obj', new TextEncoder().encode(TETRA))));
const binary = (name: string, bytes: Uint8Array): TestFile => ({
  name,
  mimeType: 'model/gltf-binary',
  buffer: Buffer.from(bytes),
});

/** The GLB with its JSON changed as text; the new text has the old length. */
function changed(bytes: Uint8Array, from: RegExp, to: (match: string) => string): Uint8Array {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
  const json = new TextDecoder().decode(bytes.slice(20, 20 + length));
  const next = json.replace(from, (match) => to(match).padEnd(match.length, ' '));
  const out = bytes.slice();
  out.set(new TextEncoder().encode(next).slice(0, length), 20);
  return out;
}

const told = (page: Page, text: string | RegExp) =>
  expect(page.getByRole('alert').filter({ hasText: text }).first()).toBeVisible();

test('each bad file gets one sentence, nothing is stored, and the next one works', async ({
  watched: page,
  newYard,
  application,
}) => {
  await newYard('Bad input');
  const good = await glb();
  const lying = good.slice();
  new DataView(lying.buffer).setUint32(8, good.length + 400, true);
  const cases: [TestFile, string | RegExp][] = [
    [textFile('letter.obj', 'Dear all,\nthe mesh is attached.\n'), 'letter.obj, line 1: no faces were found'],
    [textFile('range.obj', `${TETRA}f 1 2 77\n`), 'the face names vertex 77, and there are 6'],
    [textFile('nan.obj', `v nan 0 0\n${TETRA}`), 'nan.obj, line 1: a number of “v”'],
    [textFile('inf.obj', `v 0 1e999 0\n${TETRA}`), 'inf.obj, line 1: a number of “v”'],
    [textFile('points.obj', 'v 0 0 0\nv 1 0 0\n'), 'points.obj, line 2: the file has no faces'],
    [textFile('empty.obj', ''), 'empty.obj: the file is empty; export it again.'],
    [textFile(`${'n'.repeat(300)}.obj`, TETRA), 'the file name has 304 characters'],
    [textFile('inner.obj', `o ${'x'.repeat(10000)}\n${TETRA}`), 'has 10000 characters'],
    [binary('half.glb', good.slice(0, good.length >> 1)), 'half.glb, byte 8: the header promises'],
    [binary('lying.glb', lying), 'lying.glb, byte 8: the header promises'],
    [
      binary(
        'beyond.glb',
        changed(good, /"count":\d+/, (m) => m.replace(/\d/g, '9')),
      ),
      /beyond\.glb, accessor \d: it reaches to byte/,
    ],
    [
      textFile(
        'far.gltf',
        JSON.stringify({ asset: { version: '2.0' }, buffers: [{ byteLength: 12, uri: 'far.bin' }] }),
      ),
      'buffer 0: buffer “far.bin” is not among the files',
    ],
    [
      textFile('laughs.dae', '<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a "ha">]><COLLADA>&a;</COLLADA>'),
      'laughs.dae, line 1: it declares a document type, which is not read',
    ],
    [textFile('drawing.dae', '<svg/>'), 'drawing.dae: the file is XML, and <svg> is not COLLADA'],
    [
      textFile(
        'lying.ply',
        'ply\nformat ascii 1.0\nelement vertex 4000000000\nproperty float x\nend_header\n',
      ),
      /lying\.ply, byte \d+: the header promises at least/,
    ],
    [
      textFile('half.stl', 'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\n'),
      'cut off inside a facet',
    ],
    [
      textFile(
        'ring.gltf',
        JSON.stringify({
          asset: { version: '2.0' },
          nodes: [{ children: [1] }, { children: [0] }],
          scenes: [{ nodes: [0] }],
        }),
      ),
      /ring\.gltf, node \d/,
    ],
    [textFile('notes.txt', 'hello'), 'notes.txt: .txt files are not read'],
  ];
  for (const [file, sentence] of cases) {
    await bringIn(page, file);
    await told(page, sentence);
    await page.getByTestId('import-report').getByRole('button', { name: 'Dismiss' }).click();
  }
  const folder = mkdtempSync(join(tmpdir(), 'yard-brace-big-'));
  writeFileSync(join(folder, 'big.obj'), '');
  truncateSync(join(folder, 'big.obj'), 512 * 1024 * 1024 + 1);
  await page.getByTestId('file-input').setInputFiles(join(folder, 'big.obj'));
  await told(page, 'more than the limit of 512 MB');
  rmSync(folder, { recursive: true });

  // A folder of far too many meshes is refused as one, and nothing of it is stored.
  await bringIn(page, ...Array.from({ length: 1001 }, (_, i) => textFile(`part ${i}.obj`, TETRA)));
  await told(page, 'more than the 1,000 of one import');

  await expect(page.getByText('The shelf is empty')).toBeVisible();
  const yard = page.url().split('/').pop();
  const shelf = await (await page.request.get(`${application.address}/api/yards/${yard}`)).json();
  expect(shelf.shelf).toEqual([]);

  await bringIn(page, binary('good.glb', good));
  await expect(page.locator('[data-step=intake]')).toContainText('8 triangles');
});

test('a long reading is shown, can be stopped, and leaves nothing', async ({ watched: page, newYard }) => {
  await newYard('Stopped');
  const folder = mkdtempSync(join(tmpdir(), 'yard-brace-long-'));
  writeFileSync(join(folder, 'sheet.obj'), new ObjText().sheet(600).text());
  await page.getByTestId('file-input').setInputFiles(join(folder, 'sheet.obj'));
  await expect(page.locator('header').getByRole('status').filter({ hasText: 'sheet.obj' })).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByTestId('import-report')).toContainText('not imported: stopped');
  rmSync(folder, { recursive: true });
  await expect(page.getByText('The shelf is empty')).toBeVisible();
  await bringIn(page, textFile('after.obj', TETRA));
  await expect(page.locator('[data-step=intake]')).toContainText('8 triangles');
});
