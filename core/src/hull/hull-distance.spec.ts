import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { onTriangle } from '../solid/index.js';
import { convexHull, type ConvexHull } from './convex-hull.js';
import { hullDistance } from './hull-distance.js';
import { lowest, lowestCorner } from './lowest-corner.js';

const coordinate = fc.integer({ min: -3000, max: 3000 }).map((v) => v / 1000);
const place = fc.tuple(coordinate, coordinate, coordinate);
const hullOf = (places: Vec3[]): ConvexHull | null => {
  const result = convexHull(places.flat());
  return result.span === 'solid' ? result.hull : null;
};

describe('hullDistance', () => {
  it('is the distance to the nearest triangle outside, and negative inside', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 6, maxLength: 30 }), place, (places, p) => {
        const hull = hullOf(places);
        if (!hull) return;
        const fans = hull.faces.flatMap((f) => f.slice(2).flatMap((_, i) => [f[0]!, f[i + 1]!, f[i + 2]!]));
        const mesh = { positions: hull.points, indices: Uint32Array.from(fans) };
        const out: Vec3 = [0, 0, 0];
        let least = Infinity;
        for (let f = 0; f < fans.length; f += 3) least = Math.min(least, onTriangle(mesh, f, p, out));
        const found = hullDistance(hull.points, hull.faces);
        const here = found(...p);
        if (here > 1e-9) {
          expect(here).toBeCloseTo(Math.sqrt(least), 9);
          // A lower bound is enough where only nearer places matter.
          expect(found(...p, here / 2)).toBeLessThanOrEqual(here + 1e-12);
          expect(found(...p, here / 2)).toBeGreaterThanOrEqual(here / 2);
        } else expect(-here).toBeLessThanOrEqual(Math.sqrt(least) + 1e-9);
      }),
      { numRuns: 200 },
    );
  });
});

describe('lowestCorner', () => {
  it('finds what trying all corners finds', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 8, maxLength: 20 }), place, (places, g) => {
        const hull = hullOf(places);
        if (!hull || Math.hypot(...g) < 0.1) return;
        // The hull itself, as the places on the inner side of all its planes: the lowest is one of its corners.
        const planes: number[] = [];
        for (const face of hull.faces) {
          const [a, b, c] = face.map((v) => [0, 1, 2].map((k) => hull.points[v * 3 + k]!)) as [
            number[],
            number[],
            number[],
          ];
          const u = b.map((v, k) => v - a[k]!);
          const w = c.map((v, k) => v - a[k]!);
          const n = [
            u[1]! * w[2]! - u[2]! * w[1]!,
            u[2]! * w[0]! - u[0]! * w[2]!,
            u[0]! * w[1]! - u[1]! * w[0]!,
          ];
          const l = Math.hypot(...n);
          if (l < 1e-4) return;
          planes.push(...n.map((v) => -v / l), -n.reduce((sum, v, k) => sum + (v / l) * a[k]!, 0));
        }
        if (planes.length / 4 > 40) return;
        let least = Infinity;
        for (let v = 0; v < hull.points.length; v += 3)
          least = Math.min(
            least,
            g.reduce((sum, c, k) => sum + c * hull.points[v + k]!, 0),
          );
        expect(lowestCorner(Float64Array.from(planes), planes.length / 4, ...g, 100)).toBeTrue();
        expect(lowest.value).toBeCloseTo(least, 6);
      }),
      { numRuns: 200 },
    );
  });

  it('says when nothing holds it', () => {
    expect(lowestCorner(Float64Array.of(1, 0, 0, 0), 1, 0, 1, 0, 10)).toBeFalse();
    expect(lowestCorner(Float64Array.of(1, 0, 0, 5, -1, 0, 0, 5), 2, 1, 0, 0, 10)).toBeFalse();
  });
});
