import { add, type Bounds, length, scaled, subtract, type Vec3 } from '../math/index.js';
import { type Mesh, meshBounds, nearestPoints } from '../mesh/index.js';

/** Vertices that are farther apart are not meant to meet, metres. */
export const SEAM_REACH_METRES = 0.05;
/** Apart by no more than this, metres, two pieces meet. */
export const MEETS_METRES = 1e-4;
/** So many vertices have to be off in one way before two ends are taken for a seam. */
const MIN_PAIRS = 3;
/** What lies this near to the end of a piece is the ring that meets its neighbour, metres, and as a share of its length. */
const RING_METRES = 1e-3;
const RING_SHARE = 1e-3;

/** How the ends of two pieces stand to each other. Lengths in metres. */
export interface ModuleSeam {
  /** above zero they leave a gap, below zero they overlap; 0 where they meet */
  gap: number;
  /** what the second has to be moved by until they meet */
  shift: Vec3;
  /** whether they are off more to the side than along the way from one to the other */
  sideways: boolean;
  at: Vec3;
  /** vertices that are off in this way, or that meet */
  pairs: number;
  /** vertices of both ends that meet none of the other: they cannot be welded */
  unmatched: number;
}

/**
 * The seam between two pieces that stand end to end: the vertices of their ends, each with the nearest of the other, and
 * the way in which most of them are off. Joints that the art has further in are not looked at. Null where no end looks
 * at an end.
 */
export function moduleSeam(a: Mesh, b: Mesh, reach = SEAM_REACH_METRES): ModuleSeam | null {
  const joint = jointBetween(meshBounds(a), meshBounds(b), reach);
  if (!joint) return null;
  const [one, other] = [ringAt(a, joint.axis, joint.ends[0]), ringAt(b, joint.axis, joint.ends[1])];
  const pairs = mutualPairs(one, other, reach);
  const seam = mostAlike(pairs);
  if (seam.length < MIN_PAIRS) return null;
  const shift = scaled(
    seam.reduce((sum, { from, to }) => add(sum, subtract(from, to)), [0, 0, 0] as Vec3),
    1 / seam.length,
  );
  const apart = length(shift);
  const [{ from, to }] = seam as [Pair];
  const along = -shift[joint.axis] * joint.way;
  const meets = apart <= MEETS_METRES;
  return {
    gap: meets ? 0 : along < 0 ? -apart : apart,
    shift: meets ? [0, 0, 0] : shift,
    sideways: !meets && Math.abs(along) < apart / 2,
    at: scaled(add(from, to), 0.5),
    pairs: seam.length,
    unmatched: one.length + other.length - 2 * seam.length,
  };
}

interface Joint {
  axis: 0 | 1 | 2;
  /** 1 where the second piece is on the upper side of the first */
  way: 1 | -1;
  /** where the first ends, and where the second does */
  ends: [number, number];
}

/** The axis along which two pieces stand end to end: where their bounds overlap least. */
function jointBetween(a: Bounds, b: Bounds, reach: number): Joint | null {
  let best: (Joint & { off: number }) | null = null;
  for (const axis of [0, 1, 2] as const)
    for (const way of [1, -1] as const) {
      const ends: [number, number] = way > 0 ? [a.max[axis], b.min[axis]] : [a.min[axis], b.max[axis]];
      const off = Math.abs(ends[1] - ends[0]);
      if (off <= reach && (!best || off < best.off)) best = { axis, way, ends, off };
    }
  return best;
}

/** Distinct vertices at the end of a mesh. */
function ringAt({ positions, indices }: Mesh, axis: 0 | 1 | 2, end: number): Vec3[] {
  let far = 0;
  for (const v of indices) far = Math.max(far, Math.abs(positions[v * 3 + axis]! - end));
  const near = Math.min(RING_METRES, far * RING_SHARE);
  const ring = new Map<string, Vec3>();
  for (const v of indices) {
    if (Math.abs(positions[v * 3 + axis]! - end) > near) continue;
    const p: Vec3 = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    ring.set(p.map((c) => c.toFixed(7)).join(), p);
  }
  return [...ring.values()];
}

interface Pair {
  from: Vec3;
  to: Vec3;
}

/** Points of both that are nearest to each other. */
function mutualPairs(a: readonly Vec3[], b: readonly Vec3[], reach: number): Pair[] {
  const [toB, toA] = [nearestPoints(a, b, reach), nearestPoints(b, a, reach)];
  return a.flatMap((from, i) => (toB[i]! >= 0 && toA[toB[i]!] === i ? [{ from, to: b[toB[i]!]! }] : []));
}

/** The largest set of pairs that are off alike; of equals those that are off least. */
function mostAlike(pairs: readonly Pair[]): Pair[] {
  const ways = new Map<string, { apart: number; alike: Pair[] }>();
  for (const pair of pairs) {
    const off = subtract(pair.to, pair.from);
    const way = off.map((v) => Math.round(v / MEETS_METRES)).join();
    const known = ways.get(way);
    if (known) known.alike.push(pair);
    else ways.set(way, { apart: length(off), alike: [pair] });
  }
  const [most] = [...ways.values()].sort((x, y) => y.alike.length - x.alike.length || x.apart - y.apart);
  return most?.alike ?? [];
}
