import {
  clipConvex,
  type ConvexPolyhedron,
  convexHull,
  hullVolume,
  withVertexBudget,
  hullShape,
} from '../hull/index.js';
import { exactBox } from '../fit/index.js';
import type { Shape } from '../shape/index.js';
import { bodyAround, type ConvexBody, convexBody, crosses } from '../compare/convex-overlap.js';

/**
 * What of a convex shape stays outside convex obstacles, deeper than `depth` metres into none of them: it is cut
 * along that face of each which leaves most of it. The same shape when it enters none; null when nothing is
 * left. A box that stays one is one.
 */
export function keptOut(
  shape: Shape,
  obstacles: readonly ConvexBody[],
  { depth, eps, maxVertices }: { depth: number; eps: number; maxVertices: number },
): Shape | null {
  let body = bodyAround(shape);
  let cut = false;
  for (const obstacle of obstacles) {
    if (!crosses(body, obstacle, depth, eps)) continue;
    const left = outsideOf(body, obstacle, eps);
    if (!left) return null;
    body = left;
    cut = true;
  }
  if (!cut) return shape;
  const box = body.points.length === 24 ? exactBox(Float64Array.from(body.points)) : null;
  if (box) {
    const again = bodyAround(box);
    if (obstacles.every((obstacle) => !crosses(again, obstacle, depth, eps))) return box;
  }
  const few = withVertexBudget(
    { points: Float64Array.from(body.points), faces: body.faces },
    maxVertices,
    'inside',
  );
  return hullShape(few);
}

/** The largest part of a body on the far side of one face of an obstacle. */
function outsideOf(body: ConvexBody, { planes }: ConvexBody, eps: number): ConvexBody | null {
  let best: ConvexPolyhedron | null = null;
  let most = 0;
  for (let i = 0; i < planes.length; i += 4) {
    const part = clipConvex(body, -planes[i]!, -planes[i + 1]!, -planes[i + 2]!, -planes[i + 3]!, eps);
    if (!part) continue;
    const volume = hullVolume({ points: Float64Array.from(part.points), faces: part.faces });
    if (volume <= most) continue;
    most = volume;
    best = part;
  }
  if (!best) return null;
  const clean = convexHull(best.points);
  return clean.span === 'solid' ? convexBody(clean.hull.points, clean.hull.faces) : null;
}
