import {
  shellsOf,
  faceNeighbours,
  faceNormals,
  MANY_NEIGHBOURS,
  type Mesh,
  meshBounds,
  NO_NEIGHBOUR,
  weld,
} from '../mesh/index.js';
import { diagonalOf } from '../math/index.js';
import { hiddenFaces, insideOutShells, specks } from './hidden-faces.js';

/** The kinds of fault a place in the view can be shown for. */
export const FAULT_KINDS = [
  'open-edges',
  'non-manifold',
  'flipped',
  'inside-out',
  'doubled-faces',
  'zero-area',
  'hidden-faces',
  'specks',
] as const;
export type FaultKind = (typeof FAULT_KINDS)[number];

/** Where a fault is: faces, and edges as pairs of vertex numbers. */
export interface FaultPlaces {
  faces: number[];
  edges: number[];
}

/** Every place of one kind of fault. */
export function faultPlaces(mesh: Mesh, kind: FaultKind): FaultPlaces {
  const joined = weld(mesh.positions);
  const neighbours = faceNeighbours(mesh, joined);
  const sidesWhere = (test: (side: number) => boolean): FaultPlaces => {
    const edges: number[] = [];
    for (let side = 0; side < neighbours.length; side++)
      if (test(side)) edges.push(mesh.indices[side]!, mesh.indices[side % 3 === 2 ? side - 2 : side + 1]!);
    return { faces: [], edges };
  };
  const facesWhere = (marks: Uint8Array): FaultPlaces => ({
    faces: marks.reduce<number[]>((list, mark, f) => (mark && list.push(f), list), []),
    edges: [],
  });
  const place = (corner: number) => joined.remap[mesh.indices[corner]!]!;
  switch (kind) {
    case 'open-edges':
      return sidesWhere((side) => neighbours[side] === NO_NEIGHBOUR && !isPoint(mesh, joined.remap, side));
    case 'non-manifold':
      return sidesWhere((side) => neighbours[side] === MANY_NEIGHBOURS);
    case 'flipped':
      return sidesWhere((side) => {
        const other = neighbours[side]!;
        if (other < 0) return false;
        const [a, b] = [place(side), place(side % 3 === 2 ? side - 2 : side + 1)];
        return [0, 1, 2].some((k) => place(other * 3 + k) === a && place(other * 3 + ((k + 1) % 3)) === b);
      });
    case 'inside-out': {
      const shells = shellsOf(mesh, joined);
      const wrong = new Set(insideOutShells(mesh, shells, neighbours));
      return facesWhere(Uint8Array.from(shells.ofTriangle, (s) => (wrong.has(s) ? 1 : 0)));
    }
    case 'doubled-faces':
      return facesWhere(doubledFaces(mesh, joined.remap));
    case 'zero-area':
      return facesWhere(zeroAreaFaces(mesh));
    case 'hidden-faces':
      return facesWhere(hiddenFaces(mesh, joined));
    case 'specks':
      return facesWhere(specks(mesh, shellsOf(mesh, joined)));
  }
}

function isPoint(mesh: Mesh, remap: Uint32Array, side: number): boolean {
  return remap[mesh.indices[side]!] === remap[mesh.indices[side % 3 === 2 ? side - 2 : side + 1]!];
}

/** Triangles that stand on the same three places as an earlier one. Shape: [t]. */
export function doubledFaces(mesh: Mesh, remap: Uint32Array = weld(mesh.positions).remap): Uint8Array {
  const seen = new Set<string>();
  const out = new Uint8Array(mesh.indices.length / 3);
  for (let f = 0; f < out.length; f++) {
    const [a, b, c] = [0, 1, 2].map((k) => remap[mesh.indices[f * 3 + k]!]!) as [number, number, number];
    if (a === b || b === c || c === a) continue;
    const key = [a, b, c].sort((x, y) => x - y).join();
    if (seen.has(key)) out[f] = 1;
    else seen.add(key);
  }
  return out;
}

/** Triangles with no area to speak of, measured as `massOf` does. Shape: [t]. */
export function zeroAreaFaces(mesh: Mesh): Uint8Array {
  const size = diagonalOf(meshBounds(mesh));
  const flat = size * size * 1e-18;
  const normals = faceNormals(mesh.positions, mesh.indices);
  const { positions: p, indices } = mesh;
  const squared = (a: number, b: number) =>
    (p[a * 3]! - p[b * 3]!) ** 2 +
    (p[a * 3 + 1]! - p[b * 3 + 1]!) ** 2 +
    (p[a * 3 + 2]! - p[b * 3 + 2]!) ** 2;
  return Uint8Array.from({ length: indices.length / 3 }, (_, f) => {
    const twice = normals[f * 3]! ** 2 + normals[f * 3 + 1]! ** 2 + normals[f * 3 + 2]! ** 2;
    const [a, b, c] = [indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!];
    return twice <= flat * Math.max(squared(a, b), squared(a, c)) ? 1 : 0;
  });
}
