import { diagonalOf, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import {
  type ClosedSolid,
  boundsOfFaces,
  columnGrid,
  type ColumnGrid,
  type Crossings,
  crossingsOf,
  insideRuns,
  type Runs,
  SolidDistance,
} from '../solid/index.js';
import { type Shape, shapeBounds, shapeCost, shapePolygons, shapeTriangles } from '../shape/index.js';
import type { ShapeComparison, DetailedComparison, Deviation, SetCost } from './comparison.js';
import type { Distance } from '../hull/index.js';
import { shapeDistance } from './shape-distance.js';
import { uncoveredAreas } from './uncovered.js';

export interface ComparerOptions {
  /** rays along the longer side of each of the three views. Default 64: about 1 % of the volume */
  cells?: number;
  /** vertices of the art that are asked how far they stand out, spread over all. Default: every one */
  mostVertices?: number;
  /** the art read as a solid, when that is known already */
  solid?: ClosedSolid;
}

/** Places on a surface, with the area each stands for. */
interface Samples {
  /** [3n] */
  points: Float64Array;
  /** [n] */
  areas: Float64Array;
}

/** What is known of one shape: computed once, used in every set that has it. */
interface Measured {
  distance: Distance;
  low: Vec3;
  high: Vec3;
  /** for each axis, [2 * rays]: where a ray is within; NaN where it misses */
  spans: Float64Array[];
  /** on its surface, outside the art, with the distance to it */
  samples: Samples;
  /** [n]: metres to the art, 0 inside it; NaN until asked */
  off: Float64Array;
}

const AXES = [0, 1, 2] as const;
/** Steps of distance that a 95th percentile is told in. */
const BINS = 4096;
const NOTHING: Deviation = { mean: 0, p95: 0, max: 0, at: null };

/**
 * Measures proxies against one piece of art. Volumes are exact along rays and sampled across them, from three
 * sides; where rays meet the surfaces are the places whose distances are taken. Shapes are told apart
 * by identity: measuring a set costs what its new shapes cost.
 */
export class Comparer {
  private readonly distance: SolidDistance;
  private readonly grids: ColumnGrid[];
  private readonly runs: Runs[];
  private readonly art: Samples;
  /** vertices of the art */
  private readonly corners: Uint32Array;
  private readonly known = new WeakMap<Shape, Measured>();
  /** the shape that covered each sample, and each vertex, in the set before: in the next it often still does */
  private readonly coverOfSample: (Measured | undefined)[] = [];
  private readonly coverOfVertex: (Measured | undefined)[] = [];
  private readonly size: number;

  constructor(
    private readonly mesh: Pick<Mesh, 'positions' | 'indices'>,
    { cells = 64, mostVertices = Infinity, solid: known }: ComparerOptions = {},
  ) {
    this.distance = new SolidDistance(mesh, known);
    const { solid } = this.distance;
    this.corners = someCorners(solid, mostVertices);
    const bounds = boundsOfFaces(solid);
    this.size = diagonalOf(bounds) || 1;
    const grow = this.size * 1e-9;
    const wider = {
      min: bounds.min.map((v) => v - grow) as Vec3,
      max: bounds.max.map((v) => v + grow) as Vec3,
    };
    this.grids = AXES.map((axis) => columnGrid(wider, axis, cells));
    const crossings = this.grids.map((grid) => crossingsOf(grid, solid.positions, solid.indices));
    const encloses = (f: number) => solid.volumes[solid.shellOf[f]!] !== 0;
    this.runs = crossings.map((found) => insideRuns(only(found, encloses)));
    const skin = crossings.map((found) => only(found, (f) => f < solid.faces));
    this.art = samplesOf(this.grids, skin, solid.positions, solid.indices);
  }

  /** Deviation, volumes and cost of a set of shapes. */
  compare(shapes: readonly Shape[]): ShapeComparison {
    const measured = shapes.map((shape) => this.measure(shape));
    const volumes = this.volumes(measured);
    return {
      artOutside: this.artOutside(measured),
      proxyOutside: this.proxyOutside(measured),
      ...volumes,
      cost: costOf(shapes),
    };
  }

  /** As `compare`, with a value for every vertex of the art and the areas that stand out. */
  inDetail(shapes: readonly Shape[], toleranceMetres = this.size * 1e-3): DetailedComparison {
    const measured = shapes.map((shape) => this.measure(shape));
    const { positions, indices } = this.mesh;
    const { source } = this.distance.solid;
    const vertices = new Float32Array(positions.length / 3);
    for (let v = 0; v < vertices.length; v++)
      vertices[v] = offAll(measured, positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!);
    const found = this.compare(shapes);
    // The farthest vertex may lie farther out than any sample.
    let { max, at } = found.artOutside;
    for (let i = 0; i < source.length * 3; i++) {
      const v = indices[source[(i / 3) | 0]! * 3 + (i % 3)]!;
      if (vertices[v]! <= max) continue;
      max = vertices[v]!;
      at = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    }
    const uncovered = uncoveredAreas(this.mesh, vertices, toleranceMetres, (x, y, z) =>
      offAll(measured, x, y, z),
    );
    return { ...found, artOutside: { ...found.artOutside, max, at }, vertices, uncovered };
  }

  private measure(shape: Shape): Measured {
    const known = this.known.get(shape);
    if (known) return known;
    const { points, indices } = shapeTriangles(shape, { segments: 48 });
    const { min, max } = shapeBounds(shape);
    const crossings = this.grids.map((grid) => crossingsOf(grid, points, indices));
    const solid = shape.kind !== 'surface';
    const spans = crossings.map(({ start, at }) => {
      const rays = start.length - 1;
      const span = new Float64Array(rays * 2).fill(NaN);
      for (let r = 0; solid && r < rays; r++) {
        if (start[r + 1]! - start[r]! < 2) continue;
        span[r * 2] = at[start[r]!]!;
        span[r * 2 + 1] = at[start[r + 1]! - 1]!;
      }
      return span;
    });
    const skin = samplesOf(this.grids, crossings, points, indices, this.runs);
    const samples = withCorners(skin, shape, points);
    const off = new Float64Array(samples.areas.length).fill(NaN);
    const measured = { distance: shapeDistance(shape), low: min, high: max, spans, samples, off };
    this.known.set(shape, measured);
    return measured;
  }

  /** Metres from a sample of a shape to the art. The one asked before is near, and so bounds how far to look. */
  private offArt({ samples, off }: Measured, i: number, last: number): number {
    const known = off[i]!;
    if (known === known) return known;
    const { points, areas } = samples;
    const p: Vec3 = [points[i * 3]!, points[i * 3 + 1]!, points[i * 3 + 2]!];
    // Corners bear no area and were not sorted out by the rays.
    if (areas[i] === 0 && this.distance.inside(p)) return (off[i] = 0);
    const step =
      last < 0
        ? Infinity
        : Math.hypot(p[0] - points[last * 3]!, p[1] - points[last * 3 + 1]!, p[2] - points[last * 3 + 2]!);
    const bound = last < 0 ? Infinity : (off[last]! + step) * (1 + 1e-9) + this.size * 1e-12;
    return (off[i] = this.distance.closest(p, bound)?.distance ?? 0);
  }

  private artOutside(measured: readonly Measured[]): Deviation {
    const { points, areas } = this.art;
    const set = new Set(measured);
    const off = new Float64Array(areas.length);
    const outside = (covers: (Measured | undefined)[], i: number, p: Float64Array, v: number): number => {
      const cover = covers[i];
      if (cover && set.has(cover)) return 0;
      const here = offAll(measured, p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!, false);
      covers[i] = here <= 0 ? lastCover : undefined;
      return here;
    };
    for (let i = 0; i < off.length; i++) off[i] = Math.max(0, outside(this.coverOfSample, i, points, i));
    const deviation = summary(points, areas, off);
    // Corners of the art reach farther than samples between them.
    const { positions } = this.distance.solid;
    let { max, at } = deviation;
    for (const v of this.corners) {
      const here = outside(this.coverOfVertex, v, positions, v);
      if (here <= Math.max(max, this.size * 1e-9)) continue;
      max = here;
      at = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    }
    return { ...deviation, max, at };
  }

  private proxyOutside(measured: readonly Measured[]): Deviation {
    const total = measured.reduce((n, m) => n + m.off.length, 0);
    const points = new Float64Array(total * 3);
    const areas = new Float64Array(total);
    const off = new Float64Array(total);
    let n = 0;
    const touching = this.size * 1e-9;
    measured.forEach((own, i) => {
      const touches = (other: Measured) =>
        [0, 1, 2].every((k) => other.low[k]! <= own.high[k]! && own.low[k]! <= other.high[k]!);
      const others = measured.filter((other, j) => j !== i && touches(other));
      let last = -1;
      for (let s = 0; s < own.off.length; s++) {
        const [x, y, z] = [
          own.samples.points[s * 3]!,
          own.samples.points[s * 3 + 1]!,
          own.samples.points[s * 3 + 2]!,
        ];
        // Inside or against another shape it is not the surface of the whole.
        if (own.off[s] !== 0 && others.some((other) => other.distance(x, y, z, touching) < touching))
          continue;
        points[n * 3] = x;
        points[n * 3 + 1] = y;
        points[n * 3 + 2] = z;
        areas[n] = own.samples.areas[s]!;
        off[n++] = this.offArt(own, s, last);
        if (own.off[s]! > 0) last = s;
      }
    });
    return summary(points.subarray(0, n * 3), areas.subarray(0, n), off.subarray(0, n));
  }

  private volumes(
    measured: readonly Measured[],
  ): Pick<ShapeComparison, 'artVolume' | 'proxyVolume' | 'overfill' | 'underfill' | 'overlap' | 'accuracy'> {
    const sums = AXES.map((axis) => {
      const grid = this.grids[axis]!;
      const sum = alongRays(
        this.runs[axis]!,
        measured.map((m) => m.spans[axis]!),
      );
      return sum.map((length) => length * grid.cell[0] * grid.cell[1]);
    });
    const mean = [0, 1, 2, 3].map((k) => (sums[0]![k]! + sums[1]![k]! + sums[2]![k]!) / 3);
    const [art, proxies, both, single] = mean as [number, number, number, number];
    const spread = (k: number) => Math.max(...sums.map((s) => s[k]!)) - Math.min(...sums.map((s) => s[k]!));
    return {
      artVolume: art,
      proxyVolume: proxies,
      overfill: Math.max(0, proxies - both),
      underfill: Math.max(0, art - both),
      overlap: Math.max(0, single - proxies),
      accuracy: Math.max(spread(0), spread(1), spread(2)) / 2 / (art || proxies || 1),
    };
  }
}

/** Compare once. */
export const compareShapes = (
  mesh: Pick<Mesh, 'positions' | 'indices'>,
  shapes: readonly Shape[],
  options?: ComparerOptions,
): DetailedComparison => new Comparer(mesh, options).inDetail(shapes);

/** Vertices that faces of the art use, or so many of them at even steps. */
function someCorners({ positions, faces, indices }: ClosedSolid, most: number): Uint32Array {
  const used = new Uint8Array(positions.length / 3);
  for (let i = 0; i < faces * 3; i++) used[indices[i]!] = 1;
  const all: number[] = [];
  for (let v = 0; v < used.length; v++) if (used[v]) all.push(v);
  const step = Math.max(1, Math.ceil(all.length / most));
  return Uint32Array.from({ length: Math.ceil(all.length / step) }, (_, i) => all[i * step]!);
}

/** The crossings with some of the triangles only. */
function only({ start, at, way, face }: Crossings, counts: (face: number) => boolean): Crossings {
  const starts = new Uint32Array(start.length);
  const keep: number[] = [];
  for (let r = 0; r + 1 < start.length; r++) {
    for (let k = start[r]!; k < start[r + 1]!; k++) if (counts(face[k]!)) keep.push(k);
    starts[r + 1] = keep.length;
  }
  return {
    start: starts,
    at: Float64Array.from(keep, (k) => at[k]!),
    way: Int8Array.from(keep, (k) => way[k]!),
    face: Uint32Array.from(keep, (k) => face[k]!),
  };
}

/**
 * The places where rays meet a surface, each with its share of the area: seen from three sides, a patch is met
 * as often as its normal's coordinates say. With `runs` only places outside those.
 */
function samplesOf(
  grids: readonly ColumnGrid[],
  crossings: readonly Crossings[],
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  runs?: readonly Runs[],
): Samples {
  const points: number[] = [];
  const areas: number[] = [];
  const steep = steepness(positions, indices);
  grids.forEach(({ axis, wide, origin, cell, s, t }, g) => {
    const { start, at, face } = crossings[g]!;
    const p = [0, 0, 0];
    for (let r = 0; r + 1 < start.length; r++) {
      // Every other ray, as on a chequerboard, is enough for distances.
      if (start[r] === start[r + 1] || ((r % wide) + Math.floor(r / wide)) % 2) continue;
      p[(axis + 1) % 3] = origin[0] + ((r % wide) + s[r]!) * cell[0];
      p[(axis + 2) % 3] = origin[1] + (Math.floor(r / wide) + t[r]!) * cell[1];
      for (let k = start[r]!; k < start[r + 1]!; k++) {
        if (runs && within(runs[g]!, r, at[k]!)) continue;
        p[axis] = at[k]!;
        points.push(p[0]!, p[1]!, p[2]!);
        areas.push((2 * cell[0] * cell[1]) / steep[face[k]!]!);
      }
    }
  });
  return { points: Float64Array.from(points), areas: Float64Array.from(areas) };
}

/** [t]: sum of the coordinates of each unit normal, without sign. */
function steepness(p: ArrayLike<number>, indices: ArrayLike<number>): Float64Array {
  const out = new Float64Array(indices.length / 3);
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [indices[f]! * 3, indices[f + 1]! * 3, indices[f + 2]! * 3];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    out[f / 3] = (Math.abs(nx) + Math.abs(ny) + Math.abs(nz)) / (Math.hypot(nx, ny, nz) || 1) || 1;
  }
  return out;
}

