import { areaVector } from '../math/index.js';
import earcut from 'earcut';
import { selfCrossing } from './self-crossing.js';

/**
 * Cut a polygon into triangles. Triangles and convex quads take the short way; other polygons are cut
 * by ears in the plane of their Newell normal, so that hollows stay hollow.
 *
 * @param positions all positions, [3n]
 * @param loop vertex numbers of the polygon
 * @param emit called with three places in `loop` for every triangle
 */
export function triangulate(
  positions: Float64Array,
  loop: ArrayLike<number>,
  emit: (a: number, b: number, c: number) => void,
): void {
  const n = loop.length;
  if (n === 3) {
    emit(0, 1, 2);
    return;
  }
  const flat = project(positions, loop);
  const bends = (a: number, b: number, c: number) =>
    (flat[b * 2]! - flat[a * 2]!) * (flat[c * 2 + 1]! - flat[a * 2 + 1]!) -
      (flat[b * 2 + 1]! - flat[a * 2 + 1]!) * (flat[c * 2]! - flat[a * 2]!) <
    0;
  if (n === 4) {
    // The diagonal runs from the corner that caves in, or from the first.
    const turn = bends(0, 1, 2) || bends(0, 2, 3) ? 1 : 0;
    emit(turn, turn + 1, turn + 2);
    emit(turn, turn + 2, (turn + 3) % 4);
    return;
  }
  let convex = true;
  for (let i = 0; i < n && convex; i++) convex = !bends(i, (i + 1) % n, (i + 2) % n);
  const ears = convex || isTangled(flat) ? [] : earcut(flat);
  if (ears.length === (n - 2) * 3) {
    for (let i = 0; i < ears.length; i += 3) emit(ears[i]!, ears[i + 1]!, ears[i + 2]!);
    return;
  }
  for (let i = 1; i + 1 < n; i++) emit(0, i, i + 1);
}

/** Outlines longer than this are looked at before their ears are cut, which takes the square of tangled ones. */
const LONG_OUTLINE = 1024;

/** An outline that runs over itself has no inside that could be cut: any triangles are as good as others. */
function isTangled(flat: readonly number[]): boolean {
  if (flat.length / 2 <= LONG_OUTLINE) return false;
  const crossing = selfCrossing(flat);
  return crossing === 'unknown' ? flat.length / 2 > 4 * LONG_OUTLINE : crossing;
}

/** The loop in the plane it leans towards most, keeping its turning direction positive. Shape: [2n]. */
function project(p: Float64Array, loop: ArrayLike<number>): number[] {
  let nx = 0,
    ny = 0,
    nz = 0;
  const n = loop.length;
  const o = loop[0]! * 3;
  for (let i = 1; i + 1 < n; i++) {
    const a = loop[i]! * 3;
    const b = loop[i + 1]! * 3;
    const normal = areaVector(p, o, a, b);
    nx += normal[0];
    ny += normal[1];
    nz += normal[2];
  }
  const ax = Math.abs(nx),
    ay = Math.abs(ny),
    az = Math.abs(nz);
  const [u, v, sign] = az >= ax && az >= ay ? [0, 1, nz] : ax >= ay ? [1, 2, nx] : [2, 0, ny];
  const flat: number[] = [];
  for (let i = 0; i < n; i++) {
    const at = loop[i]! * 3;
    flat.push((p[at + u]! - p[o + u]!) * (sign < 0 ? -1 : 1), p[at + v]! - p[o + v]!);
  }
  return flat;
}
