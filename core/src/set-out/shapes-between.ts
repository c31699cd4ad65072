import { bodyOf, sharedBy } from '../compare/index.js';
import type { Vec3 } from '../math/index.js';
import type { PlacedShape } from './placed.js';

/** Shapes farther apart are no neighbours, metres. */
export const SHAPE_REACH_METRES = 0.1;
/** Shapes that go into each other by no more than this only touch, metres. */
const TOUCH_METRES = 1e-3;

/** How the shapes of two pieces lie to each other at the place where that is worst. Lengths in metres. */
export interface ShapesBetween {
  kind: 'crossing' | 'gap' | 'touching';
  /** how deep they go into each other, or how far they are apart */
  metres: number;
  at: Vec3;
  /** ids of the shapes, of the first piece and of the second */
  shapes: [string, string];
}

/**
 * The deepest crossing of shapes of two pieces; where none cross, the least gap between them. Null where they have no
 * shapes near each other. Surfaces are no solids, and are left out.
 */
export function shapesBetween(a: readonly PlacedShape[], b: readonly PlacedShape[]): ShapesBetween | null {
  const solids = (shapes: readonly PlacedShape[]) =>
    shapes.flatMap(({ proxy, shape }) => (shape.kind === 'surface' ? [] : [{ proxy, body: bodyOf(shape) }]));
  const [ones, others] = [solids(a), solids(b)];
  let crossing: ShapesBetween | null = null;
  let gap: ShapesBetween | null = null;
  for (const one of ones)
    for (const other of others) {
      const shapes: [string, string] = [one.proxy, other.proxy];
      const apart = separation(one.body, other.body);
      if (apart.metres > SHAPE_REACH_METRES) continue;
      const shared = apart.metres < 0 ? sharedBy(one.body, other.body, TOUCH_METRES) : null;
      if (shared && (!crossing || shared.depth > crossing.metres))
        crossing = { kind: 'crossing', metres: shared.depth, at: shared.at, shapes };
      const metres = Math.max(0, apart.metres);
      if (!gap || metres < gap.metres)
        gap = { kind: metres > TOUCH_METRES ? 'gap' : 'touching', metres, at: apart.at, shapes };
    }
  return crossing ?? gap;
}

type Body = ReturnType<typeof bodyOf>;

/**
 * How far two convex bodies are apart along the face of either that parts them most, and a place between them: exact
 * where two faces look at each other, never more than it is. Below zero where they share something.
 */
function separation(a: Body, b: Body): { metres: number; at: Vec3 } {
  const at = [0, 1, 2].map((k) => {
    const low = Math.max(a.min[k]!, b.min[k]!);
    const high = Math.min(a.max[k]!, b.max[k]!);
    return (low + high) / 2;
  }) as Vec3;
  return { metres: Math.max(beyond(a, b), beyond(b, a)), at };
}

/** How far the nearest corner of `b` is beyond the face of `a` that it is farthest beyond. */
function beyond({ planes }: Body, { points }: Body): number {
  let most = -Infinity;
  for (let i = 0; i < planes.length; i += 4) {
    let least = Infinity;
    for (let v = 0; v < points.length; v += 3)
      least = Math.min(
        least,
        planes[i]! * points[v]! +
          planes[i + 1]! * points[v + 1]! +
          planes[i + 2]! * points[v + 2]! -
          planes[i + 3]!,
      );
    most = Math.max(most, least);
  }
  return most;
}
