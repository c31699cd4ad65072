import fc from 'fast-check';
import {
  applyMatrix,
  bent,
  composeMatrix,
  distance,
  type Matrix,
  moduleAxes,
  multiplyMatrices,
  stretched,
  type Vec3,
} from '../math/index.js';
import { type Shape, shapePolygons, shapeVolume } from '../shape/index.js';
import { anyBox, anyShape, place, turn } from '../testing/shapes.js';
import { throughMatrix } from './through-matrix.js';
import { warpShape } from './warp-shape.js';

const module = { origin: [0, 0, 0] as Vec3, ...moduleAxes([1, 0, 0]) };
const box = (center: Vec3, halfExtents: Vec3): Shape => ({
  kind: 'box',
  center,
  halfExtents,
  rotation: [0, 0, 0, 1],
});
const volume = (shapes: readonly Shape[]) => shapes.reduce((sum, shape) => sum + shapeVolume(shape), 0);

describe('shapes of a module', () => {
  const bend = bent(module, { from: 0, to: 4, radians: Math.PI / 2, divisions: 4 });

  it('are bent with it: a long box into one hull a stretch, a post at its end stays the box that it is', () => {
    const long = warpShape(box([2, 1, 0], [2, 1, 0.25]), bend);
    expect(long.map(({ kind }) => kind)).toEqual(['hull', 'hull', 'hull', 'hull']);
    expect(volume(long)).toBeCloseTo(4 * 2 * 0.5, 0);
    const [post, ...none] = warpShape(box([-0.5, 1, 0], [0.25, 1, 0.25]), bend);
    expect([post, none.length]).toEqual([box([-0.5, 1, 0], [0.25, 1, 0.25]), 0]);
    const [end] = warpShape(box([4.5, 1, 0], [0.5, 1, 0.25]), bend);
    expect([end!.kind, shapeVolume(end!)]).toEqual(['box', jasmine.any(Number)]);
    expect(shapeVolume(end!)).toBeCloseTo(2 * 0.5, 9);
  });

  it('of round kinds that are shorter than a stretch stay of their kind', () => {
    const [ball] = warpShape({ kind: 'sphere', center: [2, 1, 0], radius: 0.2 }, bend);
    expect(ball!.kind).toBe('sphere');
    const post: Shape = {
      kind: 'cylinder',
      center: [1.5, 1, 0.1],
      rotation: [0, 0, 0, 1],
      halfHeight: 1,
      bottomRadius: 0.2,
      topRadius: 0.1,
    };
    expect(warpShape(post, bend).map(({ kind }) => kind)).toEqual(['cylinder']);
  });

  it('are stretched with it: one box stays one', () => {
    const warp = stretched(module, { from: 1, to: 3, length: 6 });
    expect(warpShape(box([2, 1, 0], [2, 1, 0.25]), warp)).toEqual([box([4, 1, 0], [4, 1, 0.25])]);
    expect(warpShape(box([3.75, 1, 0], [0.25, 1, 0.25]), warp)).toEqual([box([7.75, 1, 0], [0.25, 1, 0.25])]);
  });
});

describe('a shape through a matrix', () => {
  const corners = (shape: Shape) => {
    const { points } = shapePolygons(shape, { segments: 12 });
    return Array.from({ length: points.length / 3 }, (_, i) => [...points.slice(i * 3, i * 3 + 3)] as Vec3);
  };
  const near = (a: readonly Vec3[], b: readonly Vec3[]) =>
    a.every((p) => b.some((q) => distance(p, q) < 1e-6 * (1 + Math.hypot(...p))));

  it('that turns, grows and mirrors is of its kind, and its size is what it was, grown', () => {
    const even = fc.tuple(place, turn, fc.double({ min: 0.2, max: 3, noNaN: true }), fc.boolean());
    fc.assert(
      fc.property(anyShape, even, (shape, [translation, rotation, s, mirror]) => {
        const matrix = composeMatrix({ translation, rotation, scale: [mirror ? -s : s, s, s] });
        const moved = throughMatrix(shape, matrix)!;
        expect(moved.kind).toBe(shape.kind);
        expect(shapeVolume(moved) / shapeVolume(shape)).toBeCloseTo(s ** 3, 5);
        if (shape.kind === 'box' || shape.kind === 'hull')
          expect(
            near(
              corners(moved),
              corners(shape).map((p) => applyMatrix(matrix, p)),
            ),
          ).toBeTrue();
      }),
    );
  });

  it('that stretches keeps a box along its own sides, and makes a hull of one askew', () => {
    fc.assert(
      fc.property(anyBox, place, (shape, translation) => {
        const own = composeMatrix({ translation: [0, 0, 0], rotation: shape.rotation, scale: [1, 1, 1] });
        const back = composeMatrix({
          translation: [0, 0, 0],
          rotation: [-shape.rotation[0], -shape.rotation[1], -shape.rotation[2], shape.rotation[3]],
          scale: [1, 1, 1],
        });
        const grow = composeMatrix({ translation, rotation: [0, 0, 0, 1], scale: [2, 1, 3] });
        const alongSides: Matrix = multiplyMatrices(own, multiplyMatrices(grow, back));
        expect(throughMatrix(shape, alongSides)!.kind).toBe('box');
        for (const matrix of [alongSides, grow]) {
          const moved = throughMatrix(shape, matrix)!;
          expect(shapeVolume(moved) / shapeVolume(shape)).toBeCloseTo(6, 5);
          expect(
            near(
              corners(moved),
              corners(shape).map((p) => applyMatrix(matrix, p)),
            ),
          ).toBeTrue();
        }
      }),
      { numRuns: 40 },
    );
  });
});
