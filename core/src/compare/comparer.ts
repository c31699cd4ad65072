import { diagonalOf, normalized, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import {
  type ClosedSolid,
  boundsOfFaces,
  columnGrid,
  type ColumnGrid,
  crossingsOf,
  insideRuns,
  type Runs,
  SolidDistance,
} from '../solid/index.js';
import { type Shape, shapeBounds, shapeTriangles } from '../shape/index.js';
import type { ShapeComparison, DetailedComparison, Deviation } from './comparison.js';
import type { Distance } from '../hull/index.js';
import { summary } from './deviation-summary.js';
import { markFilledAhead } from './filled-ahead.js';
import { alongRays, only } from './ray-volumes.js';
import { type Samples, samplesOf, withCorners } from './samples.js';
import { costOf } from './set-cost.js';
import { shapeDistance } from './shape-distance.js';
import { uncoveredAreas } from './uncovered.js';

export interface ComparerOptions {
  /** rays along the longer side of each of the three views. Default 64: about 1 % of the volume */
  cells?: number;
  /** vertices of the art that are asked how far they stand out, spread over all. Default: every one */
  maxVertices?: number;
  /** the art read as a solid, when that is known already */
  solid?: ClosedSolid;
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
    { cells = 64, maxVertices = Infinity, solid: known }: ComparerOptions = {},
  ) {
    this.distance = new SolidDistance(mesh, known);
    const { solid } = this.distance;
    this.corners = someCorners(solid, maxVertices);
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
    markFilledAhead(this.mesh, this.distance, vertices, {
      covering: (x, y, z) => covering(measured, x, y, z),
      size: this.size,
    });
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
      const others = measured.flatMap((other, j) =>
        j !== i && touches(other) ? [{ distance: other.distance, earlier: j < i }] : [],
      );
      let last = -1;
      for (let s = 0; s < own.off.length; s++) {
        const [x, y, z] = [
          own.samples.points[s * 3]!,
          own.samples.points[s * 3 + 1]!,
          own.samples.points[s * 3 + 2]!,
        ];
        // Inside or against another shape it is not the surface of the whole.
        if (own.off[s] !== 0 && others.some((other) => this.hides(other, own, x, y, z, touching))) continue;
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

  /**
   * Whether another shape takes a place on this one's surface from the surface of the whole: it lies inside it, or
   * both surfaces lie there back to back. Where they lie there as one, looking the same way, the earlier has it.
   */
  private hides(
    other: { distance: Distance; earlier: boolean },
    own: Measured,
    x: number,
    y: number,
    z: number,
    touching: number,
  ): boolean {
    const depth = other.distance(x, y, z, touching);
    if (depth >= touching) return false;
    if (depth <= -touching) return true;
    const h = this.size * 1e-6;
    const slope = (dx: number, dy: number, dz: number) =>
      own.distance(x + dx, y + dy, z + dz) - own.distance(x - dx, y - dy, z - dz);
    const out: Vec3 = normalized([slope(h, 0, 0), slope(0, h, 0), slope(0, 0, h)]);
    const ahead = other.distance(x + out[0] * h, y + out[1] * h, z + out[2] * h);
    return ahead < h / 2 || other.earlier;
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

/** The distance function of the shape that covers a point deepest. */
function covering(measured: readonly Measured[], x: number, y: number, z: number): Distance | undefined {
  let deepest = 0;
  let found: Distance | undefined;
  for (const { distance, low, high } of measured) {
    if (x < low[0] || x > high[0] || y < low[1] || y > high[1] || z < low[2] || z > high[2]) continue;
    const here = distance(x, y, z);
    if (here >= deepest) continue;
    deepest = here;
    found = distance;
  }
  return found;
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
