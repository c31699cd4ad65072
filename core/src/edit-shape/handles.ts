import { add, dot, rotate, scaled, type Vec3 } from '../math/index.js';
import {
  type BoxShape,
  type CylinderShape,
  type HullShape,
  MIN_THICKNESS_METRES,
  type Shape,
} from '../shape/index.js';
import { type Facet, facetsOf } from './facets.js';
import { ownFrame } from './own-frame.js';
import { clippedBy, middleOf, planesOf, solidOf } from './solid-of.js';

/** A place on a shape that is dragged along its normal: a face, or a radius. */
export interface ShapeHandle {
  /** stays the same while the shape keeps its kind and, of a hull, its faces */
  id: string;
  at: Vec3;
  normal: Vec3;
  /** a face moves alone and leaves the opposite one where it is; a radius grows all round */
  moves: 'face' | 'radius';
}

const MIN_HALF = MIN_THICKNESS_METRES / 2;
const SIDES = [
  ['+x', [1, 0, 0]],
  ['-x', [-1, 0, 0]],
  ['+y', [0, 1, 0]],
  ['-y', [0, -1, 0]],
  ['+z', [0, 0, 1]],
  ['-z', [0, 0, -1]],
] as const;
type Side = (typeof SIDES)[number][0];
const axisOf = (side: string): 0 | 1 | 2 => 'xyz'.indexOf(side.at(-1)!) as 0 | 1 | 2;
const signOf = (side: string): 1 | -1 => (side.startsWith('-') ? -1 : 1);

/** What of a shape can be dragged. A hull has a handle for each flat side, a surface none. */
export function shapeHandles(shape: Shape): ShapeHandle[] {
  const along = (side: Readonly<Vec3>, far: number, id: string, moves: 'face' | 'radius'): ShapeHandle => {
    const rotation = 'rotation' in shape ? shape.rotation : ([0, 0, 0, 1] as const);
    const normal = rotate(rotation, side);
    const center = 'center' in shape ? shape.center : ([0, 0, 0] as Vec3);
    return { id, at: add(center, scaled(normal, far)), normal, moves };
  };
  const round = (radius: number) =>
    SIDES.filter(([id]) => axisOf(id) !== 1).map(([id, side]) =>
      along(side, radius, `radius${id}`, 'radius'),
    );
  switch (shape.kind) {
    case 'box':
      return SIDES.map(([id, side]) => along(side, shape.halfExtents[axisOf(id)]!, id, 'face'));
    case 'sphere':
      return SIDES.map(([id, side]) => along(side, shape.radius, `radius${id}`, 'radius'));
    case 'capsule': {
      const far = shape.halfLength + shape.radius;
      return [
        along([0, 1, 0], far, '+y', 'face'),
        along([0, -1, 0], far, '-y', 'face'),
        ...round(shape.radius),
      ];
    }
    case 'cylinder':
      return cylinderHandles(shape, along);
    case 'hull':
      return facetsOf(shape.points, shape.faces).map(({ faces, middle, normal }) => ({
        id: `face${faces[0]!}`,
        at: middle,
        normal,
        moves: 'face',
      }));
    case 'surface':
      return [];
  }
}

function cylinderHandles(
  { halfHeight, bottomRadius, topRadius, center, rotation }: CylinderShape,
  along: (side: Readonly<Vec3>, far: number, id: string, moves: 'face' | 'radius') => ShapeHandle,
): ShapeHandle[] {
  const up = rotate(rotation, [0, halfHeight, 0]);
  const rim = (id: string, radius: number, sign: 1 | -1): ShapeHandle => {
    const normal = rotate(rotation, [1, 0, 0]);
    return { id, at: add(add(center, scaled(up, sign)), scaled(normal, radius)), normal, moves: 'radius' };
  };
  const middle = (bottomRadius + topRadius) / 2;
  return [
    along([0, 1, 0], halfHeight, '+y', 'face'),
    along([0, -1, 0], halfHeight, '-y', 'face'),
    ...SIDES.filter(([id]) => axisOf(id) !== 1).map(([id, side]) =>
      along(side, middle, `radius${id}`, 'radius'),
    ),
    rim('top-radius', topRadius, 1),
    rim('bottom-radius', bottomRadius, -1),
  ];
}

