import type { Vec3 } from '../math/index.js';
import { featureSides } from './feature-sides.js';
import type { Mesh } from './mesh.js';
import { weld } from './weld.js';

/** How one mesh must be shifted so that most of it lies on another. */
export interface MatchingShift {
  shift: Vec3;
  /** share of the corners looked at that meet one of the other mesh, of the mesh that has fewer */
  share: number;
}

/** Corners that are looked at of each mesh, at most; pairs of them are what it costs. */
const MAX_CORNERS = 1200;
/** Edges that bend by more than this have the corners that are looked at. */
const CREASE_RADIANS = Math.PI / 9;

/**
 * The shift that brings most corners of one mesh onto corners of another: each pair of corners votes for the shift
 * between them, and the shift with most votes wins, the shorter one of equals. Null where fewer than three agree. (Voting in the
 * space of parameters: Hough, 1962; Ballard, "Generalizing the Hough transform", 1981.)
 *
 * @param tolerance how far corners may lie apart that are the same, in the unit of the positions
 */
export function matchingShift(from: Mesh, to: Mesh, tolerance: number): MatchingShift | null {
  const [a, b] = [corners(from), corners(to)];
  const votes = new Map<string, number[]>();
  const cell = tolerance * 2;
  for (let i = 0; i < a.length; i += 3)
    for (let k = 0; k < b.length; k += 3) {
      const shift = [0, 1, 2].map((n) => b[k + n]! - a[i + n]!);
      const key = shift.map((v) => Math.round(v / cell)).join();
      const sum = votes.get(key) ?? [0, 0, 0, 0];
      for (let n = 0; n < 3; n++) sum[n]! += shift[n]!;
      sum[3]!++;
      votes.set(key, sum);
    }
  let best: { count: number; shift: Vec3; way: number } | null = null;
  for (const [x, y, z, count] of votes.values() as Iterable<[number, number, number, number]>) {
    const shift: Vec3 = [x / count, y / count, z / count];
    const way = Math.hypot(...shift);
    if (!best || count > best.count || (count === best.count && way < best.way)) best = { count, shift, way };
  }
  if (!best || best.count < 3) return null;
  const clean = best.shift.map((v) => (Math.abs(v) < tolerance * 1e-6 ? 0 : v)) as Vec3;
  return { shift: clean, share: Math.min(1, best.count / (Math.min(a.length, b.length) / 3)) };
}

/** Ends of creases and borders, each once, packed; of very many every so manieth. */
function corners(mesh: Mesh): number[] {
  const { remap, first } = weld(mesh.positions);
  const sides = featureSides(mesh, { angleRadians: CREASE_RADIANS, borders: true });
  const next = (side: number) => (side % 3 === 2 ? side - 2 : side + 1);
  const ends = [...new Set(sides.flatMap((side) => [side, next(side)].map((c) => remap[mesh.indices[c]!]!)))];
  const step = Math.ceil(ends.length / MAX_CORNERS);
  return ends
    .filter((_, i) => i % step === 0)
    .flatMap((v) => [...mesh.positions.subarray(first[v]! * 3, first[v]! * 3 + 3)]);
}
