import { freeCylinder, outline2d, smallestCircle, type Vec2 } from '../fit/index.js';
import { refineAxis } from '../fit/refine-axis.js';
import { axesFrom, dot, rotate, type Vec3 } from '../math/index.js';

/** The outline of a body about an axis. Lengths in metres. */
export interface TurnedProfile {
  /** a place on the axis, at height 0 */
  origin: Vec3;
  /** x, the axis, z */
  axes: [Vec3, Vec3, Vec3];
  /** [n + 1]: ascending */
  heights: number[];
  /** [n]: the widest just above each height, and just below the next; 0 where nothing is */
  above: number[];
  below: number[];
}

/** Seen along its axis a turned body fills at least so much of the circle round it: a hexagon does. */
const ROUND_SHARE = 0.8;
/** An axis is taken before another that holds the body no tighter than by this share. */
const SAME_ROOM = 1e-3;
/** Triangles by which the axis is looked for, at most. */
const MAX_SEARCH_TRIANGLES = 2000;
/** Heights at which a profile is known, at most: a finer one is widened between. */
const MAX_HEIGHTS = 97;

const flattened = (p: ArrayLike<number>, [x, , z]: readonly Vec3[]): Vec2[] =>
  Array.from({ length: p.length / 3 }, (_, v) => {
    const place: Vec3 = [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
    return [dot(place, x!), dot(place, z!)];
  });

function shareOfCircle(points: readonly Vec2[]): number {
  const outline = outline2d(points);
  let twice = 0;
  outline.forEach(([x, y], i) => {
    const [u, v] = outline[(i + 1) % outline.length]!;
    twice += x * v - u * y;
  });
  const { radius } = smallestCircle(points);
  return radius > 0 ? Math.abs(twice) / 2 / (Math.PI * radius * radius) : 0;
}

/**
 * The widest that a mesh is at every height of the axis about which it is tightest, upright before level before aslant;
 * null when it is round about none.
 */
export function turnedProfile(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
): TurnedProfile | null {
  const used = [...new Set(Array.from(indices))];
  const points = used.flatMap((v) => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!]);
  if (points.length < 12) return null;
  const about = (axis: Vec3) => profileAbout(axis, positions, indices, used);
  const some = everySo(indices, MAX_SEARCH_TRIANGLES);
  const someUsed = [...new Set(some)];
  const room = (axis: Vec3) => roomIn(profileAbout(axis, positions, some, someUsed));
  const aslant = refineAxis(rotate(freeCylinder(points).rotation, [0, 1, 0]), room).axis;
  const round = ([[0, 1, 0], [1, 0, 0], [0, 0, 1], aslant] as Vec3[]).filter(
    (axis) => shareOfCircle(flattened(points, axesFrom(axis, [1, 0, 0]))) >= ROUND_SHARE,
  );
  if (!round.length) return null;
  const rooms = round.map(room);
  const least = Math.min(...rooms);
  const profile = about(round[rooms.findIndex((each) => each <= least * (1 + SAME_ROOM))]!);
  return profile.heights.length > 1 ? profile : null;
}

/** Triangles at even steps, at most so many. */
function everySo(indices: ArrayLike<number>, most: number): number[] {
  const step = Math.ceil(indices.length / 3 / most);
  return Array.from(indices).filter((_, i) => Math.floor(i / 3) % step === 0);
}

/** Cubic metres that a body of this outline holds. */
const roomIn = ({ heights, above, below }: TurnedProfile): number =>
  above.reduce((sum, low, k) => {
    const high = below[k]!;
    return sum + ((heights[k + 1]! - heights[k]!) * Math.PI * (low * low + low * high + high * high)) / 3;
  }, 0);

/** Along an edge the distance from an axis is convex, so that the chord between its ends holds it. */
function profileAbout(
  axis: Vec3,
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  used: readonly number[],
): TurnedProfile {
  const axes = axesFrom(axis, [1, 0, 0]);
  const places = used.map((v): Vec3 => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!]);
  const flat = places.map((place): Vec2 => [dot(place, axes[0]), dot(place, axes[2])]);
  const { center } = smallestCircle(flat);
  const at = new Map(
    used.map((v, i) => {
      const [x, z] = flat[i]!;
      return [
        v,
        { height: dot(places[i]!, axis), radius: Math.hypot(x - center[0], z - center[1]) },
      ] as const;
    }),
  );
  const heights = distinct([...at.values()].map(({ height }) => height));
  const above = heights.slice(1).map(() => 0);
  const below = [...above];
  for (let i = 0; i < indices.length; i++) {
    const next = i % 3 === 2 ? i - 2 : i + 1;
    let [from, to] = [at.get(indices[i]!)!, at.get(indices[next]!)!];
    if (from.height > to.height) [from, to] = [to, from];
    widen(heights, above, below, from, to);
  }
  const origin = [0, 1, 2].map((k) => axes[0][k]! * center[0] + axes[2][k]! * center[1]) as Vec3;
  return { origin, axes, heights, above, below };
}

interface ProfilePlace {
  height: number;
  radius: number;
}

/** The profile is at least as wide as one edge. What is level lies at the end of what it closes. */
function widen(
  heights: readonly number[],
  above: number[],
  below: number[],
  from: ProfilePlace,
  to: ProfilePlace,
): void {
  const rise = to.height - from.height;
  if (!(rise > 0)) return;
  const radiusAt = (height: number) =>
    from.radius + (to.radius - from.radius) * Math.min(1, Math.max(0, (height - from.height) / rise));
  for (let k = intervalAt(heights, from.height); k + 1 < heights.length && heights[k]! < to.height; k++) {
    const [low, high] = [heights[k]!, heights[k + 1]!];
    const [start, end] = [Math.max(low, from.height), Math.min(high, to.height)];
    if (end - start <= (high - low) * 1e-6) continue;
    // An edge that ends between two heights widens both ends, so that nothing of it stands out.
    const whole = start - low < (high - low) * 1e-6 && high - end < (high - low) * 1e-6;
    const most = Math.max(radiusAt(start), radiusAt(end));
    above[k] = Math.max(above[k]!, whole ? radiusAt(start) : most);
    below[k] = Math.max(below[k]!, whole ? radiusAt(end) : most);
  }
}

/** The number of the last height that is not above one; 0 below all. */
function intervalAt(heights: readonly number[], height: number): number {
  let [low, high] = [0, heights.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (heights[middle]! <= height) low = middle;
    else high = middle;
  }
  return low;
}

/** Heights that are apart, and no more of them than a profile has. */
function distinct(heights: number[]): number[] {
  heights.sort((a, b) => a - b);
  const [low, high] = [heights[0]!, heights.at(-1)!];
  const near = (high - low) * 1e-5;
  const apart = heights.filter((height, i) => i === 0 || height - heights[i - 1]! > near);
  if (apart.at(-1) !== high) apart[apart.length - 1] = high;
  if (apart.length <= MAX_HEIGHTS) return apart;
  return Array.from(
    { length: MAX_HEIGHTS },
    (_, i) => apart[Math.round((i / (MAX_HEIGHTS - 1)) * (apart.length - 1))]!,
  );
}
