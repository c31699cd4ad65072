import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { plainMesh } from '../mesh/index.js';
import { type Shape, shapePolygons, shapeVolume } from '../shape/index.js';
import { shapeDistance } from '../compare/shape-distance.js';
import { boxMesh, moved } from '../testing/meshes.js';
import { turn } from '../testing/shapes.js';
import { SOLIDS, tube } from '../testing/solids.js';
import { bowl } from '../testing/turned.js';
import { DecomposeError, firstLook } from './index.js';

/** How far the vertex lies outside that lies farthest from all shapes of a set. */
function farthestOut(positions: ArrayLike<number>, set: readonly Shape[]): number {
  const distances = set.map(shapeDistance);
  let most = 0;
  for (let v = 0; v < positions.length; v += 3)
    most = Math.max(
      most,
      Math.min(...distances.map((off) => off(positions[v]!, positions[v + 1]!, positions[v + 2]!))),
    );
  return most;
}

describe('a first look', () => {
  it('shows one shape, two and three that hold the art to a few per cent of its size', () => {
    fc.assert(
      fc.property(turn, fc.constantFrom(SOLIDS.table, SOLIDS.ell, bowl), (rotation, make) => {
        const mesh = moved(make(), [5, 6, -7], rotation);
        const sets = firstLook(mesh);
        expect(sets.map((set) => set.length)).toEqual([1, 2, 3].slice(0, sets.length));
        expect(sets.length).toBeGreaterThan(0);
        for (const set of sets) expect(farthestOut(mesh.positions, set)).toBeLessThan(0.1);
      }),
      { numRuns: 30, seed: 15 },
    );
  });

  it('cuts where that takes most away, and not at all where there is nothing to take', () => {
    const sets = firstLook(SOLIDS.ell());
    expect(sets.length).toBeGreaterThan(1);
    // The L has arms of 3 and 4 by 1: 6 in all. One hull round it fills 9, cut where the arms meet little more than 6.
    const volumes = sets.map((set) => set.reduce((sum, shape) => sum + shapeVolume(shape), 0));
    expect(volumes[0]).toBeCloseTo(9, 6);
    expect(volumes.at(-1)).toBeLessThan(7.1);
    expect(firstLook(boxMesh([1, 2, 3])).map((set) => set.map(({ kind }) => kind))).toEqual([['box']]);
  });

  it('has no more shapes and corners than are allowed, and none in an opening', () => {
    const line = Array.from({ length: 30 }, (_, i) => [i * 0.1, Math.sin(i * 0.1), Math.cos(i * 0.13)]);
    const sets = firstLook(tube(line, 0.1), { maxShapes: 2, maxVertices: 8 });
    expect(sets.every((set) => set.length <= 2)).toBeTrue();
    for (const shape of sets.flat()) expect(shapePolygons(shape).points.length / 3).toBeLessThanOrEqual(8);
    const middle: Shape = {
      kind: 'box',
      center: [1, 0.5, 0.5] as Vec3,
      halfExtents: [0.2, 0.2, 0.2],
      rotation: [0, 0, 0, 1],
    };
    expect(firstLook(boxMesh([2, 2, 2]), { clearances: [middle] })).toEqual([]);
  });

  it('of nothing, of a point and of what is flat is empty or one flat box, and never an error of the language', () => {
    expect(firstLook(plainMesh([], []))).toEqual([]);
    expect(firstLook(plainMesh([1, 1, 1], [0, 0, 0]))).toEqual([]);
    const flat = firstLook(plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]));
    expect(flat.every((set) => set.every(({ kind }) => kind === 'box'))).toBeTrue();
    expect(firstLook(plainMesh([NaN, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]))).toEqual([]);
    expect(() => firstLook(boxMesh([1, 1, 1]), { maxShapes: 0 })).toThrowError(DecomposeError);
  });
});
