import { add, dot, rotate, scaled, subtract, type Vec3 } from '../math/index.js';
import { type Shape, shapePolygons } from '../shape/index.js';
import { cutShape } from './cut-shape.js';
import { fromOwn, ownFrame } from './own-frame.js';
import { hullOf } from './solid-of.js';

export interface Ring {
  /** its own axis that the ring lies across. Default: y */
  axis?: 0 | 1 | 2;
  /** where along that axis: 0 at the lower end, 1 at the upper */
  at: number;
  /** the ring's outline is scaled by this about the axis: above 1 a belly, below 1 a waist */
  factor: number;
  /** sides of a round shape. Default 12 */
  sides?: number;
}

/** Kinds that have an outline across: a ball or a capsule swells everywhere. */
const RINGED = new Set<Shape['kind']>(['box', 'cylinder', 'hull']);

/** A ring makes a belly, which is one hull, or a waist, which caves in and so takes two. */
export interface Ringed {
  caves: boolean;
  /** one shape, or the lower and the upper one */
  shapes: Shape[];
}

/**
 * A cylinder, box or hull with a ring across it that is wider or narrower than the shape is there. A waist stops being
 * convex: it is answered with the two shapes that meet at it. Null where the ring lies at an end, or leaves nothing.
 */
export function ringShape(given: Shape, { axis = 1, at, factor, sides = 12 }: Ring): Ringed | null {
  const shape = roundedOut(given, sides);
  if (!RINGED.has(shape.kind) || !(at > 0 && at < 1) || !(factor > 0)) return null;
  const frame = ownFrame(shape);
  const across: Vec3 = [0, 0, 0];
  across[axis] = 1;
  const normal = rotate(frame.rotation, across);
  const point = fromOwn(frame, scaled(across, (at - 0.5) * frame.size[axis]));
  const { below, above } = cutShape(shape, { point, normal }, { segments: sides });
  if (!below || !above) return null;
  const outline = ringPoints(shape, { point, normal, sides }).map((p) =>
    add(point, scaled(subtract(p, point), factor)),
  );
  const partWithRing = (part: Shape, keep: (side: number) => boolean): Shape | null => {
    const { points } = shapePolygons(part, { segments: sides });
    const kept: number[] = [];
    for (let i = 0; i < points.length; i += 3) {
      const p: Vec3 = [points[i]!, points[i + 1]!, points[i + 2]!];
      if (keep(side(p, point, normal) / frame.size[axis])) kept.push(...p);
    }
    return hullOf([...kept, ...outline.flat()]);
  };
  if (factor >= 1) {
    const { points } = shapePolygons(shape, { segments: sides });
    const hull = hullOf([...points, ...outline.flat()]);
    return hull && { caves: false, shapes: [hull] };
  }
  const lower = partWithRing(below, (off) => off < -1e-9);
  const upper = partWithRing(above, (off) => off > 1e-9);
  return lower && upper ? { caves: true, shapes: [lower, upper] } : null;
}

/** So wide that its polygons hold the cylinder: what was covered stays covered. */
function roundedOut(shape: Shape, sides: number): Shape {
  if (shape.kind !== 'cylinder') return shape;
  const wider = 1 / Math.cos(Math.PI / sides);
  return { ...shape, bottomRadius: shape.bottomRadius * wider, topRadius: shape.topRadius * wider };
}

/** Metres along the normal from the ring's plane. */
const side = (p: Vec3, point: Vec3, normal: Vec3): number => dot(subtract(p, point), normal);

/** Where the plane of the ring meets the shape's edges. */
function ringPoints(
  shape: Shape,
  { point, normal, sides }: { point: Vec3; normal: Vec3; sides: number },
): Vec3[] {
  const { points, faces } = shapePolygons(shape, { segments: sides });
  const at = (v: number): Vec3 => [points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!];
  const found: Vec3[] = [];
  for (const face of faces)
    face.forEach((from, i) => {
      const to = face[(i + 1) % face.length]!;
      if (from > to) return;
      const [a, b] = [side(at(from), point, normal), side(at(to), point, normal)];
      if (a * b > 0 || a === b) return;
      found.push(add(at(from), scaled(subtract(at(to), at(from)), a / (a - b))));
    });
  return found;
}
