import { add, scaled, subtract, type Vec3 } from '../math/index.js';
import type { Clearance } from './document.js';

/** Metres: an opening reaches at least this far to each side of its middle. */
const MIN_HALF_DEPTH_METRES = 0.1;
/** Two corners nearer than this along an axis, in metres, lie on one face of a wall. */
const ONE_FACE_METRES = 0.02;
/** How far beside the opening, in metres, the wall is measured. */
const BESIDE_METRES = 0.01;

/** A place beside an opening and the way into its wall. */
export interface WallProbe {
  at: Vec3;
  into: Vec3;
}

export interface OpeningCorners {
  /** two corners across from each other, metres, in the piece's space */
  from: Vec3;
  to: Vec3;
  /** the face's normal where the first corner was pointed at */
  normal: Vec3;
}

/**
 * Where to measure how thick the wall is that an opening goes through: a little beside each of its corners, in
 * the wall. Null when the corners say the depth themselves.
 */
export function wallProbes({ from, to, normal }: OpeningCorners): WallProbe[] | null {
  const axis = throughAxis(from, to);
  if (Math.abs(from[axis]! - to[axis]!) > ONE_FACE_METRES) return null;
  const into: Vec3 = [0, 0, 0];
  into[axis] = normal[axis]! > 0 ? -1 : 1;
  return ([from, to] as const).map((corner, i) => {
    const away = subtract(corner, [to, from][i]!);
    // Out over the side, and in from sill or lintel: the jamb is there at every height.
    const beside = away.map((v, k) =>
      k === axis ? 0 : Math.sign(v) * (k === 1 ? -BESIDE_METRES : BESIDE_METRES),
    ) as Vec3;
    return { at: add(add(corner, beside), scaled(into, 1e-4)), into };
  });
}

/**
 * The volume to keep free in an opening, from two corners across from each other: as deep as the wall, which is
 * `wallMetres` thick where both lie on one face of it.
 */
export function clearanceBetween(
  { from, to, normal }: OpeningCorners,
  wallMetres: number,
): Pick<Clearance, 'center' | 'halfExtents' | 'rotation' | 'through'> {
  const axis = throughAxis(from, to);
  const center = from.map((v, k) => (v + to[k]!) / 2) as Vec3;
  const half = from.map((v, k) => Math.max(Math.abs(v - to[k]!) / 2, 1e-3)) as Vec3;
  if (Math.abs(from[axis]! - to[axis]!) <= ONE_FACE_METRES) {
    half[axis] = Math.max(wallMetres / 2, MIN_HALF_DEPTH_METRES);
    if (wallMetres > 0) center[axis]! += (normal[axis]! > 0 ? -1 : 1) * (wallMetres / 2);
  } else half[axis] = Math.max(half[axis]!, MIN_HALF_DEPTH_METRES);
  return { center, halfExtents: half, rotation: [0, 0, 0, 1], through: axis === 0 ? 'x' : 'z' };
}

/** People go through level: of the two level axes the one along which the corners lie closer. */
const throughAxis = (from: Vec3, to: Vec3): 0 | 2 =>
  Math.abs(from[0] - to[0]) < Math.abs(from[2] - to[2]) ? 0 : 2;
