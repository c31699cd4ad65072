import { MeshoptSimplifier } from 'meshoptimizer';
import type { SurfaceGroup } from './mesh.js';

/** Triangles on the vertices of a mesh that stand for it while nobody can look closely. */
export interface RoughSurface {
  /** [3t] */
  indices: Uint32Array<ArrayBuffer>;
  groups: SurfaceGroup[];
}

/**
 * About so many triangles on the same vertices, each material with its share: near to the surface at a glance, with
 * no border, fold or seam kept. (Vertex clustering, by meshoptimizer.)
 *
 * @param positions [3n]
 */
export async function roughSurface(
  positions: Float32Array,
  { indices, groups }: { indices: Uint32Array; groups: readonly SurfaceGroup[] },
  triangles: number,
): Promise<RoughSurface> {
  await MeshoptSimplifier.ready;
  const share = Math.min(1, (triangles * 3) / indices.length);
  const kept: Uint32Array[] = [];
  const rough: SurfaceGroup[] = [];
  let start = 0;
  for (const group of groups) {
    const corners = indices.slice(group.start * 3, (group.start + group.count) * 3);
    const wanted = Math.ceil((corners.length * share) / 3) * 3;
    const [few] =
      wanted < corners.length
        ? MeshoptSimplifier.simplifySloppy(corners, positions, 3, null, wanted, 1)
        : [corners];
    kept.push(few);
    rough.push({ ...group, start, count: few.length / 3 });
    start += few.length / 3;
  }
  const out = new Uint32Array(start * 3);
  kept.forEach((few, i) => out.set(few, rough[i]!.start * 3));
  return { indices: out, groups: rough };
}
