import type { Shape } from '../shape/index.js';
import { bodyAround, crosses } from './convex-overlap.js';

/** Shapes may touch a clearance and go into it by rounding, metres. */
const TOUCH_METRES = 1e-6;

/** For each clearance (a box or a hull) whether it is free of all shapes. */
export function openClearances(clearances: readonly Shape[], shapes: readonly Shape[]): boolean[] {
  const bodies = shapes.filter(({ kind }) => kind !== 'surface').map((shape) => bodyAround(shape, 64));
  return clearances.map((clearance) => {
    const opening = bodyAround(clearance);
    return !bodies.some((body) => crosses(body, opening, TOUCH_METRES, TOUCH_METRES / 10));
  });
}
