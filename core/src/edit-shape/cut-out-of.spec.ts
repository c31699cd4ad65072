import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { type Shape, shapeVolume } from '../shape/index.js';
import { anyBox, anyHull } from '../testing/shapes.js';
import { cutOutOf, trimToMeet } from './index.js';
import { convexHull } from '../hull/index.js';
import { shapePolygons } from '../shape/index.js';
import { clippedBy } from './solid-of.js';

const box = (half: Vec3, center: Vec3 = [0, 0, 0]): Shape => ({
  kind: 'box',
  center,
  halfExtents: half,
  rotation: [0, 0, 0, 1],
});

/** Cubic metres that two convex shapes share. */
function sharedVolume(a: Shape, b: Shape): number {
  const { points, faces } = shapePolygons(b);
  const planes = faces.map((face) => {
    const [p, q, r] = face.map((v) => [points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!]) as [
      Vec3,
      Vec3,
      Vec3,
    ];
    const n = [0, 1, 2].map((k) => {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3];
      return (q[i]! - p[i]!) * (r[j]! - p[j]!) - (q[j]! - p[j]!) * (r[i]! - p[i]!);
    });
    const l = Math.hypot(...n);
    return [...n.map((v) => v / l), n.reduce((sum, v, k) => sum + (v / l) * p[k]!, 0)];
  });
  const own = convexHull(shapePolygons(a).points);
  if (own.span !== 'solid') return 0;
  const left = clippedBy({ kind: 'hull', points: [...own.hull.points], faces: own.hull.faces }, planes);
  return left ? shapeVolume(left) : 0;
}

describe('a shape cut out of another', () => {
  it('falls into what is left of a doorway, right of it and above', () => {
    const pieces = cutOutOf(box([2, 1.5, 0.2], [0, 1.5, 0]), box([0.5, 1, 0.3], [0, 1, 0]));
    expect(pieces.map(({ kind }) => kind)).toEqual(['box', 'box', 'box']);
    expect(pieces.reduce((sum, piece) => sum + shapeVolume(piece), 0)).toBeCloseTo((4 * 3 - 1 * 2) * 0.4, 9);
  });

  it('is whole beside the obstacle and nothing inside it', () => {
    const one = box([1, 1, 1]);
    expect(cutOutOf(one, box([1, 1, 1], [3, 0, 0]))).toEqual([one]);
    expect(cutOutOf(box([0.5, 0.5, 0.5]), one)).toEqual([]);
  });

  it('keeps all that lies outside, none of what lies inside, and no two pieces share anything', () => {
    fc.assert(
      fc.property(fc.oneof(anyBox, anyHull), fc.oneof(anyBox, anyHull), (shape, obstacle) => {
        const pieces = cutOutOf(shape, obstacle);
        const volume = shapeVolume(shape);
        const outside = volume - sharedVolume(shape, obstacle);
        const kept = pieces.reduce((sum, piece) => sum + shapeVolume(piece), 0);
        // Slices thinner than a shape may be are left out.
        expect(Math.abs(kept - outside)).toBeLessThan(1e-3 * (1 + volume) * 12);
        for (const piece of pieces) expect(sharedVolume(piece, obstacle)).toBeLessThan(1e-6 * (1 + volume));
      }),
      { numRuns: 60 },
    );
  });
});

describe('two shapes trimmed to meet', () => {
  it('end at a face of the other, losing nothing where one ends in the other', () => {
    const [a, b] = [box([1, 1, 1]), box([1, 0.5, 0.5], [1.9, 0, 0])];
    const trimmed = trimToMeet(a, b, 0.1)!;
    expect(trimmed.a).toEqual([a]);
    expect(trimmed.b).toEqual([box([0.95, 0.5, 0.5], [1.95, 0, 0])]);
  });

  it('fall into pieces where one passes through, and go where one lies in the other', () => {
    const [post, rail] = [box([0.2, 2, 0.2]), box([2, 0.1, 0.1])];
    const through = trimToMeet(post, rail, 0.4 * 0.2 * 0.2)!;
    expect(through.a).toEqual([post]);
    expect(through.b.length).toBe(2);
    expect(through.b.reduce((sum, piece) => sum + shapeVolume(piece), 0)).toBeCloseTo(3.6 * 0.2 * 0.2, 9);
    const inner = box([0.1, 0.1, 0.1]);
    expect(trimToMeet(post, inner, 0.008)).toEqual({ a: [post], b: [] });
  });
});
