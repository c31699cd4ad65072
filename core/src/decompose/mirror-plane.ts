import {
  areaVector,
  boundsOf,
  diagonalOf,
  distance,
  dot,
  normalized,
  subtract,
  type Vec3,
} from '../math/index.js';
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
/** Faces whose cosine with a normal is nearer to 0 or 1 than this stand square to the plane … */
const ALONG = 0.05;
/** … and this share of the surface may stand aslant of a plane that is square to a body of boxes. */
const ASLANT_SHARE = 0.1;
/** Vertices that are asked for their image; of more, some all over. */
const MAX_ASKED = 20_000;
/** Of what is round so many planes are as good as all. */
const ENOUGH_PLANES = 6;
/** Vertices as far from the middle as the farthest, that it may be the mirror image of. */
const MAX_FARTHEST = 24;

/**
 * A plane over which the vertices of art are mirrored onto each other, through the middle of its surface; of several
 * the one that parts it into halves that are most nearly convex. Null when there is none.
 */
export function mirrorPlane(
  { positions, indices }: Pick<Mesh, 'positions' | 'indices'>,
  progress: () => void = () => undefined,
): MirrorPlane | null {
  const points = usedPoints(positions, indices);
  const size = diagonalOf(boundsOf(points));
  if (!(size > 0)) return null;
  const { middle, axes } = principalAxes(
    { points: positions, triangles: Int32Array.from(indices), faces: indices.length / 3 },
    1e-9,
  );
  const near = size * SAME_SHARE;
  const visitNear = pointGrid(points, near);
  const step = Math.ceil(points.length / 3 / MAX_ASKED);
  const places: Vec3[] = [];
  for (let i = 0; i < points.length; i += step * 3) places.push([points[i]!, points[i + 1]!, points[i + 2]!]);
  const isMirror = (plane: MirrorPlane): boolean =>
    places.every((place) => {
      const [x, y, z] = mirrorPoint(place, plane);
      let met = false;
      visitNear([x, y, z], (i) => {
        met ||= Math.hypot(points[i * 3]! - x, points[i * 3 + 1]! - y, points[i * 3 + 2]! - z) < near;
      });
      return met;
    });
  const found: MirrorPlane[] = [];
  const tried: Vec3[] = [];
  for (const normal of [...axes, ...UNIT, ...betweenFarthest(points, middle, near)]) {
    if (found.length === ENOUGH_PLANES) break;
    if (tried.some((other) => Math.abs(dot(normal, other)) > 1 - 1e-12)) continue;
    tried.push(normal);
    progress();
    const plane: MirrorPlane = { point: middle, normal };
    if (isMirror(plane)) found.push(plane);
  }
  if (found.length < 2) return found[0] ?? null;
  // Not slanting through a box; where both halves were drawn alike faces end at the plane; and the fewer end there, the
  // more lies to one side.
  return found
    .map((plane) => {
      progress();
      const volume = volumeOfHullOf(nearPoints(positions, indices, plane), CORNERS);
      return { plane, ...facesAt(plane, positions, indices, near), volume };
    })
    .sort((a, b) => +b.square - +a.square || a.crossing - b.crossing || a.ending - b.ending)
    .reduce((a, b) => (b.volume < a.volume * (1 - WORTH) ? b : a)).plane;
}

/** How many faces go through a plane, how many end on it, and whether it stands square to nearly all of the surface. */
function facesAt(
  { point, normal }: MirrorPlane,
  p: Float64Array,
  indices: Uint32Array,
  near: number,
): { crossing: number; ending: number; square: boolean } {
  let [crossing, ending, area, aslant] = [0, 0, 0, 0];
  const sides = Int8Array.from({ length: p.length / 3 }, (_, v) => {
    const off = dot(subtract([p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!], point), normal);
    return Math.abs(off) < near ? 0 : Math.sign(off);
  });
  for (let i = 0; i < indices.length; i += 3) {
    const [x, y, z] = areaVector(p, indices[i]! * 3, indices[i + 1]! * 3, indices[i + 2]! * 3);
    const size = Math.hypot(x, y, z);
    area += size;
    const facing = Math.abs(x * normal[0] + y * normal[1] + z * normal[2]);
    if (facing > ALONG * size && facing < size * (1 - ALONG)) aslant += size;
    const own = [sides[indices[i]!]!, sides[indices[i + 1]!]!, sides[indices[i + 2]!]!];
    if (own.includes(1) && own.includes(-1)) crossing++;
    else if (own.includes(0)) ending++;
  }
  return { crossing, ending, square: aslant < ASLANT_SHARE * area };
}

/** Vertices that faces use. Shape: [3n] */
function usedPoints(positions: Float64Array, indices: Uint32Array): Float64Array {
  const used = new Uint8Array(positions.length / 3);
  for (let i = 0; i < indices.length; i++) used[indices[i]!] = 1;
  const out = new Float64Array(positions.length);
  let count = 0;
  for (let v = 0; v < used.length; v++)
    if (used[v]) for (let k = v * 3; k < v * 3 + 3; k++) out[count++] = positions[k]!;
  return out.subarray(0, count);
}

/** What lies on one side of a plane: vertices there, and where edges go through it. Shape: [3n] */
function nearPoints(p: Float64Array, indices: Uint32Array, { point, normal }: MirrorPlane): Float64Array {
  const off = new Float64Array(p.length / 3);
  for (let v = 0; v < off.length; v++)
    off[v] =
      (p[v * 3]! - point[0]) * normal[0] +
      (p[v * 3 + 1]! - point[1]) * normal[1] +
      (p[v * 3 + 2]! - point[2]) * normal[2];
  const out: number[] = [];
  for (let side = 0; side < indices.length; side++) {
    const [a, b] = [indices[side]!, indices[side % 3 === 2 ? side - 2 : side + 1]!];
    // Each edge comes once each way: what goes up through the plane is enough.
    if (!(off[a]! <= 0 && off[b]! > 0)) continue;
    const share = off[a]! / (off[a]! - off[b]!);
    for (let k = 0; k < 3; k++) out.push(p[a * 3 + k]! + (p[b * 3 + k]! - p[a * 3 + k]!) * share);
  }
  const used = new Uint8Array(off.length);
  for (let i = 0; i < indices.length; i++) used[indices[i]!] = 1;
  for (let v = 0; v < off.length; v++)
    if (used[v] && off[v]! <= 0) out.push(p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!);
  return Float64Array.from(out);
}

/** Directions from the vertex farthest from the middle to others as far: what mirrors one onto the other lies across. */
function betweenFarthest(points: Float64Array, middle: Vec3, near: number): Vec3[] {
  const awayOf = (i: number) =>
    Math.hypot(points[i]! - middle[0], points[i + 1]! - middle[1], points[i + 2]! - middle[2]);
  let most = 0;
  for (let i = 0; i < points.length; i += 3) most = Math.max(most, awayOf(i));
  const far: Vec3[] = [];
  for (let i = 0; i < points.length && far.length < MAX_FARTHEST; i += 3) {
    if (awayOf(i) < most - near) continue;
    const here: Vec3 = [points[i]!, points[i + 1]!, points[i + 2]!];
    if (far.every((other) => distance(here, other) > near)) far.push(here);
  }
  return far.slice(1).map((other) => normalized(subtract(other, far[0]!)));
}

const UNIT: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
