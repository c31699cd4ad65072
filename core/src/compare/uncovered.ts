import { faceNeighbours, type Mesh, weld } from '../mesh/index.js';

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
