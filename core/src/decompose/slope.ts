import { convexHull, hullShape } from '../hull/index.js';
import { cross, dot, scaled, subtract, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import type { HullShape } from '../shape/index.js';
import { DecomposeError } from './decompose-error.js';

/** Faces that lean from level by less than this cosine are treads. */
const LEVEL_COSINE = 0.9;
/** A flight climbs by at least this much for each metre that it runs. */
const MIN_CLIMB_RATIO = 0.05;
/** Treads differ in height by more than this share of the climb. */
const SAME_TREAD = 1e-3;
/** Directions nearer to an axis than this are along it. */
const ALONG_AXIS = 0.02;

/**
 * The slope of a flight of steps as one convex shape: a prism as wide as the flight, level below, its top the plane
 * that all nosings touch or stay under. Something that climbs it is carried, not shaken.
 *
 * @param faces of the mesh. Default: all
 * @throws DecomposeError when the faces climb nowhere
 */
export function slopeOf(mesh: Mesh, faces?: Iterable<number>): HullShape {
  const chosen = [...(faces ?? Array(mesh.indices.length / 3).keys())];
  const at = (corner: number): Vec3 => {
    const v = mesh.indices[corner]! * 3;
    return [mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!];
  };
  const way = squareToRisers(climbOf(chosen, at), chosen, at);
  const aside: Vec3 = [-way[2], 0, way[0]];
  const places = chosen.flatMap((f) => [at(f * 3), at(f * 3 + 1), at(f * 3 + 2)]);
  const along = places.map((p) => dot(p, way));
  const across = places.map((p) => dot(p, aside));
  const heights = places.map((p) => p[1]);
  const [start, end] = [least(along), most(along)];
  const [bottom, top] = [least(heights), most(heights)];
  const { climb, height } = touchingLine(along, heights, start, end);
  // The box of the flight, less what lies above the slope.
  const profile: [number, number][] = [[start, bottom]];
  const low = height + climb * start;
  const high = Math.min(top, height + climb * end);
  profile.push([end, bottom], [end, high]);
  if (height + climb * end > top) profile.push([(top - height) / climb, top]);
  profile.push([start, low]);
  const points = [least(across), most(across)].flatMap((w) =>
    profile.flatMap(([s, y]) => {
      const [a, b] = [scaled(way, s), scaled(aside, w)];
      return [a[0] + b[0], y, a[2] + b[2]];
    }),
  );
  const result = convexHull(points);
  if (result.span !== 'solid')
    throw new DecomposeError('These faces climb nowhere; choose the treads of a flight of steps.');
  return hullShape(result.hull);
}

const least = (values: readonly number[]) => values.reduce((a, b) => Math.min(a, b), Infinity);
const most = (values: readonly number[]) => values.reduce((a, b) => Math.max(a, b), -Infinity);

/** The level way in which treads rise: the height of their middles as a linear function of place (least squares). */
function climbOf(faces: readonly number[], at: (corner: number) => Vec3): Vec3 {
  const level: { middle: Vec3; area: number }[] = [];
  for (const f of faces) {
    const [a, b, c] = [at(f * 3), at(f * 3 + 1), at(f * 3 + 2)];
    const n = cross(subtract(b, a), subtract(c, a));
    const area = Math.hypot(...n);
    if (area > 0 && n[1] > LEVEL_COSINE * area)
      level.push({ middle: [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3) as Vec3, area });
  }
  const treads = byHeight(level);
  const sum = (value: (p: Vec3) => number) =>
    treads.reduce((s, { middle, area }) => s + area * value(middle), 0);
  const total = sum(() => 1) || 1;
  const [mx, my, mz] = [sum((p) => p[0]) / total, sum((p) => p[1]) / total, sum((p) => p[2]) / total];
  const xx = sum((p) => (p[0] - mx) ** 2);
  const zz = sum((p) => (p[2] - mz) ** 2);
  const xz = sum((p) => (p[0] - mx) * (p[2] - mz));
  const xy = sum((p) => (p[0] - mx) * (p[1] - my));
  const zy = sum((p) => (p[2] - mz) * (p[1] - my));
  const det = xx * zz - xz * xz;
  const [gx, gz] =
    det > 1e-12 * (xx + zz) ** 2
      ? [(xy * zz - zy * xz) / det, (zy * xx - xy * xz) / det]
      : [xy / (xx + zz || 1), zy / (xx + zz || 1)];
  const slope = Math.hypot(gx, gz);
  if (!(slope > MIN_CLIMB_RATIO))
    throw new DecomposeError('These faces climb nowhere; choose the treads of a flight of steps.');
  return [snapped(gx / slope), 0, snapped(gz / slope)];
}

/** Upright faces that look within so much of the climb, as a cosine, are risers. */
const RISER_COSINE = Math.SQRT1_2;

/**
 * The climb along the mean normal of the risers: treads that are wider on one side, or a cheek beside them, draw the
 * middles of the treads askew, and leave the risers as they are.
 */
function squareToRisers(climb: Vec3, faces: readonly number[], at: (corner: number) => Vec3): Vec3 {
  let [x, z] = [0, 0];
  for (const f of faces) {
    const [a, b, c] = [at(f * 3), at(f * 3 + 1), at(f * 3 + 2)];
    const n = cross(subtract(b, a), subtract(c, a));
    const level = Math.hypot(n[0], n[2]);
    const along = n[0] * climb[0] + n[2] * climb[2];
    if (!(level > Math.abs(n[1])) || Math.abs(along) < RISER_COSINE * level) continue;
    x += n[0] * Math.sign(along);
    z += n[2] * Math.sign(along);
  }
  const sum = Math.hypot(x, z);
  return sum > 0 ? [snapped(x / sum), 0, snapped(z / sum)] : climb;
}

/** Directions nearly along an axis are along it. */
const snapped = (v: number): number =>
  Math.abs(v) < ALONG_AXIS ? 0 : Math.abs(v) > 1 - ALONG_AXIS ** 2 ? Math.sign(v) : v;

/** Level faces of one height as one tread, so that how it was cut into triangles does not matter. */
function byHeight(level: readonly { middle: Vec3; area: number }[]): { middle: Vec3; area: number }[] {
  const sorted = [...level].sort((a, b) => a.middle[1] - b.middle[1]);
  const range = sorted.length ? sorted[sorted.length - 1]!.middle[1] - sorted[0]!.middle[1] : 0;
  const treads: { middle: Vec3; area: number }[] = [];
  let height = -Infinity;
  for (const { middle, area } of sorted) {
    const tread = treads[treads.length - 1];
    if (!tread || middle[1] - height > range * SAME_TREAD) treads.push({ middle: [...middle], area });
    else {
      const share = area / (tread.area + area);
      for (let k = 0; k < 3; k++) tread.middle[k]! += (middle[k]! - tread.middle[k]!) * share;
      tread.area += area;
    }
    height = middle[1];
  }
  return treads;
}

/** The line on top of all places (along, height) that holds the longest side of their upper outline. */
function touchingLine(
  along: readonly number[],
  heights: readonly number[],
  start: number,
  end: number,
): { climb: number; height: number } {
  const order = along.map((_, i) => i).sort((a, b) => along[a]! - along[b]! || heights[a]! - heights[b]!);
  const upper: number[] = [];
  for (const i of order) {
    while (upper.length > 1) {
      const [a, b] = [upper[upper.length - 2]!, upper[upper.length - 1]!];
      const turn =
        (along[b]! - along[a]!) * (heights[i]! - heights[a]!) -
        (heights[b]! - heights[a]!) * (along[i]! - along[a]!);
      if (turn < 0) break;
      upper.pop();
    }
    upper.push(i);
  }
  let best = { climb: 0, height: most(heights), length: 0 };
  for (let k = 1; k < upper.length; k++) {
    const [a, b] = [upper[k - 1]!, upper[k]!];
    const run = along[b]! - along[a]!;
    const rise = heights[b]! - heights[a]!;
    // What rises hardly is a landing, what rises steeply is a riser.
    if (run < (end - start) * 1e-6 || rise < run * MIN_CLIMB_RATIO || rise > run * 3 || run <= best.length)
      continue;
    const climb = rise / run;
    best = { climb, height: heights[a]! - climb * along[a]!, length: run };
  }
  return best;
}
