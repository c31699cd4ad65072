import { convexHull, hullShape } from '../hull/index.js';
import { prismGrowth, type Shape, shapePolygons } from '../shape/index.js';
import { deliveredKind, type TargetProfile } from './profile.js';

/** Sides of the prism that stands for a cylinder where a target knows none, if it takes so many corners. */
const CYLINDER_SIDES = 24;

/** Sides of what is drawn for a target: as many as its hulls may have corners for, a multiple of four. */
export const deliveredSides = ({ proxies }: TargetProfile): number =>
  Math.max(4, Math.min(CYLINDER_SIDES, Math.floor(proxies.maxHullVertices / 8) * 4));

/** What a level gets of a shape: itself where the target knows its kind, else the hull that takes its place. */
export function asDelivered(profile: TargetProfile, shape: Shape): Shape {
  const kind = deliveredKind(profile, shape.kind);
  if (kind === shape.kind) return shape;
  const { points, faces } = shapePolygons(deliveredShape(profile, shape), {
    segments: deliveredSides(profile),
  });
  if (shape.kind !== 'surface') return { kind: 'hull', points: [...points], faces };
  const found = convexHull(points);
  return found.span === 'solid' ? hullShape(found.hull) : shape;
}

/**
 * A shape as it leaves for a target. A cylinder that becomes a prism is grown a little, so that the prism has
 * its volume: corners stand out as much as sides fall short.
 */
export function deliveredShape(profile: TargetProfile, shape: Shape): Shape {
  if (shape.kind !== 'cylinder' || deliveredKind(profile, shape.kind) === 'cylinder') return shape;
  const grow = prismGrowth(deliveredSides(profile));
  return { ...shape, bottomRadius: shape.bottomRadius * grow, topRadius: shape.topRadius * grow };
}

const delivered = new WeakMap<TargetProfile, WeakMap<Shape, Shape>>();

/**
 * Proxies with the shapes that a level gets of them: what is measured is what leaves. The same shape answers the same
 * object, so that what is kept by shape holds.
 */
export function proxiesAsDelivered<P extends { shape: Shape }>(
  profile: TargetProfile,
  proxies: readonly P[],
): P[] {
  const known = delivered.get(profile) ?? new WeakMap<Shape, Shape>();
  delivered.set(profile, known);
  return proxies.map((proxy) => {
    const shape = known.get(proxy.shape) ?? asDelivered(profile, proxy.shape);
    known.set(proxy.shape, shape);
    return shape === proxy.shape ? proxy : { ...proxy, shape };
  });
}
