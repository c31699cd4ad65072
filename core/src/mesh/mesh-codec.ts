import * as z from 'zod';
import type { Mesh } from './mesh.js';

/** Stored bytes that are not a mesh of ours. */
export class MeshCodecError extends Error {
  override readonly name = 'MeshCodecError';
}

const MAGIC = 0x314d4259; // "YBM1", little endian
const size = z.number().int().nonnegative();

const headerSchema = z.object({
  vertices: size,
  triangles: size,
  /** bytes a coordinate: 4 when every position is a float32 exactly, else 8 */
  coordinate: z.union([z.literal(4), z.literal(8)]),
  normals: z.boolean(),
  tangents: z.boolean(),
  colors: z.boolean(),
  uvSets: z.number().int().min(0).max(16),
  groups: z.array(z.object({ material: z.number().int().min(-1), start: size, count: size })),
});

/**
 * A mesh as the bytes it is stored and named by: magic, header length, JSON header, then the
 * arrays in fixed order, each padded to 8 bytes. Equal meshes give equal bytes.
 */
export function encodeMesh(mesh: Mesh): Uint8Array {
  const single = Float32Array.from(mesh.positions);
  const exact = mesh.positions.every((value, i) => value === single[i]);
  const header = new TextEncoder().encode(
    JSON.stringify({
      vertices: mesh.positions.length / 3,
      triangles: mesh.indices.length / 3,
      coordinate: exact ? 4 : 8,
      normals: !!mesh.normals,
      tangents: !!mesh.tangents,
      colors: !!mesh.colors,
      uvSets: mesh.uvs.length,
      groups: mesh.groups.map(({ material, start, count }) => ({ material, start, count })),
    } satisfies z.infer<typeof headerSchema>),
  );
  const arrays = [
    exact ? single : mesh.positions,
    mesh.indices,
    mesh.normals,
    mesh.tangents,
    mesh.colors,
    ...mesh.uvs,
  ]
    .filter((array) => array !== undefined)
    .map((array) => new Uint8Array(array.buffer, array.byteOffset, array.byteLength));
  const start = padded(8 + header.length);
  const bytes = new Uint8Array(start + arrays.reduce((sum, array) => sum + padded(array.length), 0));
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, header.length, true);
  bytes.set(header, 8);
  let at = start;
  for (const array of arrays) {
    bytes.set(array, at);
    at += padded(array.length);
  }
  return bytes;
}

/** @throws MeshCodecError when the bytes are cut off, altered or of another kind */
export function decodeMesh(bytes: Uint8Array): Mesh {
  if (bytes.length < 8) throw new MeshCodecError('stored mesh is shorter than its header');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== MAGIC) throw new MeshCodecError('stored mesh does not start with its mark');
  const headerLength = view.getUint32(4, true);
  if (8 + headerLength > bytes.length) throw new MeshCodecError('stored mesh header is cut off');
  const header = parseHeader(bytes.subarray(8, 8 + headerLength));
  const { vertices, triangles } = header;

  let at = padded(8 + headerLength);
  const take = (byteLength: number): ArrayBuffer => {
    if (at + byteLength > bytes.length)
      throw new MeshCodecError(`stored mesh is cut off at byte ${bytes.length}`);
    const part = bytes.slice(at, at + byteLength).buffer;
    at += padded(byteLength);
    return part;
  };
  const floats = (perVertex: number) => new Float32Array(take(vertices * perVertex * 4));
  const positions =
    header.coordinate === 4 ? Float64Array.from(floats(3)) : new Float64Array(take(vertices * 24));
  const indices = new Uint32Array(take(triangles * 12));
  if (indices.some((v) => v >= vertices))
    throw new MeshCodecError('stored mesh names a vertex it does not have');
  return {
    positions,
    indices,
    normals: header.normals ? floats(3) : undefined,
    tangents: header.tangents ? floats(4) : undefined,
    colors: header.colors ? floats(4) : undefined,
    uvs: Array.from({ length: header.uvSets }, () => floats(2)),
    groups: header.groups,
  };
}

const padded = (n: number) => Math.ceil(n / 8) * 8;

function parseHeader(bytes: Uint8Array): z.infer<typeof headerSchema> {
  try {
    return headerSchema.parse(JSON.parse(new TextDecoder().decode(bytes)));
  } catch {
    throw new MeshCodecError('stored mesh header cannot be read');
  }
}
