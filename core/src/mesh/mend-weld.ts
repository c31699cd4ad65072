import type { Mesh } from './mesh.js';
import { shareVertices, takeFaces } from './take-faces.js';
import { weld } from './weld.js';

/**
 * Vertices within `tolerance` of each other move to one place; what they carry stays, so seams in UVs and
 * normals stay seams. Faces that collapse go, vertices that are the same in everything become one.
 *
 * @param measured [3n]: where distances are measured, when that is not the mesh's own space
 */
export function weldMesh(mesh: Mesh, tolerance: number, measured = mesh.positions): Mesh {
  const { remap, first } = weld(measured, tolerance);
  const positions = new Float64Array(mesh.positions.length);
  for (let v = 0; v < remap.length; v++) {
    const source = first[remap[v]!]! * 3;
    for (let k = 0; k < 3; k++) positions[v * 3 + k] = mesh.positions[source + k]!;
  }
  const stands = (face: number) => {
    const [a, b, c] = [0, 1, 2].map((k) => remap[mesh.indices[face * 3 + k]!]!) as [number, number, number];
    return a !== b && b !== c && c !== a;
  };
  return shareVertices(takeFaces({ ...mesh, positions }, stands));
}
