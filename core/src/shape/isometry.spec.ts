import fc from 'fast-check';
import { quatAbout } from '../math/index.js';
import { anyShape, place, turn } from '../testing/shapes.js';
import {
  after,
  changedBy,
  inverseOf,
  type Isometry,
  mirroredOver,
  mirrorShape,
  moveShape,
  type Shape,
  shapeBounds,
  shapeVolume,
  shifted,
  turnedAbout,
  turnShapeAbout,
} from './index.js';

const isometry: fc.Arbitrary<Isometry> = fc.record({ mirror: fc.boolean(), rotation: turn, position: place });
const alike = (a: Shape, b: Shape) => {
  const [p, q] = [shapeBounds(a), shapeBounds(b)];
  for (let k = 0; k < 3; k++) {
    expect(p.min[k]!).toBeCloseTo(q.min[k]!, 6);
    expect(p.max[k]!).toBeCloseTo(q.max[k]!, 6);
  }
  expect(shapeVolume(a)).toBeCloseTo(shapeVolume(b), 6);
};

describe('isometries', () => {
  it('undo themselves, and one after the other is the same as both at once', () => {
    fc.assert(
      fc.property(anyShape, isometry, isometry, (shape, a, b) => {
        alike(changedBy(changedBy(shape, a), inverseOf(a)), shape);
        alike(changedBy(changedBy(shape, a), b), changedBy(shape, after(a, b)));
        expect(shapeVolume(changedBy(shape, a))).toBeCloseTo(shapeVolume(shape), 6);
      }),
    );
  });

  it('are the moves, turns and reflections of shapes', () => {
    fc.assert(
      fc.property(anyShape, place, turn, (shape, p, q) => {
        alike(changedBy(shape, shifted(p)), moveShape(shape, p));
        alike(changedBy(shape, turnedAbout(p, q)), turnShapeAbout(shape, q, p));
        const plane = { point: p, normal: [q[0] + 1e-3, q[1], q[2]] as [number, number, number] };
        alike(changedBy(shape, mirroredOver(plane)), mirrorShape(shape, plane));
      }),
    );
    const quarter = turnedAbout([1, 0, 0], quatAbout([0, 1, 0], Math.PI / 2));
    const ball = changedBy({ kind: 'sphere' as const, center: [2, 0, 0], radius: 1 }, quarter);
    expect(ball.center.map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([1, 0, -1]);
  });
});
