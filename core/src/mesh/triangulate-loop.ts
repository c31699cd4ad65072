import { triangleArea } from '../math/index.js';
import { fillFlat, flatLoop } from './fill-flat.js';
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
  const flat = n > 3 ? flatLoop(p, loop) : null;
  if (flat) {
    const place = new Map(loop.map((v, i) => [v, i]));
    const byPlace = (...corners: [number, number, number]) =>
      emit(...(corners.map((v) => place.get(v)!) as [number, number, number]));
    if (fillFlat(p, [loop], flat.normal, byPlace)) return;
  }
  if (n <= 3 || n > MAX_SEARCHED_VERTICES || flat) {
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
