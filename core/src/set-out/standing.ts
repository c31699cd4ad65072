import { applyMatrix, invertMatrix, subtract, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { type Bvh, firstHit } from '../solid/index.js';
import type { Placed } from './placed.js';

/** What lies this much lower than the lowest vertex of a piece counts as its foot, metres. */
const FOOT_METRES = 2e-3;
/** Vertices of a foot that are asked, at most. */
const MAX_FEET = 96;
/** How deep something may be sunk into another to be seen as standing on it, metres. */
const SUNK_METRES = 0.25;

/** How a piece stands on what is below it. */
export interface Standing {
  /** metres of air below its lowest contact; below zero it is sunk in */
  metres: number;
  /** where its foot is nearest to what is below */
  at: Vec3;
  /** id of the placement below; null for the ground */
  on: string | null;
}

/**
 * How far the foot of a piece is over what lies below it: another piece, or the ground at height 0.
 *
 * @param mesh its art where it stands
 * @param below pieces that may be below it, with their art in their own space
 */
export function standing(
  mesh: Pick<Mesh, 'positions' | 'indices'>,
  below: readonly { placed: Placed; bvh: Bvh }[],
): Standing {
  const feet = feetOf(mesh);
  const [first = [0, 0, 0] as Vec3] = feet;
  let best: Standing = { metres: Infinity, at: first, on: null };
  for (const foot of feet) if (foot[1] < best.metres) best = { metres: foot[1], at: foot, on: null };
  for (const { placed, bvh } of below) {
    const over = feet.flatMap((foot) => {
      const top = topBelow(foot, placed, bvh);
      return top === null ? [] : [{ metres: foot[1] - top, at: foot, on: placed.placement.id }];
    });
    // What is beside a piece touches its foot at a side: a piece that is sunk into another is over it with most of it.
    const stands = over.length * 2 >= feet.length;
    for (const each of over) if (each.metres < best.metres && (stands || each.metres >= 0)) best = each;
  }
  return feet.length ? best : { metres: 0, at: first, on: null };
}

/** The height of the uppermost face below a place, or up to a little above it; null where there is none. */
function topBelow(foot: Readonly<Vec3>, { matrix, bounds }: Placed, bvh: Bvh): number | null {
  if (foot[0] < bounds.min[0] || foot[0] > bounds.max[0]) return null;
  if (foot[2] < bounds.min[2] || foot[2] > bounds.max[2]) return null;
  const from: Vec3 = [foot[0], Math.min(foot[1] + SUNK_METRES, bounds.max[1] + FOOT_METRES), foot[2]];
  const back = invertMatrix(matrix)!;
  const origin = applyMatrix(back, from);
  const way = subtract(applyMatrix(back, [from[0], from[1] - 1, from[2]]), origin);
  const reach = from[1] - bounds.min[1] + FOOT_METRES;
  if (reach <= 0) return null;
  const hit = firstHit(bvh, origin, way, reach);
  return hit < reach ? from[1] - hit : null;
}

/** Places of the lowest part of a mesh, spread over it. */
function feetOf({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>): Vec3[] {
  let lowest = Infinity;
  for (const v of indices) lowest = Math.min(lowest, positions[v * 3 + 1]!);
  const seen = new Map<string, Vec3>();
  for (const v of indices) {
    const p: Vec3 = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    if (p[1] <= lowest + FOOT_METRES) seen.set(p.join(), p);
  }
  const feet = [...seen.values()];
  const step = Math.max(1, Math.ceil(feet.length / MAX_FEET));
  return feet.filter((_, i) => i % step === 0);
}
