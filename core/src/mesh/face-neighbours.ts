import { EdgeTable } from './edge-table.js';
import type { Mesh } from './mesh.js';
import { weld, type Weld } from './weld.js';

/** What stands for a neighbour where there is none, or where there are several. */
export const NO_NEIGHBOUR = -1;
export const MANY_NEIGHBOURS = -2;

/**
 * The triangle across each edge of each triangle, vertices joined by place: [3t], edge k runs from
 * corner k to the next. -1 at an open or collapsed edge, -2 where more than two faces meet.
 */
export function faceNeighbours(mesh: Mesh, joined: Weld = weld(mesh.positions)): Int32Array {
  const { indices } = mesh;
  const edges = new EdgeTable(indices.length);
  const first = new Int32Array(indices.length).fill(-1);
  const uses = new Uint8Array(indices.length);
  const neighbours = new Int32Array(indices.length).fill(NO_NEIGHBOUR);
  for (let side = 0; side < indices.length; side++) {
    const from = joined.remap[indices[side]!]!;
    const to = joined.remap[indices[side % 3 === 2 ? side - 2 : side + 1]!]!;
    if (from === to) continue;
    const edge = edges.edge(from, to);
    uses[edge] = Math.min(3, uses[edge]! + 1);
    if (uses[edge] === 1) first[edge] = side;
    else if (uses[edge] === 2) {
      neighbours[side] = (first[edge]! / 3) | 0;
      neighbours[first[edge]!] = (side / 3) | 0;
    } else {
      neighbours[side] = MANY_NEIGHBOURS;
      const other = neighbours[first[edge]!]!;
      if (other >= 0) {
        for (let k = other * 3; k < other * 3 + 3; k++)
          if (neighbours[k] === ((first[edge]! / 3) | 0)) neighbours[k] = MANY_NEIGHBOURS;
        neighbours[first[edge]!] = MANY_NEIGHBOURS;
      }
    }
  }
  return neighbours;
}
