import { triangulate } from './triangulate.js';

/** Longest loop that is filled by least area; the search grows with its cube. */
const LONGEST_SEARCHED = 160;

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
  if (n <= 3 || n > LONGEST_SEARCHED || isFlat(p, loop)) {
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
        const total = cost[i * n + m]! + cost[m * n + k]! + area(p, loop[i]!, loop[m]!, loop[k]!);
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

function area(p: Float64Array, a: number, b: number, c: number): number {
  const ux = p[b * 3]! - p[a * 3]!,
    uy = p[b * 3 + 1]! - p[a * 3 + 1]!,
    uz = p[b * 3 + 2]! - p[a * 3 + 2]!;
  const vx = p[c * 3]! - p[a * 3]!,
    vy = p[c * 3 + 1]! - p[a * 3 + 1]!,
    vz = p[c * 3 + 2]! - p[a * 3 + 2]!;
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
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
