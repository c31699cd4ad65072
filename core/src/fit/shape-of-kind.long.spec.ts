import fc from 'fast-check';
import { shapeDistance } from '../compare/index.js';
import { shapeVolume } from '../shape/index.js';
import { anyShape, place } from '../testing/shapes.js';
import { shapePolygons } from '../shape/index.js';
import { closestAround, shapeOfKind, shapesAround, wedge, WRAP_KINDS } from './index.js';

describe('a shape of a kind that is asked for', () => {
  it('holds every point, whatever the kind', () =>
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 1, maxLength: 30 }),
        fc.constantFrom(...WRAP_KINDS),
        (points, kind) => {
          const distance = shapeDistance(shapeOfKind(points.flat(), kind));
          return points.every((p) => distance(...p) <= 1e-6);
        },
      ),
      { numRuns: 300 },
    ));

  it('is no larger the freer it may stand', () =>
    fc.assert(
      fc.property(anyShape, (shape) => {
        const { points } = shapePolygons(shape);
        const volume = (kind: (typeof WRAP_KINDS)[number]) => shapeVolume(shapeOfKind(points, kind));
        const slack = 1 + 1e-6;
        return (
          volume('smallest-box') <= volume('upright-box') * slack * 1.011 &&
          volume('upright-box') <= volume('box') * slack &&
          volume('tapered-cylinder') <= volume('cylinder') * 1.01 &&
          volume('hull-26') <= volume('hull-14') * slack &&
          volume('hull-10') <= volume('hull-6') * slack
        );
      }),
      { numRuns: 25 },
    ));

  it('has no more corners than a hull may have', () => {
    const ball = Array.from({ length: 400 }, (_, i) => {
      const [y, around] = [1 - (2 * i + 1) / 400, i * 2.399963];
      const r = Math.sqrt(1 - y * y);
      return [r * Math.cos(around), y, r * Math.sin(around)];
    }).flat();
    const hull = shapeOfKind(ball, 'hull', { maxCorners: 12 });
    expect(hull.kind === 'hull' && hull.points.length / 3).toBeLessThanOrEqual(12);
  });
});

describe('a wedge', () => {
  it('is found again as it was, in every way it may lie', () => {
    for (const axis of [0, 1, 2])
      for (const [su, sv] of [
        [1, 1],
        [-1, 1],
        [1, -1],
        [-1, -1],
      ] as const) {
        const corners: number[] = [];
        for (const along of [-1, 2])
          for (const [a, b] of [
            [0, 0],
            [3 * su, 0],
            [0, 2 * sv],
          ]) {
            const p = [0, 0, 0];
            p[axis] = along;
            p[(axis + 1) % 3] = a! + 7;
            p[(axis + 2) % 3] = b! - 4;
            corners.push(...p);
          }
        const found = wedge(corners);
        expect(found.points.length / 3).toBe(6);
        expect(shapeVolume(found)).withContext(`${axis} ${su} ${sv}`).toBeCloseTo(9, 9);
      }
  });

  it('round a step with its nosing is the least: its slope touches an edge, or a corner in the middle', () => {
    // An L of two steps seen from the side: the slope leans over both noses.
    const step = [0, 0, 2, 0, 2, 1, 1, 1, 1, 2, 0, 2];
    const points: number[] = [];
    for (const z of [0, 1]) for (let i = 0; i < step.length; i += 2) points.push(step[i]!, step[i + 1]!, z);
    expect(shapeVolume(wedge(points))).toBeCloseTo((3 * 3) / 2, 9);
    // One corner alone: the slope is halved by it, and the wedge is twice the box.
    const box = [0, 0, 0, 2, 0, 0, 0, 1, 0, 2, 1, 0, 0, 0, 1, 2, 0, 1, 0, 1, 1, 2, 1, 1];
    expect(shapeVolume(wedge(box))).toBeCloseTo(4, 9);
  });

  it('of flat points is thin and solid', () => {
    const flat = wedge([0, 0, 0, 1, 0, 0, 0, 0, 1]);
    expect(shapeVolume(flat)).toBeGreaterThan(0);
    expect(shapeVolume(wedge([5, 5, 5]))).toBeGreaterThan(0);
  });
});

describe('shapes of every kind beside each other', () => {
  it('say how far they stand off, and which lies closest', () => {
    const { points } = shapePolygons({
      kind: 'cylinder',
      center: [1, 2, 3],
      rotation: [0, 0, 0, 1],
      halfHeight: 1,
      bottomRadius: 0.5,
      topRadius: 0.5,
    });
    const shares: number[] = [];
    const found = shapesAround(points, { maxCorners: 12, progress: (share) => shares.push(share) });
    expect(found.map(({ kind }) => kind)).toEqual([...WRAP_KINDS]);
    expect([shares.length, shares.at(-1)]).toEqual([WRAP_KINDS.length, 1]);
    const off = (kind: string) => found.find((each) => each.kind === kind)!.deviation;
    // A box stands off at its upright edges; the polygons of the cylinder lie within it by their own sagitta.
    expect(off('box')).toBeCloseTo(0.5 * (Math.SQRT2 - 1), 2);
    expect(off('cylinder')).toBeLessThan(0.006);
    expect(closestAround(found)!.kind).toMatch(/cylinder$/);
    expect(closestAround([])).toBeNull();
  });

  it('of one place are all there, and stand off nothing', () => {
    const found = shapesAround([4, 5, 6]);
    expect(found.every(({ volume, deviation }) => volume > 0 && deviation === 0)).toBeTrue();
  });
});
