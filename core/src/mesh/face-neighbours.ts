import { eachEdge } from './each-edge.js';
import type { Mesh } from './mesh.js';
import { weld, type Weld } from './weld.js';

/** What stands for a neighbour where there is none, or where there are several. */
export const NO_NEIGHBOUR = -1;
export const MANY_NEIGHBOURS = -2;

/**
 * The triangle across each edge of each triangle, vertices joined by place: [3t], edge k runs from
 * corner k to the next. -1 at an open edge and round faces with two corners in one place, -2 where more than two meet.
 */
export function faceNeighbours(mesh: Mesh, joined: Weld = weld(mesh.positions)): Int32Array {
  const neighbours = new Int32Array(mesh.indices.length).fill(NO_NEIGHBOUR);
  eachEdge(mesh.indices, joined, (sides, count) => {
    if (count === 2) {
      neighbours[sides[0]!] = (sides[1]! / 3) | 0;
      neighbours[sides[1]!] = (sides[0]! / 3) | 0;
    } else for (let i = 0; count > 2 && i < count; i++) neighbours[sides[i]!] = MANY_NEIGHBOURS;
  });
  return neighbours;
}
