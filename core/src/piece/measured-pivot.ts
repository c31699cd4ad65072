import type { Vec3 } from '../math/index.js';
import { flipFaces, massOf, type Mesh, meshBounds, topologyOf } from '../mesh/index.js';
import { facesToTurnOutward } from '../solid/index.js';

/** Anchors whose place is found in the geometry itself. */
export type MeasuredAnchor = 'lowest-contact' | 'centroid';

/**
 * Where the art touches the ground (the middle of what lies within a thousandth of its height, and at most a
 * millimetre, of its lowest point), or its centroid of mass: of the solid, whichever way its faces look, and
 * of the surface where that is open. In the space of the mesh.
 */
export function measuredPivot(mesh: Mesh, anchor: MeasuredAnchor): Vec3 {
  if (anchor === 'centroid') return centroidOfMass(mesh);
  const { min, max } = meshBounds(mesh);
  const touches = min[1] + Math.min((max[1] - min[1]) * 1e-3, 1e-3);
  const low = [Infinity, Infinity];
  const high = [-Infinity, -Infinity];
  for (const v of mesh.indices) {
    if (mesh.positions[v * 3 + 1]! > touches) continue;
    [0, 2].forEach((axis, k) => {
      low[k] = Math.min(low[k]!, mesh.positions[v * 3 + axis]!);
      high[k] = Math.max(high[k]!, mesh.positions[v * 3 + axis]!);
    });
  }
  return [(low[0]! + high[0]!) / 2, min[1], (low[1]! + high[1]!) / 2];
}

/** An open surface encloses nothing, and its signed volume means nothing either: there the surface itself counts. */
function centroidOfMass(mesh: Mesh): Vec3 {
  const topology = topologyOf(mesh);
  if (!topology.closed) return massOf(mesh).surfaceCentroid;
  const turn = facesToTurnOutward(mesh);
  return massOf(turn.some(Boolean) ? flipFaces(mesh, turn) : mesh).centroid;
}
