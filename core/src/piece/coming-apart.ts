import { determinant3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import type { PieceDocument } from './document.js';
import { type PlacedArt, placedMatrices } from './geometry.js';
import { partsNamed } from './nodes.js';
import type { OperationOf } from './reshape/operation.js';
import { shellsToSplit } from './reshape/split.js';

/** A split that can be looked at before it is made. */
export type SplitToTry = OperationOf<'split-shells'> | OperationOf<'split-materials'>;

/** What a part would fall into: one of its pieces, or a shell that is too small to be one. */
export interface ComingPiece {
  /** id of the part */
  part: string;
  faces: number;
  /** longest side of its bounds where it stands, metres */
  metres: number;
  /** it stays with the piece that is nearest */
  speck: boolean;
}

export interface ComingApart {
  /** pieces and specks of each part together, the largest first */
  pieces: ComingPiece[];
  /** [t]: number of the piece that each face of the placed art would be in; -1 where nothing comes apart */
  ofFace: Int32Array;
}

/** What would come apart by a split, without making it. */
export function comingApart(
  document: PieceDocument,
  meshOf: (id: string) => Mesh,
  placed: PlacedArt,
  split: SplitToTry,
): ComingApart {
  const asked = new Set(partsNamed(document, split.parts));
  const world = placedMatrices(document);
  const ofFace = new Int32Array(placed.node.length).fill(-1);
  const pieces: ComingPiece[] = [];
  for (let from = 0, to = 0; from < ofFace.length; from = to) {
    const node = placed.node[from]!;
    while (to < ofFace.length && placed.node[to] === node) to++;
    const { id, mesh } = document.nodes[node]!;
    if (!asked.has(node)) continue;
    const { label, small } = labelled(meshOf(mesh!), split, Math.cbrt(Math.abs(determinant3(world[node]!))));
    const found = new Map<number, ComingPiece & { min: number[]; max: number[]; at: number[] }>();
    for (let f = from; f < to; f++) {
      const key = label[placed.face[f]!]!;
      const piece = found.get(key) ?? {
        part: id,
        faces: 0,
        metres: 0,
        speck: small?.[key] === 1,
        min: [Infinity, Infinity, Infinity],
        max: [-Infinity, -Infinity, -Infinity],
        at: [],
      };
      found.set(key, piece);
      piece.faces++;
      piece.at.push(f);
      for (let corner = 0; corner < 3; corner++)
        for (let k = 0; k < 3; k++) {
          const v = placed.mesh.positions[placed.mesh.indices[f * 3 + corner]! * 3 + k]!;
          piece.min[k] = Math.min(piece.min[k]!, v);
          piece.max[k] = Math.max(piece.max[k]!, v);
        }
    }
    // One piece with its specks round it stays what it is.
    if ([...found.values()].filter(({ speck }) => !speck).length < 2) continue;
    const rows = [...found.values()].sort((a, b) => Number(a.speck) - Number(b.speck) || b.faces - a.faces);
    for (const { min, max, at, ...piece } of rows) {
      for (const f of at) ofFace[f] = pieces.length;
      pieces.push({ ...piece, metres: Math.max(...max.map((v, k) => v - min[k]!)) });
    }
  }
  return { pieces, ofFace };
}

/** [t] of a mesh: what each face is told apart by, and which of these are specks. */
function labelled(
  mesh: Mesh,
  split: SplitToTry,
  metresPerUnit: number,
): { label: Uint32Array; small?: Uint8Array } {
  if (split.op === 'split-shells') {
    const { ofTriangle, small } = shellsToSplit(mesh, split.smallest / (metresPerUnit || 1));
    return { label: ofTriangle, small };
  }
  const label = new Uint32Array(mesh.indices.length / 3);
  for (const { start, count, material } of mesh.groups) label.fill(material, start, start + count);
  return { label };
}
