import type { Mesh } from '../mesh/index.js';

/** Most triangles in a leaf. */
const LEAF = 6;

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
  const centres = new Float64Array(t * 3);
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
      centres[f * 3 + k] = low / 2 + high / 2;
    }
  }
  let nodes = 0;
  /** first, one past the last, and the parent whose right child this is (-1 for none) */
  const waiting: number[] = [0, t, -1];
  const least = new Float64Array(3);
  const greatest = new Float64Array(3);
  while (waiting.length) {
    const parent = waiting.pop()!;
    const to = waiting.pop()!;
    const from = waiting.pop()!;
    const node = nodes++;
    if (parent >= 0) right[parent] = node;
    start[node] = from;
    count[node] = to - from;
    const at = node * 6;
    for (let k = 0; k < 3; k++) {
      boxes[at + k] = least[k] = Infinity;
      boxes[at + 3 + k] = greatest[k] = -Infinity;
    }
    for (let i = from; i < to; i++) {
      const f = order[i]!;
      for (let k = 0; k < 3; k++) {
        if (triangleBoxes[f * 6 + k]! < boxes[at + k]!) boxes[at + k] = triangleBoxes[f * 6 + k]!;
        if (triangleBoxes[f * 6 + 3 + k]! > boxes[at + 3 + k]!)
          boxes[at + 3 + k] = triangleBoxes[f * 6 + 3 + k]!;
        const centre = centres[f * 3 + k]!;
        if (centre < least[k]!) least[k] = centre;
        if (centre > greatest[k]!) greatest[k] = centre;
      }
    }
    if (to - from <= LEAF) continue;
    let axis = 0;
    for (let k = 1; k < 3; k++) if (greatest[k]! - least[k]! > greatest[axis]! - least[axis]!) axis = k;
    const halfway = least[axis]! / 2 + greatest[axis]! / 2;
    let middle = from;
    for (let i = from; i < to; i++) {
      const f = order[i]!;
      if (centres[f * 3 + axis]! > halfway) continue;
      order[i] = order[middle]!;
      order[middle++] = f;
    }
    if (middle === from || middle === to) middle = (from + to) >>> 1;
    waiting.push(middle, to, node, from, middle, -1);
  }
  return { positions, indices, boxes, right, start, count, order, nodes };
}
