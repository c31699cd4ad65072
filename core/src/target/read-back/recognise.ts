import { convexHull, farthestOutside } from '../../hull/index.js';
import {
  boundsOf,
  type Bounds,
  centreOf,
  diagonalOf,
  distance,
  dot,
  normalized,
  subtract,
  type Vec3,
} from '../../math/index.js';
import { shellsOf, type Mesh, topologyOf, trianglesVolume } from '../../mesh/index.js';
import type { ShapeKind } from '../../shape/index.js';
import { recogniseSurface } from './recognise-surface.js';

/** What an importer makes of one tagged mesh. */
export type Recognised =
  | { refused: string }
  | {
      kind: ShapeKind;
      volume: number;
      corners: number;
      bounds: Bounds;
      filled: number;
      cutBack: number;
      warnings: string[];
    };

/** How far a vertex may lie off a primitive, as a share of its size: single precision leaves this much. */
const TOLERANCE_SHARE = 1e-4;

/**
 * Judge a mesh that a tag says is a `tagged` kind, as strictly as importers do: open and flat shapes are
 * refused, a primitive that is none is taken as a hull, a hull is filled where it caves in and reduced to
 * the limit.
 */
export function recognise(mesh: Mesh, tagged: ShapeKind, maxHullVertices: number): Recognised {
  const topology = topologyOf(mesh);
  if (topology.openEdges) return { refused: `the shape is open along ${topology.openEdges} edges` };
  const whole = convexHull(mesh.positions);
  if (whole.span !== 'solid') return { refused: 'the shape is flat and encloses nothing' };
  const bounds = boundsOf(mesh.positions);
  const warnings: string[] = [];
  if (tagged !== 'hull') {
    const primitive = { box: asBox, sphere: asSphere, capsule: asCapsule }[
      tagged as 'box' | 'sphere' | 'capsule'
    ]?.(mesh.positions);
    if (primitive)
      return {
        kind: tagged,
        bounds,
        filled: 0,
        cutBack: 0,
        warnings,
        corners: tagged === 'box' ? 8 : 0,
        ...primitive,
      };
    warnings.push(`the tag says ${tagged}, the mesh is none: treated as a hull`);
  }
  const hullVolume = volumeOf(whole.hull);
  const own = Math.abs(trianglesVolume(mesh.positions, mesh.indices));
  const cavesIn = hullVolume - own > hullVolume * 1e-4 || shellsOf(mesh).count > 1;
  const filled = cavesIn ? hullVolume - own : 0;
  if (cavesIn) warnings.push(`the shape caves in: ${filled.toPrecision(3)} m³ were filled`);
  const corners = whole.hull.points.length / 3;
  if (corners <= maxHullVertices)
    return { kind: 'hull', volume: hullVolume, corners, bounds, filled, cutBack: 0, warnings };
  const reduced = convexHull(mesh.positions, { maxVertices: maxHullVertices });
  if (reduced.span !== 'solid') return { refused: 'the shape is flat and encloses nothing' };
  const cutBack = farthestOutside(reduced.hull, whole.hull.points);
  warnings.push(
    `${corners} corners were reduced to ${maxHullVertices}, up to ${(cutBack * 1000).toPrecision(2)} mm short`,
  );
  return {
    kind: 'hull',
    volume: volumeOf(reduced.hull),
    corners: maxHullVertices,
    bounds: boundsOf(reduced.hull.points),
    filled,
    cutBack,
    warnings,
  };
}

/** Judge a mesh whose name says no kind: closed and convex it is a hull, else a surface. */
export function recogniseByItself(mesh: Mesh, maxHullVertices: number) {
  const whole = convexHull(mesh.positions);
  if (whole.span !== 'solid' || topologyOf(mesh).openEdges) return recogniseSurface(mesh);
  const own = Math.abs(trianglesVolume(mesh.positions, mesh.indices));
  const hollow = volumeOf(whole.hull) - own > volumeOf(whole.hull) * 1e-4;
  return hollow ? recogniseSurface(mesh) : recognise(mesh, 'hull', maxHullVertices);
}

