import {
  areaVector,
  boundsOf,
  cross,
  diagonalOf,
  dot,
  isEmpty,
  type Quat,
  quatFromAxes,
  type Vec3,
} from '../math/index.js';
import type { Mesh } from '../mesh/index.js';

/** A way through the art that is free from side to side. */
export interface FoundOpening {
  /** the middle of the volume that is free, metres */
  center: Vec3;
  /** half of its width, its height and its depth through the whole wall */
  halfExtents: Vec3;
  /** its own z is the way through; its own y is up, or level where one goes through from above */
  rotation: Quat;
  /** it goes down to the lowest of the art: one walks in */
  toFloor: boolean;
}

export interface FindOpeningsOptions {
  /** narrower or lower ways are none, metres. Default 0.1 */
  minMetres?: number;
  /** cells across the longer side that is looked at. Default 200 */
  cells?: number;
  /** the largest are kept. Default 24 */
  maxOpenings?: number;
}

/** Of all upright faces, so much look one way before it is looked through that way. */
const MIN_WALL_SHARE = 0.04;
const MAX_WAYS = 3;
/** Art this far beside an opening belongs to its wall: a share of the opening's smaller side. */
const WALL_REACH_SHARE = 0.3;

/**
 * Ways through walls, frames and under tops: seen along the directions that most upright faces look, each area that is
 * free from side to side and bounded left, right and above, by the largest rectangle in it, as exact as the art. Holes
 * in floors and decks likewise, seen from above and bounded all round.
 */
export function findOpenings(
  mesh: Pick<Mesh, 'positions' | 'indices'>,
  { minMetres = 0.1, cells = 200, maxOpenings = 24 }: FindOpeningsOptions = {},
): FoundOpening[] {
  const bounds = boundsOf(mesh.positions);
  if (mesh.indices.length === 0 || isEmpty(bounds)) return [];
  const level = waysThrough(mesh);
  const looks: Look[] = [
    ...level.map((way) => ({ way, up: [0, 1, 0] as Vec3, closedBelow: false })),
    { way: [0, 1, 0], up: level[0] ?? [0, 0, 1], closedBelow: true },
  ];
  return looks
    .flatMap((look) => openingsAlong(mesh, look, { minMetres, cells, size: diagonalOf(bounds) }))
    .sort((a, b) => areaOf(b) - areaOf(a))
    .slice(0, maxOpenings);
}

const areaOf = ({ halfExtents: [w, h] }: FoundOpening): number => 4 * w * h;

