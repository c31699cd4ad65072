import { boundsOf, diagonalOf, dot, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { buildBvh } from './bvh.js';
import { firstHit } from './first-hit.js';

/** From where something is looked at: an eye, and the one direction of all rays when there is no perspective. */
export interface Sight {
  eye: Vec3;
  direction: Vec3 | null;
}

/** What is looked at: all of it, or some faces, cut open or not. */
export interface Shown {
  /** whether a face is drawn; what is hidden hides nothing and is not seen. Default: all are */
  face?: (face: number) => boolean;
  /** what lies behind this plane (normal . p < offset) is cut away */
  cut?: { normal: Vec3; offset: number } | null;
}

/** A ray starts this far off the face it looks from, in diagonals: beyond the face itself, short of its neighbours. */
const LIFT_DIAGONALS = 1e-6;

/**
 * Of the faces that are asked for, those whose middle is seen: nothing of what is shown stands between it and the
 * eye. Shape: [t].
 *
 * @param asked [t] marks
 */
export function visibleFaces(
  mesh: Mesh,
  asked: Uint8Array,
  { eye, direction }: Sight,
  { face: shown = () => true, cut = null }: Shown = {},
  progress?: (share: number) => void,
): Uint8Array {
  const { positions: p, indices } = mesh;
  const out = new Uint8Array(asked.length);
  const kept: number[] = [];
  for (let f = 0; f < asked.length; f++)
    if (shown(f)) kept.push(indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!);
  const tree = buildBvh({ positions: p, indices: Uint32Array.from(kept) });
  const size = diagonalOf(boundsOf(p));
  for (let f = 0; f < asked.length; f++) {
    if (!asked[f] || !shown(f)) continue;
    if ((f & 0xfff) === 0) progress?.(f / asked.length);
    const middle = [0, 1, 2].map(
      (k) =>
        (p[indices[f * 3]! * 3 + k]! + p[indices[f * 3 + 1]! * 3 + k]! + p[indices[f * 3 + 2]! * 3 + k]!) / 3,
    ) as Vec3;
    const to = direction ? direction.map((d) => -d * size * 4) : eye.map((e, k) => e - middle[k]!);
    const far = Math.hypot(...to);
    if (far === 0) continue;
    const way = to.map((v) => v / far) as Vec3;
    const above = cut ? dot(cut.normal, middle) - cut.offset : 0;
    if (above < 0) continue;
    // Beyond the plane of the cut there is nothing left that could stand in the way.
    const towards = cut ? -dot(cut.normal, way) : 0;
    const free = towards > 0 ? Math.min(far, above / towards) : far;
    const lifted = middle.map((v, k) => v + way[k]! * size * LIFT_DIAGONALS) as Vec3;
    if (firstHit(tree, lifted, way, free) >= free) out[f] = 1;
  }
  return out;
}
