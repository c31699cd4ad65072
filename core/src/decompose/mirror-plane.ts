import { boundsOf, diagonalOf, distance, dot, normalized, subtract, type Vec3 } from '../math/index.js';
import { volumeOfHullOf } from '../hull/index.js';
import type { Mesh } from '../mesh/index.js';
import { pointGrid } from '../mesh/point-grid.js';
import { type MirrorPlane, mirrorPoint } from '../shape/index.js';
import { principalAxes } from './principal-axes.js';

/** Mirrored, every vertex is as near to another as this share of the size. */
const SAME_SHARE = 1e-5;
/** Corners of the hull of a half that are enough to tell so much. */
const CORNERS = 256;
/** A plane that is less likely meant is taken when its halves fill less by this share. */
const WORTH = 0.01;
/** Vertices as far from the middle as the farthest, that it may be the mirror image of. */
const MAX_FARTHEST = 24;

/**
 * A plane over which the vertices of art are mirrored onto each other, through the middle of its surface; of several
 * the one that parts it into halves that are most nearly convex. Null when there is none.
 */
export function mirrorPlane({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>): MirrorPlane | null {
  const points = usedPoints(positions, indices);
  const size = diagonalOf(boundsOf(points));
  if (!(size > 0)) return null;
  const { middle, axes } = principalAxes(
    { points: positions, triangles: Int32Array.from(indices), faces: indices.length / 3 },
    1e-9,
  );
  const near = size * SAME_SHARE;
  const place = (i: number): Vec3 => [points[i * 3]!, points[i * 3 + 1]!, points[i * 3 + 2]!];
  const visitNear = pointGrid(points, near);
  const isMirror = (plane: MirrorPlane): boolean => {
    for (let i = 0; i * 3 < points.length; i++) {
      const image = mirrorPoint(place(i), plane);
      let met = false;
      visitNear(image, (other) => (met ||= distance(place(other), image) < near));
      if (!met) return false;
    }
    return true;
  };
  const onPlane = ({ point, normal }: MirrorPlane): number => {
    let count = 0;
    for (let i = 0; i * 3 < points.length; i++)
      if (Math.abs(dot(subtract(place(i), point), normal)) < near) count++;
    return count;
  };
  const found = [...axes, ...UNIT, ...betweenFarthest(points, middle, near)]
    .map((normal): MirrorPlane => ({ point: middle, normal }))
    .filter(isMirror);
  if (found.length < 2) return found[0] ?? null;
  // Where both halves were drawn alike, edges lie in the plane.
  return found
    .map((plane) => ({
      plane,
      edges: onPlane(plane),
      volume: volumeOfHullOf(nearPoints(positions, indices, plane), CORNERS),
    }))
    .sort((a, b) => b.edges - a.edges)
    .reduce((a, b) => (b.volume < a.volume * (1 - WORTH) ? b : a)).plane;
}

/** Vertices that faces use. Shape: [3n] */
function usedPoints(positions: Float64Array, indices: Uint32Array): Float64Array {
  const used = new Uint8Array(positions.length / 3);
  for (const v of indices) used[v] = 1;
  return positions.filter((_, i) => used[(i / 3) | 0]);
}

/** What lies on one side of a plane: vertices there, and where edges go through it. Shape: [3n] */
function nearPoints(p: Float64Array, indices: Uint32Array, { point, normal }: MirrorPlane): Float64Array {
  const offOf = (v: number) => dot(subtract([p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!], point), normal);
  const out: number[] = [];
  for (let side = 0; side < indices.length; side++) {
    const [a, b] = [indices[side]!, indices[side % 3 === 2 ? side - 2 : side + 1]!];
    const [offA, offB] = [offOf(a), offOf(b)];
    if (offA <= 0) out.push(p[a * 3]!, p[a * 3 + 1]!, p[a * 3 + 2]!);
    if (offA < 0 !== offB < 0)
      for (let k = 0; k < 3; k++)
        out.push(p[a * 3 + k]! + (p[b * 3 + k]! - p[a * 3 + k]!) * (offA / (offA - offB)));
  }
  return Float64Array.from(out);
}

/** Directions from the vertex farthest from the middle to others as far: what mirrors one onto the other lies across. */
function betweenFarthest(points: Float64Array, middle: Vec3, near: number): Vec3[] {
  const placeAt = (i: number): Vec3 => [points[i]!, points[i + 1]!, points[i + 2]!];
  let most = 0;
  for (let i = 0; i < points.length; i += 3) most = Math.max(most, distance(placeAt(i), middle));
  const far: Vec3[] = [];
  for (let i = 0; i < points.length && far.length < MAX_FARTHEST; i += 3) {
    const here = placeAt(i);
    if (distance(here, middle) < most - near) continue;
    if (far.every((other) => distance(here, other) > near)) far.push(here);
  }
  return far.slice(1).map((other) => normalized(subtract(other, far[0]!)));
}

const UNIT: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
