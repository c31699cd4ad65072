import {
  type BoxShape,
  joinMeshes,
  type Mesh,
  plainMesh,
  type Shape,
  shapeTriangles,
  type Vec3,
} from '@yard-brace/core';
import type { TrialShape } from '../walk/trial-world.js';

/** A box, turned about z. */
export const box = (center: Vec3, halfExtents: Vec3, turnDegrees = 0): BoxShape => {
  const half = (turnDegrees * Math.PI) / 360;
  return { kind: 'box', center, halfExtents, rotation: [0, 0, Math.sin(half), Math.cos(half)] };
};

/** Shapes as art. */
export const artOf = (shapes: readonly Shape[]): Mesh =>
  joinMeshes(
    shapes.map((shape) => {
      const { points, indices } = shapeTriangles(shape);
      return plainMesh(points, indices);
    }),
  );

export const setOf = (shapes: readonly Shape[]): TrialShape[] =>
  shapes.map((shape, i) => ({ id: `shape-${i + 1}`, colliders: [shape] }));

/** Eight treads along x from x = 1, 0.18 m high and 0.28 m deep, and a landing behind them. */
export const STAIR: readonly BoxShape[] = [
  ...Array.from({ length: 8 }, (_, i) =>
    box([1.14 + i * 0.28, (i + 1) * 0.09, 0], [0.14, (i + 1) * 0.09, 1]),
  ),
  box([4.24, 0.72, 0], [1, 0.72, 1]),
];

/** The same as a slope over the edges of its treads, and the landing. */
export const STAIR_SLOPE: readonly Shape[] = [
  {
    kind: 'hull',
    // A wedge: its foot a tread before the first edge, its back under the last one.
    points: [0.72, 0, -1, 0.72, 0, 1, 2.96, 0, -1, 2.96, 0, 1, 2.96, 1.44, -1, 2.96, 1.44, 1],
    faces: [
      [0, 2, 3, 1],
      [0, 1, 5, 4],
      [2, 4, 5, 3],
      [0, 4, 2],
      [1, 3, 5],
    ],
  },
  box([3.1, 0.72, 0], [0.14, 0.72, 1]),
  STAIR[8]!,
];

/** A trestle of two walls and a top, 3 m long, free for 2 m in height between them. */
export const TRESTLE: readonly BoxShape[] = [
  box([0, 1, -1], [1.5, 1, 0.1]),
  box([0, 1, 1], [1.5, 1, 0.1]),
  box([0, 2.1, 0], [1.5, 0.1, 1.1]),
];