function within({ start, ends }: Runs, ray: number, at: number): boolean {
  for (let k = start[ray]!; k < start[ray + 1]!; k++)
    if (at >= ends[k * 2]! && at <= ends[k * 2 + 1]!) return true;
  return false;
}

function withCorners(samples: Samples, shape: Shape, drawn: Float64Array): Samples {
  const corners =
    shape.kind === 'box' || shape.kind === 'hull' ? cornersAndMiddles(shapePolygons(shape)) : [...drawn];
  const points = new Float64Array(samples.points.length + corners.length);
  points.set(samples.points);
  points.set(corners, samples.points.length);
  const areas = new Float64Array(points.length / 3);
  areas.set(samples.areas);
  return { points, areas };
}

/** Corners, middles of edges and of faces: where a flat face tends to stand off most. */
function cornersAndMiddles({ points, faces }: { points: Float64Array; faces: number[][] }): number[] {
  const out = [...points];
  for (const face of faces) {
    const middle = [0, 0, 0];
    face.forEach((v, i) => {
      const w = face[(i + 1) % face.length]!;
      for (let k = 0; k < 3; k++) {
        middle[k]! += points[v * 3 + k]! / face.length;
        if (v < w) out.push((points[v * 3 + k]! + points[w * 3 + k]!) / 2);
      }
    });
    out.push(...middle);
  }
  return out;
}

