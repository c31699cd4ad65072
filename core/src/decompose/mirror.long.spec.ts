import fc from 'fast-check';
import { dot, normalized, quatAbout, type Vec3 } from '../math/index.js';
import { joinMeshes, massOf, type Mesh, plainMesh } from '../mesh/index.js';
import { mirrorPoint, mirrorShape, type Shape, shapeBounds, shapeVolume } from '../shape/index.js';
import { boxMesh, moved } from '../testing/meshes.js';
import { turn } from '../testing/shapes.js';
import { SOLIDS, tube } from '../testing/solids.js';
import { bowl, post, turned } from '../testing/turned.js';
import { decompose } from './index.js';
import { mirrorPlane } from './mirror-plane.js';

const arc = (radius: number, from: number, to: number, count: number): number[][] =>
  Array.from({ length: count }, (_, i) => {
    const angle = from + ((to - from) * i) / (count - 1);
    return [radius * Math.cos(angle), radius * Math.sin(angle), 0];
  });

const board = (half: Vec3, center: Vec3, axis: Vec3, angle: number): Mesh =>
  moved(boxMesh(half), center, quatAbout(axis, angle));

/** A trough of boards: a floor, two leaning sides, three ribs. */
const trough = () =>
  joinMeshes([
    boxMesh([0.4, 0.02, 1.5]),
    ...[1, -1].map((side) => board([0.02, 0.35, 1.5], [side * 0.55, 0.3, 0], [0, 0, 1], -side * 0.5)),
    ...[-1, 0, 1].map((z) => boxMesh([0.4, 0.06, 0.03], [0, 0.07, z])),
  ]);

/** Two posts, a rail, and braces that cross in the middle. */
const braced = () =>
  joinMeshes([
    ...[1, -1].map((side) => boxMesh([0.05, 1, 0.05], [side, 1, 0])),
    boxMesh([1.2, 0.05, 0.05], [0, 2.05, 0]),
    ...[1, -1].map((side) => board([1.1, 0.04, 0.02], [0, 1, side * 0.022], [0, 0, 1], side * 0.7)),
  ]);

const SYMMETRIC: Record<string, Mesh> = {
  table: SOLIDS.table(),
  window: SOLIDS.window(),
  tray: SOLIDS.tray(),
  trough: trough(),
  bowl: bowl(32),
  post: post(),
  arch: tube(arc(2, 0, Math.PI, 25), 0.2),
  ring: tube(
    Array.from({ length: 36 }, (_, i) => [
      2 * Math.cos((i / 18) * Math.PI),
      0,
      2 * Math.sin((i / 18) * Math.PI),
    ]),
    0.2,
    12,
    true,
  ),
  'two bowls': joinMeshes([bowl(24), moved(bowl(24), [1.5, 0, 0])]),
  'a bowl on a stand': joinMeshes([moved(bowl(24), [0, 1, 0]), boxMesh([0.3, 0.5, 0.1], [0, 0.5, 0])]),
};

const bounds = (shape: Shape) => [...shapeBounds(shape).min, ...shapeBounds(shape).max];
const alike = (a: Shape, b: Shape) =>
  bounds(a).every((value, k) => Math.abs(value - bounds(b)[k]!) < 1e-4) &&
  Math.abs(shapeVolume(a) - shapeVolume(b)) < 1e-3 * shapeVolume(a);

