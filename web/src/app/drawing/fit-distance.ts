import {
  type Bounds,
  boxCorners,
  centreOf,
  cross,
  dot,
  normalized,
  NO_ROTATION,
  scaled,
  sizeOf,
  type Vec3,
} from '@yard-brace/core';

export interface FrameToFit {
  /** from what is looked at towards the eye */
  direction: Readonly<Vec3>;
  /** tangents of half the angle that is seen, up and sideways */
  tangents: readonly [height: number, width: number];
  /** all rays run the same way */
  parallel?: boolean;
}

/**
 * How far from the middle of bounds an eye has to be, in metres, so that all their corners are just in its frame. Without
 * perspective: the distance at which the frame, opened by its tangents, is large enough.
 */
export function fitDistance(
  bounds: Bounds,
  { direction, tangents: [tall, wide], parallel }: FrameToFit,
): number {
  const back = normalized(direction);
  const straightUp = Math.abs(back[1]) > 0.999_999;
  const right = normalized(cross(straightUp ? [0, 0, -1] : [0, 1, 0], back));
  const up = cross(back, right);
  const half = scaled(sizeOf(bounds), 0.5);
  const middle = centreOf(bounds);
  let far = 0;
  for (const corner of boxCorners([0, 0, 0], half, [...NO_ROTATION])) {
    const nearer = parallel ? 0 : dot(corner, back);
    far = Math.max(
      far,
      nearer + Math.abs(dot(corner, up)) / tall,
      nearer + Math.abs(dot(corner, right)) / wide,
    );
  }
  // A point has no extent: it is looked at from where a micron would fill the frame.
  return Math.max(far, 1e-6, Math.hypot(...middle) * 1e-9);
}
