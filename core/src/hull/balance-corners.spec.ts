import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { mirrorPoint } from '../shape/index.js';
import { balanceCorners, hullMisfit } from './balance-corners.js';
import { type ConvexHull, convexHull, farthestOutside } from './convex-hull.js';
import { withEvenBudget, withVertexBudget } from './vertex-budget.js';

const hullOf = (points: readonly number[]): ConvexHull => {
  const found = convexHull(points);
  if (found.span !== 'solid') throw new Error('flat');
  return found.hull;
};

/** A lumpy round body about the origin. Shape: [3n] */
const lump = (n: number, wave: number, [sx, sy, sz]: Vec3): number[] =>
  Array.from({ length: n }, (_, i) => {
    const [y, turn] = [1 - (2 * (i + 0.5)) / n, i * 2.399963];
    const radius = Math.sqrt(1 - y * y);
    const grow = 1 + 0.05 * Math.sin(wave * turn);
    return [sx * radius * Math.cos(turn) * grow, sy * y * grow, sz * radius * Math.sin(turn) * grow];
  }).flat();

const side = fc.double({ min: 0.2, max: 3, noNaN: true });
const bodies = fc
  .tuple(fc.integer({ min: 60, max: 160 }), fc.integer({ min: 1, max: 7 }), fc.tuple(side, side, side))
  .map(([n, wave, size]) => hullOf(lump(n, wave, size as Vec3)));
const corners = fc.integer({ min: 12, max: 40 });

describe('corners of a hull that stands for another', () => {
  it('are balanced to a nearer one with no more of them, whatever the hull', () => {
    fc.assert(
      fc.property(bodies, corners, (hull, most) => {
        const few = withVertexBudget(hull, most, 'between');
        const balanced = balanceCorners(few, hull);
        expect(balanced.points.length / 3).toBeLessThanOrEqual(most);
        expect(hullMisfit(balanced, hull)).toBeLessThanOrEqual(hullMisfit(few, hull));
        // Convex, with all its corners.
        expect(farthestOutside(balanced, balanced.points)).toBeLessThan(1e-9);
      }),
      { numRuns: 40 },
    );
  });

  it('of a ball are a sixth nearer than those grown all alike', () => {
    const ball = hullOf(lump(160, 0, [1, 1, 1]));
    const few = withVertexBudget(ball, 32, 'between');
    expect(hullMisfit(balanceCorners(few, ball), ball)).toBeLessThan(0.84 * hullMisfit(few, ball));
  });

  it('leave alone what has nothing to gain', () => {
    const box = hullOf([-1, -1, -1, 1, -1, -1, -1, 1, -1, 1, 1, -1, -1, -1, 1, 1, -1, 1, -1, 1, 1, 1, 1, 1]);
    expect(balanceCorners(box, box)).toBe(box);
  });

  it('are dropped two by two from a hull that is its own image, which it stays', () => {
    const plane = { point: [0, 0, 0] as Vec3, normal: [1, 0, 0] as Vec3 };
    const image = (points: Float64Array) =>
      Float64Array.from(mirrorPoint([points[0]!, points[1]!, points[2]!], plane));
    fc.assert(
      fc.property(bodies, corners, (body, most) => {
        const even = hullOf([...body.points, ...body.points.map((v, i) => (i % 3 ? v : -v))]);
        const few = withEvenBudget(even, most, image);
        expect(few.points.length / 3).toBeLessThanOrEqual(most);
        expect(few.points.length / 3).toBeGreaterThan(most / 2);
        expect(farthestOutside(even, few.points)).toBeLessThan(1e-9);
        const known = new Set(Array.from({ length: few.points.length / 3 }, (_, v) => placeOf(few, v, 1)));
        for (let v = 0; v < few.points.length / 3; v++) expect(known).toContain(placeOf(few, v, -1));
      }),
      { numRuns: 40 },
    );
  });
});

const placeOf = ({ points }: ConvexHull, v: number, sign: number): string =>
  [points[v * 3]! * sign + 0, points[v * 3 + 1]!, points[v * 3 + 2]!].join();
