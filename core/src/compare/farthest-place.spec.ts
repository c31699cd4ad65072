import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { farthestCorner, farthestPlace, mostAtCorners } from './farthest-place.js';

const coordinate = fc.integer({ min: -1000, max: 1000 }).map((v) => v / 500);
const place = fc.tuple(coordinate, coordinate, coordinate);

type Off = (x: number, y: number, z: number) => number;

const fromPoint =
  ([px, py, pz]: Vec3): Off =>
  (x, y, z) =>
    Math.hypot(x - px, y - py, z - pz);

/** The farthest place of a triangle from the nearest of some convex things. */
function farthest(triangle: readonly Vec3[], things: readonly Off[], { borders = true } = {}) {
  const nearest = (p: Readonly<Vec3>) => things.reduce((best, one) => (one(...p) < best(...p) ? one : best));
  let asked = 0;
  const found = farthestPlace(
    triangle.flat(),
    (middle, corners) => {
      asked++;
      const near = nearest(middle);
      const border = () => {
        const other = nearest(farthestCorner(corners, near));
        return other === near ? undefined : (...p: Vec3) => near(...p) - other(...p);
      };
      return {
        here: near(...middle),
        most: mostAtCorners(corners, near),
        ...(borders ? { border } : {}),
      };
    },
    { known: 0, precision: 1e-4, maxHalved: 100_000 },
  )!;
  return { ...found, asked, off: nearest(found.at)(...found.at) };
}

describe('farthestPlace', () => {
  it('finds what trying many places finds, and says where', () => {
    fc.assert(
      fc.property(
        fc.tuple(place, place, place),
        fc.array(place, { minLength: 1, maxLength: 6 }),
        (triangle, nearTo) => {
          const { distance, off } = farthest(triangle, nearTo.map(fromPoint));
          expect(off).toBe(distance);
          const steps = 24;
          for (let i = 0; i <= steps; i++)
            for (let j = 0; i + j <= steps; j++) {
              const [u, v] = [i / steps, j / steps];
              const p = [0, 1, 2].map(
                (k) => triangle[0][k]! * (1 - u - v) + triangle[1][k]! * u + triangle[2][k]! * v,
              );
              const here = Math.min(
                ...nearTo.map((q) => Math.hypot(p[0]! - q[0], p[1]! - q[1], p[2]! - q[2])),
              );
              expect(distance).toBeGreaterThanOrEqual(here - 1e-4 - 1e-9);
            }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('asks little where the farthest places lie in a row between two', () => {
    const fromLine =
      (at: number): Off =>
      (x, y) =>
        Math.hypot(x - at, y);
    const valley: [Vec3[], Off[]] = [
      [
        [-1, 0, 0],
        [-1, 0, 30],
        [1, 0, 14],
      ],
      [fromLine(-1), fromLine(1)],
    ];
    const [cut, halved] = [farthest(...valley), farthest(...valley, { borders: false })];
    expect(cut.distance).toBeCloseTo(halved.distance, 3);
    expect(cut.asked).toBeLessThan(halved.asked / 20);
  });

  it('stops after so many halvings with the farthest place it has', () => {
    let asked = 0;
    const found = farthestPlace([0, 0, 0, 1, 0, 0, 0, 1, 0], () => ({ here: ++asked, most: Infinity }), {
      known: 0,
      precision: 0,
      maxHalved: 10,
    });
    expect(asked).toBe(21);
    expect(found!.distance).toBe(21);
  });

  it('says nothing when no place is farther than what is known', () => {
    const nothing = farthestPlace([0, 0, 0, 1, 0, 0, 0, 1, 0], () => ({ here: 1, most: 1 }), {
      known: 1,
      precision: 0.1,
    });
    expect(nothing).toBeNull();
  });
});
