import {
  add,
  dot,
  inverseQuat,
  rotate,
  scaled,
  subtract,
  type Vec3,
  type Warp,
  inModule,
  warpPoint,
  warpTurn,
} from '../math/index.js';
import { moveShape, type Shape, shapeBounds, shapePolygons, turnShape } from '../shape/index.js';
import { cutShape } from './cut-shape.js';
import { hullOf } from './solid-of.js';

/** A shape's axis this nearly along the module's own is along it. */
const ALONG_COSINE = 1 - 1e-9;

/**
 * A shape laid along a warp with the art it stands for: the shapes that it falls into. Boxes along a module that is only
 * stretched stay one box; round shapes shorter than a stretch are moved and turned as they are; everything else is cut
 * at the stations, and each piece is the hull of where its corners go. Surfaces go corner by corner.
 */
export function warpShape(shape: Shape, warp: Warp): Shape[] {
  if (shape.kind === 'surface') return [withPoints(shape, warp)];
  const reach = reachAlong(shape, warp);
  const { stations } = warp;
  const inner = stations.filter(({ at }) => at > reach[0] + 1e-9 && at < reach[1] - 1e-9);
  if (shape.kind === 'box' && isStraight(warp)) {
    const box = stretchedBox(shape, warp);
    if (box) return [box];
  }
  const beyond = reach[1] <= stations[0]!.at + 1e-9 || reach[0] >= stations.at(-1)!.at - 1e-9;
  const round = shape.kind === 'sphere' || shape.kind === 'capsule' || shape.kind === 'cylinder';
  const shortest = Math.min(...stations.slice(1).map(({ at }, i) => at - stations[i]!.at));
  if (beyond || (round && reach[1] - reach[0] <= shortest)) return [carried(shape, warp)];
  let rest: Shape | null = shape;
  const pieces: Shape[] = [];
  for (const { at } of inner) {
    if (!rest) break;
    const point = add(warp.origin, scaled(warp.along, at));
    const { below, above }: { below: Shape | null; above: Shape | null } = cutShape(rest, {
      point,
      normal: warp.along,
    });
    if (below) pieces.push(below);
    rest = above;
  }
  if (rest) pieces.push(rest);
  return pieces.flatMap((piece) => {
    const { points } = shapePolygons(piece);
    const moved: number[] = [];
    for (let i = 0; i < points.length; i += 3)
      moved.push(...warpPoint(warp, [points[i]!, points[i + 1]!, points[i + 2]!]));
    return hullOf(moved) ?? [];
  });
}

/** Whether the module is only stretched: no section is turned or cut askew. */
const isStraight = ({ along, up, stations }: Warp): boolean =>
  stations.every((s) => dot(s.along, along) > ALONG_COSINE && dot(s.up, up) > ALONG_COSINE);

function stretchedBox(shape: Extract<Shape, { kind: 'box' }>, warp: Warp): Shape | null {
  const own = rotate(inverseQuat(shape.rotation), warp.along);
  const axis = own.findIndex((v) => Math.abs(v) >= ALONG_COSINE);
  if (axis < 0) return null;
  const way = scaled(warp.along, shape.halfExtents[axis]!);
  const [low, high] = [warpPoint(warp, subtract(shape.center, way)), warpPoint(warp, add(shape.center, way))];
  const halfExtents: Vec3 = [...shape.halfExtents];
  halfExtents[axis] = Math.abs(dot(subtract(high, low), warp.along)) / 2;
  return { ...shape, center: scaled(add(low, high), 0.5), halfExtents };
}

/** Moved and turned as a whole, by what happens to its middle. */
function carried(shape: Shape, warp: Warp): Shape {
  const { min, max } = shapeBounds(shape);
  const middle = 'center' in shape ? shape.center : (min.map((v, k) => (v + max[k]!) / 2) as Vec3);
  const turn = warpTurn(warp, middle);
  const turned = turnShape(moveShape(shape, scaled(middle, -1)), turn);
  return moveShape(turned, warpPoint(warp, middle));
}

function withPoints(shape: Extract<Shape, { kind: 'surface' }>, warp: Warp): Shape {
  const points: number[] = [];
  for (let i = 0; i < shape.points.length; i += 3)
    points.push(...warpPoint(warp, [shape.points[i]!, shape.points[i + 1]!, shape.points[i + 2]!]));
  return { ...shape, points };
}

function reachAlong(shape: Shape, warp: Warp): [number, number] {
  const { points } = shapePolygons(shape);
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 3) {
    const [at] = inModule(warp, [points[i]!, points[i + 1]!, points[i + 2]!]);
    [low, high] = [Math.min(low, at), Math.max(high, at)];
  }
  return [low, high];
}
