import { type Bounds, sizeOf } from '../math/index.js';

/** Rays side by side along one axis through a box, one in each cell of a square grid, at a place of its own. */
export interface ColumnGrid {
  axis: 0 | 1 | 2;
  /** cells along the next axis and the one after */
  wide: number;
  high: number;
  /** least corner of the grid, and the size of a cell, on those two axes */
  origin: readonly [number, number];
  cell: readonly [number, number];
  /** [wide * high]: where in its cell each ray is, 0 to 1 */
  s: Float64Array;
  t: Float64Array;
}

/** Where surfaces cross the rays of a grid, ray by ray and in order along each. */
export interface Crossings {
  /** [rays + 1]: the first crossing of each ray */
  start: Uint32Array;
  /** [c]: coordinate along the axis */
  at: Float64Array;
  /** [c]: 1 where the surface is entered, -1 where it is left */
  way: Int8Array;
  /** [c]: the triangle */
  face: Uint32Array;
}

/**
 * A grid of about `cells` x `cells` rays along an axis. Each ray stands somewhere else in its cell, by a
 * fixed scrambling of its number, so that faces along the axes do not fall between all rays at once;
 * with `centred` it stands in the middle.
 */
export function columnGrid(bounds: Bounds, axis: 0 | 1 | 2, cells: number, centred = false): ColumnGrid {
  const size = sizeOf(bounds);
  const [i, j] = [(axis + 1) % 3, (axis + 2) % 3];
  const wider = Math.max(size[i]!, size[j]!);
  // Cells as square as possible: a flat box gets fewer of them across, never fewer than a few.
  const count = (extent: number) => Math.max(6, Math.round(cells * Math.sqrt(extent / (wider || 1))));
  const [wide, high] = [count(size[i]!), count(size[j]!)];
  const s = new Float64Array(wide * high);
  const t = new Float64Array(wide * high);
  for (let k = 0; k < s.length; k++) {
    // Additive recurrence on the two-dimensional golden ratio.
    s[k] = centred ? 0.5 : (0.5 + k * 0.7548776662466927) % 1;
    t[k] = centred ? 0.5 : (0.5 + k * 0.5698402909980532) % 1;
  }
  return {
    axis,
    wide,
    high,
    origin: [bounds.min[i]!, bounds.min[j]!],
    cell: [size[i]! / wide || 1, size[j]! / high || 1],
    s,
    t,
  };
}

/**
 * Every place where triangles cross the rays of a grid. A ray on a shared edge crosses exactly one of its
 * faces: the side of an edge is computed once, the same for both.
 *
 * @param positions [3n]
 * @param indices [3t]
 * @param counts which triangles are asked. Default: all
 */
export function crossingsOf(
  { axis, wide, high, origin, cell, s, t }: ColumnGrid,
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  counts?: (face: number) => boolean,
): Crossings {
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  let rays = new Uint32Array(1024);
  let ats = new Float64Array(1024);
  let ways = new Int8Array(1024);
  let faces = new Uint32Array(1024);
  let found = 0;
  const widen = () => {
    const wider = <A extends Uint32Array | Float64Array | Int8Array>(old: A, fresh: A): A => (
      fresh.set(old as never),
      fresh
    );
    rays = wider(rays, new Uint32Array(found * 2));
    ats = wider(ats, new Float64Array(found * 2));
    ways = wider(ways, new Int8Array(found * 2));
    faces = wider(faces, new Uint32Array(found * 2));
  };
  for (let f = 0; f < indices.length; f += 3) {
    if (counts && !counts(f / 3)) continue;
    const [a, b, c] = [indices[f]!, indices[f + 1]!, indices[f + 2]!];
    const ax = positions[a * 3 + u]!,
      ay = positions[a * 3 + v]!,
      az = positions[a * 3 + axis]!;
    const bx = positions[b * 3 + u]!,
      by = positions[b * 3 + v]!,
      bz = positions[b * 3 + axis]!;
    const cx = positions[c * 3 + u]!,
      cy = positions[c * 3 + v]!,
      cz = positions[c * 3 + axis]!;
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (area === 0 || !Number.isFinite(area)) continue;
    const i0 = Math.max(0, Math.floor((Math.min(ax, bx, cx) - origin[0]) / cell[0]));
    const i1 = Math.min(wide - 1, Math.floor((Math.max(ax, bx, cx) - origin[0]) / cell[0]));
    const j0 = Math.max(0, Math.floor((Math.min(ay, by, cy) - origin[1]) / cell[1]));
    const j1 = Math.min(high - 1, Math.floor((Math.max(ay, by, cy) - origin[1]) / cell[1]));
    for (let j = j0; j <= j1; j++) {
      for (let i = i0; i <= i1; i++) {
        const ray = j * wide + i;
        const x = origin[0] + (i + s[ray]!) * cell[0];
        const y = origin[1] + (j + t[ray]!) * cell[1];
        const ab = side(a, ax, ay, b, bx, by, x, y);
        const bc = side(b, bx, by, c, cx, cy, x, y);
        if (ab > 0 !== bc > 0) continue;
        const ca = side(c, cx, cy, a, ax, ay, x, y);
        if (bc > 0 !== ca > 0) continue;
        // Weights of the corners, by the areas across from them.
        const sum = ab + bc + ca;
        if (sum === 0) continue;
        if (found === rays.length) widen();
        rays[found] = ray;
        ats[found] = (bc * az + ca * bz + ab * cz) / sum;
        ways[found] = area > 0 ? -1 : 1;
        faces[found++] = f / 3;
      }
    }
  }
  return inOrder(wide * high, found, rays, ats, ways, faces);
}

