import { faceNeighbours, type Mesh, weld } from '../mesh/index.js';

/** Faces that stand out at a corner or in their middle, in connected areas, the one with most faces first. */
export function uncoveredAreas(
  mesh: Pick<Mesh, 'positions' | 'indices'>,
  vertices: Float32Array,
  tolerance: number,
  off: (x: number, y: number, z: number) => number,
): number[][] {
  const { positions: p, indices } = mesh;
  const out = new Uint8Array(indices.length / 3);
  for (let f = 0; f < out.length; f++) {
    const [a, b, c] = [indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!];
    const most = Math.max(vertices[a]!, vertices[b]!, vertices[c]!);
    const middle = (k: number) => (p[a * 3 + k]! + p[b * 3 + k]! + p[c * 3 + k]!) / 3;
    if (most > tolerance || off(middle(0), middle(1), middle(2)) > tolerance) out[f] = 1;
  }
  return connectedAreas(out, out.includes(1) ? neighboursOf(mesh) : new Int32Array());
}

/** For each side of each face the face across it, or -1; places that lie together are one. */
export const neighboursOf = (mesh: Pick<Mesh, 'positions' | 'indices'>): Int32Array =>
  faceNeighbours({ ...mesh, uvs: [], groups: [] }, weld(mesh.positions));

/**
 * Marked faces in connected areas, the one with most faces first.
 *
 * @param out [t]: 1 where a face is marked; changed in place
 */
export function connectedAreas(out: Uint8Array, neighbours: ArrayLike<number>): number[][] {
  const areas: number[][] = [];
  for (let seed = 0; seed < out.length; seed++) {
    if (out[seed] !== 1) continue;
    out[seed] = 2;
    const area = [seed];
    for (const face of area)
      for (let k = face * 3; k < face * 3 + 3; k++) {
        const other = neighbours[k]!;
        if (other < 0 || out[other] !== 1) continue;
        out[other] = 2;
        area.push(other);
      }
    areas.push(area.sort((a, b) => a - b));
  }
  return areas.sort((a, b) => b.length - a.length);
}
