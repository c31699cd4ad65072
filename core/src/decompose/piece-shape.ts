import { type ConvexHull, farthestOutside, hullVolume, planeOf, withVertexBudget } from '../hull/index.js';
import { boxAlong, capsuleAlong, cylinderAlong, mostApart, smallestSphere, standOff } from '../fit/index.js';
import { boundsOf, diagonalOf, type Quat, rotate, type Vec3 } from '../math/index.js';
import { axisAlignedBox, minVolumeBox } from '../fit/index.js';
import { LEAST_THICKNESS_METRES, type Shape, shapePolygons, shapeVolume } from '../shape/index.js';
import { type ConvexBody, convexBody, crossingDepth } from './convex-overlap.js';
import type { Piece, Workshop } from './piece.js';

export interface PieceShapeOptions {
  /** take a box, sphere, capsule or cylinder where it serves */
  primitives: boolean;
  /** a primitive serves when it stands off the hull by no more than this many metres */
  tolerance: number;
  /** corners a hull has at most, the farthest first */
  mostVertices: number;
}

/** A shape for a piece, and how far art may stand out of it because its hull was kept to a few corners. */
export interface PieceShape {
  shape: Shape;
  cutBack: number;
}

/** Fewer corners than this are nothing round. */
const ROUND = 12;

/**
 * The simplest shape that serves: an exact box always is one; with `primitives` also what is a box, sphere,
 * cylinder or capsule within the tolerance. `fits` refuses shapes that would enter a clearance or a neighbour.
 */
export function pieceShape(
  piece: Piece,
  { primitives, tolerance, mostVertices }: PieceShapeOptions,
  fits: (body: ConvexBody) => boolean,
  { size }: Workshop,
): PieceShape {
  if (!piece.hull) return { shape: thinBox(piece.points), cutBack: 0 };
  const { hull } = piece;
  const allowed = primitives ? tolerance : size * 1e-6;
  const off = standOff({ span: 'solid', hull });
  const box = boxRound(hull);
  if (box && shapeVolume(box) < hullVolume(hull) * 1.6 && off(box) <= allowed && accepted(box, fits)) {
    return { shape: box, cutBack: 0 };
  }
  if (primitives && hull.points.length / 3 >= ROUND) {
    const round = roundShape(hull, box ? box.rotation : [0, 0, 0, 1], allowed, off);
    if (round && accepted(round, fits)) return { shape: round, cutBack: 0 };
  }
  const few = withVertexBudget(hull, mostVertices, 'inside');
  return {
    shape: { kind: 'hull', points: [...few.points], faces: few.faces },
    cutBack: few === hull ? 0 : farthestOutside(few, hull.points),
  };
}

function accepted(shape: Shape, fits: (body: ConvexBody) => boolean): boolean {
  const { points, faces } = shapePolygons(shape, { segments: 16 });
  return fits(convexBody(points, faces));
}

/** Flat points get a box of the least thickness; one along the axes when that is no larger. */
function thinBox(points: Float64Array): Shape {
  const turned = minVolumeBox(points, { worthTurning: 0.01 });
  return turned;
}

/** The smallest box along the axes or along one of the hull's largest faces. */
function boxRound(hull: ConvexHull): Extract<Shape, { kind: 'box' }> {
  const corners = mostApart(hull.points, 60);
  let best = axisAlignedBox(hull.points);
  let least = shapeVolume(best);
  if (least < hullVolume(hull) * (1 + 1e-9)) return best;
  for (const axis of largestFaces(hull, 4)) {
    if (shapeVolume(boxAlong(axis, corners)) >= least * (1 - 1e-6)) continue;
    best = boxAlong(axis, hull.points);
    least = shapeVolume(best);
  }
  return best;
}

function largestFaces({ points, faces }: ConvexHull, count: number): Vec3[] {
  return faces
    .map((face) => {
      const [x, y, z] = planeOf(points, face);
      let area = 0;
      for (let i = 1; i + 1 < face.length; i++) {
        const [a, b, c] = [face[0]! * 3, face[i]! * 3, face[i + 1]! * 3];
        const [ux, uy, uz] = [
          points[b]! - points[a]!,
          points[b + 1]! - points[a + 1]!,
          points[b + 2]! - points[a + 2]!,
        ];
        const [vx, vy, vz] = [
          points[c]! - points[a]!,
          points[c + 1]! - points[a + 1]!,
          points[c + 2]! - points[a + 2]!,
        ];
        area += (uy * vz - uz * vy) * x + (uz * vx - ux * vz) * y + (ux * vy - uy * vx) * z;
      }
      return { axis: [x, y, z] as Vec3, area };
    })
    .sort((a, b) => b.area - a.area)
    .slice(0, count)
    .map(({ axis }) => axis);
}

/** A sphere, cylinder or capsule that stands off by no more than `allowed`; the least volume of those. */
function roundShape(
  hull: ConvexHull,
  turn: Quat,
  allowed: number,
  off: (shape: Shape) => number,
): Shape | null {
  const full = hullVolume(hull);
  const found: Shape[] = [];
  // A ball's hull is nearly as large as the ball; what is far from it need not be measured.
  const offer = (shape: Shape, most: number) => {
    if (shapeVolume(shape) < full * most && off(shape) <= allowed) found.push(shape);
  };
  const size = diagonalOf(boundsOf(hull.points));
  if (Math.max(...sides(hull.points)) < Math.min(...sides(hull.points)) * 1.1)
    offer(smallestSphere(hull.points), 1.5);
  const corners = mostApart(hull.points, 60);
  const [axis] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ]
    .map((a) => rotate(turn, a as Vec3))
    .map((a) => ({ a, volume: shapeVolume(cylinderAlong(corners, a, { tapered: true })) }))
    .sort((s, t) => s.volume - t.volume);
  const straight = cylinderAlong(hull.points, axis!.a);
  const tapered = cylinderAlong(hull.points, axis!.a, { tapered: true });
  offer(shapeVolume(tapered) < shapeVolume(straight) * 0.98 ? tapered : straight, 1.5);
  offer(capsuleAlong(hull.points, axis!.a), 1.5);
  const least = found.sort((a, b) => shapeVolume(a) - shapeVolume(b))[0];
  return least && size > LEAST_THICKNESS_METRES ? least : null;
}

const sides = (points: Float64Array): number[] => {
  const { min, max } = boundsOf(points);
  return max.map((v, k) => v - min[k]!);
};

/** Whether a body goes into any clearance. */
export const clears = (body: ConvexBody, { clearances, size }: Workshop): boolean =>
  !clearances.some((clearance) => crossingDepth(body, clearance, size * 1e-9) > 0);
