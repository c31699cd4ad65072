import fc from 'fast-check';
import { dot, rotate, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { boxMesh, moved } from '../testing/meshes.js';
import { turn } from '../testing/shapes.js';
import { SOLIDS } from '../testing/solids.js';
import { bowl, turned } from '../testing/turned.js';
import type { Fragment } from './fragment.js';
import { turningAxis } from './turning-axis.js';

const fragmentOf = ({ positions, indices }: Mesh): Fragment => ({
  points: Float64Array.from(positions),
  triangles: Int32Array.from(indices),
  faces: indices.length / 3,
});
const pipe = (around: number) =>
  turned(
    [
      [0.5, 0],
      [0.5, 1],
      [0.4, 1],
      [0.4, 0],
    ],
    around,
  );

describe('the axis of a turned body', () => {
  it('is found however the body is turned, with its facets', () => {
    fc.assert(
      fc.property(turn, fc.integer({ min: 9, max: 48 }), (rotation, around) => {
        const axis = turningAxis(fragmentOf(moved(bowl(around), [4, -5, 6], rotation)))!;
        const up: Vec3 = rotate(rotation, [0, 1, 0]);
        expect(Math.abs(dot(axis.way, up))).toBeGreaterThan(0.999);
        expect(axis.sides).toBe(around);
        expect(dot(axis.u, axis.way)).toBeCloseTo(0, 9);
        expect(dot(axis.v, axis.u)).toBeCloseTo(0, 9);
      }),
      { numRuns: 40, seed: 15 },
    );
  });

  it('is that of nine sides and more; a pillar of four, six or eight has none', () => {
    expect([4, 6, 8, 9, 12].map((around) => !!turningAxis(fragmentOf(pipe(around))))).toEqual([
      false,
      false,
      false,
      true,
      true,
    ]);
  });

  it('has none in a box, a table, an L, or what is squeezed', () => {
    for (const mesh of [boxMesh([1, 1, 1]), SOLIDS.table(), SOLIDS.ell()])
      expect(turningAxis(fragmentOf(mesh))).toBeNull();
    expect(turningAxis(fragmentOf(moved(bowl(), [0, 0, 0], [0, 0, 0, 1], [1, 1, 0.7])))).toBeNull();
  });
});
