import { add, axesAcross, distance, dot, scaled, subtract, turnScaleTurn, type Vec3 } from '../math/index.js';
import {
  borderLoops,
  faceNeighbours,
  facesWhere,
  flatRegion,
  type Mesh,
  spread,
  unitFaceNormals,
} from '../mesh/index.js';

/** The axis of something round: a bore, a pin, a wheel, an arch. Lengths are in the unit of the mesh. */
export interface RoundFit {
  /** on the axis, in the middle of what is round about it */
  center: Vec3;
  /** unit length, upwards or else along x */
  axis: Vec3;
  radius: number;
  /** how far vertices lie off the round, at most */
  deviation: number;
}

/** Faces that meet at less than this go on round. */
const GOES_ON_RADIANS = Math.PI / 3.5;
/** Faces that lean less than this out of the plane across an axis stand round it, as a sine. */
const STANDS_ROUND = 0.3;
/** Off the round by more than this share of the radius it is none. */
const MAX_DEVIATION_SHARE = 0.05;
/** Faces that lean less than this lie in one plane: half a degree. */
const FLAT_RADIANS = Math.PI / 360;
/** An arc of less than this says too little about its middle. */
const LEAST_ARC_RADIANS = Math.PI / 3;
/** So many places round it make a round … */
const LEAST_PLACES = 5;
/** … that are farther apart than this. */
const SAME_ANGLE_RADIANS = 1e-3;

/** The faces that go on from one round the same side, without sharp edges between them. Shape: [t]. */
export function roundFaces(mesh: Mesh, face: number): Uint8Array {
  const normals = unitFaceNormals(mesh);
  const limit = Math.cos(GOES_ON_RADIANS);
  return spread(faceNeighbours(mesh), [face], (from, to) => {
    const cosine =
      normals[from * 3]! * normals[to * 3]! +
      normals[from * 3 + 1]! * normals[to * 3 + 1]! +
      normals[from * 3 + 2]! * normals[to * 3 + 2]!;
    return cosine >= limit;
  });
}

/**
 * The axis that faces stand round, or null when they are not round: of the main directions of their normals the one
 * across which they make the best circle. (Kåsa, "A circle fitting procedure and its error analysis", 1976.)
 *
 * @param faces [t]: 1 for those that are asked
 */
export function roundAxis(mesh: Mesh, faces: Uint8Array): RoundFit | null {
  const normals = unitFaceNormals(mesh);
  const asked = [...faces.keys()].filter((f) => faces[f]);
  if (asked.length < 3) return null;
  const spreadOf = new Array<number>(9).fill(0);
  for (const f of asked)
    for (let i = 0; i < 3; i++)
      for (let k = 0; k < 3; k++) spreadOf[i * 3 + k]! += normals[f * 3 + i]! * normals[f * 3 + k]!;
  const { outer } = turnScaleTurn(spreadOf);
  const candidates = [0, 1, 2].map((k): Vec3 => [outer[k * 3]!, outer[k * 3 + 1]!, outer[k * 3 + 2]!]);
  let best: RoundFit | null = null;
  for (const axis of candidates) {
    const found = circleAcross(mesh, normals, asked, axis);
    if (found && (!best || found.deviation / found.radius < best.deviation / best.radius)) best = found;
  }
  if (best) return best;
  // No plain round: a turned profile, as of a rimmed wheel or a pulley.
  for (const axis of candidates) {
    const found = turnedAbout(mesh, normals, asked, axis);
    if (found && (!best || found.deviation / found.radius < best.deviation / best.radius)) best = found;
  }
  return best;
}

/**
 * Faces of a turned body look straight at its axis or away from it: the place across the axis that their normals pass
 * nearest to, by least squares. The radius told is the greatest.
 */
function turnedAbout(
  mesh: Mesh,
  normals: Float64Array,
  asked: readonly number[],
  way: Vec3,
): RoundFit | null {
  const axis = pointingUp(way);
  const [u, w] = axesAcross(axis);
  const from = placesOf(mesh, [mesh.indices[asked[0]! * 3]!])[0]!;
  const seen = asked.flatMap((f) => {
    const n: Vec3 = [normals[f * 3]!, normals[f * 3 + 1]!, normals[f * 3 + 2]!];
    const [nx, ny] = [dot(n, u), dot(n, w)];
    const across = Math.hypot(nx, ny);
    // What looks along the axis says nothing of where it is.
    if (across < STANDS_ROUND) return [];
    const corners = placesOf(
      mesh,
      [0, 1, 2].map((k) => mesh.indices[f * 3 + k]!),
    );
    const middle = scaled(add(add(corners[0]!, corners[1]!), corners[2]!), 1 / 3);
    const d = subtract(middle, from);
    return [{ x: dot(d, u), y: dot(d, w), h: dot(d, axis), nx: nx / across, ny: ny / across, corners }];
  });
  if (seen.length < LEAST_PLACES) return null;
  let [a, b, c, p, q] = [0, 0, 0, 0, 0];
  for (const { x, y, nx, ny } of seen) {
    // (middle - centre) x normal = 0
    const off = x * ny - y * nx;
    a += ny * ny;
    b -= nx * ny;
    c += nx * nx;
    p += ny * off;
    q -= nx * off;
  }
  const det = a * c - b * b;
  if (!(Math.abs(det) > 1e-9 * (a + c) ** 2)) return null;
  const [cx, cy] = [(p * c - q * b) / det, (q * a - p * b) / det];
  const reach = seen.map(({ x, y }) => Math.hypot(x - cx, y - cy));
  const radius = Math.max(...reach);
  const squares = seen.reduce((sum, { x, y, nx, ny }) => sum + ((x - cx) * ny - (y - cy) * nx) ** 2, 0);
  const deviation = Math.sqrt(squares / seen.length);
  const flat = seen.map(({ x, y, h }) => [x, y, h] as const);
  if (!(deviation <= radius * MAX_DEVIATION_SHARE) || arcOf(flat, cx, cy) < LEAST_ARC_RADIANS) return null;
  const heights = seen.flatMap(({ corners }) => corners.map((corner) => dot(subtract(corner, from), axis)));
  const middle = (Math.min(...heights) + Math.max(...heights)) / 2;
  return {
    center: add(from, add(add(scaled(u, cx), scaled(w, cy)), scaled(axis, middle))),
    axis,
    radius,
    deviation,
  };
}

