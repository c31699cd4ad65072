import type { Bounds, Vec3 } from '../math/index.js';
import {
  flipFaces,
  massOf,
  type Mesh,
  meshBounds,
  type Shells,
  shellsOf,
  topologyOf,
} from '../mesh/index.js';
import { columnGrid, crossingsOf, facesToTurnOutward, insideRuns } from '../solid/index.js';

/** Anchors whose place is found in the geometry itself. */
export type MeasuredAnchor = 'lowest-contact' | 'centroid';

/** Columns on the longer side of the grid that overlapping shells are read with. */
const COLUMNS = 256;

/**
 * Where the art touches the ground (the middle of what lies within a thousandth of its height, and at most a
 * millimetre, of its lowest point), or its centroid of mass: of the solid, whichever way its faces look. Where shells
 * run through each other what they share counts once, to about a thousandth of the size. Null where an open surface
 * encloses nothing. In the space of the mesh.
 */
export function measuredPivot(mesh: Mesh, anchor: MeasuredAnchor): Vec3 | null {
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

function centroidOfMass(mesh: Mesh): Vec3 | null {
  const { openEdges, nonManifoldEdges } = topologyOf(mesh);
  if (openEdges > 0 || mesh.indices.length === 0) return null;
  const turn = facesToTurnOutward(mesh);
  const outward = turn.some(Boolean) ? flipFaces(mesh, turn) : mesh;
  const shells = shellsOf(outward);
  // Shells that share edges are one to the weld.
  const apart = nonManifoldEdges === 0 && (shells.count < 2 || !someMeet(outward, shells));
  if (apart) return massOf(outward).centroid;
  return centroidByColumns(outward);
}

/** Whether the bounds of two shells meet: then they may run through each other, or one stand in the hollow of another. */
function someMeet(mesh: Mesh, { count, ofTriangle }: Shells): boolean {
  const boxes = Array.from({ length: count }, (): Bounds => ({
    min: [Infinity, Infinity, Infinity],
    max: [-Infinity, -Infinity, -Infinity],
  }));
  mesh.indices.forEach((v, i) => {
    const { min, max } = boxes[ofTriangle[(i / 3) | 0]!]!;
    for (let k = 0; k < 3; k++) {
      min[k] = Math.min(min[k]!, mesh.positions[v * 3 + k]!);
      max[k] = Math.max(max[k]!, mesh.positions[v * 3 + k]!);
    }
  });
  const sorted = boxes.sort((a, b) => a.min[0] - b.min[0]);
  return sorted.some((a, i) => {
    for (let k = i + 1; k < sorted.length && sorted[k]!.min[0] <= a.max[0]; k++)
      if ([1, 2].every((n) => sorted[k]!.min[n]! <= a.max[n]! && a.min[n]! <= sorted[k]!.max[n]!))
        return true;
    return false;
  });
}

/** The centroid of what is inside, from runs along rays; each axis is measured along rays across it and its own. */
function centroidByColumns(mesh: Mesh): Vec3 | null {
  const bounds = meshBounds(mesh);
  const sum: Vec3 = [0, 0, 0];
  const weight: Vec3 = [0, 0, 0];
  for (const axis of [0, 1, 2] as const) {
    const grid = columnGrid(bounds, axis, COLUMNS, true);
    const { ends } = insideRuns(crossingsOf(grid, mesh.positions, mesh.indices));
    for (let i = 0; i < ends.length; i += 2) {
      const [from, to] = [ends[i]!, ends[i + 1]!];
      sum[axis] += ((to - from) * (to + from)) / 2;
      weight[axis] += to - from;
    }
  }
  return weight.every((w) => w > 0) ? (sum.map((s, k) => s / weight[k]!) as Vec3) : null;
}
