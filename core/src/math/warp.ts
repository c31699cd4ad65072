import { axesFrom, multiplyQuats } from './rotation.js';
import {
  add,
  cross,
  distance,
  dot,
  normalized,
  type Quat,
  quatFromAxes,
  scaled,
  subtract,
  type Vec3,
} from './vector.js';

/** Where the cross-section at one place of a straight module goes. */
export interface Station {
  /** metres along the module */
  at: number;
  origin: Vec3;
  /** unit length, the way on */
  along: Vec3;
  /** what upright and across become; longer than 1 where a section is cut askew, as in a mitre */
  up: Vec3;
  across: Vec3;
}

/**
 * A straight module laid along a line: sections at stations go where their frames are, what lies between goes straight
 * from one to the next, and what lies beyond the ends keeps its shape.
 */
export interface Warp {
  /** the module's own axes; places along it are measured from the origin. Right-handed, unit length */
  origin: Vec3;
  along: Vec3;
  up: Vec3;
  across: Vec3;
  /** at least two, ascending */
  stations: readonly Station[];
}

/** The axes of a module along one direction: up is as upright as that allows. */
export function moduleAxes(along: Readonly<Vec3>): Pick<Warp, 'along' | 'up' | 'across'> {
  const way = normalized(along);
  const [up] = axesFrom(way, Math.abs(way[1]) < 0.999 ? [0, 1, 0] : [0, 0, 1]);
  return { along: way, up, across: cross(way, up) };
}

/** Sine and cosine that are exact for quarter turns. */
export function turnOf(radians: number): { sin: number; cos: number } {
  const exact = (v: number) => (Math.abs(v - Math.round(v)) < 1e-15 ? Math.round(v) + 0 : v);
  return { sin: exact(Math.sin(radians)), cos: exact(Math.cos(radians)) };
}

/** Less than this is straight. */
const LEAST_BEND_RADIANS = 1e-7;

export interface Bend {
  /** where the module begins and ends, metres along it */
  from: number;
  to: number;
  radians: number;
  /** stretches the bend falls into; each is straight */
  divisions: number;
  /** the end that stays where it is. Default: the one it begins with */
  held?: 'from' | 'to';
}

/**
 * The module bent about its upright axis, towards its across axis when the angle is above zero. The line through the
 * module's origin keeps its length.
 */
export function bent(
  module: Omit<Warp, 'stations'>,
  { from, to, radians, divisions, held = 'from' }: Bend,
): Warp {
  const { origin, along, up, across } = module;
  const straight = Math.abs(radians) < LEAST_BEND_RADIANS;
  const radius = straight ? Infinity : (to - from) / radians;
  const start = held === 'from' ? from : to;
  const stations = Array.from({ length: divisions + 1 }, (_, i): Station => {
    const at = i === divisions ? to : from + ((to - from) * i) / divisions;
    const share = held === 'from' ? i / divisions : i / divisions - 1;
    const { sin, cos } = turnOf(radians * share);
    const forward = straight ? at - start : radius * sin;
    const aside = straight ? 0 : radius * (1 - cos);
    return {
      at,
      origin: add(origin, add(scaled(along, start + forward), scaled(across, aside))),
      along: add(scaled(along, cos), scaled(across, sin)),
      up: [...up],
      across: add(scaled(across, cos), scaled(along, -sin)),
    };
  });
  return { ...module, stations };
}

/** The module stretched so that what lies between two places takes another length; the ends keep theirs. */
export function stretched(
  module: Omit<Warp, 'stations'>,
  { from, to, length, held = 'from' }: { from: number; to: number; length: number; held?: 'from' | 'to' },
): Warp {
  const { origin, along, up, across } = module;
  const shift = length - (to - from);
  const place = (at: number, by: number): Station => ({
    at,
    origin: add(origin, scaled(along, at + by)),
    along: [...along],
    up: [...up],
    across: [...across],
  });
  return {
    ...module,
    stations: held === 'from' ? [place(from, 0), place(to, shift)] : [place(from, -shift), place(to, 0)],
  };
}

/**
 * The module laid along a line of points, its own length spread over that of the line; it stays upright, and is mitred
 * where the line bends. Null for a line without length.
 */
