import fc from 'fast-check';
import { areaVector, sixfoldVolume, triangleArea } from './triangle.js';
import { UnionFind } from './union-find.js';
import { add, cross, dot, length, subtract, type Vec3 } from './vector.js';

describe('disjoint sets', () => {
  it('are what is joined over any number of others, known by their lowest, in whatever order', () => {
    const pair = fc.tuple(fc.nat(19), fc.nat(19));
    fc.assert(
      fc.property(fc.array(pair, { maxLength: 30 }), (pairs) => {
        const sets = new UnionFind(20);
        for (const [a, b] of pairs) sets.join(a, b);
        const again = new UnionFind(20);
        for (const [a, b] of [...pairs].reverse()) again.join(b, a);
        // By walking from each to all it is joined with.
        const lowest = (from: number) => {
          const seen = new Set([from]);
          for (const at of seen)
            for (const [a, b] of pairs) {
              if (a === at) seen.add(b);
              if (b === at) seen.add(a);
            }
          return Math.min(...seen);
        };
        for (let i = 0; i < 20; i++) expect([sets.root(i), again.root(i)]).toEqual([lowest(i), lowest(i)]);
      }),
    );
  });
});

describe('a triangle', () => {
  const coordinate = fc.double({ min: -100, max: 100, noNaN: true });
  const point = fc.tuple(coordinate, coordinate, coordinate);
  const packed = (...points: Vec3[]) => Float64Array.from(points.flat());

  it('has the normal, area and volume that its corners give, wherever they are packed', () =>
    fc.assert(
      fc.property(point, point, point, point, (a, b, c, from) => {
        const p = packed([9, 9, 9], a, b, c);
        const normal = cross(subtract(b, a), subtract(c, a));
        const found = areaVector(p, 3, 6, 9);
        expect(length(subtract(found, normal))).toBeLessThan(1e-6);
        expect(triangleArea(p, 3, 6, 9)).toBeCloseTo(length(normal) / 2, 6);
        const six = dot(subtract(a, from), cross(subtract(b, from), subtract(c, from)));
        expect(Math.abs(sixfoldVolume(p, 3, 6, 9, ...from) - six)).toBeLessThan(1e-6 * (1 + Math.abs(six)));
        // Turned over, both change their sign, and nothing but that.
        expect(add(areaVector(p, 3, 9, 6), found).every((v) => Math.abs(v) < 1e-9)).toBeTrue();
      }),
    ));

  it('of one place has none', () =>
    expect([
      triangleArea(packed([1, 2, 3]), 0, 0, 0),
      sixfoldVolume(packed([1, 2, 3]), 0, 0, 0, 0, 0, 0),
    ]).toEqual([0, 0]));
});
