import { orient3d } from 'robust-predicates';
import fc from 'fast-check';
import { type ConvexHull, convexHull, farthestOutside, hullVolume, volumeOfHullOf } from './convex-hull.js';
import { thickHull } from './thick-hull.js';

const grid = fc.integer({ min: -4, max: 4 });
const gridPoint = fc.tuple(grid, grid, grid);
/** Ten kilometres across, down to a billionth of a micron. */
const wide = fc.double({ min: -1e4, max: 1e4, noNaN: true }).map((v) => (Math.abs(v) < 1e-15 ? 0 : v));
const anyPoint = fc.oneof(
  gridPoint,
  fc.tuple(wide, wide, wide),
  gridPoint.map((p) => p.map((v) => v * 1e-6) as [number, number, number]),
);

/** Exact: no input point strictly outside any face, every edge shared by two faces in opposite directions, V - E + F = 2. */
function expectHull(hull: ConvexHull, points: number[]): void {
  const p = hull.points;
  const edges = new Map<string, number>();
  for (const face of hull.faces) {
    expect(new Set(face).size).toBe(face.length);
    face.forEach((from, i) => {
      const key = `${from},${face[(i + 1) % face.length]}`;
      edges.set(key, (edges.get(key) ?? 0) + 1);
    });
    const [a, b, c] = face as [number, number, number];
    for (let v = 0; v < points.length; v += 3) {
      const side = orient3d(
        p[a * 3]!,
        p[a * 3 + 1]!,
        p[a * 3 + 2]!,
        p[b * 3]!,
        p[b * 3 + 1]!,
        p[b * 3 + 2]!,
        p[c * 3]!,
        p[c * 3 + 1]!,
        p[c * 3 + 2]!,
        points[v]!,
        points[v + 1]!,
        points[v + 2]!,
      );
      expect(side).toBeGreaterThanOrEqual(0);
    }
  }
  for (const [key, count] of edges) {
    expect(count).toBe(1);
    expect(edges.get(key.split(',').reverse().join())).toBe(1);
  }
  expect(p.length / 3 - edges.size / 2 + hull.faces.length).toBe(2);
}

