import { convexHull, hullShape, withVertexBudget } from '../hull/index.js';
import { prismGrowth, type Shape, shapePolygons } from '../shape/index.js';

/** A cylinder, straight or tapered, as a prism of so many sides (3 or more) with its volume; null for other kinds. */
export function asPrism(shape: Shape, sides: number): Shape | null {
  if (shape.kind !== 'cylinder' || !(sides >= 3)) return null;
  const grow = prismGrowth(sides);
  const grown = { ...shape, bottomRadius: shape.bottomRadius * grow, topRadius: shape.topRadius * grow };
  const { points, faces } = shapePolygons(grown, { segments: Math.round(sides) });
  return { kind: 'hull', points: [...points], faces };
}

/** A hull with at most so many corners (4 or more) and its volume; null for other kinds, and where it has no more. */
export function withCorners(shape: Shape, maxCorners: number): Shape | null {
  if (shape.kind !== 'hull' || !(maxCorners >= 4) || shape.points.length / 3 <= maxCorners) return null;
  const found = convexHull(shape.points);
  return found.span === 'solid'
    ? hullShape(withVertexBudget(found.hull, Math.round(maxCorners), 'between'))
    : null;
}
