import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { Box3, type BufferGeometry, type Mesh, type Object3D, Vector3 } from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { ObjText } from '../support/art';
import { bringIn, expect, makeShapesBy, openStep, saved, test, textFile } from '../support/bench';

test('from a centimetre file with its pivot far off to a delivery that another reader agrees with', async ({
  watched: page,
  newYard,
}) => {
  const art = new ObjText()
    .object('gantry foot')
    .box([4200, 60, -900], [60, 60, 40])
    .box([4350, 20, -900], [50, 20, 30])
    .octahedron([4200, 180, -900], 40);
  await newYard('Main job');
  await bringIn(page, textFile('gantry_foot 2.obj', art.text()));

  // Intake says the unit and the person confirms.
  await expect(page.locator('[data-step=size]')).toContainText('2.60 × 2.20 × 0.80 m');
  await expect(page.locator('[data-finding=unit-unconfirmed]')).toContainText(
    'read in cm its longest side is 2.60 m',
  );
  await page.getByRole('button', { name: 'Confirm cm' }).click();
  await expect(page.locator('[data-finding=unit-unconfirmed]')).toHaveCount(0);

  await openStep(page, 'pivot');
  await expect(page.locator('[data-finding=pivot-outside]')).toBeVisible();
  await page.getByRole('radio', { name: /Base centre/ }).click();
  await expect(page.locator('[data-step=pivot]')).toContainText('base centre');

  // A proposal first: left, nothing has changed; kept, three shapes are there.
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByRole('combobox', { name: 'Kind of shape', exact: true }).click();
  await page.getByRole('option', { name: 'Hull', exact: true }).click();
  await page.getByText('Each of 3 shells').click();
  await page.getByTestId('propose').click();
  await expect(page.getByTestId('proposal')).toContainText('22');
  await page.getByTestId('discard').click();
  await expect(page.locator('[data-step=proxies]')).toContainText('no shapes yet');
  await page.getByTestId('propose').click();
  await page.getByTestId('keep').click();
  await expect(page.locator('[data-step=proxies]')).toContainText('3 shapes, 22 corners');

  await openStep(page, 'names');
  await expect(page.getByTestId('names').locator('code')).toHaveText([
    'GantryFoot_02',
    'UCX_GantryFoot_02_01',
    'UCX_GantryFoot_02_02',
    'UCX_GantryFoot_02_03',
  ]);

  // Tried before it leaves: nothing stops a deckhand that the art does not.
  await openStep(page, 'trial');
  await page.getByTestId('walk-all').click();
  await expect(page.locator('[data-step=trial] yb-stamp title')).toContainText('clear', { timeout: 60_000 });

  await openStep(page, 'delivery');
  await page.getByTestId('deliver').click();
  await expect(page.getByTestId('verdict')).toContainText('exactly what was drawn');
  const download = page.waitForEvent('download');
  await page.getByTestId('bundle').click();
  const bundle = await download;
  expect(bundle.suggestedFilename()).toBe('GantryFoot_02.zip');
  const files = unzipSync(readFileSync(await bundle.path()));
  const sheet = new TextDecoder().decode(files['GantryFoot_02.import.md']);
  expect(sheet).toContain('Walked at from all sides by the deckhand: passes');
  const glb = files['GantryFoot_02.glb']!;

  const validity = await validateBytes(glb);
  expect(validity.issues.messages.filter((message) => message.severity === 0)).toEqual([]);

  // A second reader that shares nothing with ours.
  const { scene } = await new GLTFLoader().parseAsync(glb.slice().buffer, '');
  const nodes = new Map(scene.children.map((node) => [node.name, node]));
  expect([...nodes.keys()].sort()).toEqual([
    'GantryFoot_02',
    'UCX_GantryFoot_02_01',
    'UCX_GantryFoot_02_02',
    'UCX_GantryFoot_02_03',
  ]);
  const metres = (value: number) => value / 100;
  const pivot = [(art.min[0] + art.max[0]) / 2, art.min[1], (art.min[2] + art.max[2]) / 2].map(metres);
  expectBox(
    nodes.get('GantryFoot_02')!,
    art.min.map((v, i) => metres(v) - pivot[i]!),
    art.max.map((v, i) => metres(v) - pivot[i]!),
  );
  expectBox(
    nodes.get('UCX_GantryFoot_02_01')!,
    [41.4 - pivot[0]!, 0 - pivot[1]!, -9.4 - pivot[2]!],
    [42.6 - pivot[0]!, 1.2 - pivot[1]!, -8.6 - pivot[2]!],
  );
  for (const node of nodes.values())
    expect(node.position.toArray().concat(node.scale.toArray())).toEqual([0, 0, 0, 1, 1, 1]);
  for (const [name, node] of nodes)
    if (name.startsWith('UCX_')) expectConvexAndClosed((node as Mesh).geometry);

  // Reloaded, all is as it was, and the way back is still there.
  await saved(page);
  await page.reload();
  await expect(page.locator('[data-step=delivery]')).toContainText('read back as drawn');
  await expect(page.getByText('all clear')).toBeVisible();
  await page.getByTestId('undo').click();
  await expect(page.locator('[data-step=proxies]')).toContainText('no shapes yet');
  await page.getByTestId('redo').click();
  await expect(page.locator('[data-step=proxies]')).toContainText('3 shapes');
  await saved(page);
});

/** To 0.1 mm. */
function expectBox(node: Object3D, min: number[], max: number[]): void {
  const box = new Box3().setFromObject(node);
  box.min.toArray().forEach((value, i) => expect(Math.abs(value - min[i]!)).toBeLessThan(1e-4));
  box.max.toArray().forEach((value, i) => expect(Math.abs(value - max[i]!)).toBeLessThan(1e-4));
}

function expectConvexAndClosed(geometry: BufferGeometry): void {
  const place = geometry.getAttribute('position');
  const points = Array.from({ length: place.count }, (_, i) => new Vector3().fromBufferAttribute(place, i));
  const key = (v: number) => points[v]!.toArray().join();
  const index = [...geometry.getIndex()!.array];
  const edges = new Map<string, number>();
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [index[t]!, index[t + 1]!, index[t + 2]!];
    for (const [from, to] of [
      [a, b],
      [b, c],
      [c, a],
    ] as const)
      edges.set(`${key(from)}>${key(to)}`, (edges.get(`${key(from)}>${key(to)}`) ?? 0) + 1);
    const normal = points[b]!.clone().sub(points[a]!).cross(points[c]!.clone().sub(points[a]!)).normalize();
    for (const point of points) expect(normal.dot(point.clone().sub(points[a]!))).toBeLessThan(1e-5);
  }
  for (const [edge, count] of edges) {
    expect(count).toBe(1);
    expect(edges.get(edge.split('>').reverse().join('>'))).toBe(1);
  }
}
