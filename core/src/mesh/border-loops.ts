import { faceNeighbours, NO_NEIGHBOUR } from './face-neighbours.js';
import type { Mesh } from './mesh.js';
import { weld, type Weld } from './weld.js';

/**
 * The open borders of a mesh as closed loops of its vertices, each running against its faces, so that the
 * loop itself goes round the missing face the right way. Where a border touches itself it is cut into
 * loops that do not; a run that does not close is left out.
 */
export function borderLoops(
  mesh: Mesh,
  joined: Weld = weld(mesh.positions),
  neighbours: Int32Array = faceNeighbours(mesh, joined),
): number[][] {
  const { indices } = mesh;
  const outgoing = new Map<number, number[]>();
  for (let side = 0; side < indices.length; side++) {
    if (neighbours[side] !== NO_NEIGHBOUR) continue;
    const from = joined.remap[indices[side]!]!;
    const to = joined.remap[indices[side % 3 === 2 ? side - 2 : side + 1]!]!;
    if (from === to) continue;
    const known = outgoing.get(to);
    if (known) known.push(from);
    else outgoing.set(to, [from]);
  }
  const loops: number[][] = [];
  for (const start of [...outgoing.keys()]) {
    while (outgoing.get(start)?.length) {
      const path: number[] = [];
      const place = new Map<number, number>();
      let v = start;
      for (;;) {
        const met = place.get(v);
        if (met !== undefined) {
          const loop = path.splice(met);
          for (const w of loop) place.delete(w);
          if (loop.length >= 3) loops.push(loop.map((w) => joined.first[w]!));
        }
        place.set(v, path.push(v) - 1);
        const next = outgoing.get(v)?.pop();
        if (next === undefined) break;
        v = next;
      }
    }
  }
  return loops;
}
