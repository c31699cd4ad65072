import type { Mesh } from '../mesh/index.js';
import type { PieceDocument } from './document.js';
import { applyEdit } from './edits/index.js';
import { artNodes } from './geometry.js';
import { extractPiece, piecesIn } from './pieces-in.js';
import { operate } from './reshape/index.js';

export interface NewArtFor {
  /** the new file as a piece of its own, as far as it stands for the old one */
  document: PieceDocument;
  /** bytes of meshes that are not in the file as they are now, by the names of their bytes */
  blobs: ReadonlyMap<string, Uint8Array>;
}

/**
 * What of a newer file is new art for a piece: of a file of several pieces the one that bears its names, with its
 * materials in the order that the person gave those of the piece.
 */
export async function newArtFor(
  old: PieceDocument,
  file: PieceDocument,
  meshOf: (blob: string) => Mesh,
): Promise<NewArtFor> {
  const fresh = pieceWithin(old, file, meshOf);
  const order = materialOrder(old, fresh);
  if (!order) return { document: fresh, blobs: new Map() };
  const { edit, blobs } = await operate(fresh, { op: 'order-materials', order }, meshOf);
  return { document: applyEdit(fresh, edit), blobs };
}

/** The piece of a file whose parts share most names with those of another; the whole file where that shares as many. */
function pieceWithin(old: PieceDocument, file: PieceDocument, meshOf: (blob: string) => Mesh): PieceDocument {
  const pieces = piecesIn(file);
  if (pieces.length < 2) return file;
  const wanted = partNames(old);
  // Names that both have, of all that either has.
  const likeness = (names: ReadonlySet<string>) => {
    const both = [...names].filter((name) => wanted.has(name)).length;
    return both / (names.size + wanted.size - both);
  };
  let [best, most] = [file, likeness(partNames(file))];
  for (const tops of pieces) {
    const piece = extractPiece(file, tops, meshOf, () => old.meshName);
    const like = likeness(partNames(piece));
    if (like > most) [best, most] = [piece, like];
  }
  return best;
}

/** What its parts were called in their file. */
const partNames = ({ nodes }: PieceDocument): Set<string> =>
  new Set(artNodes(nodes).map((i) => nodes[i]!.cameAs ?? nodes[i]!.name));

/** The order in which materials that both have stand as in the old piece, and new ones after them; null when it is so. */
function materialOrder(old: PieceDocument, { materials }: PieceDocument): number[] | null {
  const kept = old.materials
    .map(({ name, cameAs }) => materials.findIndex((other) => other.name === (cameAs ?? name)))
    .filter((m, i, all) => m >= 0 && all.indexOf(m) === i);
  const order = [...kept, ...materials.keys()].filter((m, i, all) => all.indexOf(m) === i);
  return order.every((m, i) => m === i) ? null : order;
}
