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
  const boxes = new Float64Array(most * 6);
  const right = new Uint32Array(most);
  const start = new Uint32Array(most);
  const count = new Uint32Array(most);
  const order = new Uint32Array(t);
  const triangleBoxes = new Float64Array(t * 6);
  for (let f = 0; f < t; f++) {
    order[f] = f;
    for (let k = 0; k < 3; k++) {
      const a = positions[indices[f * 3]! * 3 + k]!;
      const b = positions[indices[f * 3 + 1]! * 3 + k]!;
      const c = positions[indices[f * 3 + 2]! * 3 + k]!;
      const low = a < b ? (a < c ? a : c) : b < c ? b : c;
      const high = a > b ? (a > c ? a : c) : b > c ? b : c;
      triangleBoxes[f * 6 + k] = low;
      triangleBoxes[f * 6 + 3 + k] = high;
    }
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
    let x0 = Infinity,
      y0 = Infinity,
      z0 = Infinity,
      x1 = -Infinity,
      y1 = -Infinity,
      z1 = -Infinity;
    let cx0 = Infinity,
      cy0 = Infinity,
      cz0 = Infinity,
      cx1 = -Infinity,
      cy1 = -Infinity,
      cz1 = -Infinity;
    for (let i = from; i < to; i++) {
      const t = order[i]! * 6;
      const lx = triangleBoxes[t]!,
        ly = triangleBoxes[t + 1]!,
        lz = triangleBoxes[t + 2]!,
        hx = triangleBoxes[t + 3]!,
        hy = triangleBoxes[t + 4]!,
        hz = triangleBoxes[t + 5]!;
      if (lx < x0) x0 = lx;
      if (ly < y0) y0 = ly;
      if (lz < z0) z0 = lz;
      if (hx > x1) x1 = hx;
      if (hy > y1) y1 = hy;
      if (hz > z1) z1 = hz;
      const cx = lx / 2 + hx / 2,
        cy = ly / 2 + hy / 2,
        cz = lz / 2 + hz / 2;
      if (cx < cx0) cx0 = cx;
      if (cx > cx1) cx1 = cx;
      if (cy < cy0) cy0 = cy;
      if (cy > cy1) cy1 = cy;
      if (cz < cz0) cz0 = cz;
      if (cz > cz1) cz1 = cz;
    }
    const at = node * 6;
    boxes[at] = x0;
    boxes[at + 1] = y0;
    boxes[at + 2] = z0;
    boxes[at + 3] = x1;
    boxes[at + 4] = y1;
    boxes[at + 5] = z1;
    if (to - from <= MAX_LEAF_TRIANGLES) continue;
    const axis = cx1 - cx0 >= cy1 - cy0 ? (cx1 - cx0 >= cz1 - cz0 ? 0 : 2) : cy1 - cy0 >= cz1 - cz0 ? 1 : 2;
    const halfway = axis === 0 ? cx0 / 2 + cx1 / 2 : axis === 1 ? cy0 / 2 + cy1 / 2 : cz0 / 2 + cz1 / 2;
    let middle = from;
    for (let i = from; i < to; i++) {
      const f = order[i]!;
      if (triangleBoxes[f * 6 + axis]! / 2 + triangleBoxes[f * 6 + 3 + axis]! / 2 > halfway) continue;
      order[i] = order[middle]!;
      order[middle++] = f;
    }
    if (middle === from || middle === to) middle = (from + to) >>> 1;
    waiting.push(middle, to, node, from, middle, -1);
  }
  return { positions, indices, boxes, right, start, count, order, nodes };
}
