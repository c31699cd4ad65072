import fc from 'fast-check';
import { inMetres, memoryFile, readFile } from '../format/index.js';
import { boundsOf, distance } from '../math/index.js';
import {
  artNodes,
  partBounds,
  plainNode,
  replaceProxies,
  applyEdit,
  artMesh,
  takeIn,
  type Scene,
  wholeMesh,
} from '../piece/index.js';
import { meshNameFrom } from '../naming/index.js';
import { shapeBounds, shapeVolume } from '../shape/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, moved, sceneOf } from '../testing/meshes.js';
import { anyShape, turn } from '../testing/shapes.js';
import { assemble } from './assemble.js';
import { deliveredKind } from './delivered-shape.js';
import { twinOf, withTwin } from './collision-twin.js';
import { manifestOf, manifestSchema } from './manifest.js';
import { putTogether } from './put-together.js';
import { planDelivery } from './plan.js';
import type { Container, TargetProfile } from './profile.js';
import { PROFILES, TWIN_FILE } from './profiles/index.js';
import { setApart } from './set-apart.js';

/** A post, a leaf that hangs turned below it, and a sill beside them. */
const gate = (rotation: [number, number, number, number]): Scene => ({
  ...sceneOf(boxMesh([1, 1, 1])),
  nodes: [
    { ...plainNode('Post', 0), translation: [2, 0, 1] },
    { ...plainNode('Leaf', 1, 0), translation: [1, 0.5, 0], rotation },
    plainNode('Sill', 2),
  ],
  meshes: [
    { name: 'Post', mesh: boxMesh([0.2, 1, 0.3]) },
    { name: 'Leaf', mesh: moved(boxMesh([0.8, 0.9, 0.04]), [0.8, 0, 0]) },
    { name: 'Sill', mesh: moved(boxMesh([2, 0.1, 0.2]), [1, -1, 0]) },
  ],
});

const everyWay: [TargetProfile, Container][] = PROFILES.flatMap((profile) =>
  profile.containers.map((container): [TargetProfile, Container] => [profile, container]),
);

/** What a delivery comes back as when its files are dropped as art. */
async function again(files: readonly { name: string; bytes: Uint8Array }[]) {
  const [main, ...rest] = files.filter(({ name }) => !/\.(json|md)$/.test(name));
  const apart = setApart(
    await readFile(
      memoryFile(main!.name, main!.bytes),
      rest.map(({ name, bytes }) => memoryFile(name, bytes)),
    ),
  );
  return takeIn(apart.scene, {
    files: [{ name: main!.name, blob: 'a'.repeat(64), bytes: 1 }],
    meshName: meshNameFrom,
    proxies: apart.proxies,
    aside: apart.aside,
  }).document;
}

