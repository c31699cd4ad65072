import fc from 'fast-check';
import { convexHull, hullShape } from '../hull/index.js';
import type { Quat, Vec3 } from '../math/index.js';
import type { BoxShape, CylinderShape, Shape } from '../shape/index.js';

const number = fc.double({ min: -5, max: 5, noNaN: true });
const half = fc.double({ min: 0.05, max: 2, noNaN: true });
export const place = fc.tuple(number, number, number) as fc.Arbitrary<Vec3>;
export const turn = fc
  .tuple(number, number, number, fc.double({ min: 0.1, max: 5, noNaN: true }))
  .map((q) => q.map((v) => v / Math.hypot(...q)) as Quat);

export const anyBox: fc.Arbitrary<BoxShape> = fc
  .record({ center: place, halfExtents: fc.tuple(half, half, half), rotation: turn })
  .map((box) => ({ kind: 'box', ...box }));
export const anyCylinder: fc.Arbitrary<CylinderShape> = fc
  .record({ center: place, rotation: turn, halfHeight: half, bottomRadius: half, topRadius: half })
  .map((cylinder) => ({ kind: 'cylinder', ...cylinder }));

/** Hulls of corners that are no crowd of rounding: on a grid of a twentieth. */
export const anyHull: fc.Arbitrary<Shape> = fc
  .array(fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -40, max: 40 }))), { minLength: 4, maxLength: 24 })
  .map((corners) => convexHull(corners.flat().map((v) => v / 20)))
  .filter((result) => result.span === 'solid')
  .map((result) => hullShape((result as Extract<typeof result, { span: 'solid' }>).hull));

/** Any solid shape. */
export const anyShape: fc.Arbitrary<Shape> = fc.oneof(
  anyBox,
  anyCylinder,
  fc.record({ center: place, radius: half }).map((ball): Shape => ({ kind: 'sphere', ...ball })),
  fc
    .record({ center: place, rotation: turn, halfLength: half, radius: half })
    .map((capsule): Shape => ({ kind: 'capsule', ...capsule })),
  anyHull,
);
