import { cylinderAlong, uprightBox } from '../fit/index.js';
import { add, rotate, type Vec3 } from '../math/index.js';
import { type BoxShape, type CylinderShape, type Shape, shapeVolume } from '../shape/index.js';
import { convexHull, hullShape } from '../hull/index.js';
import { DecomposeError } from './decompose-error.js';

export interface ContainerOptions {
  /** of the walls, metres */
  thicknessMetres: number;
  /** of the floor, metres. Default: as the walls */
  floorMetres?: number;
  /** walls of a round one. Default 12 */
  sides?: number;
}

/** A round container is one whose upright cylinder holds it in less than this share of its box. */
const ROUND_SHARE = 0.9;

/**
 * A container as a floor and walls in a ring, inside what holds all its points: things can fall into it. Boxes where
 * it is square, wedges of a ring where it is round; they meet and do not go into each other.
 *
 * @param points [3n]
 * @throws DecomposeError when walls or floor are thicker than there is room for
 */
export function containerAround(
  points: ArrayLike<number>,
  { thicknessMetres: thick, floorMetres: floor = thick, sides = 12 }: ContainerOptions,
): Shape[] {
  if (!(thick > 0 && floor > 0)) throw new DecomposeError('Walls and floor need a thickness above 0.');
  const box = uprightBox(points);
  const round = cylinderAlong(points, [0, 1, 0]);
  const isRound = shapeVolume(round) < shapeVolume(box) * ROUND_SHARE;
  const room = isRound ? round.bottomRadius : Math.min(box.halfExtents[0], box.halfExtents[2]);
  const high = isRound ? 2 * round.halfHeight : 2 * box.halfExtents[1];
  if (thick >= room || floor >= high)
    throw new DecomposeError(
      `Walls ${(thick * 1000).toPrecision(3)} mm thick leave no room inside; make them thinner.`,
    );
  return isRound ? ringOf(round, thick, floor, Math.max(3, Math.round(sides))) : wallsOf(box, thick, floor);
}

function wallsOf(
  { center, halfExtents: [x, y, z], rotation }: BoxShape,
  thick: number,
  floor: number,
): BoxShape[] {
  const part = (at: Vec3, halfExtents: Vec3): BoxShape => ({
    kind: 'box',
    center: add(center, rotate(rotation, at)),
    halfExtents,
    rotation,
  });
  const half = thick / 2;
  const up = y - floor / 2;
  return [
    part([0, -y + floor / 2, 0], [x, floor / 2, z]),
    ...[-1, 1].map((side) => part([side * (x - half), floor / 2, 0], [half, up, z])),
    ...[-1, 1].map((side) => part([0, floor / 2, side * (z - half)], [x - thick, up, half])),
  ];
}

function ringOf(
  { center, halfHeight, bottomRadius: radius }: CylinderShape,
  thick: number,
  floorMetres: number,
  sides: number,
): Shape[] {
  const floor: CylinderShape = {
    kind: 'cylinder',
    center: [center[0], center[1] - halfHeight + floorMetres / 2, center[2]],
    rotation: [0, 0, 0, 1],
    halfHeight: floorMetres / 2,
    bottomRadius: radius,
    topRadius: radius,
  };
  // Flat walls outside the curve, so that what is round lies within them.
  const outer = radius / Math.cos(Math.PI / sides);
  const inner = (radius - thick) / Math.cos(Math.PI / sides);
  const [low, high] = [center[1] - halfHeight + floorMetres, center[1] + halfHeight];
  const walls = Array.from({ length: sides }, (_, i): Shape => {
    const corners = [i, i + 1].flatMap((k) => {
      const angle = (2 * Math.PI * k) / sides;
      return [outer, inner].flatMap((r) =>
        [low, high].flatMap((y) => [center[0] + r * Math.cos(angle), y, center[2] + r * Math.sin(angle)]),
      );
    });
    const result = convexHull(corners);
    if (result.span !== 'solid')
      throw new DecomposeError('The walls are too thin to be solid; make them thicker.');
    return hullShape(result.hull);
  });
  return [floor, ...walls];
}

/** How wide the members of a frame are, and whether it has a sill. */
export interface FrameOptions {
  widthMetres: number;
  sill?: boolean;
  /** which of the opening's own axes are across, up and through. Default: x, y, z */
  axes?: { width: 0 | 1 | 2; height: 0 | 1 | 2; through: 0 | 1 | 2 };
}

/** The frame of an opening as boxes that meet: left, right, lintel, and a sill where it does not go to the floor. */
export function frameAround(
  opening: BoxShape,
  { widthMetres: wide, sill = false, axes = { width: 0, height: 1, through: 2 } }: FrameOptions,
): BoxShape[] {
  if (!(wide > 0)) throw new DecomposeError('A frame needs a width above 0.');
  const [x, y, z] = [axes.width, axes.height, axes.through].map((axis) => opening.halfExtents[axis]) as Vec3;
  const own = (across: number, up: number, through: number): Vec3 => {
    const out: Vec3 = [0, 0, 0];
    out[axes.width] = across;
    out[axes.height] = up;
    out[axes.through] = through;
    return out;
  };
  const part = (at: Vec3, halfExtents: Vec3): BoxShape => ({
    kind: 'box',
    center: add(opening.center, rotate(opening.rotation, at)),
    halfExtents,
    rotation: opening.rotation,
  });
  // Its own height may point down.
  const up = Math.sign(rotate(opening.rotation, own(0, 1, 0))[1]) || 1;
  const half = wide / 2;
  return [
    ...[-1, 1].map((side) => part(own(side * (x + half), 0, 0), own(half, y, z))),
    part(own(0, up * (y + half), 0), own(x + wide, half, z)),
    ...(sill ? [part(own(0, -up * (y + half), 0), own(x + wide, half, z))] : []),
  ];
}
