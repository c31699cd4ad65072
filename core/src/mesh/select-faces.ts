import { areaVector, distanceToSegment, dot, normalized, type Vec3 } from '../math/index.js';
import { faceNormals } from './compute-normals.js';
import type { Mesh } from './mesh.js';

/**
 * Choosing faces. A selection is a byte a triangle, [t], 1 where it is chosen; `neighbours` is [3t] as
 * `faceNeighbours` gives it. All run in time linear in the faces.
 */
export type Selection = Uint8Array;

/** Everything that is connected with the seed by shared edges, as far as `joins` lets it. */
export function spread(
  neighbours: Int32Array,
  seeds: readonly number[],
  joins: (from: number, to: number) => boolean = () => true,
): Selection {
  const chosen = new Uint8Array(neighbours.length / 3);
  const waiting: number[] = [];
  for (const seed of seeds) {
    if (chosen[seed]) continue;
    chosen[seed] = 1;
    waiting.push(seed);
  }
  for (let face = waiting.pop(); face !== undefined; face = waiting.pop()) {
    for (let k = face * 3; k < face * 3 + 3; k++) {
      const next = neighbours[k]!;
      if (next < 0 || chosen[next] || !joins(face, next)) continue;
      chosen[next] = 1;
      waiting.push(next);
    }
  }
  return chosen;
}

export const connectedFaces = (neighbours: Int32Array, seed: number): Selection => spread(neighbours, [seed]);

/** The region round the seed whose faces lean no more than `angleRadians` away from it. */
export function flatRegion(
  mesh: Mesh,
  neighbours: Int32Array,
  seed: number,
  angleRadians: number,
): Selection {
  const normals = faceNormals(mesh.positions, mesh.indices);
  const limit = Math.cos(angleRadians) - 1e-9;
  const length = (f: number) => Math.hypot(normals[f * 3]!, normals[f * 3 + 1]!, normals[f * 3 + 2]!);
  const s = length(seed);
  return spread(neighbours, [seed], (_, to) => {
    const l = length(to);
    if (l === 0 || s === 0) return true;
    const dot =
      normals[to * 3]! * normals[seed * 3]! +
      normals[to * 3 + 1]! * normals[seed * 3 + 1]! +
      normals[to * 3 + 2]! * normals[seed * 3 + 2]!;
    return dot / (l * s) >= limit;
  });
}

/** One ring more: every face that touches the selection along an edge. */
export function grow(neighbours: Int32Array, chosen: Selection): Selection {
  const out = chosen.slice();
  for (let k = 0; k < neighbours.length; k++)
    if (neighbours[k]! >= 0 && chosen[neighbours[k]!]) out[(k / 3) | 0] = 1;
  return out;
}

/** One ring less: faces at the selection's edge leave it. The piece's own open border is no edge of it. */
export const shrink = (neighbours: Int32Array, chosen: Selection): Selection =>
  invert(grow(neighbours, invert(chosen)));

export const invert = (chosen: Selection): Selection => chosen.map((c) => (c ? 0 : 1));

export function withMaterial(mesh: Mesh, material: number): Selection {
  const out = new Uint8Array(mesh.indices.length / 3);
  for (const group of mesh.groups)
    if (group.material === material) out.fill(1, group.start, group.start + group.count);
  return out;
}

/** Faces that turn by more than this meet in an edge: 20 degrees. */
const EDGE_RADIANS = Math.PI / 9;

/**
 * The run of edges that goes on from one edge: along an open border, or along edges that are sharper than
 * `angleRadians`. It stops where the run forks or ends. Answers the faces on both sides and the sides
 * themselves (3 * face + k) in no particular order.
 */
export function edgeRun(
  mesh: Mesh,
  neighbours: Int32Array,
  remap: Uint32Array,
  startSide: number,
  angleRadians = EDGE_RADIANS,
): { faces: Selection; sides: number[] } {
  const normals = faceNormals(mesh.positions, mesh.indices);
  const limit = Math.cos(angleRadians);
  const border = neighbours[startSide]! < 0;
  const belongs = (side: number): boolean => {
    const other = neighbours[side]!;
    if (border || other < 0) return border && other < 0;
    const f = (side / 3) | 0;
    let dot = 0;
    let a = 0;
    let b = 0;
    for (let k = 0; k < 3; k++) {
      dot += normals[f * 3 + k]! * normals[other * 3 + k]!;
      a += normals[f * 3 + k]! ** 2;
      b += normals[other * 3 + k]! ** 2;
    }
    return dot < limit * Math.sqrt(a * b);
  };
  const ends = (side: number): [number, number] => [
    remap[mesh.indices[side]!]!,
    remap[mesh.indices[side % 3 === 2 ? side - 2 : side + 1]!]!,
  ];
  const at = new Map<number, number[]>();
  for (let side = 0; side < neighbours.length; side++) {
    // A sharp edge has two sides; the one of the lower face stands for both.
    if (neighbours[side]! >= 0 && neighbours[side]! < ((side / 3) | 0)) continue;
    if (side !== startSide && !belongs(side)) continue;
    for (const v of ends(side)) at.set(v, [...(at.get(v) ?? []), side]);
  }
  const sides = [startSide];
  const seen = new Set(sides);
  for (const start of ends(startSide)) {
    for (let v = start, from = startSide; ;) {
      const next = (at.get(v) ?? []).filter((side) => side !== from && !sameEdge(ends(side), ends(from)));
      if (next.length !== 1 || seen.has(next[0]!)) break;
      from = next[0]!;
      seen.add(from);
      sides.push(from);
      const [a, b] = ends(from);
      v = a === v ? b : a;
    }
  }
  const faces = new Uint8Array(neighbours.length / 3);
  for (const side of sides) {
    faces[(side / 3) | 0] = 1;
    if (neighbours[side]! >= 0) faces[neighbours[side]!] = 1;
  }
  return { faces, sides };
}

const sameEdge = (a: [number, number], b: [number, number]) =>
  (a[0] === b[0] && a[1] === b[1]) || (a[0] === b[1] && a[1] === b[0]);

/**
 * The side (3 * face + k) of a face that a point near it means: the nearest one that is a border or sharper than
 * `angleRadians`, or else the nearest.
 *
 * @param at in the mesh's space
 */
export function meantSide(
  mesh: Mesh,
  neighbours: Int32Array,
  face: number,
  at: Readonly<Vec3>,
  angleRadians = EDGE_RADIANS,
): number {
  const { positions: p, indices } = mesh;
  const corner = (side: number): Vec3 => {
    const v = indices[side]! * 3;
    return [p[v]!, p[v + 1]!, p[v + 2]!];
  };
  const away = (side: number) =>
    distanceToSegment(at, corner(side), corner(side % 3 === 2 ? side - 2 : side + 1));
  const nearestFirst = [0, 1, 2].map((k) => face * 3 + k).sort((a, b) => away(a) - away(b));
  const limit = Math.cos(angleRadians);
  const normalOf = (f: number) =>
    normalized(areaVector(p, ...([0, 1, 2].map((k) => indices[f * 3 + k]! * 3) as [number, number, number])));
  const isEdge = (side: number) =>
    neighbours[side]! < 0 || dot(normalOf(face), normalOf(neighbours[side]!)) < limit;
  return nearestFirst.find(isEdge) ?? nearestFirst[0]!;
}
