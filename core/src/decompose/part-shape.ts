import {
  axisAlignedBox,
  boxAlong,
  capsuleAlong,
  cylinderAlong,
  largestFaces,
  minVolumeBox,
  mostApart,
  smallestSphere,
  standOff,
} from '../fit/index.js';
import {
  balanceCorners,
  type ConvexHull,
  convexHull,
  faceArea,
  farthestOutside,
  hullDistance,
  hullVolume,
  withVertexBudget,
  hullShape,
} from '../hull/index.js';
import { boundsOf, diagonalOf, type Quat, rotate, type Vec3 } from '../math/index.js';
import { MIN_THICKNESS_METRES, type Shape, type ShapeKind, shapeVolume } from '../shape/index.js';

export interface PartShapeOptions {
  /** take a box, sphere, capsule or cylinder where it serves */
  primitives: boolean;
  /** kinds that may be taken beside hulls and boxes */
  kinds: readonly ShapeKind[];
  /** a primitive serves when it stands off by no more metres than this, whatever its volume */
  tolerance: number;
  /** or by no more than this share of its size while being hardly larger; 0 for not at all */
  looseness: number;
  /** corners a hull has at most */
  maxVertices: number;
}

/** Corners that are looked at to choose a shape. */
const MAX_CORNERS = 160;
/** Fewer corners than this are nothing round. */
const MIN_ROUND_CORNERS = 12;
/** A loose fit may be larger than the hull by this factor. */
const MAX_LOOSE_FACTOR = 1.2;
/** Corners outside stand off so many times as far as corners on both sides before those are taken. */
const SPIKE_FACTOR = 1.5;
/** Spikes lower than this share of the size are left. */
const MIN_SPIKE_SHARE = 0.015;
/** A round shape is taken for a box only when it saves this much of the volume. */
const ROUND_WORTH = 0.88;

/**
 * The simplest shape that holds points ([3n]): a box when they are one, with `primitives` also what is a box,
 * sphere, cylinder or capsule to within the tolerance; else their hull with few corners, its flat sides kept
 * where they are so that edges come out crisp.
 */
export function partShape(points: Float64Array, options: PartShapeOptions): Shape {
  const result = convexHull(points, { maxVertices: Math.max(MAX_CORNERS, options.maxVertices) });
  if (result.span !== 'solid') return minVolumeBox(points, { worthTurning: 0.01 });
  const { hull } = result;
  return primitiveFor(hull, options) ?? hullShape(fewCorners(hull, options.maxVertices));
}

/** Round hulls get spikes from few corners all outside; there corners on both sides of the surface lie nearer. */
export function fewCorners(hull: ConvexHull, most: number): ConvexHull {
  const outside = withVertexBudget(hull, most, 'outside', false);
  let few = outside;
  const spike = outside === hull ? 0 : farthestFrom(hull, outside.points);
  if (spike > MIN_SPIKE_SHARE * diagonalOf(boundsOf(hull.points))) {
    const between = withVertexBudget(hull, most, 'between');
    const across = offOf(hull, between);
    if (across * SPIKE_FACTOR < spike) few = balanceCorners(between, hull);
  }
  return few;
}

/** How far a hull and another that stands for it lie outside each other at most, metres. */
const offOf = (hull: ConvexHull, other: ConvexHull): number =>
  Math.max(farthestFrom(hull, other.points), farthestOutside(other, hull.points));

function farthestFrom(hull: ConvexHull, points: ArrayLike<number>): number {
  const distance = hullDistance(hull.points, hull.faces);
  let most = 0;
  for (let i = 0; i < points.length; i += 3)
    most = Math.max(most, distance(points[i]!, points[i + 1]!, points[i + 2]!));
  return most;
}

function primitiveFor(hull: ConvexHull, options: PartShapeOptions): Shape | null {
  const full = hullVolume(hull);
  const size = diagonalOf(boundsOf(hull.points));
  const exact = size * 1e-6;
  const area = areaOf(hull);
  const off = standOff({ span: 'solid', hull });
  const serves = (shape: Shape): boolean => {
    const volume = shapeVolume(shape);
    const loose = volume <= full * MAX_LOOSE_FACTOR ? options.looseness * size : 0;
    const allowed = options.primitives ? Math.max(exact, options.tolerance, loose) : exact;
    // Standing off is dear to measure; what is larger than a skin so thick round the hull stands off more.
    return volume - full <= allowed * (area + allowed * size * 8) && off(shape) <= allowed;
  };
  const box = boxRound(hull);
  const boxServes = serves(box);
  const boxiness = shapeVolume(box) / full;
  if (!options.primitives || hull.points.length / 3 < MIN_ROUND_CORNERS || boxiness < 1.1 || boxiness > 2.2)
    return boxServes ? box : null;
  const round = roundShapes(hull, box.rotation, options.kinds).find(serves);
  if (round && (!boxServes || shapeVolume(round) < shapeVolume(box) * ROUND_WORTH)) return round;
  return boxServes ? box : null;
}

const areaOf = ({ points, faces }: ConvexHull): number =>
  faces.reduce((area, face) => area + faceArea(points, face), 0);

/** The smallest box along the axes or along one of the hull's largest faces. */
function boxRound(hull: ConvexHull): Extract<Shape, { kind: 'box' }> {
  const corners = mostApart(hull.points, 60);
  let best = axisAlignedBox(hull.points);
  let least = shapeVolume(best);
  if (least < hullVolume(hull) * (1 + 1e-9)) return best;
  for (const axis of largestFaces(hull, 4)) {
    if (shapeVolume(boxAlong(axis, corners)) >= least * (1 - 1e-6)) continue;
    const turned = boxAlong(axis, hull.points);
    if (shapeVolume(turned) >= least * (1 - 1e-6)) continue;
    best = turned;
    least = shapeVolume(best);
  }
  return best;
}

/** Sphere, cylinder and capsule round a hull, the least volume first. */
function roundShapes(hull: ConvexHull, turn: Quat, kinds: readonly ShapeKind[]): Shape[] {
  const { points } = hull;
  const { min, max } = boundsOf(points);
  const sides = max.map((v, k) => v - min[k]!);
  if (Math.min(...sides) < MIN_THICKNESS_METRES) return [];
  const corners = mostApart(points, 40);
  const axes: Vec3[] = [...UNIT.map((axis) => rotate(turn, axis)), ...largestFaces(hull, 2)];
  const { axis } = axes
    .map((axis) => ({ axis, volume: shapeVolume(cylinderAlong(corners, axis, { tapered: true })) }))
    .reduce((a, b) => (b.volume < a.volume * (1 - 1e-6) ? b : a));
  const straight = cylinderAlong(points, axis);
  const tapered = cylinderAlong(points, axis, { tapered: true });
  const found: Shape[] = [
    shapeVolume(tapered) < shapeVolume(straight) * 0.96 ? tapered : straight,
    capsuleAlong(points, axis),
  ];
  if (Math.max(...sides) < Math.min(...sides) * 1.1) found.push(smallestSphere(points));
  return found.filter(({ kind }) => kinds.includes(kind)).sort((a, b) => shapeVolume(a) - shapeVolume(b));
}

const UNIT: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
