import fc from 'fast-check';
import {
  baseCentreOf,
  boundsOf,
  centreOf,
  composeMatrix,
  cross,
  determinant3,
  dot,
  emptyBounds,
  isEmpty,
  likelyUnit,
  multiplyMatrices,
  normalized,
  normalMatrix,
  quatFromAxes,
  rotate,
  sizeOf,
  type Quat,
  unionOf,
  type Vec3,
} from './index.js';

const number = fc.double({ min: -10, max: 10, noNaN: true }).map((v) => (Math.abs(v) < 1e-3 ? 0 : v));
const vector = fc.tuple(number, number, number);
const turn = fc
  .tuple(number, number, number, fc.double({ min: 0.1, max: 10, noNaN: true }))
  .map((q) => q.map((v) => v / Math.hypot(...q)) as Quat);
const factor = fc.oneof(
  fc.double({ min: -4, max: -0.2, noNaN: true }),
  fc.double({ min: 0.2, max: 4, noNaN: true }),
);

const close = (a: Vec3, b: Vec3, digits = 6) => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, digits));

describe('rotations', () => {
  it('keep lengths and angles', () => {
    fc.assert(
      fc.property(turn, vector, vector, (q, a, b) => {
        expect(dot(rotate(q, a), rotate(q, b))).toBeCloseTo(dot(a, b), 6);
        close(cross(rotate(q, a), rotate(q, b)), rotate(q, cross(a, b)));
      }),
    );
  });

  it('are found again from their axes, whichever way they turn', () => {
    fc.assert(
      fc.property(turn, vector, (q, v) => {
        const found = quatFromAxes(rotate(q, [1, 0, 0]), rotate(q, [0, 1, 0]), rotate(q, [0, 0, 1]));
        close(rotate(found, v), rotate(q, v));
      }),
    );
    for (const axis of [
      [1, 0, 0, 0],
      [0, 1, 0, 0],
      [0, 0, 1, 0],
    ] as Quat[]) {
      const found = quatFromAxes(rotate(axis, [1, 0, 0]), rotate(axis, [0, 1, 0]), rotate(axis, [0, 0, 1]));
      close(rotate(found, [1, 2, 3]), rotate(axis, [1, 2, 3]), 12);
    }
  });
});

describe('matrices', () => {
  const at = (m: Float64Array, v: Vec3, w: number): Vec3 =>
    [0, 1, 2].map((i) => m[i]! * v[0] + m[i + 4]! * v[1] + m[i + 8]! * v[2] + m[i + 12]! * w) as Vec3;

  it('scale, then turn, then move', () => {
    fc.assert(
      fc.property(
        vector,
        turn,
        fc.tuple(factor, factor, factor),
        vector,
        (translation, rotation, scale, v) => {
          const m = composeMatrix({ translation, rotation, scale });
          const scaledPoint: Vec3 = [v[0] * scale[0], v[1] * scale[1], v[2] * scale[2]];
          const wanted = rotate(rotation, scaledPoint).map((x, i) => x + translation[i]!) as Vec3;
          close(at(m, v, 1), wanted);
          expect(determinant3(m)).toBeCloseTo(scale[0] * scale[1] * scale[2], 6);
        },
      ),
    );
  });

  it('multiply so that the inner one comes first', () => {
    fc.assert(
      fc.property(vector, turn, vector, turn, vector, (t1, q1, t2, q2, v) => {
        const outer = composeMatrix({ translation: t1, rotation: q1, scale: [2, 1, 1] });
        const inner = composeMatrix({ translation: t2, rotation: q2, scale: [1, 1, 3] });
        close(at(multiplyMatrices(outer, inner), v, 1), at(outer, at(inner, v, 1), 1));
      }),
    );
  });

  it('turn normals so that they stay square to the surface', () => {
    fc.assert(
      fc.property(turn, turn, fc.tuple(factor, factor, factor), vector, vector, (q, r, scale, a, b) => {
        const sheared = multiplyMatrices(
          composeMatrix({ translation: [0, 0, 0], rotation: q, scale }),
          composeMatrix({ translation: [0, 0, 0], rotation: r, scale: [1, 2, 0.5] }),
        );
        const n = normalMatrix(sheared);
        const normal = cross(a, b);
        const turned = normalized(
          [0, 1, 2].map((i) => n[i]! * normal[0] + n[i + 3]! * normal[1] + n[i + 6]! * normal[2]) as Vec3,
        );
        expect(dot(turned, normalized(at(sheared, a, 0)))).toBeCloseTo(0, 5);
        expect(dot(turned, normalized(at(sheared, b, 0)))).toBeCloseTo(0, 5);
      }),
    );
  });
});

it('the unit vector of something tiny is finite', () => {
  expect(Math.hypot(...normalized([5e-324, 0, 0]))).toBe(1);
  expect(normalized([0, 0, 0])).toEqual([0, 0, 0]);
});

describe('bounds', () => {
  it('of nothing are empty and leave any union as it is', () => {
    const some = boundsOf([1, 2, 3, -1, 5, 0]);
    expect(isEmpty(emptyBounds())).toBeTrue();
    expect(sizeOf(emptyBounds())).toEqual([0, 0, 0]);
    expect(unionOf(emptyBounds(), some)).toEqual(some);
  });

  it('give centre, base centre and size', () => {
    const some = boundsOf([1, 2, 3, -1, 5, 0]);
    expect([centreOf(some), baseCentreOf(some), sizeOf(some)]).toEqual([
      [0, 3.5, 1.5],
      [0, 2, 1.5],
      [2, 3, 3],
    ]);
  });
});

describe('the likely unit', () => {
  it('is metres when that is plausible, else the metric one nearest to a usual size', () => {
    const guesses: [number, string][] = [
      [0.3, 'm'],
      [4, 'm'],
      [29, 'm'],
      [82, 'cm'],
      [400, 'cm'],
      [2600, 'mm'],
      [820000, 'm'],
      [0.001, 'm'],
    ];
    for (const [extent, unit] of guesses)
      expect(likelyUnit(extent))
        .withContext(String(extent))
        .toBe(unit as 'm');
  });
});
