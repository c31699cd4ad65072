import fc from 'fast-check';
import { rotate, subtract, type Quat, type Vec3 } from '../math/index.js';
import { boxCorners, type BoxShape, shapeVolume } from '../shape/index.js';
import { axisAlignedBox } from './axis-aligned-box.js';
import { minVolumeBox } from './min-volume-box.js';

const number = fc.double({ min: -5, max: 5, noNaN: true });
const unit = fc
  .tuple(number, number, number, fc.double({ min: 0.1, max: 5, noNaN: true }))
  .map((q) => q.map((v) => v / Math.hypot(...q)) as Quat);
const half = fc.double({ min: 0.05, max: 4, noNaN: true });

const inside = (box: BoxShape, p: Vec3, slack: number) => {
  const [x, y, z, w] = box.rotation;
  const local = rotate([-x, -y, -z, w], subtract(p, box.center));
  return local.every((v, i) => Math.abs(v) <= box.halfExtents[i]! + slack);
};

describe('minVolumeBox', () => {
  it('finds a turned box again', () => {
    fc.assert(
      fc.property(
        fc.tuple(half, half, half),
        fc.tuple(number, number, number),
        unit,
        (halfExtents, center, rotation) => {
          const corners = boxCorners(center, halfExtents, rotation);
          const found = minVolumeBox(corners.flat(), { worthTurning: 0 });
          expect(shapeVolume(found) / (8 * halfExtents[0] * halfExtents[1] * halfExtents[2])).toBeCloseTo(
            1,
            6,
          );
        },
      ),
      { numRuns: 100 },
    );
  });

  it('contains every point and is never larger than the axis-aligned box', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(number, number, number), { minLength: 1, maxLength: 40 }), (places) => {
        const box = minVolumeBox(places.flat());
        for (const p of places) expect(inside(box, p, 1e-9)).toBeTrue();
        expect(shapeVolume(box)).toBeLessThanOrEqual(shapeVolume(axisAlignedBox(places.flat())));
      }),
      { numRuns: 150 },
    );
  });

  it('loses no point beside others that are nearer to it than numbers can tell', () => {
    const places: Vec3[] = [
      [5e-324, 0, 0],
      [0, -0.0101, 0],
      [0, 0, 0],
    ];
    const box = minVolumeBox(places.flat());
    for (const p of places) expect(inside(box, p, 1e-9)).toBeTrue();
  });

  it('gives flat sets the least thickness', () => {
    expect(axisAlignedBox([0, 0, 0, 1, 0, 1]).halfExtents).toEqual([0.5, 0.0005, 0.5]);
  });
});