/** The level directions that most of the upright faces look along, the most common first. */
function waysThrough({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>): Vec3[] {
  const bins = new Float64Array(180);
  const sums = Array.from({ length: 180 }, () => [0, 0]);
  let total = 0;
  for (let f = 0; f < indices.length; f += 3) {
    const [x, y, z] = areaVector(positions, indices[f]! * 3, indices[f + 1]! * 3, indices[f + 2]! * 3);
    const level = Math.hypot(x, z);
    if (!(level > Math.abs(y) * 4)) continue;
    // Both sides of a wall look the same way: angles count twice.
    const angle = Math.atan2(z, x) * 2;
    const bin = ((Math.round((angle / 2 / Math.PI) * 180) % 180) + 180) % 180;
    bins[bin]! += level;
    sums[bin]![0]! += level * Math.cos(angle);
    sums[bin]![1]! += level * Math.sin(angle);
    total += level;
  }
  const ways: Vec3[] = [];
  const near = (bin: number) => [-2, -1, 0, 1, 2].map((k) => (bin + k + 180) % 180);
  while (ways.length < MAX_WAYS) {
    const weight = (bin: number) => near(bin).reduce((sum, b) => sum + bins[b]!, 0);
    let best = 0;
    for (let bin = 1; bin < 180; bin++) if (weight(bin) > weight(best)) best = bin;
    if (!(weight(best) > total * MIN_WALL_SHARE)) break;
    const [x, z] = near(best).reduce(
      ([a, b], bin) => [a! + sums[bin]![0]!, b! + sums[bin]![1]!] as [number, number],
      [0, 0] as [number, number],
    );
    const angle = Math.atan2(z, x) / 2;
    const clean = (v: number) => (Math.abs(v) < 1e-6 ? 0 : Math.abs(v) > 1 - 1e-9 ? Math.sign(v) : v);
    ways.push([clean(Math.cos(angle)), 0, clean(Math.sin(angle))]);
    for (const bin of near(best)) bins[bin] = 0;
  }
  return ways;
}

/** From where openings are looked for: along a way, with what is up in the picture. */
interface Look {
  way: Vec3;
  up: Vec3;
  /** whether an opening has to be bounded below, too: nobody stands on the lower side of a hole in a floor */
  closedBelow: boolean;
}

interface LookOptions {
  minMetres: number;
  cells: number;
  size: number;
}

/** A rectangle across a way: from the left to the right, from below to above. */
interface Rectangle {
  left: number;
  right: number;
  low: number;
  high: number;
}

function openingsAlong(
  { positions: p, indices }: Pick<Mesh, 'positions' | 'indices'>,
  { way, up, closedBelow }: Look,
  { minMetres, cells, size }: LookOptions,
): FoundOpening[] {
  const across = cross(up, way);
  // Every triangle as it is seen along the way: across, up, and how far along.
  const seen = new Float64Array(indices.length * 3);
  indices.forEach((v, i) => {
    const at: Vec3 = [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
    seen[i * 3] = dot(at, across);
    seen[i * 3 + 1] = dot(at, up);
    seen[i * 3 + 2] = dot(at, way);
  });
  const { min, max } = boundsOf(seen);
  const cell = Math.max(max[0] - min[0], max[1] - min[1]) / cells;
  if (!(cell > 0)) return [];
  const wide = Math.max(1, Math.ceil((max[0] - min[0]) / cell));
  const high = Math.max(1, Math.ceil((max[1] - min[1]) / cell));
  const taken = new Uint8Array(wide * high);
  const spans = new Spans(seen);
  for (let row = 0; row < high; row++) {
    const [low, top] = [min[1] + row * cell, min[1] + (row + 1) * cell];
    spans.eachWithin(1, low, top, 0, (from, to) => {
      const first = Math.max(0, Math.floor((from - min[0]) / cell));
      const last = Math.min(wide - 1, Math.floor((to - min[0]) / cell));
      taken.fill(1, row * wide + first, row * wide + last + 1);
    });
  }
  const found: FoundOpening[] = [];
  for (const area of freeAreas(taken, wide, high, closedBelow)) {
    const cellsOf = largestRectangle(area, wide, high);
    const rough = {
      left: min[0] + cellsOf.left * cell,
      right: min[0] + cellsOf.right * cell,
      low: min[1] + cellsOf.low * cell,
      high: min[1] + cellsOf.high * cell,
    };
    const exact = toTheArt(rough, spans, cell, min[1]);
    if (Math.min(exact.right - exact.left, exact.high - exact.low) < minMetres) continue;
    const depth = wallDepth(exact, spans, closedBelow);
    if (!depth) continue;
    const [u, v, w] = [
      (exact.left + exact.right) / 2,
      (exact.low + exact.high) / 2,
      (depth[0] + depth[1]) / 2,
    ];
    found.push({
      center: [0, 1, 2].map((k) => across[k]! * u + up[k]! * v + way[k]! * w) as Vec3,
      halfExtents: [(exact.right - exact.left) / 2, (exact.high - exact.low) / 2, (depth[1] - depth[0]) / 2],
      rotation: quatFromAxes(across, up, way),
      toFloor: !closedBelow && exact.low - min[1] < size * 1e-6,
    });
  }
  return found;
}

/** Triangles as they are seen: what of each lies within a band. */
class Spans {
  private readonly polygon = new Float64Array(3 * 8);
  private readonly clipped = new Float64Array(3 * 8);

  /** @param seen [9t] */
  constructor(private readonly seen: Float64Array) {}

  /** For each triangle that has a part with `axis` between two values, where that part begins and ends along another axis. */
  eachWithin(
    axis: 0 | 1,
    low: number,
    high: number,
    along: 0 | 1 | 2,
    tell: (from: number, to: number, triangle: number) => void,
  ): void {
    const { seen } = this;
    for (let t = 0; t < seen.length; t += 9) {
      const [a, b, c] = [seen[t + axis]!, seen[t + 3 + axis]!, seen[t + 6 + axis]!];
      if (Math.max(a, b, c) < low || Math.min(a, b, c) > high) continue;
      const count = this.clip(t, axis, low, high);
      if (count === 0) continue;
      let [from, to] = [Infinity, -Infinity];
      for (let i = 0; i < count; i++) {
        const at = this.polygon[i * 3 + along]!;
        if (at < from) from = at;
        if (at > to) to = at;
      }
      tell(from, to, t / 9);
    }
  }

  /** Where the parts of all triangles within a rectangle lie along the way; null when there are none. */
  depthWithin({ left, right, low, high }: Rectangle): [number, number] | null {
    let [from, to] = [Infinity, -Infinity];
    const { seen } = this;
    for (let t = 0; t < seen.length; t += 9) {
      let count = this.clip(t, 0, left, right);
      if (count) count = this.clipAgain(count, 1, low, high);
      for (let i = 0; i < count; i++) {
        from = Math.min(from, this.polygon[i * 3 + 2]!);
        to = Math.max(to, this.polygon[i * 3 + 2]!);
      }
    }
    return to > from ? [from, to] : null;
  }

  private clip(t: number, axis: 0 | 1, low: number, high: number): number {
    this.polygon.set(this.seen.subarray(t, t + 9));
    return this.clipAgain(3, axis, low, high);
  }

  /** (Sutherland and Hodgman, "Reentrant polygon clipping", 1974.) */
  private clipAgain(count: number, axis: 0 | 1, low: number, high: number): number {
    const kept = this.half(count, axis, low, 1);
    return this.half(kept, axis, high, -1);
  }

  private half(count: number, axis: 0 | 1, limit: number, sign: 1 | -1): number {
    const { polygon, clipped } = this;
    let n = 0;
    for (let i = 0; i < count; i++) {
      const j = (i + 1) % count;
      const [a, b] = [(polygon[i * 3 + axis]! - limit) * sign, (polygon[j * 3 + axis]! - limit) * sign];
      if (a >= 0) clipped.set(polygon.subarray(i * 3, i * 3 + 3), n++ * 3);
      if (a < 0 === b < 0) continue;
      const share = a / (a - b);
      for (let k = 0; k < 3; k++)
        clipped[n * 3 + k] = polygon[i * 3 + k]! + (polygon[j * 3 + k]! - polygon[i * 3 + k]!) * share;
      n++;
    }
    polygon.set(clipped.subarray(0, n * 3));
    return n;
  }
}

/** Connected free cells that reach neither side nor the top, nor below where that is closed: numbers of cells each. */
function freeAreas(taken: Uint8Array, wide: number, high: number, closedBelow: boolean): Set<number>[] {
  const seen = Uint8Array.from(taken);
  const areas: Set<number>[] = [];
  for (let start = 0; start < seen.length; start++) {
    if (seen[start]) continue;
    seen[start] = 1;
    const area = [start];
    let bounded = true;
    for (const cell of area) {
      const [x, y] = [cell % wide, Math.floor(cell / wide)];
      if (x === 0 || x === wide - 1 || y === high - 1 || (closedBelow && y === 0)) bounded = false;
      for (const next of [x > 0 ? cell - 1 : -1, x < wide - 1 ? cell + 1 : -1, cell - wide, cell + wide]) {
        if (next < 0 || next >= seen.length || seen[next]) continue;
        seen[next] = 1;
        area.push(next);
      }
    }
    if (bounded) areas.push(new Set(area));
  }
  return areas;
}

/** The largest rectangle of cells in an area, by the histogram of free cells below each row. In cells, ends past the last. */
function largestRectangle(area: ReadonlySet<number>, wide: number, high: number): Rectangle {
  const heights = new Uint32Array(wide + 1);
  let best: Rectangle = { left: 0, right: 0, low: 0, high: 0 };
  let most = 0;
  for (let row = 0; row < high; row++) {
    for (let x = 0; x < wide; x++) heights[x] = area.has(row * wide + x) ? heights[x]! + 1 : 0;
    const open: number[] = [];
    for (let x = 0; x <= wide; x++) {
      while (open.length && heights[open[open.length - 1]!]! >= heights[x]!) {
        const tall = heights[open.pop()!]!;
        const left = open.length ? open[open.length - 1]! + 1 : 0;
        if (tall * (x - left) <= most) continue;
        most = tall * (x - left);
        best = { left, right: x, low: row + 1 - tall, high: row + 1 };
      }
      open.push(x);
    }
  }
  return best;
}

/** A rectangle of whole cells grown on every side to where the art begins. */
function toTheArt(rough: Rectangle, spans: Spans, cell: number, floor: number): Rectangle {
  const inner = cell * 1e-3;
  const out = { ...rough };
  const reach = (axis: 0 | 1, low: number, high: number, along: 0 | 1, middle: number): [number, number] => {
    let [below, above] = [-Infinity, Infinity];
    spans.eachWithin(axis, low + inner, high - inner, along, (from, to) => {
      if (to <= middle) below = Math.max(below, to);
      else if (from >= middle) above = Math.min(above, from);
    });
    return [below, above];
  };
  const [left, right] = reach(1, out.low, out.high, 0, (rough.left + rough.right) / 2);
  out.left = Math.max(left, rough.left - 2 * cell);
  out.right = Math.min(right, rough.right + 2 * cell);
  const [low, high] = reach(0, out.left, out.right, 1, (rough.low + rough.high) / 2);
  out.low = Math.max(low, rough.low - 2 * cell, floor);
  out.high = Math.min(high, rough.high + 2 * cell);
  return out;
}

/** How deep the art goes along the way, close about an opening. */
function wallDepth(
  { left, right, low, high }: Rectangle,
  spans: Spans,
  closedBelow: boolean,
): [number, number] | null {
  const reach = Math.min(right - left, high - low) * WALL_REACH_SHARE;
  const strips: Rectangle[] = [
    { left: left - reach, right: left, low, high },
    { left: right, right: right + reach, low, high },
    { left, right, low: high, high: high + reach },
    ...(closedBelow ? [{ left, right, low: low - reach, high: low }] : []),
  ];
  const depths = strips.flatMap((strip) => spans.depthWithin(strip) ?? []);
  return depths.length ? [Math.min(...depths), Math.max(...depths)] : null;
}
