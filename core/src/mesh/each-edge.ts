import type { Weld } from './weld.js';

/** Above so many sides at one vertex they are sorted by their other end. */
const FEW_SIDES = 24;

/**
 * Every edge of a mesh once, with the sides of faces that run along it. Side k of face f is number 3f + k and runs from
 * that corner to the next. Faces with two corners in one place are edges, not faces: they are left out.
 *
 * @param indices [3t]
 * @param use called with the sides at an edge, lowest first, and how many they are; the list is used again
 */
export function eachEdge(
  indices: Uint32Array,
  { remap, count }: Pick<Weld, 'remap' | 'count'>,
  use: (sides: readonly number[], count: number) => void,
): void {
  // Sides by their lower end, those of a vertex side by side (counting sort).
  const start = new Uint32Array(count + 1);
  for (let f = 0; f < indices.length; f += 3) {
    const a = remap[indices[f]!]!;
    const b = remap[indices[f + 1]!]!;
    const c = remap[indices[f + 2]!]!;
    if (a === b || b === c || c === a) continue;
    start[Math.min(a, b) + 1]!++;
    start[Math.min(b, c) + 1]!++;
    start[Math.min(c, a) + 1]!++;
  }
  for (let v = 0; v < count; v++) start[v + 1]! += start[v]!;
  const next = start.slice();
  const list = new Uint32Array(start[count]!);
  /** [list]: the higher end of each */
  const high = new Int32Array(list.length);
  const put = (side: number, from: number, to: number) => {
    const at = next[Math.min(from, to)]!++;
    list[at] = side;
    high[at] = Math.max(from, to);
  };
  for (let f = 0; f < indices.length; f += 3) {
    const a = remap[indices[f]!]!;
    const b = remap[indices[f + 1]!]!;
    const c = remap[indices[f + 2]!]!;
    if (a === b || b === c || c === a) continue;
    put(f, a, b);
    put(f + 1, b, c);
    put(f + 2, c, a);
  }
  const sides: number[] = [];
  for (let v = 0; v < count; v++) {
    const [from, to] = [start[v]!, start[v + 1]!];
    if (to - from > FEW_SIDES) sortBySecond(list, high, from, to);
    for (let i = from; i < to; i++) {
      const other = high[i]!;
      if (other < 0) continue;
      let found = 0;
      sides[found++] = list[i]!;
      for (let j = i + 1; j < to; j++) {
        if (high[j] === other) {
          sides[found++] = list[j]!;
          high[j] = -1;
        } else if (to - from > FEW_SIDES) break;
      }
      use(sides, found);
    }
  }
}

/** Puts the sides of one vertex in the order of their other ends, equal ones in the order they stand in. */
function sortBySecond(list: Uint32Array, high: Int32Array, from: number, to: number): void {
  const order = Uint32Array.from({ length: to - from }, (_, i) => from + i).sort(
    (a, b) => high[a]! - high[b]! || a - b,
  );
  const [sides, ends] = [order.map((i) => list[i]!), Int32Array.from(order, (i) => high[i]!)];
  list.set(sides, from);
  high.set(ends, from);
}
