import { faceNormals } from '../../mesh/index.js';
import type { Scene } from '../../piece/index.js';
import { standing } from '../standing.js';
import { TextSink } from '../text-sink.js';

/** All triangles of a scene where they stand, as binary STL in single precision. */
export function writeStl(scene: Scene): Uint8Array {
  const meshes = standing(scene).map(({ mesh }) => mesh);
  const count = meshes.reduce((sum, mesh) => sum + mesh.indices.length / 3, 0);
  const bytes = new Uint8Array(84 + count * 50);
  // The header does not start with "solid": readers that go by that word are not misled.
  bytes.set(new TextEncoder().encode('binary STL, written by Yard Brace'));
  const view = new DataView(bytes.buffer);
  view.setUint32(80, count, true);
  let at = 84;
  for (const { positions, indices } of meshes) {
    const normals = faceNormals(positions, indices);
    for (let t = 0; t < indices.length / 3; t++, at += 50) {
      const l = Math.hypot(normals[t * 3]!, normals[t * 3 + 1]!, normals[t * 3 + 2]!) || 1;
      for (let k = 0; k < 3; k++) view.setFloat32(at + k * 4, normals[t * 3 + k]! / l, true);
      for (let c = 0; c < 9; c++)
        view.setFloat32(at + 12 + c * 4, positions[indices[t * 3 + ((c / 3) | 0)]! * 3 + (c % 3)]!, true);
    }
  }
  return bytes;
}

/** The same as text, a solid a part, in numbers that read back exactly. */
export function writeStlText(scene: Scene): Uint8Array {
  const out = new TextSink();
  for (const { name, mesh } of standing(scene)) {
    const { positions: p, indices } = mesh;
    const normals = faceNormals(p, indices);
    out.line(`solid ${name}`);
    for (let t = 0; t < indices.length; t += 3) {
      const l = Math.hypot(normals[t]!, normals[t + 1]!, normals[t + 2]!) || 1;
      out.line(`facet normal ${normals[t]! / l} ${normals[t + 1]! / l} ${normals[t + 2]! / l}`);
      out.line('outer loop');
      for (let c = t; c < t + 3; c++) {
        const v = indices[c]! * 3;
        out.line(`vertex ${p[v]} ${p[v + 1]} ${p[v + 2]}`);
      }
      out.line('endloop');
      out.line('endfacet');
    }
    out.line(`endsolid ${name}`);
  }
  return out.bytes();
}
