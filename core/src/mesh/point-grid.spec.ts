import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { pointGrid } from './point-grid.js';

describe('points in cubes', () => {
  it('are found with all that are nearer than a cube is wide, at any size and place', () => {
    const value = fc.double({ min: -4, max: 4, noNaN: true });
    const place = fc.tuple(value, value, value);
    fc.assert(
      fc.property(
        fc.array(place, { maxLength: 60 }),
        place,
        fc.double({ min: 0.05, max: 3, noNaN: true }),
        fc.integer({ min: -6, max: 4 }),
        (points, asked, cell, power) => {
          const size = 10 ** power;
          const packed = Float64Array.from(points.flat(), (v) => v * size);
          const at = asked.map((v) => v * size) as Vec3;
          const found = new Set<number>();
          pointGrid(packed, cell * size)(at, (i) => found.add(i));
          points.forEach((_, i) => {
            const d = Math.hypot(...at.map((v, k) => v - packed[i * 3 + k]!));
            if (d < cell * size * (1 - 1e-9)) expect(found.has(i)).toBeTrue();
          });
          expect([...found].every((i) => i < points.length)).toBeTrue();
        },
      ),
    );
  });
});
