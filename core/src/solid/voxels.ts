import { type Bounds, emptyBounds, isEmpty, type Vec3 } from '../math/index.js';
import type { ClosedSolid } from './closed-solid.js';
import { crossingsOf, insideRuns } from './columns.js';

/** Which cells of a regular grid are inside a solid. */
export interface Voxels {
  /** cells along x, y, z */
  counts: Vec3;
  /** least corner, metres */
  origin: Vec3;
  /** edge length, metres */
  cell: number;
  /** [x * y * z], x fastest: 1 where the middle of the cell is inside */
  inside: Uint8Array;
}

/** More cells than this are refused: the grid would not fit in memory beside the art. */
export const MAX_VOXELS = 256 ** 3;

/**
 * Voxel occupancy with cells of `cell` metres.
 *
 * @throws RangeError when that would be more than `MAX_VOXELS`
 */
export function voxelsOf(solid: ClosedSolid, cell: number): Voxels {
  const bounds = boundsOfFaces(solid);
  const counts = isEmpty(bounds)
    ? ([0, 0, 0] as Vec3)
    : (bounds.max.map((high, k) => Math.max(1, Math.ceil((high - bounds.min[k]!) / cell - 1e-9))) as Vec3);
  if (!(counts[0] * counts[1] * counts[2] <= MAX_VOXELS))
    throw new RangeError(`${counts.join(' x ')} cells are more than ${MAX_VOXELS}: take a larger cell.`);
  const inside = new Uint8Array(counts[0] * counts[1] * counts[2]);
  const rays = counts[1] * counts[2];
  const middle = new Float64Array(rays).fill(0.5);
  const origin: [number, number] = [bounds.min[1], bounds.min[2]];
  const runs = insideRuns(
    crossingsOf(
      { axis: 0, wide: counts[1], high: counts[2], origin, cell: [cell, cell], s: middle, t: middle },
      solid.positions,
      solid.indices,
      (f) => solid.volumes[solid.shellOf[f]!] !== 0,
    ),
  );
  for (let ray = 0; ray < rays; ray++) {
    for (let run = runs.start[ray]!; run < runs.start[ray + 1]!; run++) {
      const from = Math.max(0, Math.ceil((runs.ends[run * 2]! - bounds.min[0]) / cell - 0.5));
      const to = Math.min(counts[0] - 1, Math.floor((runs.ends[run * 2 + 1]! - bounds.min[0]) / cell - 0.5));
      inside.fill(1, ray * counts[0] + from, ray * counts[0] + Math.max(from, to + 1));
    }
  }
  return { counts, origin: bounds.min, cell, inside };
}

/** Bounds of the vertices that triangles use. */
export function boundsOfFaces({ positions, indices }: Pick<ClosedSolid, 'positions' | 'indices'>): Bounds {
  const bounds = emptyBounds();
  for (let i = 0; i < indices.length; i++)
    for (let k = 0; k < 3; k++) {
      const value = positions[indices[i]! * 3 + k]!;
      if (value < bounds.min[k]!) bounds.min[k] = value;
      if (value > bounds.max[k]!) bounds.max[k] = value;
    }
  return bounds;
}