function volumeOf(hull: { points: Float64Array; faces: number[][] }): number {
  const indices = hull.faces.flatMap((face) => face.slice(2).flatMap((v, i) => [face[0]!, face[i + 1]!, v]));
  return trianglesVolume(hull.points, indices);
}

/** Distinct places, packed as points. */
function places(positions: Float64Array): Vec3[] {
  const seen = new Map<string, Vec3>();
  for (let i = 0; i < positions.length; i += 3) {
    const p: Vec3 = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    seen.set(p.join(), p);
  }
  return [...seen.values()];
}

/** Eight places, and the three edges from one of them span the other seven at right angles. */
function asBox(positions: Float64Array): { volume: number } | null {
  const corners = places(positions);
  if (corners.length !== 8) return null;
  const size = diagonalOf(boundsOf(positions));
  const [from, ...others] = corners as [Vec3, ...Vec3[]];
  const spokes = others.map((p) => subtract(p, from)).sort((a, b) => dot(a, a) - dot(b, b));
  for (const a of spokes) {
    for (const b of spokes) {
      for (const c of spokes) {
        if (a === b || b === c || c === a) continue;
        const lengths = [a, b, c].map((edge) => Math.hypot(...edge)) as Vec3;
        const square =
          Math.max(
            Math.abs(dot(a, b)) / lengths[0],
            Math.abs(dot(b, c)) / lengths[1],
            Math.abs(dot(c, a)) / lengths[2],
          ) <
          size * TOLERANCE_SHARE;
        if (!square) continue;
        const spanned = [0, 1, 2, 3, 4, 5, 6, 7].every((k) => {
          const corner = from.map(
            (v, i) => v + (k & 1 ? a[i]! : 0) + (k & 2 ? b[i]! : 0) + (k & 4 ? c[i]! : 0),
          ) as Vec3;
          return corners.some((p) => distance(p, corner) < size * TOLERANCE_SHARE);
        });
        if (spanned) return { volume: lengths[0] * lengths[1] * lengths[2] };
      }
    }
  }
  return null;
}

/** What a recognised round shape is, said exactly: its vertices touch the bounds only here and there. */
interface Round {
  volume: number;
  bounds: Bounds;
}

function asSphere(positions: Float64Array): Round | null {
  const points = places(positions);
  const centre = centreOf(boundsOf(positions));
  const radii = points.map((p) => distance(p, centre));
  const radius = Math.max(...radii);
  if (points.length < 12 || radius - Math.min(...radii) > radius * TOLERANCE_SHARE) return null;
  return { volume: (4 / 3) * Math.PI * radius ** 3, bounds: grown({ min: centre, max: centre }, radius) };
}

function asCapsule(positions: Float64Array): Round | null {
  const points = places(positions);
  if (points.length < 12) return null;
  const centre = points.reduce(
    (sum, p) =>
      [sum[0] + p[0] / points.length, sum[1] + p[1] / points.length, sum[2] + p[2] / points.length] as Vec3,
    [0, 0, 0] as Vec3,
  );
  const pole = points.reduce((best, p) => (distance(p, centre) > distance(best, centre) ? p : best));
  const axis = normalized(subtract(pole, centre));
  const along = (p: Vec3) => dot(subtract(p, centre), axis);
  const aside = (p: Vec3) => Math.sqrt(Math.max(0, distance(p, centre) ** 2 - along(p) ** 2));
  const radius = Math.max(...points.map(aside));
  const half = distance(pole, centre) - radius;
  if (half < 0) return null;
  const off = (p: Vec3) => Math.abs(Math.hypot(aside(p), Math.max(0, Math.abs(along(p)) - half)) - radius);
  if (points.some((p) => off(p) > radius * 1e-3)) return null;
  const ends = [-half, half].flatMap((along) => centre.map((v, i) => v + axis[i]! * along));
  return {
    volume: Math.PI * radius ** 2 * (2 * half + (4 / 3) * radius),
    bounds: grown(boundsOf(ends), radius),
  };
}

const grown = ({ min, max }: Bounds, by: number): Bounds => ({
  min: [min[0] - by, min[1] - by, min[2] - by],
  max: [max[0] + by, max[1] + by, max[2] + by],
});
