import { decodeMesh, type Mesh, MeshCodecError, packMeshes, unpackMeshes } from '../mesh/index.js';
import { blobId } from './blob-id.js';

/** A pack is closed when it has come to this many bytes. */
const PACK_BYTES = 8 * 2 ** 20;

export interface PackedUp {
  /** what is to be stored, by its name: packs, and meshes that are alone */
  blobs: Map<string, Uint8Array>;
  /** the pack a mesh is in, by the mesh's id; a mesh that is alone is in none */
  packOf: Map<string, string>;
}

/** Encoded meshes gathered into packs, in the order they are given: the same meshes give the same packs. */
export function packUp(meshes: ReadonlyMap<string, Uint8Array>): PackedUp {
  const packed: PackedUp = { blobs: new Map(), packOf: new Map() };
  let open = new Map<string, Uint8Array>();
  let bytes = 0;
  const close = () => {
    const [first] = open;
    if (open.size === 1) packed.blobs.set(...first!);
    else if (open.size) {
      const pack = packMeshes(open);
      const id = blobId(pack);
      packed.blobs.set(id, pack);
      for (const mesh of open.keys()) packed.packOf.set(mesh, id);
    }
    open = new Map();
    bytes = 0;
  };
  for (const [id, mesh] of meshes) {
    open.set(id, mesh);
    bytes += mesh.length;
    if (bytes >= PACK_BYTES) close();
  }
  close();
  return packed;
}

/** Decodes meshes by id out of stored bytes, in packs or not. Packs put in later are found, too. */
export function meshReader(blobs: ReadonlyMap<string, Uint8Array>): (id: string) => Mesh {
  const packed = new Map<string, Uint8Array>();
  let seen = 0;
  return (id) => {
    if (!blobs.has(id) && !packed.has(id) && seen < blobs.size) {
      for (const bytes of blobs.values()) for (const part of unpackMeshes(bytes) ?? []) packed.set(...part);
      seen = blobs.size;
    }
    const bytes = blobs.get(id) ?? packed.get(id);
    if (!bytes) throw new MeshCodecError(`the mesh ${id.slice(0, 12)}… is not among the stored bytes`);
    return decodeMesh(bytes);
  };
}