describe('convexHull', () => {
  it('contains all points, is convex, closed and obeys Euler, exactly, for any input', () => {
    fc.assert(
      fc.property(fc.array(anyPoint, { minLength: 0, maxLength: 60 }), (places) => {
        const points = places.flat();
        const result = convexHull(points);
        if (result.span === 'solid') expectHull(result.hull, points);
      }),
      { numRuns: 400 },
    );
  });

  it('is the same for any order of the input', () => {
    fc.assert(
      fc.property(
        fc
          .array(anyPoint, { minLength: 4, maxLength: 40 })
          .chain((places) =>
            fc.tuple(fc.constant(places), fc.shuffledSubarray(places, { minLength: places.length })),
          ),
        ([places, shuffled]) => expect(convexHull(shuffled.flat())).toEqual(convexHull(places.flat())),
      ),
      { numRuns: 150 },
    );
  });

  it('merges coplanar triangles and leaves out points that are no corners', () => {
    const points: number[] = [];
    for (let i = 0; i < 27; i++) points.push(i % 3, ((i / 3) | 0) % 3, (i / 9) | 0);
    const result = convexHull([...points, ...points]);
    expect(result.span === 'solid' && result.hull.faces.map((face) => face.length)).toEqual([
      4, 4, 4, 4, 4, 4,
    ]);
    expect(result.span === 'solid' && result.hull.points.length).toBe(24);
  });

  it('says what flat sets span', () => {
    expect(convexHull([]).span).toBe('empty');
    expect(convexHull([1, 2, 3, 1, 2, 3]).span).toBe('point');
    expect(convexHull([0, 0, 0, 1, 1, 1, 3, 3, 3, 2, 2, 2]).span).toBe('line');
    expect(convexHull([0, 0, 1, 1, 0, 1, 0, 1, 1, 1, 1, 1, 0.3, 0.2, 1]).span).toBe('plane');
  });

  it('measures how far points lie outside', () => {
    const cube = convexHull([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 0, 0, 1, 1, 0, 1, 0, 1, 1, 1, 1, 1]);
    expect(cube.span === 'solid' && farthestOutside(cube.hull, [0.5, 0.5, 1.25, 0.5, 0.5, 0.5])).toBeCloseTo(
      0.25,
      12,
    );
  });

  it('with a budget keeps to it and stays inside', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(wide, wide, wide), { minLength: 20, maxLength: 80 }),
        fc.integer({ min: 4, max: 16 }),
        (places, budget) => {
          const few = convexHull(places.flat(), { maxVertices: budget });
          if (few.span !== 'solid') return;
          expect(few.hull.points.length / 3).toBeLessThanOrEqual(budget);
          expectHull(few.hull, [...few.hull.points]);
          const given = new Set(places.map((p) => p.join()));
          for (let v = 0; v < few.hull.points.length; v += 3)
            expect(given).toContain([...few.hull.points.slice(v, v + 3)].join());
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells the volume alone, and ends where it is more than is asked for', () => {
    fc.assert(
      fc.property(
        fc.array(anyPoint, { minLength: 4, maxLength: 60 }),
        fc.double({ min: 0, max: 1.2, noNaN: true }),
        (list, share) => {
          const points = list.flat();
          const found = convexHull(points);
          const whole = found.span === 'solid' ? hullVolume(found.hull) : 0;
          const least = Math.max(...points.map(Math.abs)) ** 3 * 1e-12;
          expect(Math.abs(volumeOfHullOf(points) - whole)).toBeLessThanOrEqual(whole * 1e-9 + least);
          const enough = whole * share;
          const told = volumeOfHullOf(points, undefined, enough);
          expect(told).toBeLessThanOrEqual(whole * (1 + 1e-9) + least);
          expect(told).toBeGreaterThanOrEqual(Math.min(enough, whole) * (1 - 1e-9) - least);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('makes flat points a solid of the thickness asked for', () => {
    const square = [0, 0, 1, 2, 0, 1, 2, 3, 1, 0, 3, 1, 1, 1, 1];
    expect(hullVolume(thickHull(square, 0.1))).toBeCloseTo(0.6, 12);
    expect(hullVolume(thickHull([0, 0, 0, 3, 4, 0], 0.1))).toBeCloseTo(0.05, 12);
    expect(hullVolume(thickHull([7, 8, 9], 0.1))).toBeCloseTo(0.001, 12);
    fc.assert(
      fc.property(
        fc.array(gridPoint, { minLength: 1, maxLength: 12 }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        (places, t) => {
          const points = places.map(([x, y]) => [x, y, (x + 2 * y) / 4]).flat();
          const hull = thickHull(points, t);
          expectHull(hull, [...hull.points]);
          expect(farthestOutside(hull, points)).toBeLessThan(1e-12);
          expect(hullVolume(hull)).toBeGreaterThan(0);
        },
      ),
      { numRuns: 80 },
    );
    expect(() => thickHull([], 1)).toThrowError(RangeError);
    expect(() => thickHull([1e18, 0, 0, 1e18, 1, 0, 1e18, 0, 1], 0.1)).toThrowError(RangeError, /lost/);
  });

  it('gives thousands of points the same hull as when each is tried at every face', () => {
    const seeded = (seed: number) => {
      let state = seed + 1;
      return () => (state = (state * 48271) % 2147483647) / 2147483647;
    };
    const some = (kind: number, next: () => number): number[] => {
      const [a, b, c] = [next() * 2 - 1, next() * 2 - 1, next() * 2 - 1];
      const length = Math.hypot(a, b, c) || 1;
      // In a cube, on a ball, on a coarse grid, on a cube's faces, in a thin slab far away.
      return [
        [a, b, c],
        [a / length, b / length, c / length],
        [a, b, c].map((v) => Math.round(v * 6)),
        [Math.sign(a), b, c],
        [1e4 + a, 1e4 + b * 1e-6, c],
      ][kind]!;
    };
    fc.assert(
      fc.property(fc.nat(4), fc.integer({ min: 2000, max: 5000 }), fc.nat(1000), (kind, count, seed) => {
        const next = seeded(seed);
        const points = Array.from({ length: count }, () => some(kind, next));
        // As art that was never welded has it: every third stands there twice.
        const all = points.flatMap((p, i) => (i % 3 ? p : [...p, ...p]));
        expect(convexHull(all)).toEqual(convexHull(all, { maxVertices: 1e9 }));
      }),
      { numRuns: 25, seed: 15 },
    );
  });
});
