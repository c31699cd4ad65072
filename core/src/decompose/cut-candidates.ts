import { EdgeTable } from '../mesh/edge-table.js';
import { areaVector, boundsOf, cross, diagonalOf, dot, length, type Vec3 } from '../math/index.js';
import type { CutPlane, Fragment } from './fragment.js';
import { principalAxes } from './principal-axes.js';

/** A plane that might be cut along, and how much of the fragment's concavity it takes away. */
export interface Candidate {
  plane: CutPlane;
  /** share of all concave edges, by length and angle, that lie in the plane; 0 to 1 */
  resolves: number;
  /** whether a person would take it first: at a sharp fold the plane of a face, in a bend the one that halves the angle */
  first: boolean;
}

/** Folds less than this many radians inward are the facets of a curve or noise. */
const MIN_FOLD_RADIANS = 0.02;
/** Edges folded by less are those of something round. */
const BEND_RADIANS = 0.6;
/** Planes nearer than this share of the size, and this angle, are one. */
const SAME_PLACE = 1e-4;
const SAME_TURN = 1e-3;

/** Planes that take away less than this share of the concavity are tried only when they are among the first few. */
const MIN_GAIN_SHARE = 0.02;
const ALWAYS_TRIED = 4;

/** Where two faces fold inward. */
interface ConcaveEdge {
  a: number;
  b: number;
  /** its faces' normals */
  m: [number, number, number];
  n: [number, number, number];
  /** radians */
  fold: number;
  weight: number;
}

/**
 * The planes a person would cut along: those of the faces at concave edges, those that hold several concave
 * edges, those that halve the angle at one. The best `most`, by how much concavity each takes away.
 */
export function cutCandidates(fragment: Fragment, most: number): { planes: Candidate[] } {
  const { points: p } = fragment;
  const size = diagonalOf(boundsOf(p));
  const edges = concaveEdges(fragment);
  const total = edges.reduce((sum, edge) => sum + edge.weight, 0);
  if (total === 0) return { planes: [] };
  // With many edges the heavy ones propose; all are counted.
  const proposing = edges.length > 150 ? [...edges].sort((e, f) => f.weight - e.weight).slice(0, 150) : edges;
  const planes = new PlaneSet(size);
  const at = new Map<number, ConcaveEdge[]>();
  for (const edge of proposing) {
    const { a, m, n, fold } = edge;
    const sharp = fold > BEND_RADIANS;
    planes.add(m, p, a, sharp);
    planes.add(n, p, a, sharp);
    // The plane through the edge between its faces.
    planes.add([m[0] - n[0], m[1] - n[1], m[2] - n[2]], p, a, !sharp);
    for (const v of [edge.a, edge.b]) {
      const known = at.get(v);
      if (known) known.push(edge);
      else at.set(v, [edge]);
    }
  }
  for (const [v, around] of at) {
    for (let i = 0; i < around.length && i < 6; i++)
      for (let j = 0; j < i; j++) {
        const [s, t] = [around[i]!, around[j]!].map((e): Vec3 => {
          const w = e.a === v ? e.b : e.a;
          return [p[w * 3]! - p[v * 3]!, p[w * 3 + 1]! - p[v * 3 + 1]!, p[w * 3 + 2]! - p[v * 3 + 2]!];
        }) as [Vec3, Vec3];
        const n = cross(s, t);
        if (length(n) > 0.05 * length(s) * length(t)) planes.add(n, p, v);
      }
  }
  const slack = size * SAME_PLACE;
  const { min, max } = boundsOf(p);
  const middle = min.map((v, k) => (v + max[k]!) / 2);
  const weighed = planes.list.map(({ first, ...plane }) => {
    let weight = 0;
    for (const { a, b, weight: own } of edges)
      if (Math.abs(offPlane(plane, p, a)) < slack && Math.abs(offPlane(plane, p, b)) < slack) weight += own;
    const resolves = weight / total;
    // Of several alike the one that halves, and before all the one that a person would take.
    const rank = resolves * (1 - Math.abs(offPlane(plane, middle, 0)) / size) * (first ? 2 : 1);
    return { plane, resolves, first, rank };
  });
  const sorted = weighed.sort((x, y) => y.rank - x.rank);
  // Where no plane takes away much, none of them is the one.
  return {
    planes: sorted.slice(0, most).filter(({ resolves }, i) => i < ALWAYS_TRIED || resolves > MIN_GAIN_SHARE),
  };
}

/** Where along an axis it is cut, as shares of the extent; null for the middle of the surface. */
const PLACES = [null, 0.35, 0.65];

/** Planes across the three directions a fragment spreads along, the widest first, for art without folds to go by. */
export function evenPlanes(fragment: Fragment): (CutPlane & { halved: boolean })[] {
  const { middle, axes } = principalAxes(fragment);
  const { points: p } = fragment;
  const spans = axes.map((axis) => {
    let low = Infinity;
    let high = -Infinity;
    for (let i = 0; i < p.length; i += 3) {
      const h = axis[0] * p[i]! + axis[1] * p[i + 1]! + axis[2] * p[i + 2]!;
      if (h < low) low = h;
      if (h > high) high = h;
    }
    return { axis, low, extent: high - low };
  });
  const thinnest = 1e-3 * Math.hypot(...spans.map(({ extent }) => extent));
  return spans
    .filter(({ extent }) => extent >= thinnest)
    .flatMap(({ axis, low, extent }) =>
      PLACES.map((share) => ({
        nx: axis[0],
        ny: axis[1],
        nz: axis[2],
        d: share === null ? dot(axis, middle) : low + extent * share,
        halved: share === null,
      })),
    );
}