describe('a delivery that is taken in again as art', () => {
  for (const [profile, container] of everyWay.filter(([{ id }]) => id !== 'twin-file'))
    it(`has the same parts, shapes, kinds and owners: ${profile.id} as ${container}`, async () => {
      await fc.assert(
        fc.asyncProperty(
          turn,
          fc.array(fc.record({ shape: anyShape, part: fc.constantFrom('n1', 'n2', 'n3') }), {
            minLength: 1,
            maxLength: 4,
          }),
          async (rotation, shapes) => {
            const { document: art, ...sources } = pieceOf(gate(rotation), 'gate.obj');
            const document = applyEdit(
              { ...art, pivot: { ...art.pivot, position: [0, 0, 0], rotation: [0, 0, 0, 1] } },
              replaceProxies(shapes.map((shape, i) => ({ id: `s${i}`, ...shape }))),
            );
            const files = await assemble(document, profile, { ...sources, choices: { container } });
            const back = await again(files);
            const tree = planDelivery(document, profile, { container });
            const nodes = tree.files.flatMap((file) => file.nodes);
            const parts = nodes.filter((node) => node.parts.length);
            // Single precision of glTF moves places by less than this.
            const close = 1e-4;
            const bounds = (name: string) => {
              const node = artNodes(back.nodes).find((i) => back.nodes[i]!.name === name)!;
              return partBounds(back, node);
            };
            expect(
              artNodes(back.nodes)
                .map((i) => back.nodes[i]!.name)
                .sort(),
            ).toEqual(parts.map(({ name }) => name).sort());
            if (parts.length > 1)
              for (const { name, parts: own } of parts)
                expect(distance(bounds(name).min, partBounds(document, own[0]!).min))
                  .withContext(name)
                  .toBeLessThan(close);
            const owner = (part: string | undefined) =>
              back.nodes.find(({ id }) => id === part)?.name ?? null;
            const wanted = nodes.flatMap((node) =>
              node.shapes.map(({ proxy, kind }) => ({
                shape: proxy.shape,
                owner: node.parts.length ? node.name : null,
                kind,
              })),
            );
            expect(back.proxies.length).toBe(wanted.length);
            for (const { shape, owner: whose, kind } of wanted) {
              const exact = deliveredKind(profile, shape) === shape.kind;
              const found = back.proxies.filter(
                (proxy) =>
                  owner(proxy.part) === whose &&
                  near(shapeBounds(proxy.shape), shapeBounds(shape), exact ? close : 0.1),
              );
              expect(found.length).withContext(`${shape.kind} of ${whose}`).toBeGreaterThan(0);
              expect(found.some((proxy) => proxy.shape.kind === kind || kind === 'hull')).toBeTrue();
              const volume = shapeVolume(shape);
              expect(
                Math.min(...found.map((proxy) => Math.abs(shapeVolume(proxy.shape) / volume - 1))),
              ).toBeLessThan(1e-3);
            }
          },
        ),
        { numRuns: 10 },
      );
    });

  it('is put together again from its manifest, wherever each part stood', async () => {
    await fc.assert(
      fc.asyncProperty(
        turn,
        turn,
        fc.constantFrom(...everyWay),
        fc.constantFrom('piece', 'part'),
        async (rotation, axes, [profile, container], split) => {
          const { document: art, ...sources } = pieceOf(gate(rotation), 'gate.obj');
          const document = {
            ...art,
            pivot: { ...art.pivot, position: [0.5, -1, 2] as [number, number, number], rotation: axes },
          };
          const files = await assemble(document, profile, {
            ...sources,
            choices: { container, files: split },
          });
          const manifest = manifestSchema.parse(
            JSON.parse(
              new TextDecoder().decode(files.find(({ name }) => name.endsWith('.manifest.json'))!.bytes),
            ),
          );
          const inputs = files.map(({ name, bytes }) => memoryFile(name, bytes));
          const models = new Map<string, Scene>();
          for (const { file } of manifest.meshes)
            models.set(
              file,
              inMetres(
                await readFile(
                  inputs.find(({ name }) => name === file)!,
                  inputs,
                ),
              ),
            );
          const whole = wholeMesh(putTogether(manifest, models));
          const before = boundsOf(artMesh(document, sources.meshOf).positions);
          const after = boundsOf(whole.positions);
          expect(Math.max(distance(before.min, after.min), distance(before.max, after.max)))
            .withContext(`${profile.id} ${container} ${split}`)
            .toBeLessThan(1e-6);
        },
      ),
      { numRuns: 40 },
    );
    const { document } = pieceOf(gate([0, 0, 0, 1]), 'gate.obj');
    const manifest = manifestOf(planDelivery(document, PROFILES[0]!), []);
    expect(() => putTogether(manifest, new Map())).toThrowError(/Gate.glb is not among the files/);
  });

  it('has the collision of a twin file as one surface of the piece', async () => {
    const { document: art, ...sources } = pieceOf(gate([0, 0, 0, 1]), 'gate.obj');
    const box = {
      kind: 'box' as const,
      center: [2, 0, 1] as [number, number, number],
      halfExtents: [0.2, 1, 0.3] as [number, number, number],
      rotation: [0, 0, 0, 1] as [number, number, number, number],
    };
    const document = applyEdit(art, replaceProxies([{ id: 'a', shape: box, part: 'n1' }]));
    for (const container of TWIN_FILE.containers) {
      const files = await assemble(document, TWIN_FILE, { ...sources, choices: { container } });
      const inputs = files.map(({ name, bytes }) => memoryFile(name, bytes));
      const [main, ...rest] = inputs;
      const twin = twinOf(main!.name, rest)!;
      expect(twin.name).toBe(`Gate_collision.${container}`);
      const apart = setApart(withTwin(await readFile(main!, rest), await readFile(twin, rest)));
      expect(apart.proxies.map(({ shape, owner }) => [shape.kind, owner])).toEqual([['surface', null]]);
      const { min, max } = shapeBounds(apart.proxies[0]!.shape);
      const pivot = document.pivot.position;
      expect(min.map((v, k) => v + pivot[k]!)).toEqual([jasmine.any(Number), -1, jasmine.any(Number)]);
      expect(max[0] + pivot[0]).toBeCloseTo(2.2, 5);
      expect(apart.scene.nodes.some(({ name }) => name === 'Gate_collision')).toBeFalse();
    }
  });

  const near = (a: ReturnType<typeof shapeBounds>, b: ReturnType<typeof shapeBounds>, within: number) =>
    distance(a.min, b.min) < within + within * distance(b.min, b.max) &&
    distance(a.max, b.max) < within + within * distance(b.min, b.max);
});
