import { meshNameFrom } from '../naming/index.js';
import type { Mesh } from '../mesh/index.js';
import { meshReader, type PieceDocument, type Scene, takeIn } from '../piece/index.js';

/** A piece taken in from a scene, with a way to get at its meshes. */
export function pieceOf(
  scene: Scene,
  fileName = 'thing.obj',
): {
  document: PieceDocument;
  blobs: Map<string, Uint8Array>;
  meshOf: (blob: string) => Mesh;
  pictureOf: (blob: string) => Uint8Array;
} {
  const { document, blobs } = takeIn(scene, {
    files: [{ name: fileName, blob: 'a'.repeat(64), bytes: 1 }],
    meshName: meshNameFrom,
  });
  return { document, blobs, meshOf: meshReader(blobs), pictureOf: (blob) => blobs.get(blob)! };
}
