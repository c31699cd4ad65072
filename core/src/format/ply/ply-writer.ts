import { joinMeshes } from '../../mesh/index.js';
import type { Scene } from '../../piece/index.js';
import { standing } from '../standing.js';

/** All parts of a scene where they stand as one binary PLY, with normals, colours and the first UV set. */
export function writePly(scene: Scene): Uint8Array {
  const mesh = joinMeshes(standing(scene).map((part) => part.mesh));
  const n = mesh.positions.length / 3;
  const t = mesh.indices.length / 3;
  const exact = mesh.positions.every((v) => v === Math.fround(v));
  const size = exact ? 4 : 8;
  const uv = mesh.uvs[0];
  // Colours that are whole 255ths are written the way every reader takes them.
  const bytesDo = mesh.colors?.every(
    (c) => Math.abs(c * 255 - Math.round(c * 255)) < 1e-4 && c >= 0 && c <= 1,
  );
  const place = exact ? 'float' : 'double';
  const header = [
    'ply',
    'format binary_little_endian 1.0',
    'comment written by Yard Brace',
    `element vertex ${n}`,
    ...['x', 'y', 'z'].map((axis) => `property ${place} ${axis}`),
    ...(mesh.normals ? ['nx', 'ny', 'nz'].map((axis) => `property float ${axis}`) : []),
    ...(uv ? ['s', 't'].map((axis) => `property float ${axis}`) : []),
    ...(mesh.colors
      ? ['red', 'green', 'blue', 'alpha'].map(
          (channel) => `property ${bytesDo ? 'uchar' : 'float'} ${channel}`,
        )
      : []),
    `element face ${t}`,
    'property list uchar int vertex_indices',
    'end_header\n',
  ].join('\n');
  const start = new TextEncoder().encode(header);
  const stride = size * 3 + (mesh.normals ? 12 : 0) + (uv ? 8 : 0) + (mesh.colors ? (bytesDo ? 4 : 16) : 0);
  const bytes = new Uint8Array(start.length + n * stride + t * 13);
  bytes.set(start);
  const view = new DataView(bytes.buffer);
  let at = start.length;
  const single = (value: number) => {
    view.setFloat32(at, value, true);
    at += 4;
  };
  for (let v = 0; v < n; v++) {
    for (let k = 0; k < 3; k++) {
      if (exact) view.setFloat32(at, mesh.positions[v * 3 + k]!, true);
      else view.setFloat64(at, mesh.positions[v * 3 + k]!, true);
      at += size;
    }
    if (mesh.normals) for (let k = 0; k < 3; k++) single(mesh.normals[v * 3 + k]!);
    if (uv) {
      single(uv[v * 2]!);
      single(1 - uv[v * 2 + 1]!);
    }
    for (let k = 0; mesh.colors && k < 4; k++) {
      if (bytesDo) view.setUint8(at++, Math.round(mesh.colors[v * 4 + k]! * 255));
      else single(mesh.colors[v * 4 + k]!);
    }
  }
  for (let f = 0; f < t; f++) {
    view.setUint8(at++, 3);
    for (let k = 0; k < 3; k++, at += 4) view.setInt32(at, mesh.indices[f * 3 + k]!, true);
  }
  return bytes;
}
