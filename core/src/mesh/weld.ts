/** Which vertex stands for which after welding. */
export interface Weld {
  /** [n]: the welded number of every vertex, counted up in order of first appearance */
  remap: Uint32Array;
  /** how many welded vertices there are */
  count: number;
  /** [count]: the first original vertex of each welded one */
  first: Uint32Array;
}

const floats = new Float64Array(1);
const words = new Uint32Array(floats.buffer);

/** Bits of a double mixed into one word; -0 and 0 are the same place. */
function hashDouble(value: number): number {
  floats[0] = value === 0 ? 0 : value;
  return Math.imul(words[0]!, 0x9e3779b1) ^ Math.imul(words[1]!, 0x85ebca6b);
}

const mix = (a: number, b: number, c: number): number => {
  let h = Math.imul(a, 0x27d4eb2f) ^ Math.imul(b, 0x165667b1) ^ Math.imul(c, 0x9e3779b1);
  h ^= h >>> 15;
  h = Math.imul(h, 0x2c1b3c6d);
  return (h ^ (h >>> 13)) >>> 0;
};

function tableFor(n: number): Int32Array {
  let size = 16;
  while (size < n * 2) size *= 2;
  return new Int32Array(size).fill(-1);
}

/**
 * Join vertices that lie in one place, or within `tolerance` of a vertex already kept.
 *
 * With a tolerance the first vertex of a cluster keeps its place, so nothing drifts in chains.
 * Shape of `positions`: [3n], finite. `tolerance` is in the unit of the positions.
 */
export function weld(positions: Float64Array, tolerance = 0): Weld {
  return tolerance > 0 ? weldNear(positions, tolerance) : weldExact(positions);
}

function weldExact(positions: Float64Array): Weld {
  const n = positions.length / 3;
  const remap = new Uint32Array(n);
  const first = new Uint32Array(n);
  const table = tableFor(n);
  const mask = table.length - 1;
  let count = 0;
  for (let v = 0; v < n; v++) {
    const x = positions[v * 3]!;
    const y = positions[v * 3 + 1]!;
    const z = positions[v * 3 + 2]!;
    let slot = mix(hashDouble(x), hashDouble(y), hashDouble(z)) & mask;
    for (;;) {
      const seen = table[slot]!;
      if (seen < 0) {
        table[slot] = count;
        first[count] = v;
        remap[v] = count++;
        break;
      }
      const w = first[seen]! * 3;
      if (positions[w] === x && positions[w + 1] === y && positions[w + 2] === z) {
        remap[v] = seen;
        break;
      }
      slot = (slot + 1) & mask;
    }
  }
  return { remap, count, first: first.slice(0, count) };
}

function weldNear(positions: Float64Array, tolerance: number): Weld {
  const n = positions.length / 3;
  const remap = new Uint32Array(n);
  const first = new Uint32Array(n);
  const table = tableFor(n);
  const mask = table.length - 1;
  const next = new Int32Array(n).fill(-1);
  // Cells a little wider than twice the tolerance: on each axis only the nearer neighbour can hold a match.
  const side = tolerance * 2.000001;
  const cellHash = (x: number, y: number, z: number) => mix(x | 0, y | 0, z | 0) & mask;
  const limit = tolerance * tolerance;
  let count = 0;
  for (let v = 0; v < n; v++) {
    const x = positions[v * 3]!;
    const y = positions[v * 3 + 1]!;
    const z = positions[v * 3 + 2]!;
    const cx = Math.floor(x / side);
    const cy = Math.floor(y / side);
    const cz = Math.floor(z / side);
    const nx = x / side - cx < 0.5 ? -1 : 1;
    const ny = y / side - cy < 0.5 ? -1 : 1;
    const nz = z / side - cz < 0.5 ? -1 : 1;
    let nearest = -1;
    let nearestDistance = limit;
    for (let k = 0; k < 8; k++) {
      const slot = cellHash(cx + (k & 1 ? nx : 0), cy + (k & 2 ? ny : 0), cz + (k & 4 ? nz : 0));
      for (let candidate = table[slot]!; candidate >= 0; candidate = next[candidate]!) {
        const w = first[candidate]! * 3;
        const dx = positions[w]! - x;
        const dy = positions[w + 1]! - y;
        const dz = positions[w + 2]! - z;
        const d = dx * dx + dy * dy + dz * dz;
        if (d < nearestDistance || (d === nearestDistance && (nearest < 0 || candidate < nearest))) {
          nearest = candidate;
          nearestDistance = d;
        }
      }
    }
    if (nearest < 0) {
      const slot = cellHash(cx, cy, cz);
      next[count] = table[slot]!;
      table[slot] = count;
      first[count] = v;
      nearest = count++;
    }
    remap[v] = nearest;
  }
  return { remap, count, first: first.slice(0, count) };
}
