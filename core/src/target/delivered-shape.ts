import type { Shape } from '../shape/index.js';
import { deliveredKind, type TargetProfile } from './profile.js';

/** Sides of the prism that stands for a cylinder where a target knows none. */
export const CYLINDER_SIDES = 24;

/**
 * A shape as it leaves for a target. A cylinder that becomes a prism is grown a little, so that the prism has
 * its volume: corners stand out as much as sides fall short (0.6 % of the radius with 24 sides).
 */
export function deliveredShape(profile: TargetProfile, shape: Shape): Shape {
  if (shape.kind !== 'cylinder' || deliveredKind(profile, shape.kind) === 'cylinder') return shape;
  const angle = (2 * Math.PI) / CYLINDER_SIDES;
  const grow = Math.sqrt(angle / Math.sin(angle));
  return { ...shape, bottomRadius: shape.bottomRadius * grow, topRadius: shape.topRadius * grow };
}
