import {
  add,
  inverseQuat,
  multiplyQuats,
  NO_ROTATION,
  normalized,
  type Quat,
  rotate,
  scaled,
  type Vec3,
} from '../math/index.js';
import { mirrorPoint, mirrorShape, type MirrorPlane } from './mirror-shape.js';
import { moveShape, turnShape } from './move-shape.js';
import type { Shape } from './shape.js';

/** A change that keeps all lengths: mirrored over the plane x = 0 or not, then turned about the origin, then moved. */
export interface Isometry {
  mirror: boolean;
  rotation: Quat;
  position: Vec3;
}

export const NO_CHANGE: Isometry = { mirror: false, rotation: [...NO_ROTATION], position: [0, 0, 0] };

const ACROSS_X: MirrorPlane = { point: [0, 0, 0], normal: [1, 0, 0] };
const mirroredX = ([x, y, z]: Readonly<Vec3>): Vec3 => [-x, y, z];
/** The rotation as it is seen in a mirror over x = 0. */
const seenInMirror = ([x, y, z, w]: Readonly<Quat>): Quat => [x, -y, -z, w];

export const shifted = (by: Readonly<Vec3>): Isometry => ({ ...NO_CHANGE, position: [...by] });

export const turnedAbout = (point: Readonly<Vec3>, rotation: Readonly<Quat>): Isometry => ({
  mirror: false,
  rotation: [...rotation],
  position: add(point, scaled(rotate(rotation, point), -1)),
});

/** A reflection is the half turn about the normal after that about x, with x turned round. */
export function mirroredOver(plane: MirrorPlane): Isometry {
  const [x, y, z] = normalized(plane.normal);
  return {
    mirror: true,
    rotation: multiplyQuats([x, y, z, 0], [1, 0, 0, 0]),
    position: mirrorPoint([0, 0, 0], plane),
  };
}

/** First `first`, then `then`. */
export const after = (first: Isometry, then: Isometry): Isometry => ({
  mirror: first.mirror !== then.mirror,
  rotation: multiplyQuats(then.rotation, then.mirror ? seenInMirror(first.rotation) : first.rotation),
  position: add(
    rotate(then.rotation, then.mirror ? mirroredX(first.position) : first.position),
    then.position,
  ),
});

export function inverseOf({ mirror, rotation, position }: Isometry): Isometry {
  const back = inverseQuat(rotation);
  const at = scaled(rotate(back, position), -1);
  return {
    mirror,
    rotation: mirror ? seenInMirror(back) : back,
    position: mirror ? mirroredX(at) : at,
  };
}

export function changedBy<S extends Shape>(shape: S, { mirror, rotation, position }: Isometry): S {
  const seen = mirror ? mirrorShape(shape, ACROSS_X) : shape;
  return moveShape(turnShape(seen, rotation), position);
}
