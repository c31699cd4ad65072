import { convexHull, type ConvexHull } from './convex-hull.js';
import { hullDistance } from './hull-distance.js';
import { faceArea, facePlanes } from './plane.js';

/** Rounds of moving corners; more bring next to nothing, … */
const ROUNDS = 12;
/** … and neither does going on when so many have brought nothing. */
const VAIN_ROUNDS = 2;
/** Corners go so much of the way that would even out what they see: their faces have other corners, too. */
const STEP = 0.5;

/**
 * A hull that stands for another with fewer corners, each moved out or in until it stands off as far as the other
 * reaches through the faces at it: the nearest that is found, with no more corners. What is largest is made smaller where
 * it is, as in the exchange of Remez (1934), in place of growing all alike.
 *
 * @param evened what corners are made of that are to be their own image, [3n] to [3m]
 */
export function balanceCorners(
  few: ConvexHull,
  hull: ConvexHull,
  evened: (corners: Float64Array) => Float64Array = (corners) => corners,
): ConvexHull {
  const apart = apartFrom(hull);
  let [best, least] = [few, Infinity];
  let current = few;
  let vain = 0;
  for (let round = 0; round <= ROUNDS; round++) {
    const { planes, out, through, misfit } = apart(current);
    if (misfit < least) [best, least, vain] = [current, misfit, 0];
    else if (++vain === VAIN_ROUNDS) break;
    const seen = new Float64Array(out.length);
    const ways = new Float64Array(out.length * 3);
    current.faces.forEach((face, f) => {
      for (const v of face) {
        seen[v] = Math.max(seen[v]!, through[f]!);
        for (let k = 0; k < 3; k++) ways[v * 3 + k]! += planes[f * 4 + k]!;
      }
    });
    const moved = current.points.map((value, i) => {
      const v = (i / 3) | 0;
      const way = Math.hypot(ways[v * 3]!, ways[v * 3 + 1]!, ways[v * 3 + 2]!) || 1;
      return value + (ways[i]! / way) * STEP * (seen[v]! - out[v]!);
    });
    const next = convexHull(evened(moved));
    if (next.span !== 'solid' || next.hull.points.length > few.points.length) break;
    current = next.hull;
  }
  return best;
}

/** How much worse than another hull is one that stands for it: farthest apart times about the volume between, m⁴. */
export const hullMisfit = (few: ConvexHull, hull: ConvexHull): number => apartFrom(hull)(few).misfit;

/** Where hulls and the one that they stand for are apart. */
function apartFrom(hull: ConvexHull) {
  const distance = hullDistance(hull.points, hull.faces);
  return ({ points, faces }: ConvexHull) => {
    const planes = facePlanes(points, faces, 0);
    /** how far the hull reaches through each face */
    const through = throughFaces(planes, hull.points);
    /** how far each corner stands off the hull, negative inside */
    const out = Float64Array.from({ length: points.length / 3 }, (_, v) =>
      distance(points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!),
    );
    // A corner outside fills a share of the pyramid over its faces, what reaches through a face is a dome over it.
    let apart = 0;
    faces.forEach((face, f) => {
      const outside = face.reduce((sum, v) => sum + Math.max(0, out[v]!), 0) / face.length;
      apart += faceArea(points, face) * (outside + through[f]!);
    });
    const misfit = Math.max(most(out), most(through)) * apart;
    return { planes, through, out, misfit };
  };
}

/** How far points reach through each of the faces, 0 where none does. */
function throughFaces(planes: ArrayLike<number>, points: ArrayLike<number>): Float64Array {
  return Float64Array.from({ length: planes.length / 4 }, (_, f) => {
    const [nx, ny, nz, d] = [planes[f * 4]!, planes[f * 4 + 1]!, planes[f * 4 + 2]!, planes[f * 4 + 3]!];
    let far = 0;
    for (let i = 0; i < points.length; i += 3)
      far = Math.max(far, nx * points[i]! + ny * points[i + 1]! + nz * points[i + 2]! - d);
    return far;
  });
}

const most = (values: Float64Array): number => values.reduce((a, b) => Math.max(a, b), 0);
