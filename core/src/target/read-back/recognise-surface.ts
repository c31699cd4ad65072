import { boundsOf, centreOf } from '../../math/index.js';
import { type Mesh, topologyOf, trianglesVolume } from '../../mesh/index.js';

/** What an importer makes of a mesh that is taken triangle by triangle. */
export function recogniseSurface(mesh: Mesh) {
  const warnings: string[] = [];
  const topology = topologyOf(mesh);
  const middle = centreOf(boundsOf(mesh.positions));
  const about = mesh.positions.map((v, i) => v - middle[(i % 3) as 0]);
  const facing = trianglesVolume(about, mesh.indices);
  if (!topology.openEdges && facing < 0)
    warnings.push('the faces of its closed surface are turned in: what is outside passes through');
  return {
    kind: 'surface' as const,
    volume: 0,
    area: areaOf(mesh),
    facing,
    corners: mesh.positions.length / 3,
    bounds: boundsOf(mesh.positions),
    filled: 0,
    cutBack: 0,
    warnings,
  };
}

function areaOf({ positions, indices }: Mesh): number {
  let area = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i]! * 3, indices[i + 1]! * 3, indices[i + 2]! * 3];
    const [ux, uy, uz] = [0, 1, 2].map((k) => positions[b + k]! - positions[a + k]!) as [
      number,
      number,
      number,
    ];
    const [vx, vy, vz] = [0, 1, 2].map((k) => positions[c + k]! - positions[a + k]!) as [
      number,
      number,
      number,
    ];
    area += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
  }
  return area;
}
