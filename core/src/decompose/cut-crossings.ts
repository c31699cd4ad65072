import { volumeOfHullOf } from '../hull/index.js';
import { diagonalOf } from '../math/index.js';
import { crosses } from '../compare/convex-overlap.js';
import { cutFragment, fragmentBounds, splitFragment } from './fragment.js';
import { type ConvexPart, convexPartOf, type DecompositionContext } from './convex-part.js';

/** Pieces made at most while crossings are taken away. */
const MAX_CONVEX_PARTS = 200;
/** What reaches out of another piece by less than this share of the size is left to it. */
const MIN_CROSSING_SHARE = 3e-3;

/**
 * Pieces that do not go into each other by more than `depth` metres: the smaller of two that cross is cut along
 * the other's faces, and what of it lies inside the other is left to that.
 */
export function cutCrossings(
  pieces: readonly ConvexPart[],
  depth: number,
  context: DecompositionContext,
): ConvexPart[] {
  const eps = context.size * 1e-9;
  const done: ConvexPart[] = [];
  const waiting = [...pieces].sort((a, b) => a.hullVolume - b.hullVolume);
  let made = waiting.length;
  while (waiting.length) {
    context.progress(-1);
    const piece = waiting.pop()!;
    const other = done.find((o) => piece.body && o.body && crosses(piece.body, o.body, depth, eps));
    if (!other) {
      done.push(piece);
      continue;
    }
    if (made > MAX_CONVEX_PARTS) continue;
    const parts = outsideOf(piece, other, depth, context);
    made += parts.length;
    waiting.push(...parts);
    waiting.sort((a, b) => a.hullVolume - b.hullVolume);
  }
  return done;
}

/** Cut one piece along the face of another that leaves most of it outside; the rest is asked again. */
function outsideOf(
  piece: ConvexPart,
  other: ConvexPart,
  depth: number,
  context: DecompositionContext,
): ConvexPart[] {
  const { planes } = other.body!;
  const eps =
    diagonalOf(
      fragmentBounds(piece.fragment ?? { points: piece.points, triangles: new Int32Array(0), faces: 0 }),
    ) * 1e-9;
  const fragment = piece.fragment ?? fragmentOfHull(piece);
  let most = -1;
  let best: ConvexPart[] = [];
  for (let i = 0; i < planes.length; i += 4) {
    const [nx, ny, nz, d] = [planes[i]!, planes[i + 1]!, planes[i + 2]!, planes[i + 3]!];
    const [inside, outside] = cutFragment(fragment, { nx, ny, nz, d }, eps);
    if (!outside || !inside) continue;
    const volume = volumeOfHullOf(outside.points);
    if (volume <= most) continue;
    const parts = [...splitFragment(outside), ...splitFragment(inside)]
      .map((part) => convexPartOf(part, piece.group, context))
      .filter(
        (part) =>
          part.hull && thickness(part) > depth && !within(part, other, context.size * MIN_CROSSING_SHARE),
      );
    most = volume;
    best = parts;
  }
  return best;
}

/** Whether a piece reaches out of another nowhere by more than `slack` metres. */
function within({ points }: ConvexPart, other: ConvexPart, slack: number): boolean {
  const { planes } = other.body!;
  for (let i = 0; i < planes.length; i += 4)
    for (let v = 0; v < points.length; v += 3)
      if (
        planes[i]! * points[v]! + planes[i + 1]! * points[v + 1]! + planes[i + 2]! * points[v + 2]! >
        planes[i + 3]! + slack
      )
        return false;
  return true;
}

const thickness = (piece: ConvexPart): number => Math.cbrt(piece.hullVolume);

function fragmentOfHull(piece: ConvexPart) {
  const hull = piece.hull!;
  const triangles = hull.faces.flatMap((face) =>
    face.slice(2).flatMap((_, i) => [face[0]!, face[i + 1]!, face[i + 2]!]),
  );
  return { points: hull.points, triangles: Int32Array.from(triangles), faces: triangles.length / 3 };
}