/** The shape in which `offAll` found the last place that it found covered. */
let lastCover: Measured | undefined;

/** Metres outside all shapes; inside, minus the depth in the one that covers it deepest, or 0 or less when `deepest` does not matter. */
function offAll(measured: readonly Measured[], x: number, y: number, z: number, deepest = true): number {
  let least = Infinity;
  for (const one of measured) {
    const { distance, low, high } = one;
    // Farther from its box than from another shape: it cannot be the nearest.
    const bx = x < low[0] ? low[0] - x : x > high[0] ? x - high[0] : 0;
    const by = y < low[1] ? low[1] - y : y > high[1] ? y - high[1] : 0;
    const bz = z < low[2] ? low[2] - z : z > high[2] ? z - high[2] : 0;
    const box = bx * bx + by * by + bz * bz;
    if (box > 0 && (least <= 0 || box >= least * least)) continue;
    const here = distance(x, y, z, least);
    if (here < least) least = here;
    if (least <= 0 && !deepest) {
      lastCover = one;
      return least;
    }
  }
  return least;
}

function summary(points: Float64Array, areas: Float64Array, off: Float64Array): Deviation {
  if (off.length === 0) return NOTHING;
  let area = 0;
  let sum = 0;
  let farthest = 0;
  for (let i = 0; i < off.length; i++) {
    area += areas[i]!;
    sum += areas[i]! * off[i]!;
    if (off[i]! > off[farthest]!) farthest = i;
  }
  // Sorted into narrow bins by distance: the bin in which 95 % of the area is reached, by its far side.
  const bins = new Float64Array(BINS);
  const widest = off[farthest]! || 1;
  for (let i = 0; i < off.length; i++)
    bins[Math.min(BINS - 1, Math.ceil((off[i]! / widest) * (BINS - 1)))]! += areas[i]!;
  let bin = 0;
  for (let below = bins[0]!; bin < BINS - 1 && below < area * 0.95;) below += bins[++bin]!;
  const p95 = (bin / (BINS - 1)) * off[farthest]!;
  const max = off[farthest]!;
  const at: Vec3 | null =
    max > 0 ? [points[farthest * 3]!, points[farthest * 3 + 1]!, points[farthest * 3 + 2]!] : null;
  return { mean: area > 0 ? sum / area : 0, p95, max, at };
}

