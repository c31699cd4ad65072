import { decompose, rungWithin } from '../decompose/index.js';
import { shapeOfKind } from '../fit/index.js';
import { convexHull, hullShape } from '../hull/index.js';
import { plainMesh, trianglesVolume } from '../mesh/index.js';
import { fanTriangles, type Shape, type ShapeKind, shapePolygons, shapeVolume } from '../shape/index.js';
import { endOf, type TargetProfile } from './profile.js';

type Taking = Pick<TargetProfile, 'kinds' | 'solids'>;

/** Most shapes that a surface is broken up into. */
const MOST_FROM_ONE_SURFACE = 16;

const tapers = (shape: Shape): boolean =>
  shape.kind === 'cylinder' && Math.abs(shape.bottomRadius - shape.topRadius) > 1e-6 * shape.bottomRadius;

/** The kind under which the target gets a shape. */
export function deliveredKind({ kinds }: Taking, shape: Shape): ShapeKind {
  const from = tapers(shape) && !kinds.tapered ? 'hull' : shape.kind;
  return endOf(kinds, from) ?? 'hull';
}

/** What a level gets of a shape: itself where the target knows its kind, else what takes its place. */
export function asDelivered(profile: Taking, shape: Shape): Shape {
  const kind = deliveredKind(profile, shape);
  if (kind === shape.kind) return shape;
  const { points, faces } = polygonsOfVolume(profile, shape);
  if (kind === 'surface') return { kind, points: [...points], indices: [...fanTriangles(faces)] };
  if (kind !== 'hull') return shapeOfKind(points, kind);
  if (shape.kind !== 'surface') return { kind, points: [...points], faces };
  const found = convexHull(points, { maxVertices: profile.solids.maxHullVertices });
  return found.span === 'solid' ? hullShape(found.hull) : shapeOfKind(points, 'hull');
}

/** Surfaces that the target takes as convex shapes only, and wants broken up instead of filled. */
export const isBrokenUp = (profile: Taking, shape: Shape): boolean =>
  shape.kind === 'surface' &&
  profile.kinds.concave === 'break-up' &&
  deliveredKind(profile, shape) !== 'surface';

/**
 * All that leaves of a shape: one shape, or what a surface is broken up into where the target wants that.
 *
 * @throws DecomposeError when a surface cannot be broken up
 */
export async function brokenUp(profile: Taking, shape: Shape): Promise<Shape[]> {
  if (shape.kind !== 'surface' || !isBrokenUp(profile, shape)) return [asDelivered(profile, shape)];
  const ladder = await decompose(plainMesh(shape.points, shape.indices), {
    maxShapes: MOST_FROM_ONE_SURFACE,
    maxVertices: Math.min(32, profile.solids.maxHullVertices),
    kinds: profile.kinds.known,
  });
  const rung = rungWithin(ladder, MOST_FROM_ONE_SURFACE);
  return rung ? rung.shapes.map((each) => asDelivered(profile, each)) : [asDelivered(profile, shape)];
}

/** As many sides as the profile says, and no more than its hulls may have corners for. */
function sidesFor({ kinds, solids }: Taking, shape: Shape): number {
  const corners = (sides: number) => (shape.kind === 'cylinder' ? 2 * sides : 2 + sides * (sides / 2));
  let { sides } = kinds;
  while (sides > 4 && corners(sides) > solids.maxHullVertices) sides -= 4;
  return sides;
}

/**
 * Polygons of a shape. Round ones are grown a little, so that the polygons have their volume: corners stand out as
 * much as sides fall short.
 */
function polygonsOfVolume(profile: Taking, shape: Shape) {
  const segments = sidesFor(profile, shape);
  if (shape.kind === 'box' || shape.kind === 'hull' || shape.kind === 'surface')
    return shapePolygons(shape, { segments });
  const wanted = shapeVolume(shape);
  const volumeOf = (grown: Shape) => {
    const { points, faces } = shapePolygons(grown, { segments });
    return trianglesVolume(points, fanTriangles(faces));
  };
  // Halving: the volume rises with the radius.
  let low = 1;
  let high = 2;
  for (let i = 0; i < 60 && high - low > 1e-12; i++) {
    const middle = (low + high) / 2;
    if (volumeOf(widened(shape, middle)) < wanted) low = middle;
    else high = middle;
  }
  return shapePolygons(widened(shape, (low + high) / 2), { segments });
}

function widened<S extends Shape>(shape: S, factor: number): S {
  switch (shape.kind) {
    case 'sphere':
    case 'capsule':
      return { ...shape, radius: shape.radius * factor };
    case 'cylinder':
      return {
        ...shape,
        bottomRadius: shape.bottomRadius * factor,
        topRadius: shape.topRadius * factor,
      };
    default:
      return shape;
  }
}

const delivered = new WeakMap<object, WeakMap<Shape, Shape>>();

/**
 * Proxies with the shapes that a level gets of them: what is measured is what leaves. The same shape answers the same
 * object, so that what is kept by shape holds.
 */
export function proxiesAsDelivered<P extends { shape: Shape }>(profile: Taking, proxies: readonly P[]): P[] {
  return proxies.map((proxy) => {
    const shape = deliveredOnce(profile, proxy.shape);
    return shape === proxy.shape ? proxy : { ...proxy, shape };
  });
}

/** As `asDelivered`, worked out once for a profile and a shape. */
export function deliveredOnce(profile: Taking, drawn: Shape): Shape {
  const known = delivered.get(profile) ?? new WeakMap<Shape, Shape>();
  delivered.set(profile, known);
  const shape = known.get(drawn) ?? asDelivered(profile, drawn);
  known.set(drawn, shape);
  return shape;
}
