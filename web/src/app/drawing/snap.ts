import { cross, distance, length, normalized, subtract, type Vec3 } from '@yard-brace/core';
import type { ArtToDraw } from './art-to-draw';

export type SnapKind = 'vertex' | 'edge middle' | 'face centre' | 'edge' | 'face' | 'ground';

/** A point of the art that the pointer catches on. */
export interface Snap {
  kind: SnapKind;
  at: Vec3;
  /** unit normal of the face */
  normal: Vec3;
  /** the nearest edge of the face, end to end */
  edge: [Vec3, Vec3];
  /**
   * the nearest edge that is one of the piece and not of its triangles: a side of a flat region, a crease, a border, or
   * where materials meet; none on a single triangle of what is curved
   */
  feature?: [Vec3, Vec3];
}

/** How near, in CSS pixels, the pointer must come to catch. */
const CATCH_PIXELS = 11;

/**
 * What the pointer catches on a face it is over: its vertices first, then edge middles and the centre, then the
 * edge itself, else the place on the face.
 *
 * @param onScreen a point of the piece's space in CSS pixels
 */
export function snapOnFace(
  art: ArtToDraw,
  face: number,
  hit: Vec3,
  pointer: readonly [number, number],
  onScreen: (p: Vec3) => [number, number],
): Snap {
  const corners = [0, 1, 2].map((k) => cornerAt(art, face * 3 + k)) as [Vec3, Vec3, Vec3];
  const mix = (a: Vec3, b: Vec3, share: number): Vec3 => a.map((v, i) => v + (b[i]! - v) * share) as Vec3;
  const away = (p: Vec3) => {
    const [x, y] = onScreen(p);
    return Math.hypot(x - pointer[0], y - pointer[1]);
  };
  const sideOf = (side: number): [Vec3, Vec3] => {
    const [p, q] = [cornerAt(art, side), cornerAt(art, side - (side % 3) + ((side + 1) % 3))];
    return [p, q];
  };
  const region = flatRegionOf(art, face);
  const sides = region.sides.map(sideOf);
  const features = region.features.map(sideOf);
  const alongSide = ([a, b]: [Vec3, Vec3]): Vec3 => {
    const d = b.map((v, i) => v - a[i]!);
    const l = d.reduce((sum, v) => sum + v * v, 0);
    const share = l > 0 ? d.reduce((sum, v, i) => sum + v * (hit[i]! - a[i]!), 0) / l : 0;
    return mix(a, b, Math.min(1, Math.max(0, share)));
  };
  const nearest = (among: readonly [Vec3, Vec3][]) =>
    among.reduce((best, side) =>
      distance(alongSide(side), hit) < distance(alongSide(best), hit) ? side : best,
    );
  const edge = nearest(sides);
  const feature = features.length ? { feature: nearest(features) } : {};
  const candidates: [SnapKind, Vec3][] = [
    ...corners.map((p): [SnapKind, Vec3] => ['vertex', p]),
    ...sides.map(([a, b]): [SnapKind, Vec3] => ['edge middle', mix(a, b, 0.5)]),
    ['face centre', region.centre],
    ['edge', alongSide(edge)],
  ];
  const order: SnapKind[][] = [['vertex'], ['edge middle', 'face centre'], ['edge']];
  const normal = unitNormal(corners);
  for (const kinds of order) {
    const near = candidates
      .filter(([kind, p]) => kinds.includes(kind) && away(p) <= CATCH_PIXELS)
      .sort((a, b) => away(a[1]) - away(b[1]))[0];
    if (near) return { kind: near[0], at: near[1], normal, edge, ...feature };
  }
  return { kind: 'face', at: hit, normal, edge, ...feature };
}

/** Faces of one flat region that are looked through for its edges, at most. */
const MAX_REGION_FACES = 4096;
/** Faces whose normals differ by less than this lie in one plane, as one minus the cosine. */
const COPLANAR_TOLERANCE = 1e-6;

/** Faces that turn by more than this meet in a crease, as a cosine: 20 degrees. */
const CREASE_COSINE = Math.cos(Math.PI / 9);

/** The flat region round a face. Sides are 3 * face + k. */
interface FlatRegion {
  /** what a person would call its edges: not the diagonals that cut polygons into triangles; all of the face where there are none */
  sides: number[];
  /**
   * those of its edges that are creases, borders, or where materials meet; all of them where it is more than one
   * triangle: a bevel turns by little and is an edge all the same
   */
  features: number[];
  centre: Vec3;
}

export function flatRegionOf({ neighbours, ...art }: ArtToDraw, face: number): FlatRegion {
  const cornersOf = (f: number) => [0, 1, 2].map((k) => cornerAt(art, f * 3 + k)) as [Vec3, Vec3, Vec3];
  const normalOf = (f: number) => unitNormal(cornersOf(f));
  const normal = normalOf(face);
  const cosine = (f: number) => normalOf(f).reduce((sum, v, k) => sum + v * normal[k]!, 0);
  const seen = new Set([face]);
  const sides: number[] = [];
  const features: number[] = [];
  const centre: Vec3 = [0, 0, 0];
  let total = 0;
  for (const f of seen) {
    const corners = cornersOf(f);
    const area = length(cross(subtract(corners[1], corners[0]), subtract(corners[2], corners[0]))) / 2;
    total += area;
    for (let k = 0; k < 3; k++) centre[k]! += ((corners[0][k]! + corners[1][k]! + corners[2][k]!) / 3) * area;
    for (let side = f * 3; side < f * 3 + 3; side++) {
      const other = neighbours[side] ?? -1;
      if (other >= 0 && materialAt(art.groups, other) !== materialAt(art.groups, f)) features.push(side);
      if (other < 0 || !(seen.has(other) || 1 - cosine(other) < COPLANAR_TOLERANCE)) {
        sides.push(side);
        if (other < 0 || cosine(other) < CREASE_COSINE) features.push(side);
      } else if (seen.size < MAX_REGION_FACES) seen.add(other);
    }
  }
  return {
    sides: sides.length ? sides : [0, 1, 2].map((k) => face * 3 + k),
    features: [...new Set([...features, ...(seen.size > 1 ? sides : [])])],
    centre: total > 0 ? (centre.map((v) => v / total) as Vec3) : cornersOf(face)[0],
  };
}

const materialAt = (groups: ArtToDraw['groups'], face: number): number | undefined =>
  groups.find(({ start, count }) => face >= start && face < start + count)?.material;

function cornerAt(
  { indices, positions, origin }: Pick<ArtToDraw, 'indices' | 'positions' | 'origin'>,
  corner: number,
): Vec3 {
  const v = indices[corner]! * 3;
  return [0, 1, 2].map((i) => positions[v + i]! + origin[i]!) as Vec3;
}

const unitNormal = ([a, b, c]: [Vec3, Vec3, Vec3]): Vec3 => normalized(cross(subtract(b, a), subtract(c, a)));
