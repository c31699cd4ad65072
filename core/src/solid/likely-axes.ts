import { triangleArea, type Vec3 } from '../math/index.js';
import { type Mesh, meshBounds, unitFaceNormals } from '../mesh/index.js';

/** A direction of a mesh that is likely up, and what speaks for it; shares are 0 to 1. */
export interface LikelyUp {
  up: Vec3;
  /** share of the surface that lies flat on the ground when this is up */
  standsOn: number;
  /** share of the surface that looks this way, beyond what looks the other way */
  looksUp: number;
}

/** A side that the mesh is likely the same on both sides of. */
export interface LikelyForward {
  /** 0 or 2 for x or z: the axis across which it is mirrored; forward runs along the other one */
  mirrored: 0 | 2;
  /** share of the vertices that have one opposite */
  share: number;
}

const DIRECTIONS: readonly Vec3[] = [
  [0, 1, 0],
  [0, 0, 1],
  [1, 0, 0],
  [0, -1, 0],
  [0, 0, -1],
  [-1, 0, 0],
];
/** Within this share of the height of the lowest place a face is in contact with the ground. */
const CONTACT_SHARE = 0.01;
const SQUARE_COSINE = 0.98;
/** A mesh of which so many vertices have one opposite is mirrored. */
const MIRRORED_SHARE = 0.9;

/**
 * The six directions as up, the likeliest first: by the flat surface that would stand on the ground, and by what looks
 * upwards. Of equals the one that is up already comes first.
 */
export function likelyUps(mesh: Mesh): LikelyUp[] {
  const normals = unitFaceNormals(mesh);
  const { min, max } = meshBounds(mesh);
  const areas = areasOf(mesh);
  const total = areas.reduce((sum, area) => sum + area, 0) || 1;
  const found = DIRECTIONS.map((up) => {
    const axis = up.findIndex((v) => v !== 0);
    const sign = up[axis]!;
    const low = sign > 0 ? min[axis]! : -max[axis]!;
    const reach = (max[axis]! - min[axis]!) * CONTACT_SHARE;
    let [standsOn, looksUp] = [0, 0];
    areas.forEach((area, f) => {
      const facing = normals[f * 3 + axis]! * sign;
      if (facing > SQUARE_COSINE) looksUp += area;
      if (facing > -SQUARE_COSINE) return;
      looksUp -= area;
      const lowest = [0, 1, 2].every(
        (k) => mesh.positions[mesh.indices[f * 3 + k]! * 3 + axis]! * sign <= low + reach,
      );
      if (lowest) standsOn += area;
    });
    return { up, standsOn: standsOn / total, looksUp: looksUp / total };
  });
  const score = ({ standsOn, looksUp }: LikelyUp) => standsOn + Math.max(0, looksUp) * 0.5;
  return found
    .map((each, i) => ({ each, i }))
    .sort((a, b) => score(b.each) - score(a.each) || a.i - b.i)
    .map(({ each }) => each);
}

/** So much more of the surface, and so many times as much, has to stand on the ground. */
const LEAST_GAIN = 0.03;
const LEAST_RATIO = 4;

/**
 * A direction that is likelier up than the one that is, or null. It has to stand on a good deal more of its surface; things
 * seldom come in upside down, and seldom are the same above and below: a direction across which the mesh is mirrored is
 * none, unless it is mirrored across the present one, too.
 */
export function likelierUp(mesh: Mesh): { now: LikelyUp; likelier: LikelyUp | null } {
  const ups = likelyUps(mesh);
  const now = ups.find(({ up }) => up[1] === 1)!;
  const gains = ups.filter(
    ({ up, standsOn }) =>
      up[1] === 0 && standsOn - now.standsOn >= LEAST_GAIN && standsOn >= now.standsOn * LEAST_RATIO,
  );
  if (!gains.length) return { now, likelier: null };
  const shares = ([0, 1, 2] as const).map((axis) => mirroredShare(mesh, axis));
  const mirrored = (axis: number) => shares[axis]! >= MIRRORED_SHARE;
  const likelier = gains.find(({ up }) => mirrored(1) || !mirrored(up.findIndex((v) => v !== 0)));
  return { now, likelier: likelier ?? null };
}

/** Whether the mesh is the same to the left and right across x or z, by its vertices; null when it is across neither. */
export function likelyForward(mesh: Mesh): LikelyForward | null {
  const shares = ([0, 2] as const).map((axis) => ({ mirrored: axis, share: mirroredShare(mesh, axis) }));
  const [x, z] = shares as [LikelyForward, LikelyForward];
  // The same across both says nothing about what is ahead.
  if (x.share >= MIRRORED_SHARE && z.share >= MIRRORED_SHARE) return null;
  const best = x.share >= z.share ? x : z;
  return best.share >= MIRRORED_SHARE ? best : null;
}

/** Share of the vertices that have one opposite, across the middle of the bounds. */
function mirroredShare(mesh: Mesh, axis: 0 | 1 | 2): number {
  const { min, max } = meshBounds(mesh);
  const size = Math.max(...max.map((v, k) => v - min[k]!)) || 1;
  const cell = size * 2e-3;
  const key = (p: readonly number[]) => p.map((v) => Math.round(v / cell)).join();
  const used = new Set(mesh.indices);
  const places = [...used].map((v) => [0, 1, 2].map((k) => mesh.positions[v * 3 + k]!));
  const known = new Set(places.map(key));
  const middle = min[axis]! + max[axis]!;
  const opposite = places.filter((p) => {
    const mirrored = p.map((v, k) => (k === axis ? middle - v : v));
    return [-1, 0, 1].some((d) => known.has(key(mirrored.map((v, k) => (k === axis ? v + d * cell : v)))));
  });
  return opposite.length / (places.length || 1);
}

/** [t] */
function areasOf({ positions, indices }: Mesh): Float64Array {
  return Float64Array.from({ length: indices.length / 3 }, (_, f) =>
    triangleArea(positions, indices[f * 3]! * 3, indices[f * 3 + 1]! * 3, indices[f * 3 + 2]! * 3),
  );
}
