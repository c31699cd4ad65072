import fc from 'fast-check';
import { type ConvexHull, convexHull, farthestOutside, hullVolume, withVertexBudget } from './index.js';
import { tightenOutside } from './tighten-outside.js';

const coordinate = fc.integer({ min: -1000, max: 1000 }).map((v) => v / 500);
const place = fc.tuple(coordinate, coordinate, coordinate);

const hullOf = (points: readonly number[]): ConvexHull | null => {
  const found = convexHull(points);
  return found.span === 'solid' ? found.hull : null;
};

/** Places spread evenly over a ball (golden angle). */
const ball = (count: number, stretch = 1): number[] =>
  Array.from({ length: count }, (_, i) => {
    const z = 1 - (2 * i + 1) / count;
    const angle = i * Math.PI * (3 - Math.sqrt(5));
    const r = Math.sqrt(1 - z * z);
    return [r * Math.cos(angle) * stretch, z, r * Math.sin(angle)];
  }).flat();

describe('an outer hull with its corners moved inward', () => {
  it('still holds all points with no more corners, and takes no more room', () => {
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 12, maxLength: 60 }),
        fc.double({ min: 1.05, max: 2, noNaN: true }),
        (places, factor) => {
          const inner = hullOf(places.flat());
          fc.pre(!!inner);
          const middle = [0, 1, 2].map((k) => places.reduce((sum, p) => sum + p[k]! / places.length, 0));
          const outer = hullOf(
            [...inner!.points].map((v, i) => middle[i % 3]! + (v - middle[i % 3]!) * factor),
          )!;
          const tight = tightenOutside(outer, inner!.points);
          expect(tight.points.length).toBeLessThanOrEqual(outer.points.length);
          expect(hullVolume(tight)).toBeLessThanOrEqual(hullVolume(outer));
          expect(farthestOutside(tight, inner!.points)).toBeLessThan(1e-6);
        },
      ),
      { seed: 15 },
    );
  });

  it('finds the hull again that was only blown up', () => {
    const inner = hullOf([-1, -1, -1, 1, -1, -1, 0, 1, -1, 0, 0, 1])!;
    const outer = { ...inner, points: inner.points.map((v) => v * 1.5) };
    expect(hullVolume(tightenOutside(outer, inner.points))).toBeCloseTo(hullVolume(inner), 2);
  });

  it('leaves little air round a ball', () => {
    for (const [points, corners, most] of [
      [ball(500), 32, 0.115],
      [ball(500), 16, 0.23],
      [ball(300, 3), 32, 0.12],
    ] as const) {
      const hull = hullOf(points)!;
      const few = withVertexBudget(hull, corners);
      expect(few.points.length / 3).toBeLessThanOrEqual(corners);
      expect(farthestOutside(few, hull.points)).toBe(0);
      expect(hullVolume(few) / hullVolume(hull) - 1)
        .withContext(`${points.length / 3} in ${corners}`)
        .toBeLessThan(most);
    }
  });
});