export function alongPath(
  module: Omit<Warp, 'stations'>,
  { from, to, line }: { from: number; to: number; line: readonly Vec3[] },
): Warp | null {
  const points = line.filter((p, i) => i === 0 || distance(p, line[i - 1]!) > 1e-9);
  if (points.length < 2) return null;
  const ways = points.slice(1).map((p, i) => normalized(subtract(p, points[i]!)));
  const reach = points.slice(1).map((p, i) => distance(p, points[i]!));
  const total = reach.reduce((sum, l) => sum + l, 0);
  let gone = 0;
  const stations = points.map((point, i): Station => {
    if (i) gone += reach[i - 1]!;
    const [before, next] = [ways[Math.max(0, i - 1)]!, ways[Math.min(ways.length - 1, i)]!];
    const along = normalized(add(before, next));
    const flat = normalized(cross(along, module.up));
    const mitre = Math.max(0.2, Math.sqrt(Math.max(0, (1 + dot(before, next)) / 2)));
    return {
      at: i === points.length - 1 ? to : from + ((to - from) * gone) / total,
      origin: [...point],
      along,
      up: [...module.up],
      across: scaled(flat, 1 / mitre),
    };
  });
  return { ...module, stations };
}

/** A place in a module: metres along, up and across. */
export function inModule({ origin, along, up, across }: Omit<Warp, 'stations'>, p: Readonly<Vec3>): Vec3 {
  const away = subtract(p, origin);
  return [dot(away, along), dot(away, up), dot(away, across)];
}

/** Where a place between two stations, or beyond the first or last, is to be looked for: the first of the two. */
function stretchOf({ stations }: Warp, at: number): number {
  let i = 0;
  while (i < stations.length - 2 && at > stations[i + 1]!.at) i++;
  return i;
}

export function warpPoint(warp: Warp, p: Readonly<Vec3>): Vec3 {
  const [at, up, across] = inModule(warp, p);
  const { stations } = warp;
  const place = (station: Station, ahead: number): Vec3 =>
    [0, 1, 2].map(
      (k) =>
        station.origin[k]! + up * station.up[k]! + across * station.across[k]! + ahead * station.along[k]!,
    ) as Vec3;
  const [first, last] = [stations[0]!, stations.at(-1)!];
  if (at <= first.at) return place(first, at - first.at);
  if (at >= last.at) return place(last, at - last.at);
  const i = stretchOf(warp, at);
  const [a, b] = [stations[i]!, stations[i + 1]!];
  const share = (at - a.at) / (b.at - a.at);
  const [p0, p1] = [place(a, 0), place(b, 0)];
  return p0.map((v, k) => v + (p1[k]! - v) * share) as Vec3;
}

/** What the module's axes become at a place: along, up, across, as columns. */
export function warpAxes(warp: Warp, p: Readonly<Vec3>): [Vec3, Vec3, Vec3] {
  const [at] = inModule(warp, p);
  const { stations } = warp;
  const [first, last] = [stations[0]!, stations.at(-1)!];
  if (at <= first.at) return [first.along, first.up, first.across];
  if (at >= last.at) return [last.along, last.up, last.across];
  const i = stretchOf(warp, at);
  const [a, b] = [stations[i]!, stations[i + 1]!];
  const share = (at - a.at) / (b.at - a.at);
  const mixed = (x: Vec3, y: Vec3): Vec3 => x.map((v, k) => v + (y[k]! - v) * share) as Vec3;
  const growth = distance(a.origin, b.origin) / (b.at - a.at);
  return [scaled(normalized(mixed(a.along, b.along)), growth), mixed(a.up, b.up), mixed(a.across, b.across)];
}

/** How something small is turned where a place goes. */
export function warpTurn(warp: Warp, p: Readonly<Vec3>): Quat {
  const [x, up] = warpAxes(warp, p);
  const own = quatFromAxes(...frameOf(warp.along, warp.up));
  const next = quatFromAxes(...frameOf(x, up));
  return multiplyQuats(next, [-own[0], -own[1], -own[2], own[3]]);
}

function frameOf(along: Readonly<Vec3>, up: Readonly<Vec3>): [Vec3, Vec3, Vec3] {
  const x = normalized(along);
  const y = normalized(subtract(up, scaled(x, dot(up, x))));
  return [x, y, cross(x, y)];
}
