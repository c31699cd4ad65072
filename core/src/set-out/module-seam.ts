import { add, type Bounds, length, scaled, subtract, type Vec3 } from '../math/index.js';
import { type Mesh, plainMesh, type SeamPair, seamBetween } from '../mesh/index.js';

/** Vertices that are farther apart are not meant to meet, metres. */
export const SEAM_REACH_METRES = 0.05;
/** Apart by no more than this, metres, two pieces meet. */
export const MEETS_METRES = 1e-4;
/** So many vertices have to be off in one way before two ends are taken for a seam. */
const MIN_PAIRS = 3;

/** How the ends of two pieces stand to each other. Lengths in metres. */
export interface ModuleSeam {
  /** above zero they leave a gap, below zero they overlap; 0 where they meet */
  gap: number;
  /** what the second has to be moved by until they meet */
  shift: Vec3;
  /** where it is worst */
  at: Vec3;
  /** vertices that are off in this way, or that meet */
  pairs: number;
  /** vertices near the other piece that meet none of it: they cannot be welded */
  unmatched: number;
}

/**
 * The seam between two pieces that stand end to end: the way in which most of their vertices are off. Where some
 * vertices lie on each other the ends meet, whatever joints the art has beside. Null where nothing looks like one.
 */
export function moduleSeam(a: Mesh, b: Mesh, reach = SEAM_REACH_METRES): ModuleSeam | null {
  const region = sharedRegion(a, b, reach);
  const { pairs, unmatched } = seamBetween(cropped(a, region), cropped(b, region), reach);
  const ways = new Map<string, SeamPair[]>();
  for (const pair of pairs) {
    const way = subtract(pair.b, pair.a)
      .map((v) => Math.round(v / MEETS_METRES))
      .join();
    const alike = ways.get(way);
    if (alike) alike.push(pair);
    else ways.set(way, [pair]);
  }
  const meeting = pairs.filter(({ apart }) => apart <= MEETS_METRES);
  const [most = []] = [...ways.values()].sort((x, y) => y.length - x.length || x[0]!.apart - y[0]!.apart);
  const seam = meeting.length >= MIN_PAIRS ? meeting : most;
  if (seam.length < MIN_PAIRS) return null;
  const worst = seam.reduce((far, pair) => (pair.apart > far.apart ? pair : far));
  const at = scaled(add(worst.a, worst.b), 0.5);
  if (seam === meeting)
    return {
      gap: 0,
      shift: [0, 0, 0],
      at,
      pairs: seam.length,
      unmatched: unmatched + pairs.length - seam.length,
    };
  const shift = scaled(
    seam.reduce((sum, pair) => add(sum, subtract(pair.a, pair.b)), [0, 0, 0] as Vec3),
    1 / seam.length,
  );
  const open = seam.filter(({ gap }) => gap > 0).length * 2 >= seam.length;
  const apart = length(shift);
  return {
    gap: open ? apart : -apart,
    shift,
    at,
    pairs: seam.length,
    unmatched: unmatched + pairs.length - seam.length,
  };
}

function sharedRegion(a: Mesh, b: Mesh, reach: number): Bounds {
  const [one, other] = [usedBounds(a), usedBounds(b)];
  const min = one.min.map((v, k) => Math.max(v, other.min[k]!) - reach) as Vec3;
  const max = one.max.map((v, k) => Math.min(v, other.max[k]!) + reach) as Vec3;
  return { min, max };
}

function usedBounds({ positions, indices }: Mesh): Bounds {
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (const v of indices)
    for (let k = 0; k < 3; k++) {
      const at = positions[v * 3 + k]!;
      if (at < min[k]!) min[k] = at;
      if (at > max[k]!) max[k] = at;
    }
  return { min, max };
}

/** The faces that have a corner in a region, with their vertices alone. */
function cropped(mesh: Mesh, { min, max }: Bounds): Mesh {
  const { positions, indices } = mesh;
  const inside = (v: number) =>
    [0, 1, 2].every((k) => positions[v * 3 + k]! >= min[k]! && positions[v * 3 + k]! <= max[k]!);
  const kept: number[] = [];
  const number = new Map<number, number>();
  const corners: number[] = [];
  for (let f = 0; f < indices.length; f += 3) {
    const face = [indices[f]!, indices[f + 1]!, indices[f + 2]!];
    if (!face.some(inside)) continue;
    for (const v of face) {
      let at = number.get(v);
      if (at === undefined) {
        at = corners.length / 3;
        number.set(v, at);
        corners.push(positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!);
      }
      kept.push(at);
    }
  }
  return plainMesh(corners, kept);
}
