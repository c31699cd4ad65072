import { MeshoptSimplifier } from 'meshoptimizer';
import { centreOf, floatsAbout } from '../math/index.js';
import { type Mesh, meshBounds, type SurfaceGroup } from './mesh.js';
import { shareVertices } from './take-faces.js';

export interface ReduceOptions {
  /** share of the triangles to keep, 0 to 1 */
  share?: number;
  /** most that the surface may move, in the unit of the positions. Default: any */
  error?: number;
}

/**
 * Fewer triangles on the same vertices, each material on its own with its border held, so that
 * materials still meet. Vertices keep what they carry. (Quadric error metrics, by meshoptimizer.)
 */
export async function reduceMesh(
  mesh: Mesh,
  { share = 0, error = Infinity }: ReduceOptions,
): Promise<{ mesh: Mesh; error: number }> {
  await MeshoptSimplifier.ready;
  const bounds = meshBounds(mesh);
  const centre = centreOf(bounds);
  const positions = floatsAbout(mesh.positions, centre);
  const scale = MeshoptSimplifier.getScale(positions, 3) || 1;
  const kept: Uint32Array[] = [];
  const groups: SurfaceGroup[] = [];
  let reached = 0;
  let start = 0;
  for (const group of mesh.groups) {
    const corners = mesh.indices.slice(group.start * 3, (group.start + group.count) * 3);
    const wanted = Math.max(1, Math.round(group.count * share)) * 3;
    const flags: 'LockBorder'[] = mesh.groups.length > 1 ? ['LockBorder'] : [];
    const [indices, off] = MeshoptSimplifier.simplify(
      corners,
      positions,
      3,
      wanted,
      Number.isFinite(error) ? error / scale : 1e10,
      flags,
    );
    reached = Math.max(reached, off * scale);
    kept.push(indices);
    groups.push({ material: group.material, start, count: indices.length / 3 });
    start += indices.length / 3;
  }
  const indices = new Uint32Array(start * 3);
  kept.forEach((part, i) => indices.set(part, groups[i]!.start * 3));
  return { mesh: shareVertices({ ...mesh, indices, groups }), error: reached };
}