/** Lengths along all rays: in the art, in any shape, in both, and the sum over single shapes. */
function alongRays(art: Runs, spans: readonly Float64Array[]): number[] {
  const rays = art.start.length - 1;
  let inArt = 0;
  let inAny = 0;
  let inBoth = 0;
  let single = 0;
  const lows = new Float64Array(spans.length);
  const highs = new Float64Array(spans.length);
  for (let r = 0; r < rays; r++) {
    const [first, past] = [art.start[r]!, art.start[r + 1]!];
    for (let k = first; k < past; k++) inArt += art.ends[k * 2 + 1]! - art.ends[k * 2]!;
    let n = 0;
    for (let i = 0; i < spans.length; i++) {
      const from = spans[i]![r * 2]!;
      if (from !== from) continue;
      const to = spans[i]![r * 2 + 1]!;
      single += to - from;
      let at = n++;
      for (; at > 0 && lows[at - 1]! > from; at--) {
        lows[at] = lows[at - 1]!;
        highs[at] = highs[at - 1]!;
      }
      lows[at] = from;
      highs[at] = to;
    }
    let end = -Infinity;
    for (let i = 0; i < n; i++) {
      const start = lows[i]! > end ? lows[i]! : end;
      const to = highs[i]!;
      if (to <= start) continue;
      inAny += to - start;
      for (let k = first; k < past; k++) {
        const low = art.ends[k * 2]! > start ? art.ends[k * 2]! : start;
        const high = art.ends[k * 2 + 1]! < to ? art.ends[k * 2 + 1]! : to;
        if (high > low) inBoth += high - low;
      }
      end = to;
    }
  }
  return [inArt, inAny, inBoth, single];
}

/** Shapes, vertices and faces of a set, and what it costs. */
export function costOf(shapes: readonly Shape[]): SetCost {
  const cost: SetCost = { shapes: shapes.length, vertices: 0, faces: 0, kinds: {}, cost: 0 };
  for (const shape of shapes) {
    cost.kinds[shape.kind] = (cost.kinds[shape.kind] ?? 0) + 1;
    cost.cost += shapeCost(shape);
    if (shape.kind !== 'box' && shape.kind !== 'hull' && shape.kind !== 'surface') continue;
    const { points, faces } = shapePolygons(shape);
    cost.vertices += points.length / 3;
    cost.faces += faces.length;
  }
  return cost;
}
