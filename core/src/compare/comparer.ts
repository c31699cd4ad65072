import { type Bounds, diagonalOf, type Vec3 } from '../math/index.js';
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
import { type Shape, shapeBounds, shapePolygons, shapeTriangles } from '../shape/index.js';
import { ArtCover } from './art-cover.js';
import { areasOfFaces, type BareArea } from './bare-areas.js';
import type {
  ShapeComparison,
  DetailedComparison,
  Deviation,
  PaintedShapes,
  Standing,
} from './comparison.js';
import { clipConvex, type ConvexPolyhedron, hullVolume } from '../hull/index.js';
import { summary, withFarthest } from './deviation-summary.js';
import {
  type Border,
  farthestCorner,
  farthestPlace,
  mostAtCorners,
  precisionOf,
  reachOf,
} from './farthest-place.js';
import { FilledAhead } from './filled-ahead.js';
import { boxOff, type Measured, nearest } from './measured-shape.js';
import { OuterSurface } from './outer-surface.js';
import { paintGrid } from './paint-grid.js';
import { alongRays, only } from './ray-volumes.js';
import { type Samples, samplesOf, withCorners } from './samples.js';
import { costOf } from './set-cost.js';
import { shapeDistance } from './shape-distance.js';
import { connectedAreas, neighboursOf } from './uncovered.js';

export interface ComparerOptions {
  /** rays along the longer side of each of the three views. Default 64: about 1 % of the volume */
  cells?: number;
  /** vertices of the art that are asked how far they stand out, spread over all. Default: every one */
  maxVertices?: number;
  /** maxima are looked for between the samples, too, to a thousandth of themselves. Default true; a search does without */
  exact?: boolean;
  /** the art read as a solid, when that is known already */
  solid?: ClosedSolid;
  /** called shape by shape; what it throws stops the work */
  progress?: () => void;
}

const AXES = [0, 1, 2] as const;

