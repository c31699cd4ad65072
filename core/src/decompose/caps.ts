import earcut from 'earcut';
import type { CutPlane } from './fragment.js';

/** Places nearer than this share of the size are one: where edges of different faces lie on each other. */
const SAME_POINT_SHARE = 1e-7;

/**
 * Triangles that close the outlines along which a solid was cut; they look away from it. Outlines that do not close,
 * as of a sheet, are left open.
 *
 * @param p [3n]
 * @param edges [2e]: directed edges of the faces that lie on the plane
 * @param size of the solid
 * @returns [3t], vertex numbers
 */
export function capsOver(p: Float64Array, edges: readonly number[], plane: CutPlane, size: number): number[] {
  const loops = closedLoops(edges, samePlaces(p, edges, size * SAME_POINT_SHARE));
  if (!loops.length) return [];
  const [u, v] = flatAxes(plane);
  const flat = loops.map((loop) => outlineOf(p, loop, u, v));
  const areas = flat.map(signedArea);
  const largest = areas.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a));
  const out: number[] = [];
  const bodies = loops.flatMap((_, i) => (areas[i]! * largest > 0 ? [i] : []));
  const holesOf = new Map<number, number[]>(bodies.map((i) => [i, []]));
  loops.forEach((_, i) => {
    if (areas[i]! * largest >= 0) return;
    const homes = bodies.filter((b) => isInside(flat[b]!, flat[i]![0]!, flat[i]![1]!));
    if (homes.length)
      holesOf.get(homes.reduce((a, b) => (Math.abs(areas[b]!) < Math.abs(areas[a]!) ? b : a)))!.push(i);
  });
  for (const body of bodies) {
    const members = [body, ...holesOf.get(body)!];
    const numbers = members.flatMap((i) => loops[i]!);
    const places = members.flatMap((i) => flat[i]!);
    const holes = members
      .slice(0, -1)
      .map((_, i) => members.slice(0, i + 1).reduce((n, m) => n + loops[m]!.length, 0));
    const ears = earcut(places, holes);
    for (let t = 0; t < ears.length; t += 3) {
      const [a, b, c] = [ears[t]!, ears[t + 1]!, ears[t + 2]!];
      const turn =
        (places[b * 2]! - places[a * 2]!) * (places[c * 2 + 1]! - places[a * 2 + 1]!) -
        (places[b * 2 + 1]! - places[a * 2 + 1]!) * (places[c * 2]! - places[a * 2]!);
      // The cap runs its edges the other way than the faces that it closes.
      if (turn * largest > 0) out.push(numbers[a]!, numbers[c]!, numbers[b]!);
      else out.push(numbers[a]!, numbers[b]!, numbers[c]!);
    }
  }
  return out;
}

/** For each vertex of the edges the first of those in the same place. */
function samePlaces(p: Float64Array, edges: readonly number[], cell: number): Map<number, number> {
  const first = new Map<string, number>();
  const same = new Map<number, number>();
  for (const v of edges) {
    if (same.has(v)) continue;
    // A little aside of zero, where drawn coordinates like to lie.
    const key = [0, 1, 2].map((k) => Math.floor(p[v * 3 + k]! / cell + 0.3137)).join();
    const known = first.get(key);
    if (known === undefined) first.set(key, v);
    same.set(v, known ?? v);
  }
  return same;
}

function closedLoops(edges: readonly number[], same: Map<number, number>): number[][] {
  const after = new Map<number, number[]>();
  const key = (a: number, b: number) => a * 2 ** 26 + b;
  const counts = new Map<number, number>();
  for (let i = 0; i < edges.length; i += 2) {
    const [a, b] = [same.get(edges[i]!)!, same.get(edges[i + 1]!)!];
    if (a === b) continue;
    // An edge run both ways is no border.
    const back = counts.get(key(b, a)) ?? 0;
    if (back > 0) {
      counts.set(key(b, a), back - 1);
      const list = after.get(b)!;
      list.splice(list.indexOf(a), 1);
      continue;
    }
    counts.set(key(a, b), (counts.get(key(a, b)) ?? 0) + 1);
    const list = after.get(a);
    if (list) list.push(b);
    else after.set(a, [b]);
  }
  const loops: number[][] = [];
  for (const start of after.keys()) {
    for (let next = after.get(start)!.pop(); next !== undefined; next = after.get(start)!.pop()) {
      const loop = [start];
      while (next !== undefined && next !== start) {
        loop.push(next);
        next = after.get(next)?.pop();
      }
      if (next === start && loop.length > 2) loops.push(loop);
    }
  }
  return loops;
}

/** The two axes a plane is seen along best. */
function flatAxes({ nx, ny, nz }: CutPlane): [number, number] {
  const [ax, ay, az] = [Math.abs(nx), Math.abs(ny), Math.abs(nz)];
  return az >= ax && az >= ay ? [0, 1] : ax >= ay ? [1, 2] : [2, 0];
}

function outlineOf(p: Float64Array, loop: readonly number[], u: number, v: number): number[] {
  const out: number[] = [];
  for (const i of loop) out.push(p[i * 3 + u]!, p[i * 3 + v]!);
  return out;
}

function signedArea(flat: readonly number[]): number {
  let twice = 0;
  const n = flat.length;
  const [ox, oy] = [flat[0]!, flat[1]!];
  for (let i = 0; i < n; i += 2) {
    const j = (i + 2) % n;
    twice += (flat[i]! - ox) * (flat[j + 1]! - oy) - (flat[j]! - ox) * (flat[i + 1]! - oy);
  }
  return twice / 2;
}

function isInside(flat: readonly number[], x: number, y: number): boolean {
  let inside = false;
  const n = flat.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const [ay, by] = [flat[i + 1]!, flat[j + 1]!];
    if (ay > y !== by > y && x < ((flat[j]! - flat[i]!) * (y - ay)) / (by - ay) + flat[i]!) inside = !inside;
  }
  return inside;
}
