import type { Mesh } from '../mesh/index.js';

/** Most triangles in a leaf. */
const MAX_LEAF_TRIANGLES = 6;

/**
 * A bounding volume hierarchy over triangles, in flat arrays. Node 0 is the root; the left child of a node
 * is the next one, so a walk in order is a walk through memory.
 */
export interface Bvh {
  positions: Float64Array;
  indices: Uint32Array;
  /** [6m]: least x, y, z, greatest x, y, z */
  boxes: Float64Array;
  /** [m]: the right child, or 0 at a leaf */
  right: Uint32Array;
  /** [m]: first triangle of the node in `order`, and how many */
  start: Uint32Array;
  count: Uint32Array;
  /** [t]: triangle numbers, those of a node side by side */
  order: Uint32Array;
  /** how many nodes there are */
  nodes: number;
}

/** Build by halving the longest side of the box round the triangles' centres; equal centres are halved by count. */
export function buildBvh({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>): Bvh {
  const t = indices.length / 3;
  const most = Math.max(1, 2 * t);
  const right = new Uint32Array(most);
  const start = new Uint32Array(most);
  const count = new Uint32Array(most);
  const order = new Uint32Array(t);
  // Middles of the triangles' boxes, in the order of `order`: what is read together lies together.
  const cx = new Float64Array(t);
  const cy = new Float64Array(t);
  const cz = new Float64Array(t);
  for (let f = 0; f < t; f++) {
    order[f] = f;
    const a = indices[f * 3]! * 3;
    const b = indices[f * 3 + 1]! * 3;
    const c = indices[f * 3 + 2]! * 3;
    cx[f] = middleOf(positions[a]!, positions[b]!, positions[c]!);
    cy[f] = middleOf(positions[a + 1]!, positions[b + 1]!, positions[c + 1]!);
    cz[f] = middleOf(positions[a + 2]!, positions[b + 2]!, positions[c + 2]!);
  }
  let nodes = 0;
  /** first, one past the last, and the parent whose right child this is (-1 for none) */
  const waiting: number[] = [0, t, -1];
  while (waiting.length) {
    const parent = waiting.pop()!;
    const to = waiting.pop()!;
    const from = waiting.pop()!;
    const node = nodes++;
    if (parent >= 0) right[parent] = node;
    start[node] = from;
    count[node] = to - from;
    if (to - from <= MAX_LEAF_TRIANGLES) continue;
    let x0 = Infinity,
      y0 = Infinity,
      z0 = Infinity,
      x1 = -Infinity,
      y1 = -Infinity,
      z1 = -Infinity;
    for (let i = from; i < to; i++) {
      const x = cx[i]!;
      const y = cy[i]!;
      const z = cz[i]!;
      x0 = Math.min(x0, x);
      y0 = Math.min(y0, y);
      z0 = Math.min(z0, z);
      x1 = Math.max(x1, x);
      y1 = Math.max(y1, y);
      z1 = Math.max(z1, z);
    }
    const axis = x1 - x0 >= y1 - y0 ? (x1 - x0 >= z1 - z0 ? 0 : 2) : y1 - y0 >= z1 - z0 ? 1 : 2;
    const along = axis === 0 ? cx : axis === 1 ? cy : cz;
    const halfway = axis === 0 ? x0 / 2 + x1 / 2 : axis === 1 ? y0 / 2 + y1 / 2 : z0 / 2 + z1 / 2;
    let i = from;
    let j = to - 1;
    for (;;) {
      while (i <= j && along[i]! <= halfway) i++;
      while (i <= j && along[j]! > halfway) j--;
      if (i >= j) break;
      const face = order[i]!;
      order[i] = order[j]!;
      order[j] = face;
      swap(cx, i, j);
      swap(cy, i, j);
      swap(cz, i++, j--);
    }
    const middle = i > from && i < to ? i : (from + to) >>> 1;
    waiting.push(middle, to, node, from, middle, -1);
  }
  const boxes = boxesOf(nodes, { positions, indices, right, start, count, order });
  return { positions, indices, boxes, right, start, count, order, nodes };
}

function swap(list: Float64Array, i: number, j: number): void {
  const value = list[i]!;
  list[i] = list[j]!;
  list[j] = value;
}

/** Half of least and greatest: the sum of both may be too large for a number. */
function middleOf(a: number, b: number, c: number): number {
  const low = a < b ? (a < c ? a : c) : b < c ? b : c;
  const high = a > b ? (a > c ? a : c) : b > c ? b : c;
  return low / 2 + high / 2;
}

/** [6 * nodes]: leaves first; children follow their parents, so that from the end each is known before it is asked. */
function boxesOf(
  nodes: number,
  { positions, indices, right, start, count, order }: Omit<Bvh, 'boxes' | 'nodes'>,
): Float64Array {
  const boxes = new Float64Array(Math.max(1, nodes) * 6);
  for (let node = nodes - 1; node >= 0; node--) {
    const at = node * 6;
    let x0 = Infinity,
      y0 = Infinity,
      z0 = Infinity,
      x1 = -Infinity,
      y1 = -Infinity,
      z1 = -Infinity;
    if (right[node]) {
      const [l, r] = [at + 6, right[node]! * 6];
      x0 = Math.min(boxes[l]!, boxes[r]!);
      y0 = Math.min(boxes[l + 1]!, boxes[r + 1]!);
      z0 = Math.min(boxes[l + 2]!, boxes[r + 2]!);
      x1 = Math.max(boxes[l + 3]!, boxes[r + 3]!);
      y1 = Math.max(boxes[l + 4]!, boxes[r + 4]!);
      z1 = Math.max(boxes[l + 5]!, boxes[r + 5]!);
    } else
      for (let i = start[node]! * 3, end = i + count[node]! * 3; i < end; i++) {
        const v = indices[order[(i / 3) | 0]! * 3 + (i % 3)]! * 3;
        const x = positions[v]!;
        const y = positions[v + 1]!;
        const z = positions[v + 2]!;
        x0 = Math.min(x0, x);
        y0 = Math.min(y0, y);
        z0 = Math.min(z0, z);
        x1 = Math.max(x1, x);
        y1 = Math.max(y1, y);
        z1 = Math.max(z1, z);
      }
    boxes[at] = x0;
    boxes[at + 1] = y0;
    boxes[at + 2] = z0;
    boxes[at + 3] = x1;
    boxes[at + 4] = y1;
    boxes[at + 5] = z1;
  }
  return boxes;
}
