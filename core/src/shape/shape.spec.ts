import { boundsOf } from '../math/index.js';
import { topologyOf, massOf, plainMesh } from '../mesh/index.js';
import {
  moveShape,
  scaleShape,
  type Shape,
  shapeBounds,
  shapeSchema,
  shapeTriangles,
  shapeVolume,
} from './index.js';

const tilt: [number, number, number, number] = [
  0.18257418583505536, 0.3651483716701107, 0.5477225575051661, 0.7302967433402214,
];
const SHAPES: Shape[] = [
  { kind: 'box', center: [1, 2, 3], halfExtents: [1, 2, 0.5], rotation: tilt },
  { kind: 'sphere', center: [1, 2, 3], radius: 2 },
  { kind: 'capsule', center: [1, 2, 3], rotation: tilt, halfLength: 1.5, radius: 0.5 },
  { kind: 'cylinder', center: [1, 2, 3], rotation: tilt, halfHeight: 2, bottomRadius: 1, topRadius: 0.4 },
  {
    kind: 'hull',
    points: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1],
    faces: [
      [0, 2, 1],
      [0, 1, 3],
      [1, 2, 3],
      [0, 3, 2],
    ],
  },
];

for (const shape of SHAPES) {
  describe(`a ${shape.kind}`, () => {
    const { points, indices } = shapeTriangles(shape, { segments: 128 });

    it('passes its schema', () => expect(shapeSchema.parse(shape)).toEqual(shape));

    it('is drawn closed and facing outwards, with nearly its own volume', () => {
      const mesh = plainMesh(points, indices);
      expect(topologyOf(mesh)).toEqual(jasmine.objectContaining({ closed: true, flippedEdges: 0 }));
      expect(massOf(mesh).volume / shapeVolume(shape)).toBeCloseTo(1, 2);
    });

    it('has the bounds of what is drawn', () => {
      const drawn = boundsOf(points);
      const exact = shapeBounds(shape);
      for (const side of ['min', 'max'] as const)
        drawn[side].forEach((v, i) => expect(Math.abs(v - exact[side][i]!)).toBeLessThan(0.005));
    });

    it('moves and grows as a whole', () => {
      const changed = scaleShape(moveShape(shape, [1, 0, -1]), 2);
      expect(shapeVolume(changed) / shapeVolume(shape)).toBeCloseTo(8, 9);
      expect(shapeBounds(changed).min[0]).toBeCloseTo((shapeBounds(shape).min[0] + 1) * 2, 9);
    });
  });
}
