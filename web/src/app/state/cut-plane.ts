import type { Bounds, Vec3 } from '@yard-brace/core';
import type { Cut } from './view-settings';

/** What lies behind the plane (normal . p < offset) is cut away. */
export interface CutPlane {
  normal: Vec3;
  /** metres along the normal */
  offset: number;
}

/** Where a cut runs through bounds, in metres along its axis. */
export const cutPlace = ({ axis, at }: Cut, { min, max }: Bounds): number =>
  min[axis] + (max[axis] - min[axis]) * at;

export function cutPlane(cut: Cut, bounds: Bounds): CutPlane {
  const sign = cut.flipped ? 1 : -1;
  const normal: Vec3 = [0, 0, 0];
  normal[cut.axis] = sign;
  return { normal, offset: sign * cutPlace(cut, bounds) };
}