/** What is painted is cut this finely: a share of the art's size … */
const PAINT_STEP_SHARE = 1 / 60;
/** … and into so many triangles at most. */
const MAX_PAINTED_TRIANGLES = 60_000;

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
  private readonly known = new WeakMap<Shape, Measured>();
  private readonly samples: ArtCover;
  private readonly vertices: ArtCover;
  private readonly size: number;
  private readonly outer: OuterSurface;
  private readonly bounds: Bounds;
  private readonly exact: boolean;
  private readonly progress: () => void;
  /** of every vertex of the mesh; this and the next once that was asked for */
  private depths: ArtCover | undefined;
  private filledAhead: FilledAhead | undefined;
  /** [3t]: the face across each side, once that was asked for */
  private across: Int32Array | undefined;

  constructor(
    private readonly mesh: Pick<Mesh, 'positions' | 'indices'>,
    {
      cells = 64,
      maxVertices = Infinity,
      exact = true,
      solid: known,
      progress = () => undefined,
    }: ComparerOptions = {},
  ) {
    this.progress = progress;
    this.distance = new SolidDistance(mesh, known);
    const { solid } = this.distance;
    progress();
    this.vertices = new ArtCover(solid.positions, someCorners(solid, maxVertices));
    this.exact = exact && maxVertices === Infinity;
    const bounds = boundsOfFaces(solid);
    this.bounds = bounds;
    this.size = diagonalOf(bounds) || 1;
    this.outer = new OuterSurface(this.distance, this.size, this.exact);
    const grow = this.size * 1e-9;
    const wider = {
      min: bounds.min.map((v) => v - grow) as Vec3,
      max: bounds.max.map((v) => v + grow) as Vec3,
    };
    this.grids = AXES.map((axis) => columnGrid(wider, axis, cells));
    const crossings = this.grids.map((grid) => {
      progress();
      return crossingsOf(grid, solid.positions, solid.indices);
    });
    progress();
    const encloses = (f: number) => solid.volumes[solid.shellOf[f]!] !== 0;
    this.runs = crossings.map((found) => insideRuns(only(found, encloses)));
    const skin = crossings.map((found) => only(found, (f) => f < solid.faces));
    this.art = samplesOf(this.grids, skin, solid.positions, solid.indices);
    this.samples = new ArtCover(this.art.points);
  }

  /** Deviation, volumes and cost of a set of shapes. */
  compare(shapes: readonly Shape[]): ShapeComparison {
    const measured = shapes.map((shape) => this.measure(shape));
    this.cover(measured);
    return this.figures(shapes, measured, this.farthestOfArt(measured, this.uncoveredSamples()));
  }

  /**
   * Excess of each shape, as part of the surface of all together, and how much of it is empty; excess and uncovered
   * of each owner's shapes and art; and the figures of all.
   *
   * @param ownerOf the number of the owner of each shape
   * @param ownerOfFace the number of the owner of a face of the mesh
   */
  standing(
    shapes: readonly Shape[],
    ownerOf: readonly number[],
    ownerOfFace: (face: number) => number,
  ): Standing {
    const measured = shapes.map((shape) => this.measure(shape));
    this.cover(measured);
    const outer = measured.map((_, i) => this.outer.outerOf(measured, i));
    const faceOwner = Array.from(this.distance.solid.source, ownerOfFace);
    const owners = [...new Set([...ownerOf, ...faceOwner])].sort((a, b) => a - b);
    const ofOwners = owners.map((owner) => ({
      owner,
      excess: this.outer.ofOuter(outer.filter((_, i) => ownerOf[i] === owner)),
      uncovered: this.farthestOfArt(
        measured,
        this.uncoveredSamples((face) => faceOwner[face] === owner),
        (face) => faceOwner[face] === owner,
      ),
    }));
    return {
      figures: this.figures(
        shapes,
        measured,
        withFarthest(
          this.uncoveredSamples(),
          ofOwners.map(({ uncovered }) => uncovered),
        ),
      ),
      shapes: measured.map((own, i) => ({
        excess: outer[i]!.deviation,
        ...(own.filled ??= this.filledBy(own, shapes[i]!)),
      })),
      owners: ofOwners,
    };
  }

  /** How far one shape stands off the art at most, as if it were alone, metres. */
  excess(shape: Shape): number {
    return this.outer.outerOf([this.measure(shape)], 0).deviation.max;
  }

  private figures(
    shapes: readonly Shape[],
    measured: readonly Measured[],
    artOutside: Deviation,
  ): ShapeComparison {
    return {
      artOutside,
      proxyOutside: this.outer.ofOuter(
        measured.map((_, i) => {
          this.progress();
          return this.outer.outerOf(measured, i);
        }),
      ),
      ...this.volumes(measured),
      cost: costOf(shapes),
    };
  }

  private cover(measured: readonly Measured[]): void {
    this.samples.update(measured);
    this.vertices.update(measured);
  }

  /** How far the samples of the art are outside the shapes that `cover` was asked for: of all faces, or some. */
  private uncoveredSamples(counts?: (face: number) => boolean): Deviation {
    const { points, areas, faces } = this.art;
    const { off } = this.samples;
    if (!counts) return summary(points, areas, off);
    const mine = [...areas.keys()].filter((i) => counts(faces[i]!));
    return summary(
      Float64Array.from(mine.flatMap((i) => [points[i * 3]!, points[i * 3 + 1]!, points[i * 3 + 2]!])),
      Float64Array.from(mine, (i) => areas[i]!),
      Float64Array.from(mine, (i) => off[i]!),
    );
  }

  /** How much of a shape is empty, and how far off all art it is when all of it is. */
  private filledBy(own: Measured, shape: Shape): NonNullable<Measured['filled']> {
    const [held, both] = AXES.reduce(
      ([any, inArt], axis) => {
        const { cell } = this.grids[axis]!;
        const [, one, two] = alongRays(this.runs[axis]!, [own.spans[axis]!]);
        return [any + (one! * cell[0] * cell[1]) / 3, inArt + (two! * cell[0] * cell[1]) / 3];
      },
      [0, 0],
    ) as [number, number];
    // Rays pass beside what is thin; its own places say whether art is near.
    let away = both > 0 ? 0 : Infinity;
    for (let s = 0, last = -1; s < own.off.length && away > 0; last = s++)
      away = Math.min(away, this.outer.offArt(own, s, last));
    if (away > 0 && this.holdsArt(own)) away = 0;
    return {
      overfill: shape.kind === 'surface' ? 0 : Math.max(0, held - both + own.beyond),
      away: away === Infinity ? 0 : away,
    };
  }

  private holdsArt({ low, high, distance }: Measured): boolean {
    const { positions: p } = this.distance.solid;
    for (let i = 0; i < p.length; i += 3)
      if (
        p[i]! >= low[0] &&
        p[i]! <= high[0] &&
        p[i + 1]! >= low[1] &&
        p[i + 1]! <= high[1] &&
        p[i + 2]! >= low[2] &&
        p[i + 2]! <= high[2] &&
        distance(p[i]!, p[i + 1]!, p[i + 2]!) <= 0
      )
        return true;
    return false;
  }

  /** As `compare`, with a value for every vertex of the art and the areas that stand out. */
  inDetail(shapes: readonly Shape[], toleranceMetres = this.size * 1e-3): DetailedComparison {
    const measured = shapes.map((shape) => this.measure(shape));
    const { positions, indices } = this.mesh;
    const { source } = this.distance.solid;
    this.depths ??= new ArtCover(positions, undefined, true);
    this.depths.update(measured);
    const vertices = Float32Array.from(this.depths.off);
    const found = this.compare(shapes);
    // The farthest vertex may lie farther out than any sample.
    let { max, at } = found.artOutside;
    for (let i = 0; i < source.length * 3; i++) {
      const v = indices[source[(i / 3) | 0]! * 3 + (i % 3)]!;
      if (vertices[v]! <= max) continue;
      max = vertices[v]!;
      at = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    }
    this.filledAhead ??= new FilledAhead(this.mesh, this.distance, this.size);
    this.filledAhead.mark(vertices, measured);
    const uncovered = this.areasOf(this.standingOut(vertices, measured, toleranceMetres));
    return { ...found, artOutside: { ...found.artOutside, max, at }, vertices, uncovered };
  }

  /**
   * Faces of the art that stand out by more than a tolerance at a corner or in their middle, in connected areas. What was
   * asked for the set before is kept: `inDetail` asks every vertex anew.
   */
  bareFaces(shapes: readonly Shape[], toleranceMetres: number): number[][] {
    const measured = shapes.map((shape) => this.measure(shape));
    this.vertices.update(measured);
    const { faces, source } = this.distance.solid;
    const out = new Uint8Array(this.mesh.indices.length / 3);
    for (let f = 0; f < faces; f++)
      if (
        this.mostAtCornersOf(f) > toleranceMetres ||
        this.offInMiddle(f, measured, toleranceMetres) > toleranceMetres
      )
        out[source[f]!] = 1;
    return this.areasOf(out);
  }

  /** [t]: 1 for faces that stand out by more than a tolerance at a corner or in their middle. */
  private standingOut(vertices: Float32Array, measured: readonly Measured[], tolerance: number): Uint8Array {
    const { positions: p, indices } = this.mesh;
    const { off } = this.depths!;
    const middleStandsOut = (a: number, b: number, c: number) => {
      const middle = (k: number) => (p[a * 3 + k]! + p[b * 3 + k]! + p[c * 3 + k]!) / 3;
      const [x, y, z] = [middle(0), middle(1), middle(2)];
      const reach = Math.hypot(x - p[a * 3]!, y - p[a * 3 + 1]!, z - p[a * 3 + 2]!);
      // Off by no more than a corner and the way from there.
      return off[a]! + reach > tolerance && nearest(measured, x, y, z).off > tolerance;
    };
    const out = new Uint8Array(indices.length / 3);
    for (let f = 0; f < out.length; f++) {
      const [a, b, c] = [indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!];
      const most = Math.max(vertices[a]!, vertices[b]!, vertices[c]!);
      if (most > tolerance || middleStandsOut(a, b, c)) out[f] = 1;
    }
    return out;
  }

  /** Marked faces ([t], 1 where one is) in connected areas. */
  private areasOf(marked: Uint8Array): number[][] {
    if (!marked.includes(1)) return [];
    this.across ??= neighboursOf(this.mesh);
    return connectedAreas(marked, this.across);
  }

  /** Bare faces as areas with their size and the corner or middle that stands out most, the largest first. */
  bareAreas(shapes: readonly Shape[], toleranceMetres: number): BareArea[] {
    const lists = this.bareFaces(shapes, toleranceMetres);
    const measured = shapes.map((shape) => this.measure(shape));
    const { positions: p, indices, source } = this.distance.solid;
    const faceOf = new Map(Array.from(source, (face, f) => [face, f]));
    return areasOfFaces(this.mesh, lists, (face) => {
      const f = faceOf.get(face)!;
      const corners = [0, 1, 2].map((k) => indices[f * 3 + k]!);
      const [a, b, c] = corners.map((v): Vec3 => [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!]) as [
        Vec3,
        Vec3,
        Vec3,
      ];
      const off = corners.map((v) => this.vertices.off[v]!);
      const most = Math.max(...off);
      const inMiddle = this.offInMiddle(f, measured, most);
      return inMiddle > most
        ? { off: inMiddle, at: [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3) as Vec3 }
        : { off: most, at: [a, b, c][off.indexOf(most)]! };
    });
  }

  private mostAtCornersOf(f: number): number {
    const { indices } = this.distance.solid;
    const { off } = this.vertices;
    return Math.max(off[indices[f * 3]!]!, off[indices[f * 3 + 1]!]!, off[indices[f * 3 + 2]!]!);
  }

  /** Metres that the middle of a face is outside the shapes; 0 where it is known to be within a tolerance. */
  private offInMiddle(f: number, measured: readonly Measured[], tolerance: number): number {
    const { positions: p, indices } = this.distance.solid;
    const [a, b, c] = [indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!];
    const shape = this.vertices.nearestTo(a);
    const near = (v: number) => shape!.distance(p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!) <= tolerance;
    // Near one shape at all corners, it is near it in its middle.
    if (shape?.convex && near(b) && near(c) && this.vertices.off[a]! <= tolerance) return 0;
    const middle = (k: number) => (p[a * 3 + k]! + p[b * 3 + k]! + p[c * 3 + k]!) / 3;
    return nearest(measured, middle(0), middle(1), middle(2)).off;
  }

  /** The surface of all shapes together, cut finely, with how far each place stands off the art: what lies hidden is 0. */
  painted(shapes: readonly Shape[]): PaintedShapes {
    const measured = shapes.map((shape) => this.measure(shape));
    const parts = measured.map((own, i) => {
      const grid = paintGrid(
        own.triangles,
        this.size * PAINT_STEP_SHARE,
        MAX_PAINTED_TRIANGLES / shapes.length,
      );
      const hidden = this.outer.hiddenBy(measured, i);
      const values = new Float32Array(grid.points.length / 3);
      for (let v = 0; v < values.length; v++) {
        const p: Vec3 = [grid.points[v * 3]!, grid.points[v * 3 + 1]!, grid.points[v * 3 + 2]!];
        if (this.distance.inside(p) || hidden(...p)) continue;
        const off = this.distance.distance(...p);
        values[v] = off < Infinity ? off : 0;
      }
      return { ...grid, values };
    });
    const points = new Float64Array(parts.reduce((sum, part) => sum + part.points.length, 0));
    const values = new Float32Array(points.length / 3);
    const indices = new Uint32Array(parts.reduce((sum, part) => sum + part.indices.length, 0));
    let [vertex, index] = [0, 0];
    for (const part of parts) {
      points.set(part.points, vertex * 3);
      values.set(part.values, vertex);
      for (const v of part.indices) indices[index++] = v + vertex;
      vertex += part.values.length;
    }
    return { points, indices, values };
  }

  private measure(shape: Shape): Measured {
    const known = this.known.get(shape);
    if (known) return known;
    this.progress();
    const { points, indices } = shapeTriangles(shape, { segments: 48 });
    const { min, max } = shapeBounds(shape);
    const crossings = this.grids.map((grid) => crossingsOf(grid, points, indices));
    const solid = shape.kind !== 'surface';
    const spans = crossings.map(({ start, at }, axis) => {
      const [from, to] = [this.bounds.min[axis]!, this.bounds.max[axis]!];
      const rays = start.length - 1;
      const span = new Float64Array(rays * 2).fill(NaN);
      for (let r = 0; solid && r < rays; r++) {
        if (start[r + 1]! - start[r]! < 2) continue;
        // What lies beyond the art is counted whole, see `beyond`.
        const enter = Math.max(from, at[start[r]!]!);
        const leave = Math.min(to, at[start[r + 1]! - 1]!);
        if (leave <= enter) continue;
        span[r * 2] = enter;
        span[r * 2 + 1] = leave;
      }
      return span;
    });
    const skin = samplesOf(this.grids, crossings, points, indices, this.runs);
    const samples = withCorners(skin, shape, points);
    const off = new Float64Array(samples.areas.length).fill(NaN);
    const measured: Measured = {
      distance: shapeDistance(shape),
      convex: solid,
      low: min,
      high: max,
      spans,
      samples,
      off,
      triangles: cornersOf(points, indices),
      beyond: solid ? this.beyond(shape) : 0,
    };
    this.known.set(shape, measured);
    return measured;
  }

  /** Cubic metres of a shape beyond the bounds of the art: no rays go there. */
  private beyond(shape: Shape): number {
    const { min, max } = shapeBounds(shape);
    const { min: low, max: high } = this.bounds;
    const near = this.size * 1e-6;
    if ([0, 1, 2].every((k) => min[k]! >= low[k]! - near && max[k]! <= high[k]! + near)) return 0;
    const { points, faces } = shapePolygons(shape, { segments: 48 });
    const whole = { points, faces };
    let within: ConvexPolyhedron | null = { points: [...points], faces };
    for (let k = 0; k < 3 && within; k++)
      for (const sign of [1, -1] as const) {
        const normal: Vec3 = [0, 0, 0];
        normal[k] = sign;
        within =
          within && clipConvex(within, ...normal, sign * (sign > 0 ? high : low)[k]!, this.size * 1e-12);
      }
    const inside = within ? hullVolume({ points: Float64Array.from(within.points), faces: within.faces }) : 0;
    return Math.max(0, hullVolume(whole) - inside);
  }

  /** The deviation with its true maximum: corners of the art, and places within its faces, reach farther than samples. */
  private farthestOfArt(
    measured: readonly Measured[],
    sampled: Deviation,
    counts: (face: number) => boolean = () => true,
  ): Deviation {
    const { positions, indices, faces } = this.distance.solid;
    const { off } = this.vertices;
    let { max, at } = sampled;
    const each = (use: (face: number, a: number, b: number, c: number) => void) => {
      for (let f = 0; f < faces; f++)
        if (counts(f)) use(f, indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!);
    };
    each((_, ...corners) => {
      for (const v of corners) {
        if (off[v]! <= Math.max(max, this.size * 1e-9)) continue;
        max = off[v]!;
        at = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
      }
    });
    if (!this.exact || !measured.length) return { ...sampled, max, at };
    const precision = precisionOf(this.size, max);
    const open: number[] = [];
    each((_, a, b, c) => {
      const shape = this.vertices.nearestTo(a);
      // What holds all corners of a face holds the face.
      if (
        !off[a] &&
        !off[b] &&
        !off[c] &&
        shape?.convex &&
        shape === this.vertices.nearestTo(b) &&
        shape === this.vertices.nearestTo(c)
      )
        return;
      const within = (v: number) =>
        shape!.distance(positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!) <= max + precision;
      if (shape?.convex && within(b) && within(c)) return;
      for (const v of [a, b, c]) open.push(positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!);
    });
    const found = farthestPlace<{ about: readonly Measured[]; shape: Measured | undefined }>(
      open,
      (middle, triangle, best, known = { about: measured, shape: undefined }) => {
        // Convex along any line: nowhere in a triangle is a shape farther than from one of its corners.
        const fromShape = (one: Measured | undefined) =>
          one?.convex ? mostAtCorners(triangle, one.distance) : Infinity;
        const before = fromShape(known.shape);
        if (before <= best + precision) return { here: NaN, most: before };
        const { off, shape } = nearest(known.about, ...middle);
        const reach = reachOf(triangle, middle);
        const most = Math.min(before, shape === known.shape ? before : fromShape(shape), off + reach);
        if (most <= best + precision) return { here: off, most };
        const far = Math.max(0, off) + 2 * reach;
        const about = known.about.filter((one) => boxOff(one, middle) <= far);
        return {
          here: off,
          most,
          known: { about, shape },
          border: () => (shape?.convex ? borderBetween(triangle, shape, about) : undefined),
        };
      },
      { known: max, precision },
    );
    return found ? { ...sampled, max: found.distance, at: found.at } : { ...sampled, max, at };
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
    const [art, held, both, single] = mean as [number, number, number, number];
    // What shapes share beyond the art's bounds counts once for each.
    const proxies = held + measured.reduce((sum, { beyond }) => sum + beyond, 0);
    const spread = (k: number) => Math.max(...sums.map((s) => s[k]!)) - Math.min(...sums.map((s) => s[k]!));
    return {
      artVolume: art,
      proxyVolume: proxies,
      overfill: Math.max(0, proxies - both),
      underfill: Math.max(0, art - both),
      overlap: Math.max(0, single - held),
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

/** Where another shape begins to be nearer than one that is nearest to the middle of a triangle ([9]). */
function borderBetween(
  triangle: Float64Array,
  { distance }: Measured,
  about: readonly Measured[],
): Border | undefined {
  const other = nearest(about, ...farthestCorner(triangle, distance)).shape?.distance;
  return other && other !== distance ? (x, y, z) => distance(x, y, z) - other(x, y, z) : undefined;
}

/** Vertices that faces of the art use, or so many of them at even steps. */
function someCorners({ positions, faces, indices }: ClosedSolid, most: number): Uint32Array {
  const used = new Uint8Array(positions.length / 3);
  for (let i = 0; i < faces * 3; i++) used[indices[i]!] = 1;
  const all: number[] = [];
  for (let v = 0; v < used.length; v++) if (used[v]) all.push(v);
  const step = Math.max(1, Math.ceil(all.length / most));
  return Uint32Array.from({ length: Math.ceil(all.length / step) }, (_, i) => all[i * step]!);
}

/** [9t] */
function cornersOf(points: Float64Array, indices: Uint32Array): Float64Array {
  const corners = new Float64Array(indices.length * 3);
  indices.forEach((v, i) => corners.set(points.subarray(v * 3, v * 3 + 3), i * 3));
  return corners;
}
