import * as z from 'zod';
import { MeshCodecError } from './mesh-codec.js';

const MAGIC = 0x31504259; // "YBP1", little endian
const headerSchema = z.array(z.tuple([z.string().max(100), z.number().int().nonnegative()]));

/**
 * Many encoded meshes as one run of bytes, so that a piece of thousands of parts is stored and fetched in a
 * few requests: magic, header length, JSON list of `[id, bytes]`, then the meshes one after the other.
 */
export function packMeshes(meshes: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const list = [...meshes];
  const header = new TextEncoder().encode(JSON.stringify(list.map(([id, { length }]) => [id, length])));
  const out = new Uint8Array(8 + header.length + list.reduce((sum, [, bytes]) => sum + bytes.length, 0));
  const view = new DataView(out.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, header.length, true);
  out.set(header, 8);
  let at = 8 + header.length;
  for (const [, bytes] of list) {
    out.set(bytes, at);
    at += bytes.length;
  }
  return out;
}

/** The encoded meshes of a pack by id; null for bytes that are no pack. @throws MeshCodecError for a torn one */
export function unpackMeshes(bytes: Uint8Array): Map<string, Uint8Array> | null {
  if (bytes.length < 8) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== MAGIC) return null;
  let at = 8 + view.getUint32(4, true);
  const list = parseHeader(bytes.subarray(8, at));
  if (at + list.reduce((sum, [, length]) => sum + length, 0) !== bytes.length)
    throw new MeshCodecError('a pack of stored meshes is cut off');
  return new Map(list.map(([id, length]) => [id, bytes.subarray(at, (at += length))]));
}

function parseHeader(bytes: Uint8Array): z.infer<typeof headerSchema> {
  try {
    return headerSchema.parse(JSON.parse(new TextDecoder().decode(bytes)));
  } catch {
    throw new MeshCodecError('the header of a pack of stored meshes cannot be read');
  }
}
