import { type ReduceOptions, reduceMesh } from './reduce.js';
import { shellsOf } from './shells.js';
import { type Mesh, plainMesh } from './mesh.js';
import { takeFaces } from './take-faces.js';
import { topologyOf } from './topology.js';
import { weldMesh } from './mend-weld.js';

/** A mesh brought to fewer triangles as a surface alone: what vertices carry and materials are let go. */
export interface ReducedSurface {
  mesh: Mesh;
  /** how far the surface moved at most, in the unit of the positions */
  error: number;
  closed: boolean;
}

/** A share of the asked reduction is given back until what was closed is closed again. */
const MAX_TRIES = 4;

/**
 * The art brought to a share of its triangles or to an error, as something to collide with: seams closed first,
 * faces that fell flat or lie on each other cleared away after, and closed if it was closed.
 */
export async function reduceWhole(mesh: Mesh, options: ReduceOptions): Promise<ReducedSurface> {
  const whole = weldMesh(plainMesh(mesh.positions, mesh.indices), 0);
  const wasClosed = topologyOf(whole).closed;
  let { share = 0, error = Infinity } = options;
  for (let tries = 0; ; tries++) {
    const reduced = await reduceMesh(whole, { share, error });
    const clean = withoutFlatParts(reduced.mesh);
    const closed = topologyOf(clean).closed;
    if (closed || !wasClosed || tries === MAX_TRIES) return { mesh: clean, error: reduced.error, closed };
    share = Math.min(1, Math.max(share * 2, 0.02 * 2 ** tries));
    error /= 2;
  }
}

/** Connected surfaces of fewer than four faces enclose nothing; what is left of a small part when it fell flat. */
function withoutFlatParts(mesh: Mesh): Mesh {
  const parts = shellsOf(mesh);
  const faces = new Uint32Array(parts.count);
  for (const part of parts.ofTriangle) faces[part]!++;
  if (!faces.some((count) => count < 4) || faces.every((count) => count < 4)) return mesh;
  return takeFaces(mesh, (f) => faces[parts.ofTriangle[f]!]! >= 4);
}
