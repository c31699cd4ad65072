import { triangleArea, UnionFind } from '../math/index.js';
import type { Mesh } from './mesh.js';
import { weld } from './weld.js';

/** How a UV set lies in its square; shares are of the area that is looked at. */
export interface UvLayout {
  /** connected in the picture */
  islands: number;
  /** share of the square that is used */
  fill: number;
  /** share of the used square that more than one face lies on */
  overlap: number;
  /** share of the surface whose UVs lie outside the square */
  outside: number;
  /** share of the surface whose UVs have no area: missing, or all in one place */
  empty: number;
  /** texels between the islands that come nearest to each other; null with fewer than two, or where they overlap */
  border: number | null;
}

/** A picture of a set is laid out with at most so many texels a side; gaps are scaled to the size that is asked about. */
const MAX_SIDE = 1024;
/** Faces whose UVs span less than this are empty. */
const LEAST_AREA = 1e-12;

/**
 * Overlap, fill and gaps of a UV set, counted on a picture of it: each texel whose middle lies in a face is that
 * island's. Values outside the square are counted and otherwise left out.
 *
 * @param texels side of the picture that gaps are told in
 */
export function uvLayout(mesh: Mesh, set: number, texels: number): UvLayout | null {
  const uv = mesh.uvs[set];
  if (!uv || mesh.indices.length === 0) return null;
  const side = Math.min(MAX_SIDE, Math.max(1, Math.round(texels)));
  const island = islandsOf(mesh, uv);
  const owner = new Int32Array(side * side).fill(-1);
  let used = 0;
  let doubled = 0;
  const twice = new Uint8Array(side * side);
  let [area, outside, empty] = [0, 0, 0];
  for (let f = 0; f < mesh.indices.length; f += 3) {
    const [a, b, c] = [mesh.indices[f]!, mesh.indices[f + 1]!, mesh.indices[f + 2]!];
    const own = triangleArea(mesh.positions, a * 3, b * 3, c * 3);
    area += own;
    const corners = [a, b, c].map((v) => [uv[v * 2]!, uv[v * 2 + 1]!] as const);
    const [p, q, r] = corners as [Point, Point, Point];
    const span = (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
    if (!(Math.abs(span) > LEAST_AREA)) {
      empty += own;
      continue;
    }
    if (corners.some(([u, v]) => u < -1e-6 || v < -1e-6 || u > 1 + 1e-6 || v > 1 + 1e-6)) outside += own;
    eachTexel(p, q, r, span, side, (texel) => {
      if (owner[texel] === -1) used++;
      else if (!twice[texel]) {
        twice[texel] = 1;
        doubled++;
      }
      owner[texel] = island.of[f / 3]!;
    });
  }
  const overlap = used ? doubled / used : 0;
  return {
    islands: island.count,
    fill: used / (side * side),
    overlap,
    outside: area > 0 ? outside / area : 0,
    empty: area > 0 ? empty / area : 1,
    border: overlap > 0.001 ? null : scaledGap(nearestIslands(owner, side), texels / side),
  };
}

type Point = readonly [number, number];

const scaledGap = (gap: number | null, scale: number): number | null => gap && gap * scale;

/** Faces that share an edge in the picture, not only in space. */
function islandsOf(mesh: Mesh, uv: Float32Array): { of: Int32Array; count: number } {
  const places = new Float64Array((uv.length / 2) * 3);
  for (let v = 0; v < uv.length / 2; v++) {
    places[v * 3] = uv[v * 2]!;
    places[v * 3 + 1] = uv[v * 2 + 1]!;
  }
  const inPicture = weld(places).remap;
  const inSpace = weld(mesh.positions).remap;
  const sets = new UnionFind(mesh.indices.length / 3);
  const seen = new Map<string, number>();
  for (let side = 0; side < mesh.indices.length; side++) {
    const [v, w] = [mesh.indices[side]!, mesh.indices[side % 3 === 2 ? side - 2 : side + 1]!];
    const ends = [`${inPicture[v]!}.${inSpace[v]!}`, `${inPicture[w]!}.${inSpace[w]!}`].sort().join();
    const face = (side / 3) | 0;
    const other = seen.get(ends);
    if (other === undefined) seen.set(ends, face);
    else sets.join(face, other);
  }
  const number = new Map<number, number>();
  const of = Int32Array.from({ length: mesh.indices.length / 3 }, (_, f) => {
    const root = sets.root(f);
    if (!number.has(root)) number.set(root, number.size);
    return number.get(root)!;
  });
  return { of, count: number.size };
}

function eachTexel(
  p: Point,
  q: Point,
  r: Point,
  span: number,
  side: number,
  visit: (texel: number) => void,
): void {
  const range = (k: 0 | 1): [number, number] => [
    Math.max(0, Math.floor(Math.min(p[k], q[k], r[k]) * side - 0.5)),
    Math.min(side - 1, Math.ceil(Math.max(p[k], q[k], r[k]) * side - 0.5)),
  ];
  const [[x0, x1], [y0, y1]] = [range(0), range(1)];
  const sign = Math.sign(span);
  // A texel on a shared side belongs to one face: sides that run down, or along to the left, leave it out.
  const inside = (from: Point, to: Point, x: number, y: number) => {
    const w = ((to[0] - from[0]) * (y - from[1]) - (to[1] - from[1]) * (x - from[0])) * sign;
    if (w !== 0) return w > 0;
    const [dx, dy] = [(to[0] - from[0]) * sign, (to[1] - from[1]) * sign];
    return dy > 0 || (dy === 0 && dx < 0);
  };
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++) {
      const [u, v] = [(x + 0.5) / side, (y + 0.5) / side];
      if (inside(p, q, u, v) && inside(q, r, u, v) && inside(r, p, u, v)) visit(y * side + x);
    }
}

/** Free texels between the two islands that are nearest to each other, by waves from all of them at once. */
function nearestIslands(owner: Int32Array, side: number): number | null {
  const from = owner.slice();
  const away = new Int32Array(owner.length).fill(-1);
  let wave: number[] = [];
  owner.forEach((own, texel) => {
    if (own < 0) return;
    away[texel] = 0;
    wave.push(texel);
  });
  const beside = (texel: number): number[] => {
    const x = texel % side;
    return [
      ...(x > 0 ? [texel - 1] : []),
      ...(x < side - 1 ? [texel + 1] : []),
      ...(texel >= side ? [texel - side] : []),
      ...(texel < side * (side - 1) ? [texel + side] : []),
    ];
  };
  let least: number | null = null;
  while (wave.length && (least === null || away[wave[0]!]! * 2 < least)) {
    const next: number[] = [];
    for (const texel of wave)
      for (const other of beside(texel)) {
        if (away[other]! < 0) {
          away[other] = away[texel]! + 1;
          from[other] = from[texel]!;
          next.push(other);
        } else if (from[other] !== from[texel]) {
          const gap = away[other]! + away[texel]!;
          if (least === null || gap < least) least = gap;
        }
      }
    wave = next;
  }
  return least;
}
