import fc from 'fast-check';
import { dot, rotate, type Vec3 } from '../math/index.js';
import { boxMesh, moved } from '../testing/meshes.js';
import { turn } from '../testing/shapes.js';
import type { Fragment } from './fragment.js';
import { principalAxes } from './principal-axes.js';

const fragmentOf = ({ positions, indices }: ReturnType<typeof boxMesh>): Fragment => ({
  points: Float64Array.from(positions),
  triangles: Int32Array.from(indices),
  faces: indices.length / 3,
});

describe('principal axes', () => {
  it('are the sides of a box however it is turned, the longest first', () => {
    fc.assert(
      fc.property(turn, (rotation) => {
        const { middle, axes } = principalAxes(fragmentOf(moved(boxMesh([3, 1, 2]), [5, -6, 7], rotation)));
        [5, -6, 7].forEach((v, k) => expect(middle[k]).toBeCloseTo(v, 5));
        const sides = (
          [
            [1, 0, 0],
            [0, 0, 1],
            [0, 1, 0],
          ] as Vec3[]
        ).map((side) => rotate(rotation, side));
        sides.forEach((side, k) => expect(Math.abs(dot(side, axes[k]!))).toBeGreaterThan(0.98));
        axes.forEach((a, i) => axes.forEach((b, j) => expect(dot(a, b)).toBeCloseTo(i === j ? 1 : 0, 9)));
      }),
      { numRuns: 60, seed: 15 },
    );
  });

  it('stay those of the art where a body spreads alike', () => {
    const { axes } = principalAxes(fragmentOf(boxMesh([1, 1, 1])));
    for (const axis of axes) expect(axis.filter((v) => Math.abs(v) === 1).length).toBe(1);
  });

  it('are those of the caps where a cut left no face', () => {
    const fragment = { ...fragmentOf(boxMesh([3, 1, 2], [5, -6, 7])), faces: 0 };
    const { middle, axes } = principalAxes(fragment);
    [5, -6, 7].forEach((v, k) => expect(middle[k]).toBeCloseTo(v, 5));
    expect(Math.abs(axes[0]![0])).toBe(1);
  });

  it('of nothing are those of the art, without NaN', () => {
    const { middle, axes } = principalAxes({
      points: Float64Array.from([1, 1, 1, 1, 1, 1, 1, 1, 1]),
      triangles: Int32Array.from([0, 1, 2]),
      faces: 1,
    });
    expect([...middle, ...axes.flat()].every(Number.isFinite)).toBeTrue();
  });
});
