import { clearanceBetween, wallProbes } from './clearance-between.js';
import { boxMesh } from '../testing/meshes.js';
import { joinMeshes } from '../mesh/index.js';
import { buildBvh, firstHit } from '../solid/index.js';
import type { Vec3 } from '../math/index.js';

describe('a clearance from two corners', () => {
  // A wall 0.4 thick with a hatch 1 wide and 2 high in it.
  const wall = joinMeshes([
    boxMesh([0.5, 1, 0.2], [-1, 1, 0]),
    boxMesh([0.5, 1, 0.2], [1, 1, 0]),
    boxMesh([1.5, 0.5, 0.2], [0, 2.5, 0]),
  ]);
  const corners = { from: [-0.5, 0, 0.2] as Vec3, to: [0.5, 2, 0.2] as Vec3, normal: [0, 0, 1] as Vec3 };

  it('on one face of a wall reaches through the whole wall', () => {
    const tree = buildBvh(wall);
    const thick = Math.max(...wallProbes(corners)!.map(({ at, into }) => firstHit(tree, at, into, Infinity)));
    expect(thick).toBeCloseTo(0.4, 3);
    const { center, halfExtents, through } = clearanceBetween(corners, 0.4);
    expect(through).toBe('z');
    expect([center, halfExtents]).toEqual([
      [0, 1, 0],
      [0.5, 1, 0.2],
    ]);
  });

  it('from front to back says its depth itself; without a wall it keeps a little free', () => {
    const across = { ...corners, to: [0.5, 2, -0.2] as Vec3 };
    expect(wallProbes(across)).toBeNull();
    expect(clearanceBetween(across, 0).halfExtents).toEqual([0.5, 1, 0.2]);
    expect(clearanceBetween(corners, 0).halfExtents).toEqual([0.5, 1, 0.1]);
  });
});