describe('symmetric art', () => {
  for (const [name, mesh] of Object.entries(SYMMETRIC))
    it(`gets symmetric sets at every count: ${name}`, async () => {
      const plane = mirrorPlane(mesh)!;
      const { rungs } = await decompose(mesh, { maxShapes: 12 });
      for (const { shapes } of rungs)
        for (const shape of shapes) {
          const image = mirrorShape(shape, plane);
          expect(shapes.some((other) => alike(other, image)))
            .withContext(`${shape.kind} among ${shapes.length}`)
            .toBeTrue();
        }
    });

  it('takes of several sets with as many shapes the better: a spool across the plane is three', async () => {
    const outline: [number, number][] = [
      [0.001, -0.6],
      [0.3, -0.6],
      [0.3, -0.41],
      [0.1, -0.33],
      [0.1, 0.33],
      [0.3, 0.41],
      [0.3, 0.6],
      [0.001, 0.6],
    ];
    const { rungs } = await decompose(turned(outline, 15), { maxShapes: 8 });
    const { shapes, figures } = rungs.find((rung) => rung.shapes.length === 3)!;
    expect(figures.overfill + figures.underfill).toBeLessThan(0.1 * figures.artVolume);
    const lengths = shapes.map((shape) => shapeBounds(shape).max[1] - shapeBounds(shape).min[1]);
    expect(Math.abs(lengths.sort((a, b) => a - b)[0]! - lengths[1]!)).toBeLessThan(1e-4);
  });

  it('does so whichever way it is turned, and leaves no hull more corners than are allowed', async () => {
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(trough(), SOLIDS.table(), post()), turn, async (mesh, rotation) => {
        const art = moved(mesh, [7, -2, 30], rotation);
        const plane = mirrorPlane(art)!;
        const { rungs } = await decompose(art, { maxShapes: 12, maxVertices: 16 });
        const { shapes } = rungs.at(-1)!;
        for (const shape of shapes) {
          expect(shapes.some((other) => alike(other, mirrorShape(shape, plane)))).toBeTrue();
          if (shape.kind === 'hull') expect(shape.points.length / 3).toBeLessThanOrEqual(16);
        }
      }),
      { numRuns: 3, seed: 15 },
    );
  });

  it('leaves braces that cross over the plane whole: each one box', async () => {
    const { rungs } = await decompose(braced(), { maxShapes: 12 });
    const exact = rungs.at(-1)!;
    expect(exact.shapes.map(({ kind }) => kind)).toEqual(Array(5).fill('box'));
    expect(exact.figures.overfill).toBeLessThan(1e-3 * exact.figures.artVolume);
  });

  it('halves what lies flat across its ring, not along it, where every piece would go through the plane', () => {
    const { normal } = mirrorPlane(tube(arc(1, 0, 2 * Math.PI * (1 - 1 / 24), 24), 0.2, 8, true))!;
    expect(Math.abs(normal[2])).toBeLessThan(1e-6);
  });

  it('halves a square bar along its sides, not from edge to edge', () => {
    const bar = moved(boxMesh([0.5, 0.5, 1]), [3, 1, 2], quatAbout([0, 0, 1], 0.4));
    const { normal } = mirrorPlane(bar)!;
    for (const side of [
      [Math.cos(0.4), Math.sin(0.4), 0],
      [-Math.sin(0.4), Math.cos(0.4), 0],
    ] as Vec3[])
      expect(Math.min(Math.abs(dot(normal, side)), 1 - Math.abs(dot(normal, side)))).toBeLessThan(1e-6);
  });

  it('tells the plane of points that were mirrored, wherever it lies, and none of crooked ones', () => {
    const coordinate = fc.integer({ min: -3000, max: 3000 }).map((v) => v / 1000);
    const place = fc.tuple(coordinate, coordinate, coordinate);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(place, place, place), { minLength: 4, maxLength: 12 }),
        turn,
        place,
        (triangles, rotation, point) => {
          const normal = normalized([rotation[0] + 0.1, rotation[1], rotation[2] + 0.01] as Vec3);
          const half = triangles.flat();
          const places = [...half, ...half.map((p) => mirrorPoint(p, { point, normal }))];
          const mesh = plainMesh(
            places.flat(),
            places.map((_, i) => i),
          );
          fc.pre(massOf(mesh).area > 10);
          const found = mirrorPlane(mesh)!;
          expect(found).not.toBeNull();
          if (!found) return;
          for (const p of places) {
            const image = mirrorPoint(p, found);
            expect(places.some((q) => Math.hypot(...q.map((v, k) => v - image[k]!)) < 1e-3)).toBeTrue();
          }
          // One corner a little out of its place is enough.
          const crooked = plainMesh(mesh.positions, mesh.indices);
          for (let k = 0; k < 3; k++) crooked.positions[k]! += 0.05;
          const still = mirrorPlane(crooked);
          if (still) expect(Math.abs(dot(still.normal, normal))).toBeLessThan(1 - 1e-6);
        },
      ),
      { numRuns: 40, seed: 15, endOnFailure: true },
    );
  });
});
