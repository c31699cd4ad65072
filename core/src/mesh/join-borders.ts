import { distance, type Vec3 } from '../math/index.js';
import { addFaces } from './add-faces.js';
import { borderLoops } from './border-loops.js';
import type { Mesh } from './mesh.js';

/** Most pairs of vertices that are looked at for one band; longer borders are joined by the shorter way at each step. */
const MAX_SEARCHED_PAIRS = 4_000_000;

/**
 * Open borders that lie nearest to each other are joined in pairs by a band of triangles: the two ends of a wall, the
 * inner and outer edge of a pipe. (Fuchs, Kedem and Uselton, "Optimal surface reconstruction from planar contours",
 * 1977: the band of the shortest edges, by dynamic programming.)
 */
export function joinBorders(mesh: Mesh): { mesh: Mesh; joined: number } {
  const { positions: p } = mesh;
  const place = (v: number): Vec3 => [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
  const left = borderLoops(mesh).map((loop) => loop.map((v) => ({ v, at: place(v) })));
  const added: number[] = [];
  let joined = 0;
  while (left.length > 1) {
    const [first, ...others] = left.splice(0);
    const near = others.reduce((best, other) => (gap(first!, other) < gap(first!, best) ? other : best));
    left.push(...others.filter((other) => other !== near));
    added.push(...band(first!, near));
    joined++;
  }
  return { mesh: addFaces(mesh, added), joined };
}

interface Corner {
  v: number;
  at: Vec3;
}

/** How far two borders are apart: the mean way from corners of one to the nearest of the other. */
const gap = (a: readonly Corner[], b: readonly Corner[]): number =>
  a.reduce((sum, { at }) => sum + Math.min(...b.map((other) => distance(at, other.at))), 0) / a.length;

/** Corners of the triangles between two borders, each of which runs round its own missing face. */
function band(a: readonly Corner[], b: readonly Corner[]): number[] {
  let start: [number, number] = [0, 0];
  let least = Infinity;
  a.forEach(({ at }, i) =>
    b.forEach((other, k) => {
      const d = distance(at, other.at);
      if (d < least) [least, start] = [d, [i, k]];
    }),
  );
  // One is gone along, the other one back, both from where they are nearest and round to there again.
  const along = [...a.slice(start[0]), ...a.slice(0, start[0]), a[start[0]]!];
  const back = [...b.slice(start[1]), ...b.slice(0, start[1])].reverse();
  back.unshift(back.pop()!);
  back.push(back[0]!);
  const [n, m] = [along.length, back.length];
  const across = (i: number, k: number) => distance(along[i]!.at, back[k]!.at);
  const steps = n * m <= MAX_SEARCHED_PAIRS ? leastSteps(n, m, across) : shortSteps(n, m, across);
  const corners: number[] = [];
  let [i, k] = [0, 0];
  for (const onAlong of steps) {
    if (onAlong) corners.push(along[i]!.v, along[++i]!.v, back[k]!.v);
    else corners.push(along[i]!.v, back[k + 1]!.v, back[k++]!.v);
  }
  return corners;
}

type Across = (i: number, k: number) => number;

/** Which border each step goes on along, so that the edges across are shortest in sum. */
function leastSteps(n: number, m: number, across: Across): boolean[] {
  const cost = new Float64Array(n * m).fill(Infinity);
  const onAlong = new Uint8Array(n * m);
  cost[0] = 0;
  for (let i = 0; i < n; i++)
    for (let k = 0; k < m; k++) {
      if (i + k === 0) continue;
      const along = i ? cost[(i - 1) * m + k]! : Infinity;
      const back = k ? cost[i * m + k - 1]! : Infinity;
      onAlong[i * m + k] = along <= back ? 1 : 0;
      cost[i * m + k] = Math.min(along, back) + across(i, k);
    }
  const steps: boolean[] = [];
  for (let [i, k] = [n - 1, m - 1]; i + k > 0;) {
    const step = onAlong[i * m + k] === 1;
    steps.push(step);
    if (step) i--;
    else k--;
  }
  return steps.reverse();
}

function shortSteps(n: number, m: number, across: Across): boolean[] {
  const steps: boolean[] = [];
  for (let [i, k] = [0, 0]; i < n - 1 || k < m - 1;) {
    const step = k === m - 1 || (i < n - 1 && across(i + 1, k) <= across(i, k + 1));
    steps.push(step);
    if (step) i++;
    else k++;
  }
  return steps;
}
