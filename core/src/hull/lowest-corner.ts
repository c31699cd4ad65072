/** A linear programme in three unknowns, small enough for flat arrays of fixed size. */
const MAX_ROWS = 64;
const a2 = new Float64Array(MAX_ROWS);
const b2 = new Float64Array(MAX_ROWS);
const c2 = new Float64Array(MAX_ROWS);

/** The place found by `lowestCorner`, and g . x there. */
export const lowest = { x: 0, y: 0, z: 0, value: 0 };

/** Planes that `lowestCorner` takes at most. */
export const MAX_PLANES = MAX_ROWS - 8;

/**
 * The place that is lowest along g of all with n . x >= d for every plane; false when there is none within
 * `reach` of the origin. The answer is left in `lowest`. (Seidel's incremental linear programming, 1991, in the
 * order given: a plane that the best place so far satisfies changes nothing.)
 *
 * @param planes [4n], unit normals and offsets
 * @param count how many of them, at most `MAX_PLANES`
 */
export function lowestCorner(
  planes: Float64Array,
  count: number,
  gx: number,
  gy: number,
  gz: number,
  reach: number,
): boolean {
  const slack = reach * 1e-13;
  let x = gx > 0 ? -reach : reach;
  let y = gy > 0 ? -reach : reach;
  let z = gz > 0 ? -reach : reach;
  for (let i = 0; i < count; i++) {
    const nx = planes[i * 4]!,
      ny = planes[i * 4 + 1]!,
      nz = planes[i * 4 + 2]!,
      d = planes[i * 4 + 3]!;
    if (nx * x + ny * y + nz * z >= d - slack) continue;
    // The lowest place now lies on this plane: one unknown is put in terms of the other two.
    const [ax, ay, az] = [Math.abs(nx), Math.abs(ny), Math.abs(nz)];
    const axis = ax >= ay && ax >= az ? 0 : ay >= az ? 1 : 2;
    const u = (axis + 1) % 3;
    const v = (axis + 2) % 3;
    const n = axis === 0 ? nx : axis === 1 ? ny : nz;
    const nu = planes[i * 4 + u]! / n;
    const nv = planes[i * 4 + v]! / n;
    const nd = d / n;
    let m = 0;
    for (let j = 0; j < i; j++) {
      const k = planes[j * 4 + axis]!;
      a2[m] = planes[j * 4 + u]! - k * nu;
      b2[m] = planes[j * 4 + v]! - k * nv;
      c2[m++] = planes[j * 4 + 3]! - k * nd;
    }
    // The unknown that was put away stays within reach, too.
    a2[m] = -nu;
    b2[m] = -nv;
    c2[m++] = -reach - nd;
    a2[m] = nu;
    b2[m] = nv;
    c2[m++] = nd - reach;
    const g = axis === 0 ? gx : axis === 1 ? gy : gz;
    const gu = (u === 0 ? gx : u === 1 ? gy : gz) - g * nu;
    const gv = (v === 0 ? gx : v === 1 ? gy : gz) - g * nv;
    if (!onPlane(m, gu, gv, reach, slack)) return false;
    const w = nd - nu * flat.s - nv * flat.t;
    if (axis === 0) [x, y, z] = [w, flat.s, flat.t];
    else if (axis === 1) [x, y, z] = [flat.t, w, flat.s];
    else [x, y, z] = [flat.s, flat.t, w];
  }
  lowest.x = x;
  lowest.y = y;
  lowest.z = z;
  lowest.value = gx * x + gy * y + gz * z;
  // At the end of reach it is not held by planes alone.
  return Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) < reach * 0.999;
}

const flat = { s: 0, t: 0 };

/** The same with two unknowns: a s + b t >= c. */
function onPlane(m: number, gs: number, gt: number, reach: number, slack: number): boolean {
  let s = gs > 0 ? -reach : reach;
  let t = gt > 0 ? -reach : reach;
  for (let i = 0; i < m; i++) {
    const [a, b, c] = [a2[i]!, b2[i]!, c2[i]!];
    const l = Math.abs(a) + Math.abs(b);
    if (l < 1e-12) {
      if (c > slack * 10) return false;
      continue;
    }
    if (a * s + b * t >= c - slack * l) continue;
    // On this line; along it from its place nearest the origin.
    const square = a * a + b * b;
    const [os, ot] = [(a * c) / square, (b * c) / square];
    const [ds, dt] = [-b, a];
    let low = -Infinity;
    let high = Infinity;
    const clip = (p: number, q: number): void => {
      // p k >= q
      if (Math.abs(p) < 1e-14) {
        if (q > slack * 10) low = Infinity;
      } else if (p > 0) low = Math.max(low, q / p);
      else high = Math.min(high, q / p);
    };
    for (let j = 0; j < i; j++) clip(a2[j]! * ds + b2[j]! * dt, c2[j]! - a2[j]! * os - b2[j]! * ot);
    clip(ds, -reach - os);
    clip(-ds, os - reach);
    clip(dt, -reach - ot);
    clip(-dt, ot - reach);
    if (low > high + slack * 10 || low === Infinity) return false;
    const k = gs * ds + gt * dt > 0 ? low : high;
    s = os + ds * k;
    t = ot + dt * k;
  }
  flat.s = s;
  flat.t = t;
  return true;
}
