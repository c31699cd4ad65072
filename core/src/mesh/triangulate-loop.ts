import { triangleArea } from '../math/index.js';
import { triangulate } from './triangulate.js';

/** Longest loop that is filled by least area; the search grows with its cube. */
const MAX_SEARCHED_VERTICES = 160;

/**
 * Triangles across a border. A flat loop is cut by ears; one that bends in space gets the filling of least
 * area. (Barequet and Sharir, "Filling gaps in the boundary of a polyhedron", 1995: dynamic programming.)
 */
export function triangulateLoop(
  p: Float64Array,
  loop: readonly number[],
  emit: (a: number, b: number, c: number) => void,
): void {
  const n = loop.length;
  if (n <= 3 || n > MAX_SEARCHED_VERTICES || isFlat(p, loop)) {
    triangulate(p, loop, emit);
    return;
  }
  const cost = new Float64Array(n * n);
  const apex = new Int32Array(n * n).fill(-1);
  for (let gap = 2; gap < n; gap++) {
    for (let i = 0; i + gap < n; i++) {
      const k = i + gap;
      cost[i * n + k] = Infinity;
      for (let m = i + 1; m < k; m++) {
        const total =
          cost[i * n + m]! + cost[m * n + k]! + triangleArea(p, loop[i]! * 3, loop[m]! * 3, loop[k]! * 3);
        if (total < cost[i * n + k]!) {
          cost[i * n + k] = total;
          apex[i * n + k] = m;
        }
      }
    }
  }
  const waiting: [number, number][] = [[0, n - 1]];
  for (let span = waiting.pop(); span; span = waiting.pop()) {
    const [i, k] = span;
    const m = apex[i * n + k]!;
    if (m < 0) continue;
    emit(i, m, k);
    waiting.push([i, m], [m, k]);
  }
}

/** Whether the loop stays within a thousandth of its size of the plane of its Newell normal. */
function isFlat(p: Float64Array, loop: readonly number[]): boolean {
  const normal = [0, 0, 0];
  let size = 0;
  const o = loop[0]! * 3;
  loop.forEach((v, i) => {
    const a = v * 3;
    const b = loop[(i + 1) % loop.length]! * 3;
    for (let k = 0; k < 3; k++) {
      const [s, t] = [(k + 1) % 3, (k + 2) % 3];
      normal[k]! +=
        (p[a + s]! - p[o + s]!) * (p[b + t]! - p[o + t]!) - (p[a + t]! - p[o + t]!) * (p[b + s]! - p[o + s]!);
      size = Math.max(size, Math.abs(p[a + k]! - p[o + k]!));
    }
  });
  const l = Math.hypot(...normal) || 1;
  return loop.every((v) => {
    const off = normal.reduce((sum, c, k) => sum + (c / l) * (p[v * 3 + k]! - p[o + k]!), 0);
    return Math.abs(off) <= size * 1e-3;
  });
}