/**
 * The shape with one handle dragged outwards (metres > 0) or inwards along its normal. It never turns inside out: what
 * would become thinner than a shape may be stays that thin. A face of a hull keeps its direction, and so do its
 * neighbours: they reach on until they meet it.
 */
export function dragHandle(shape: Shape, id: string, metres: number): Shape {
  switch (shape.kind) {
    case 'box':
      return dragSide(shape, id as Side, metres);
    case 'sphere':
      return { ...shape, radius: Math.max(MIN_HALF, shape.radius + metres) };
    case 'capsule': {
      if (id.startsWith('radius')) return { ...shape, radius: Math.max(MIN_HALF, shape.radius + metres) };
      const by = Math.max(metres, -2 * shape.halfLength);
      const center = add(shape.center, rotate(shape.rotation, [0, (signOf(id) * by) / 2, 0]));
      return { ...shape, center, halfLength: Math.max(0, shape.halfLength + by / 2) };
    }
    case 'cylinder': {
      const radius = (now: number) => Math.max(MIN_HALF, now + metres);
      if (id === 'top-radius') return { ...shape, topRadius: radius(shape.topRadius) };
      if (id === 'bottom-radius') return { ...shape, bottomRadius: radius(shape.bottomRadius) };
      if (id.startsWith('radius'))
        return { ...shape, topRadius: radius(shape.topRadius), bottomRadius: radius(shape.bottomRadius) };
      const by = Math.max(metres, 2 * (MIN_HALF - shape.halfHeight));
      const center = add(shape.center, rotate(shape.rotation, [0, (signOf(id) * by) / 2, 0]));
      return { ...shape, center, halfHeight: shape.halfHeight + by / 2 };
    }
    case 'hull': {
      const facet = facetsOf(shape.points, shape.faces).find(({ faces }) => `face${faces[0]!}` === id);
      return facet ? dragFacet(shape, facet, metres) : shape;
    }
    case 'surface':
      return shape;
  }
}

function dragSide(shape: BoxShape, side: Side, metres: number): BoxShape {
  const axis = axisOf(side);
  const by = Math.max(metres, 2 * (MIN_HALF - shape.halfExtents[axis]));
  const shift: Vec3 = [0, 0, 0];
  shift[axis] = (signOf(side) * by) / 2;
  const halfExtents: Vec3 = [...shape.halfExtents];
  halfExtents[axis] += by / 2;
  return { ...shape, center: add(shape.center, rotate(shape.rotation, shift)), halfExtents };
}

/** The planes of a facet shifted together, and what all planes have in common then. */
function dragFacet(shape: HullShape, facet: Facet, metres: number): HullShape {
  const own = new Set(facet.faces);
  const planes = planesOf(shape.points, shape.faces).map(({ plane: [x, y, z, d], faces }) => ({
    plane: [x, y, z, d],
    by: faces.some((f) => own.has(f)) ? dot([x, y, z], facet.normal) : 0,
  }));
  const shifted = (by: number) =>
    planes.map(({ plane: [x, y, z, d], by: rate }) => [x!, y!, z!, d! + by * rate]);
  if (metres > 0) return solidOf(shifted(metres).flat(), middleOf(shape.points)) ?? shape;
  const inwards = (by: number): HullShape | null => {
    const left = clippedBy(
      shape,
      shifted(by).filter((_, i) => planes[i]!.by !== 0),
    );
    return left && ownFrame(left).size.every((extent) => extent >= MIN_THICKNESS_METRES) ? left : null;
  };
  return inwards(metres) ?? asFarAs(inwards, metres) ?? shape;
}

/** What there is of something that ends before `far`: as far as a millionth of the way tells. */
function asFarAs<T>(at: (way: number) => T | null, far: number): T | null {
  let [there, gone] = [0, far];
  let last: T | null = null;
  for (let i = 0; i < 20; i++) {
    const middle = (there + gone) / 2;
    const found = at(middle);
    if (found) [there, last] = [middle, found];
    else gone = middle;
  }
  return last;
}