/**
 * The axis square to a flat face through the middle of its round outline: the end of a pin, the side of a wheel. Null
 * where no outline of the face is round; of several the widest counts.
 */
export function discAxis(mesh: Mesh, face: number): RoundFit | null {
  const normals = unitFaceNormals(mesh);
  const flat = flatRegion(mesh, faceNeighbours(mesh), face, FLAT_RADIANS);
  const axis = pointingUp([normals[face * 3]!, normals[face * 3 + 1]!, normals[face * 3 + 2]!]);
  const disc = facesWhere(mesh, flat);
  const rounds = borderLoops(disc).flatMap((loop) => circleOf(placesOf(disc, loop), axis) ?? []);
  return rounds.reduce<RoundFit | null>(
    (best, each) => (best && best.radius >= each.radius ? best : each),
    null,
  );
}

const placesOf = ({ positions }: Mesh, vertices: readonly number[]): Vec3[] =>
  vertices.map((v) => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!]);

function circleAcross(
  mesh: Mesh,
  normals: Float64Array,
  asked: readonly number[],
  way: Vec3,
): RoundFit | null {
  const axis = pointingUp(way);
  const side = asked.filter(
    (f) =>
      Math.abs(normals[f * 3]! * axis[0] + normals[f * 3 + 1]! * axis[1] + normals[f * 3 + 2]! * axis[2]) <
      STANDS_ROUND,
  );
  const vertices = [...new Set(side.flatMap((f) => [...mesh.indices.subarray(f * 3, f * 3 + 3)]))];
  return circleOf(placesOf(mesh, vertices), axis);
}

/** The circle that places make across an axis. */
function circleOf(places: readonly Vec3[], axis: Vec3): RoundFit | null {
  if (places.length < 4) return null;
  const [u, w] = axesAcross(axis);
  const from = places[0]!;
  const flat = places.map((p) => {
    const d = subtract(p, from);
    return [dot(d, u), dot(d, w), dot(d, axis)] as const;
  });
  const circle = fitCircle(flat);
  if (!circle) return null;
  const [cx, cy, radius] = circle;
  const deviation = Math.max(...flat.map(([x, y]) => Math.abs(Math.hypot(x - cx, y - cy) - radius)));
  if (!(deviation <= radius * MAX_DEVIATION_SHARE) || arcOf(flat, cx, cy) < LEAST_ARC_RADIANS) return null;
  const heights = flat.map(([, , h]) => h);
  const middle = (Math.min(...heights) + Math.max(...heights)) / 2;
  const center = add(from, add(add(scaled(u, cx), scaled(w, cy)), scaled(axis, middle)));
  return distance(center, from) < Infinity ? { center, axis, radius, deviation } : null;
}

/** An axis that means the same whichever way its faces were gone round. */
function pointingUp(axis: Vec3): Vec3 {
  const clean = axis.map((v) => (Math.abs(v) < 1e-9 ? 0 : v)) as Vec3;
  const first = [clean[1], clean[0], clean[2]].find((v) => v !== 0) ?? 1;
  return first < 0 ? scaled(clean, -1) : clean;
}

/** Middle and radius by least squares; null for places in a line. */
function fitCircle(flat: readonly (readonly [number, number, number])[]): [number, number, number] | null {
  const n = flat.length;
  const mx = flat.reduce((sum, [x]) => sum + x, 0) / n;
  const my = flat.reduce((sum, [, y]) => sum + y, 0) / n;
  let [xx, xy, yy, xz, yz, zz] = [0, 0, 0, 0, 0, 0];
  for (const [px, py] of flat) {
    const [x, y] = [px - mx, py - my];
    const z = x * x + y * y;
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xz += x * z;
    yz += y * z;
    zz += z;
  }
  const det = xx * yy - xy * xy;
  if (!(Math.abs(det) > 1e-12 * (xx + yy) ** 2)) return null;
  const [a, b] = [(xz * yy - yz * xy) / (2 * det), (yz * xx - xz * xy) / (2 * det)];
  return [a + mx, b + my, Math.sqrt(a * a + b * b + zz / n)];
}

/** How much of the way round some places stand: a whole turn without the widest gap between them. */
function arcOf(flat: readonly (readonly [number, number, number])[], cx: number, cy: number): number {
  const angles = flat.map(([x, y]) => Math.atan2(y - cy, x - cx)).sort((a, b) => a - b);
  const gaps = angles.map((angle, i) => (angles[i + 1] ?? angles[0]! + 2 * Math.PI) - angle);
  // The corners of any rectangle lie on a circle.
  const places = gaps.filter((gap) => gap > SAME_ANGLE_RADIANS).length;
  return places < LEAST_PLACES ? 0 : 2 * Math.PI - Math.max(...gaps);
}
