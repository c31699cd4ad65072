import { type Shape, shapeCost, shapePolygons } from '../shape/index.js';
import type { SetCost } from './comparison.js';

/** Shapes, vertices and faces of a set, and what it costs. */
export function costOf(shapes: readonly Shape[]): SetCost {
  const cost: SetCost = { shapes: shapes.length, vertices: 0, faces: 0, kinds: {}, cost: 0 };
  for (const shape of shapes) {
    cost.kinds[shape.kind] = (cost.kinds[shape.kind] ?? 0) + 1;
    cost.cost += shapeCost(shape);
    if (shape.kind !== 'box' && shape.kind !== 'hull' && shape.kind !== 'surface') continue;
    const { points, faces } = shapePolygons(shape);
    cost.vertices += points.length / 3;
    cost.faces += faces.length;
  }
  return cost;
}
