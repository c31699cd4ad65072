import { shellsOf, facesToTurn, type Mesh, shellVolumes } from '../mesh/index.js';
import { hollowShells } from './hidden-faces.js';

/** [t]: 1 for each face to turn so that neighbours agree, shells look outward and the insides of hollows into the hollow. */
export function facesToTurnOutward(mesh: Mesh): Uint8Array {
  const shells = shellsOf(mesh);
  const volumes = shellVolumes(mesh.positions, mesh.indices, shells.ofTriangle, shells.count);
  const inward = [...volumes.keys()].filter((shell) => volumes[shell]! < 0);
  const hollow = new Set(shells.count > 1 ? hollowShells(mesh, shells, inward) : []);
  return facesToTurn(mesh, (face) => hollow.has(shells.ofTriangle[face]!));
}