const offPlane = ({ nx, ny, nz, d }: CutPlane, p: ArrayLike<number>, v: number): number =>
  nx * p[v * 3]! + ny * p[v * 3 + 1]! + nz * p[v * 3 + 2]! - d;

/** Planes, each once. */
class PlaneSet {
  readonly list: (CutPlane & { first: boolean })[] = [];
  private readonly slots = new Map<string, (CutPlane & { first: boolean })[]>();

  constructor(private readonly size: number) {}

  add(normal: readonly [number, number, number], p: ArrayLike<number>, v: number, first = false): void {
    const l = Math.hypot(...normal);
    if (!(l > 1e-12)) return;
    let [nx, ny, nz] = [normal[0] / l, normal[1] / l, normal[2] / l];
    // One of the two ways to write a plane.
    const sign = nx + ny * 1.37 + nz * 1.91 < 0 ? -1 : 1;
    nx = snapped(nx * sign);
    ny = snapped(ny * sign);
    nz = snapped(nz * sign);
    const d = nx * p[v * 3]! + ny * p[v * 3 + 1]! + nz * p[v * 3 + 2]!;
    const key = `${Math.round(nx * 20)},${Math.round(ny * 20)},${Math.round(nz * 20)}`;
    const same = this.slots.get(key) ?? [];
    const near = (q: CutPlane) =>
      Math.abs(q.nx - nx) < SAME_TURN &&
      Math.abs(q.ny - ny) < SAME_TURN &&
      Math.abs(q.nz - nz) < SAME_TURN &&
      Math.abs(
        nx * p[v * 3]! +
          ny * p[v * 3 + 1]! +
          nz * p[v * 3 + 2]! -
          (q.nx * p[v * 3]! + q.ny * p[v * 3 + 1]! + q.nz * p[v * 3 + 2]!) -
          d +
          q.d,
      ) <
        this.size * SAME_PLACE;
    const known = same.find(near);
    if (known) {
      known.first ||= first;
      return;
    }
    const plane = { nx, ny, nz, d, first };
    same.push(plane);
    this.slots.set(key, same);
    this.list.push(plane);
  }
}

/** A direction almost along an axis is along it: art is drawn straight and stored in single precision. */
const snapped = (v: number): number =>
  Math.abs(v) < 1e-6 ? 0 : Math.abs(Math.abs(v) - 1) < 1e-9 ? Math.sign(v) : v;

function concaveEdges({ points: p, triangles, faces }: Fragment): ConcaveEdge[] {
  const table = new EdgeTable(faces * 3);
  const first = new Int32Array(faces * 3).fill(-1);
  const second = new Int32Array(faces * 3).fill(-1);
  const normals = new Float64Array(faces * 3);
  for (let f = 0; f < faces; f++) {
    const [a, b, c] = [triangles[f * 3]! * 3, triangles[f * 3 + 1]! * 3, triangles[f * 3 + 2]! * 3];
    const [nx, ny, nz] = areaVector(p, a, b, c);
    const l = Math.hypot(nx, ny, nz) || 1;
    normals[f * 3] = nx / l;
    normals[f * 3 + 1] = ny / l;
    normals[f * 3 + 2] = nz / l;
    for (let k = 0; k < 3; k++) {
      const [from, to] = [triangles[f * 3 + k]!, triangles[f * 3 + ((k + 1) % 3)]!];
      if (from === to) continue;
      const edge = table.edge(from, to);
      if (first[edge]! < 0) first[edge] = f;
      else if (second[edge]! < 0) second[edge] = f;
    }
  }
  const out: ConcaveEdge[] = [];
  for (let e = 0; e < table.count; e++) {
    const [f, g] = [first[e]!, second[e]!];
    if (g < 0) continue;
    const m: [number, number, number] = [normals[f * 3]!, normals[f * 3 + 1]!, normals[f * 3 + 2]!];
    const n: [number, number, number] = [normals[g * 3]!, normals[g * 3 + 1]!, normals[g * 3 + 2]!];
    const [a, b] = [table.low[e]!, table.high[e]!];
    // The third corner of one face in front of the other: folded inward.
    const apex = [0, 1, 2].map((k) => triangles[g * 3 + k]!).find((v) => v !== a && v !== b)!;
    const [dx, dy, dz] = [0, 1, 2].map((k) => p[apex * 3 + k]! - p[a * 3 + k]!) as [number, number, number];
    if (!(m[0] * dx + m[1] * dy + m[2] * dz > 0)) continue;
    const cos = Math.min(1, m[0] * n[0] + m[1] * n[1] + m[2] * n[2]);
    const fold = Math.acos(Math.max(-1, cos));
    if (fold < MIN_FOLD_RADIANS) continue;
    const length = Math.hypot(
      p[a * 3]! - p[b * 3]!,
      p[a * 3 + 1]! - p[b * 3 + 1]!,
      p[a * 3 + 2]! - p[b * 3 + 2]!,
    );
    out.push({ a, b, m, n, fold, weight: length * fold });
  }
  return out;
}
