import fc from 'fast-check';
import { type FlatFace, fillFlat, flatFaces, flatLoop } from './fill-flat.js';

type Point = readonly [number, number];

/** A ring about a middle with its vertices at the angles of a clock, counter-clockwise. */
const ring = (x: number, y: number, radii: readonly number[]): Point[] =>
  radii.map((r, i) => {
    const angle = (2 * Math.PI * i) / radii.length;
    return [x + r * Math.cos(angle), y + r * Math.sin(angle)];
  });
/** With so many vertices put on each straight side. */
const crowded = (loop: readonly Point[], counts: readonly number[]): Point[] =>
  loop.flatMap(([x, y], i) => {
    const [ox, oy] = loop[(i + 1) % loop.length]!;
    const n = counts[i % counts.length]! + 1;
    return Array.from({ length: n }, (_, k): Point => [x + ((ox - x) * k) / n, y + ((oy - y) * k) / n]);
  });
const areaOf = (loop: readonly Point[]) =>
  loop.reduce((sum, [x, y], i) => {
    const [ox, oy] = loop[(i + 1) % loop.length]!;
    return sum + (x * oy - ox * y) / 2;
  }, 0);

/** Loops as one list of places in the plane z = 2x, and their numbers in it. */
function inSpace(loops: readonly (readonly Point[])[]) {
  const p = Float64Array.from(loops.flat().flatMap(([x, y]) => [x, y, 2 * x]));
  let next = 0;
  return { p, numbers: loops.map((loop) => loop.map(() => next++)) };
}

const NORMAL = [-2 / Math.sqrt(5), 0, 1 / Math.sqrt(5)] as [number, number, number];
const radius = fc.double({ min: 2, max: 4, noNaN: true });
const counts = fc.array(fc.nat(3), { minLength: 1, maxLength: 5 });

describe('a flat face', () => {
  it('is filled between all of its vertices, holes left out, each side once and each inner edge twice', () => {
    fc.assert(
      fc.property(
        fc.array(radius, { minLength: 5, maxLength: 14 }),
        counts,
        fc.boolean(),
        (radii, on, holed) => {
          const outline = crowded(ring(0, 0, radii), on);
          const hole = crowded(ring(0.2, 0.1, [0.5, 0.9, 0.6, 0.4]), [...on].reverse()).reverse();
          const loops = holed ? [outline, hole] : [outline];
          const { p, numbers } = inSpace(loops);
          const edges = new Map<string, number>();
          const used = new Set<number>();
          let area = 0;
          const done = fillFlat(p, numbers as unknown as FlatFace, NORMAL, (a, b, c) => {
            const [u, v, w] = [a, b, c].map((n): Point => [p[n * 3]!, p[n * 3 + 1]!]);
            const own = areaOf([u!, v!, w!]);
            expect(own).toBeGreaterThan(-1e-9);
            area += own;
            for (const [from, to] of [
              [a, b],
              [b, c],
              [c, a],
            ]) {
              used.add(from!);
              edges.set(`${from},${to}`, (edges.get(`${from},${to}`) ?? 0) + 1);
            }
          });
          expect(done).toBeTrue();
          expect(area).toBeCloseTo(
            loops.reduce((sum, loop) => sum + areaOf(loop), 0),
            7,
          );
          expect(used.size).toBe(p.length / 3);
          const sides = new Set(
            numbers.flatMap((loop) => loop.map((n, i) => `${n},${loop[(i + 1) % loop.length]}`)),
          );
          for (const [edge, times] of edges) {
            expect(times).withContext(edge).toBe(1);
            const back = edges.has(edge.split(',').reverse().join());
            expect(back).withContext(edge).toBe(!sides.has(edge));
          }
          for (const side of sides) expect(edges.has(side)).withContext(side).toBeTrue();
        },
      ),
      { numRuns: 80 },
    );
  });

  it('takes loops that run the other way inside it as holes, and what stands in those as faces of their own', () => {
    const square = (size: number, x = 0): Point[] => [
      [x - size, -size],
      [x + size, -size],
      [x + size, size],
      [x - size, size],
    ];
    const loops = [square(4), [...square(2)].reverse(), square(1), square(1, 9)];
    const { p, numbers } = inSpace(loops);
    const faces = flatFaces(
      p,
      numbers.map((loop) => flatLoop(p, loop)!),
    );
    expect(faces.map(([outline, ...holes]) => [outline[0], holes.map(([first]) => first)])).toEqual([
      [0, [[...square(2)].length]],
      [8, []],
      [12, []],
    ]);
  });

  it('is none where the loop bends in space, has no area, or crosses itself', () => {
    const bent = Float64Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0.5, 0, 1, 0]);
    expect(flatLoop(bent, [0, 1, 2, 3])).toBeNull();
    const line = Float64Array.from([0, 0, 0, 1, 0, 0, 2, 0, 0]);
    expect(flatLoop(line, [0, 1, 2])).toBeNull();
    const { p } = inSpace([
      [
        [0, 0],
        [4, 4],
        [4, 0],
        [0, 3],
      ],
    ]);
    const emitted: number[] = [];
    const done = fillFlat(p, [[0, 1, 2, 3]], NORMAL, (...corners) => emitted.push(...corners));
    if (!done) expect(emitted).toEqual([]);
    else expect(emitted.length).toBe(6);
  });
});
