import fc from 'fast-check';
import { convexHull, farthestOutside, hullVolume } from '../hull/index.js';
import { cross, normalized, type Quat, quatAbout, subtract, type Vec3 } from '../math/index.js';
import { trianglesVolume } from '../mesh/index.js';
import { type Shape, shapePolygons, shapeVolume } from '../shape/index.js';
import { SOLIDS, tube } from '../testing/solids.js';
import { bodyAround, crosses } from '../compare/convex-overlap.js';
import { compact, cutFragment, type Fragment, fragmentVolume, splitFragment } from './fragment.js';
import { openClearances } from '../compare/index.js';
import { keptOut } from './keep-out.js';

const ring = () =>
  tube(
    Array.from({ length: 24 }, (_, i) => [
      Math.cos((i / 12) * Math.PI) * 2,
      0,
      Math.sin((i / 12) * Math.PI) * 2,
    ]),
    0.4,
    8,
    true,
  );
const SUBJECTS = { ell: SOLIDS.ell, tray: SOLIDS.tray, window: SOLIDS.window, table: SOLIDS.table, ring };
const fragmentOf = (name: keyof typeof SUBJECTS): Fragment => {
  const { positions, indices } = SUBJECTS[name]();
  return compact(positions, indices, []);
};
/** Areas with their directions, added up: nothing for a closed surface. */
function openness({ points: p, triangles }: Fragment): number {
  const sum = [0, 0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((i) => [0, 1, 2].map((k) => p[triangles[t + i]! * 3 + k]!) as Vec3) as [
      Vec3,
      Vec3,
      Vec3,
    ];
    cross(subtract(b, a), subtract(c, a)).forEach((v, k) => (sum[k]! += v / 2));
  }
  return Math.hypot(...sum);
}
const unit = fc
  .tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true })))
  .filter((v) => Math.hypot(...v) > 0.1)
  .map((v) => normalized(v as Vec3));
const subject = fc.constantFrom(...(Object.keys(SUBJECTS) as (keyof typeof SUBJECTS)[]));

describe('cutting a solid', () => {
  it('loses no volume, whatever plane it is cut along, again and again', () => {
    fc.assert(
      fc.property(
        subject,
        fc.array(fc.tuple(unit, fc.double({ min: 0.2, max: 0.8, noNaN: true })), {
          minLength: 1,
          maxLength: 4,
        }),
        (name, planes) => {
          let parts = [fragmentOf(name)];
          const whole = fragmentVolume(parts[0]!);
          for (const [n, share] of planes) {
            parts = parts.flatMap((part) => {
              const along = Array.from({ length: part.points.length / 3 }, (_, v) =>
                n.reduce((sum, c, k) => sum + c * part.points[v * 3 + k]!, 0),
              );
              const [low, high] = [Math.min(...along), Math.max(...along)];
              const d = low + (high - low) * share;
              return cutFragment(part, { nx: n[0], ny: n[1], nz: n[2], d }, 1e-9)
                .filter((side) => side !== null)
                .flatMap(splitFragment);
            });
          }
          const sum = parts.reduce((total, part) => total + fragmentVolume(part), 0);
          expect(Math.abs(sum / whole - 1)).toBeLessThan(1e-6);
        },
      ),
      { numRuns: 80 },
    );
  });

  it('closes both sides, holes in the section included', () => {
    const hole = cutFragment(fragmentOf('window'), { nx: 0, ny: 0, nz: 1, d: 0.15 }, 1e-9);
    const across = cutFragment(fragmentOf('ring'), { nx: 1, ny: 0, nz: 0, d: 0.123 }, 1e-9);
    for (const side of [...hole, ...across]) expect(openness(side!)).toBeLessThan(1e-9);
    expect(fragmentVolume(hole[0]!)).toBeCloseTo(fragmentVolume(hole[1]!), 9);
    expect(splitFragment(across[0]!).length).toBe(1);
  });

  it('gives faces in the plane to the side that they close', () => {
    const [low, high] = cutFragment(fragmentOf('ell'), { nx: 0, ny: 1, nz: 0, d: 1 }, 1e-9);
    expect(fragmentVolume(low!)).toBeCloseTo(3, 12);
    expect(fragmentVolume(high!)).toBeCloseTo(3, 12);
    expect(openness(low!) + openness(high!)).toBeLessThan(1e-9);
    expect(trianglesVolume(low!.points, Uint32Array.from(low!.triangles))).toBeCloseTo(3, 12);
  });
});

