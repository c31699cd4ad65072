import { freeCylinder, outline2d, pointsOfFaces } from '../fit/index.js';
import { convexHull, hullShape, hullVolume, withVertexBudget } from '../hull/index.js';
import { dot, rotate, subtract, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import type { CylinderShape, Shape, SphereShape } from '../shape/index.js';
import { DecomposeError } from './decompose-error.js';

/** Seen along its axle, a wheel fills this much of the circle round it: a square fills 0.64, eight sides 0.9. */
const ROUND_SHARE = 0.88;
/** A wheel is no wider than this many diameters … */
const MAX_WIDTH_DIAMETERS = 1.2;
/** … its axle lies level: the most that it rises, as a sine … */
const MAX_AXLE_RISE = 0.2;
/** … and it is smaller than the rest: its hull's volume as a share of that of the largest part. */
const MAX_WHEEL_SHARE = 0.5;

/** A shape and the number of the part that it belongs to. */
export interface OwnedShape {
  shape: Shape;
  part: number;
}

/**
 * A vehicle: one convex body round all parts that are no wheels, which belongs to the largest of them, and a ball for
 * each wheel. A wheel is a round part on a level axle; a ball rolls over seams that would stop a cylinder's edge.
 *
 * @param partOf number of the part that a face is on
 * @throws DecomposeError when no part is a wheel, or nothing else is left for a body
 */
export function vehicleOf(
  mesh: Mesh,
  partOf: (face: number) => number,
  { maxCorners }: { maxCorners: number },
): { body: OwnedShape; wheels: OwnedShape[] } {
  const faces = new Map<number, number[]>();
  for (let f = 0; f < mesh.indices.length / 3; f++) {
    const part = partOf(f);
    const own = faces.get(part) ?? [];
    own.push(f);
    faces.set(part, own);
  }
  const parts = [...faces].map(([part, own]) => measuredPart(part, pointsOfFaces(mesh, own)));
  const largest = Math.max(...parts.map(({ volume }) => volume));
  const wheels = parts.filter(({ wheel, volume }) => wheel && volume <= largest * MAX_WHEEL_SHARE);
  const rest = parts.filter((part) => !wheels.includes(part));
  if (!wheels.length)
    throw new DecomposeError(
      'No part is a wheel: round, on a level axle, and smaller than the body. Split the wheels off as parts of their own first.',
    );
  const owner = rest.reduce((most, part) => (part.volume > most.volume ? part : most)).part;
  const hull = convexHull(rest.flatMap(({ points }) => [...points]));
  if (hull.span !== 'solid')
    throw new DecomposeError('The parts beside the wheels are flat; there is no body.');
  return {
    body: { shape: hullShape(withVertexBudget(hull.hull, maxCorners, 'outside')), part: owner },
    wheels: wheels.map(({ part, wheel }) => ({ shape: wheel!, part })),
  };
}

interface MeasuredPart {
  part: number;
  /** [3n] */
  points: Float64Array;
  /** of its hull, cubic metres */
  volume: number;
  /** the ball that rolls as it does; null when it is no wheel */
  wheel: SphereShape | null;
}

function measuredPart(part: number, points: Float64Array): MeasuredPart {
  const found = convexHull(points);
  if (found.span !== 'solid') return { part, points, volume: 0, wheel: null };
  const around = freeCylinder(found.hull.points);
  const wheel: SphereShape | null = isWheel(around, found.hull.points)
    ? { kind: 'sphere', center: around.center, radius: around.topRadius }
    : null;
  return { part, points, volume: hullVolume(found.hull), wheel };
}

function isWheel(around: CylinderShape, points: ArrayLike<number>): boolean {
  const { rotation, center, topRadius, halfHeight } = around;
  const [across, axle, up] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ].map((axis) => rotate(rotation, axis as Vec3)) as [Vec3, Vec3, Vec3];
  if (halfHeight > topRadius * MAX_WIDTH_DIAMETERS || Math.abs(axle[1]) > MAX_AXLE_RISE) return false;
  const seen = Array.from({ length: points.length / 3 }, (_, v): [number, number] => {
    const off = subtract([points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!], center);
    return [dot(off, across), dot(off, up)];
  });
  return areaOf(outline2d(seen)) >= ROUND_SHARE * Math.PI * topRadius ** 2;
}

const areaOf = (outline: readonly (readonly [number, number])[]): number =>
  outline.reduce((sum, [x, y], i) => {
    const [nextX, nextY] = outline[(i + 1) % outline.length]!;
    return sum + (x * nextY - nextX * y) / 2;
  }, 0);
