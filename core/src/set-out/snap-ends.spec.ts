import fc from 'fast-check';
import type { Bounds, Vec3 } from '../math/index.js';
import { footprint, onLevelGrid, snapEnds } from './snap-ends.js';

const block = (x: number, z = 0, length = 4): Bounds => ({ min: [x, 0, z], max: [x + length, 2, z + 1] });

describe('ends that catch', () => {
  it('close a gap of any width within reach to the last bit, and leave wider ones', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -0.2, max: 0.2, noNaN: true }),
        fc.double({ min: -1e5, max: 1e5, noNaN: true }),
        (gap, x) => {
          const other = block(x);
          const moving = block(other.max[0] + gap);
          const { shift, caught, other: met } = snapEnds(moving, [other], 0.1);
          // Level with it to the last bit along z: that is caught, too.
          expect(caught[2]).toBeTrue();
          if (Math.abs(moving.min[0] - other.max[0]) <= 0.1) {
            expect(moving.min[0] + shift[0]).toBeCloseTo(other.max[0], 9);
            expect([caught[0], met]).toEqual([true, 0]);
          } else expect(shift[0]).toBe(0);
          expect([shift[1], Math.abs(shift[2])]).toEqual([0, 0]);
        },
      ),
    );
  });

  it('take the nearest of several, level sides too, and nothing that lies far beside', () => {
    const moving = block(4.06, 0.03);
    const { shift, caught, other } = snapEnds(moving, [block(0), block(8.05, 5)], 0.1);
    expect([shift[2], caught, other]).toEqual([-0.03, [true, false, true], 0]);
    expect(snapEnds(moving, [block(0, 9)], 0.1).other).toBeNull();
    const onTop = { min: [0, 2, 0] as Vec3, max: [4, 3, 1] as Vec3 };
    expect(snapEnds(moving, [onTop], 0.1).other).toBeNull();
    expect(snapEnds(moving, [block(0), block(8.07)], 0.1).shift[0]).toBeCloseTo(0.01, 9);
  });

  it('go onto the grid without losing their height', () =>
    expect(onLevelGrid([1.26, 0.33, -0.74], 0.5)).toEqual([1.5, 0.33, -0.5]));
});

describe('a footprint', () => {
  it('holds every point, seen from above', () => {
    const coordinate = fc.double({ min: -50, max: 50, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 3, maxLength: 40 }),
        (points) => {
          const outline = footprint(points.flat());
          const reach = Math.max(...points.flat().map(Math.abs), 1);
          for (const [x, , z] of points as Vec3[])
            for (let i = 0; i < outline.length; i += 2) {
              const k = (i + 2) % outline.length;
              const [ax, az, bx, bz] = [outline[i]!, outline[i + 1]!, outline[k]!, outline[k + 1]!];
              const length = Math.hypot(bx - ax, bz - az) || 1;
              const beside = ((bx - ax) * (z - az) - (bz - az) * (x - ax)) / length;
              // Seen from 48 sides a corner may be cut by no more than this.
              expect(beside).toBeGreaterThan(-0.14 * reach);
            }
        },
      ),
    );
  });

  it('of a box is its four corners, and of nothing is nothing', () => {
    const box = [0, 0, 0, 4, 0, 0, 4, 0, 1, 0, 0, 1, 4, 2, 1];
    expect([...footprint(box)]).toEqual([4, 0, 4, 1, 0, 1, 0, 0]);
    expect(footprint([]).length).toBe(0);
  });
});
