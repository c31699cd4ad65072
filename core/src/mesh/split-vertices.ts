import type { Mesh } from './mesh.js';
import { pickVertices } from './take-faces.js';

/** The mesh with no vertex shared between chosen faces and the others. */
export function splitAtFaces(mesh: Mesh, chosen: Uint8Array): Mesh {
  const n = mesh.positions.length / 3;
  const byRest = new Uint8Array(n);
  for (let i = 0; i < mesh.indices.length; i++) if (!chosen[(i / 3) | 0]) byRest[mesh.indices[i]!] = 1;
  const picks = Array.from({ length: n }, (_, v) => v);
  const copy = new Map<number, number>();
  const indices = mesh.indices.map((v, i) => {
    if (!chosen[(i / 3) | 0] || !byRest[v]) return v;
    let twin = copy.get(v);
    if (twin === undefined) copy.set(v, (twin = picks.push(v) - 1));
    return twin;
  });
  return { ...pickVertices(mesh, picks), indices };
}
