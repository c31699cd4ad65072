import { boundsOf, centreOf, emptyBounds, isEmpty, sizeOf, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { buildBvh, firstHit } from '../solid/index.js';

/** Rays down onto the floor, along each side of a grid of them. */
const RAYS = 9;
/** What lies nearer to the middle than this share of the half is the inside. */
const INSIDE_SHARE = 0.7;

/** How thick the walls and the floor of a container are. */
export interface ContainerThickness {
  /** metres */
  walls: number;
  floor: number;
}

/**
 * How thick the walls and the floor of a container of art are: the floor where rays from above meet it, the walls where
 * rays from the middle meet them. Null where it is no container: open above, with a floor and walls all round.
 */
export function containerThickness(mesh: Pick<Mesh, 'positions' | 'indices'>): ContainerThickness | null {
  const used = Float64Array.from(
    [...mesh.indices].flatMap((v) => [...mesh.positions.subarray(v * 3, v * 3 + 3)]),
  );
  const bounds = used.length ? boundsOf(used) : emptyBounds();
  if (isEmpty(bounds)) return null;
  const size = sizeOf(bounds);
  const middle = centreOf(bounds);
  const bvh = buildBvh({
    positions: Float64Array.from(mesh.positions),
    indices: Uint32Array.from(mesh.indices),
  });
  const above = bounds.max[1] + size[1] * 0.01;
  const down: number[] = [];
  for (let i = 0; i < RAYS; i++)
    for (let j = 0; j < RAYS; j++) {
      const share = (k: number) => ((2 * k + 1) / RAYS - 1) * INSIDE_SHARE;
      const from: Vec3 = [middle[0] + (share(i) * size[0]) / 2, above, middle[2] + (share(j) * size[2]) / 2];
      const hit = firstHit(bvh, from, [0, -1, 0], size[1] * 1.02);
      // A grating lets most rays through.
      if (hit < size[1] * 1.005) down.push(above - hit);
    }
  if (!down.length) return null;
  const floorTop = median(down);
  const floor = floorTop - bounds.min[1];
  if (!(floor > 0) || floor > size[1] * 0.9) return null;
  const at: Vec3 = [middle[0], (floorTop + bounds.max[1]) / 2, middle[2]];
  const walls = (
    [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ] as const
  ).map(([x, z]) => {
    const half = x ? size[0] / 2 : size[2] / 2;
    return half - firstHit(bvh, at, [x, 0, z], half);
  });
  const thick = median(walls);
  return thick > 0 ? { walls: thick, floor } : null;
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;
