import fc from 'fast-check';
import { shapeBounds, shapeSchema } from '../shape/index.js';
import { place } from '../testing/shapes.js';
import { boxBetween, cylinderBetween } from './index.js';

describe('shapes that are drawn', () => {
  it('stand between the points they were drawn from, whichever way round, and can be stored', () => {
    fc.assert(
      fc.property(place, place, place, (a, b, c) => {
        const box = boxBetween(a, b, c);
        expect(shapeSchema.safeParse(box).success).toBeTrue();
        const { min, max } = shapeBounds(box);
        for (const p of [a, b])
          for (const k of [0, 2]) {
            expect(p[k]!).toBeGreaterThan(min[k]! - 1e-3);
            expect(p[k]!).toBeLessThan(max[k]! + 1e-3);
          }
        const cylinder = cylinderBetween(a, b, c);
        expect(shapeSchema.safeParse(cylinder).success).toBeTrue();
        expect(cylinder.center[0]).toBe(a[0]);
      }),
    );
    expect(boxBetween([0, 0, 0], [2, 0, 1], [5, 3, 5])).toEqual(
      jasmine.objectContaining({ center: [1, 1.5, 0.5], halfExtents: [1, 1.5, 0.5] }),
    );
    expect(boxBetween([0, 1, 0], [0, 1, 0], [0, 1, 0]).halfExtents).toEqual([0.0005, 0.0005, 0.0005]);
    expect(cylinderBetween([1, 0, 1], [1, 0, 3], [0, 4, 0])).toEqual(
      jasmine.objectContaining({ center: [1, 2, 1], halfHeight: 2, bottomRadius: 2, topRadius: 2 }),
    );
  });
});
