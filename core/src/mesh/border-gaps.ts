import type { Mesh } from './mesh.js';
import { faceNeighbours, NO_NEIGHBOUR } from './face-neighbours.js';
import { pointGrid } from './point-grid.js';
import { weld, type Weld } from './weld.js';

/** Open edges that only look closed: another border lies close along them. */
export interface BorderGaps {
  /** open edges with another border along them; the rest go round true holes */
  seamEdges: number;
  /** how far the two sides of such seams are apart at most, in the unit of the positions; 0 without any */
  seamGap: number;
}

/** A border that is farther away than this share of the edge beside it is another side of a hole. */
const CLOSE_SHARE = 0.2;

/**
 * Tells seams from holes by distance: an open edge is part of a seam when, from both its ends, a border vertex that it
 * does not run to lies nearer than a fifth of the shortest edge there.
 */
export function borderGaps(
  mesh: Mesh,
  joined: Weld = weld(mesh.positions),
  neighbours: Int32Array = faceNeighbours(mesh, joined),
): BorderGaps {
  const ends: [number, number][] = [];
  for (let side = 0; side < neighbours.length; side++) {
    if (neighbours[side] !== NO_NEIGHBOUR) continue;
    const from = joined.remap[mesh.indices[side]!]!;
    const to = joined.remap[mesh.indices[side % 3 === 2 ? side - 2 : side + 1]!]!;
    if (from !== to) ends.push([from, to]);
  }
  const at = (v: number, k: number) => mesh.positions[joined.first[v]! * 3 + k]!;
  const apart = (a: number, b: number) =>
    Math.hypot(at(a, 0) - at(b, 0), at(a, 1) - at(b, 1), at(a, 2) - at(b, 2));
  const shortest = new Map<number, number>();
  const beside = new Map<number, Set<number>>();
  for (const [a, b] of ends)
    for (const [v, w] of [
      [a, b],
      [b, a],
    ] as const) {
      shortest.set(v, Math.min(shortest.get(v) ?? Infinity, apart(v, w)));
      const known = beside.get(v);
      if (known) known.add(w);
      else beside.set(v, new Set([w]));
    }
  const gaps = new Map<number, number>();
  const border = Uint32Array.from(shortest.keys());
  const places = Float64Array.from({ length: border.length * 3 }, (_, i) => at(border[(i / 3) | 0]!, i % 3));
  for (const [cell, queries] of bySize(shortest)) {
    const near = pointGrid(places, cell);
    for (const v of queries) {
      let least = shortest.get(v)! * CLOSE_SHARE;
      let found = false;
      near([at(v, 0), at(v, 1), at(v, 2)], (i) => {
        const w = border[i]!;
        if (w === v || beside.get(v)!.has(w)) return;
        const d = apart(v, w);
        if (d < least) [least, found] = [d, true];
      });
      if (found) gaps.set(v, least);
    }
  }
  let [seamEdges, seamGap] = [0, 0];
  for (const [a, b] of ends) {
    const [p, q] = [gaps.get(a), gaps.get(b)];
    if (p === undefined || q === undefined) continue;
    seamEdges++;
    seamGap = Math.max(seamGap, p, q);
  }
  return { seamEdges, seamGap };
}

/**
 * Vertices by how far each looks, in powers of two: one long edge must not make the cells of all short ones so wide that
 * every vertex lies in one of them.
 */
function bySize(shortest: ReadonlyMap<number, number>): Map<number, number[]> {
  const sizes = new Map<number, number[]>();
  for (const [v, edge] of shortest) {
    if (!(edge > 0)) continue;
    const cell = 2 ** Math.ceil(Math.log2(edge * CLOSE_SHARE));
    const known = sizes.get(cell);
    if (known) known.push(v);
    else sizes.set(cell, [v]);
  }
  return sizes;
}