describe('keeping shapes out of each other', () => {
  const place = fc.double({ min: -1.5, max: 1.5, noNaN: true });
  const half = fc.double({ min: 0.1, max: 1.2, noNaN: true });
  const turn: fc.Arbitrary<Quat> = fc
    .tuple(unit, fc.double({ min: 0, max: 3, noNaN: true }))
    .map(([a, r]) => quatAbout(a, r));
  const box: fc.Arbitrary<Shape> = fc
    .tuple(fc.tuple(place, place, place), fc.tuple(half, half, half), turn)
    .map(([center, halfExtents, rotation]) => ({ kind: 'box', center, halfExtents, rotation }));
  const round: fc.Arbitrary<Shape> = fc
    .tuple(fc.tuple(place, place, place), half, half, turn)
    .map(([center, radius, halfLength, rotation]) => ({
      kind: 'capsule',
      center,
      radius,
      halfLength,
      rotation,
    }));
  const options = { depth: 0, eps: 1e-9, maxVertices: 32 };

  it('cuts off what reaches into obstacles, adds nothing, and leaves alone what does not', () => {
    fc.assert(
      fc.property(fc.oneof(box, round), fc.array(box, { minLength: 1, maxLength: 3 }), (shape, obstacles) => {
        const bodies = obstacles.map((obstacle) => bodyAround(obstacle));
        const left = keptOut(shape, bodies, options);
        const hit = bodies.some((body) => crosses(bodyAround(shape), body, 0, 1e-9));
        if (!hit) expect(left).toBe(shape);
        if (!left) return;
        for (const body of bodies) expect(crosses(bodyAround(left), body, 1e-7, 1e-9)).toBeFalse();
        const { points } = shapePolygons(left);
        const hull = convexHull(bodyAround(shape).points);
        if (hull.span === 'solid') expect(farthestOutside(hull.hull, points)).toBeLessThan(5e-3);
        if (left.kind === 'hull') expect(left.points.length / 3).toBeLessThanOrEqual(32);
      }),
      { numRuns: 120 },
    );
  });

  it('holds every round inside its body', () => {
    fc.assert(
      fc.property(round, (shape) => {
        const { points, faces } = bodyAround(shape);
        const { points: fine } = shapePolygons(shape, { segments: 96 });
        expect(farthestOutside({ points: Float64Array.from(points), faces }, fine)).toBeLessThan(1e-9);
        expect(hullVolume({ points: Float64Array.from(points), faces })).toBeLessThan(
          shapeVolume(shape) * 1.03,
        );
      }),
      { numRuns: 60 },
    );
  });

  it('keeps a box a box when a flat side is taken off', () => {
    const wide: Shape = { kind: 'box', center: [0, 0, 0], halfExtents: [2, 1, 1], rotation: [0, 0, 0, 1] };
    const end: Shape = { kind: 'box', center: [2, 0, 0], halfExtents: [0.5, 3, 3], rotation: [0, 0, 0, 1] };
    const left = keptOut(wide, [bodyAround(end)], options)!;
    expect(left.kind).toBe('box');
    expect(shapeVolume(left)).toBeCloseTo(14, 6);
    expect(openClearances([end], [wide])).toEqual([false]);
    expect(openClearances([end], [left])).toEqual([true]);
  });
});