/** Which side of the line from p to q a place is on, never 0: the very same number, negated, for q to p. */
function side(
  p: number,
  px: number,
  py: number,
  q: number,
  qx: number,
  qy: number,
  x: number,
  y: number,
): number {
  if (p < q) {
    const w = (qx - px) * (y - py) - (qy - py) * (x - px);
    return w === 0 ? Number.MIN_VALUE : w;
  }
  const w = (px - qx) * (y - qy) - (py - qy) * (x - qx);
  return w === 0 ? -Number.MIN_VALUE : -w;
}

function inOrder(
  rays: number,
  found: number,
  ray: Uint32Array,
  ats: Float64Array,
  ways: Int8Array,
  faces: Uint32Array,
): Crossings {
  const start = new Uint32Array(rays + 1);
  for (let k = 0; k < found; k++) start[ray[k]! + 1]!++;
  for (let r = 0; r < rays; r++) start[r + 1]! += start[r]!;
  const at = new Float64Array(found);
  const way = new Int8Array(found);
  const face = new Uint32Array(found);
  const filled = new Uint32Array(rays);
  for (let k = 0; k < found; k++) {
    const r = ray[k]!;
    let place = start[r]! + filled[r]!++;
    // Where two surfaces touch, what is entered comes before what is left.
    const after = (p: number) => at[p]! > ats[k]! || (at[p]! === ats[k]! && way[p]! < ways[k]!);
    for (; place > start[r]! && after(place - 1); place--) {
      at[place] = at[place - 1]!;
      way[place] = way[place - 1]!;
      face[place] = face[place - 1]!;
    }
    at[place] = ats[k]!;
    way[place] = ways[k]!;
    face[place] = faces[k]!;
  }
  return { start, at, way, face };
}

/** Runs along the rays of a grid. */
export interface Runs {
  /** [rays + 1]: the first run of each ray */
  start: Uint32Array;
  /** [2r]: where each run begins and ends along the axis */
  ends: Float64Array;
}

/** Where the rays are inside a solid: entered more often than left. */
export function insideRuns({ start, at, way }: Crossings): Runs {
  const rays = start.length - 1;
  const starts = new Uint32Array(rays + 1);
  const ends: number[] = [];
  for (let r = 0; r < rays; r++) {
    let depth = 0;
    let from = 0;
    for (let k = start[r]!; k < start[r + 1]!; k++) {
      const before = depth;
      depth += way[k]!;
      if (before <= 0 && depth > 0) from = at[k]!;
      else if (before > 0 && depth <= 0 && at[k]! > from) ends.push(from, at[k]!);
    }
    starts[r + 1] = ends.length / 2;
  }
  return { start: starts, ends: Float64Array.from(ends) };
}
