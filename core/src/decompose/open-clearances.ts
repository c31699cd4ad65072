import { type Shape, shapePolygons } from '../shape/index.js';
import { convexBody, crosses } from './convex-overlap.js';

/** Shapes may touch a clearance and go into it by rounding, metres. */
const TOUCH = 1e-6;

/** For each clearance (a box or a hull) whether it is free of all shapes. */
export function openClearances(clearances: readonly Shape[], shapes: readonly Shape[]): boolean[] {
  const bodyOf = (shape: Shape) => {
    const { points, faces } = shapePolygons(shape);
    return convexBody(points, faces);
  };
  const bodies = shapes.filter(({ kind }) => kind !== 'surface').map(bodyOf);
  return clearances.map((clearance) => {
    const opening = bodyOf(clearance);
    return !bodies.some((body) => crosses(body, opening, TOUCH, TOUCH / 10));
  });
}
