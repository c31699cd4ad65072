import fc from 'fast-check';
import { distance, rotate, scaled, subtract, type Vec3 } from '../math/index.js';
import { shapeVolume } from '../shape/index.js';
import { anyBox, anyShape, place } from '../testing/shapes.js';
import { boxMesh } from '../testing/meshes.js';
import { angleAbout, anglesOfArt, caughtAngle, cornerHandles, dragCorner, ownFrame } from './index.js';

const small = fc.tuple(
  ...[0, 1, 2].map(() => fc.double({ min: 0, max: 0.5, noNaN: true })),
) as fc.Arbitrary<Vec3>;
const at = (shape: Parameters<typeof cornerHandles>[0], id: string) =>
  cornerHandles(shape).find((each) => each.id === id)!.at;
const across = (id: string) => id.replace(/[+-]/g, (sign) => (sign === '+' ? '-' : '+'));

describe('a corner that is dragged', () => {
  it('of a box goes where it is dragged, and the one across from it stays; back again is the same box', () => {
    fc.assert(
      fc.property(anyBox, small, fc.nat({ max: 7 }), (box, by, i) => {
        const { id } = cornerHandles(box)[i]!;
        // Outwards, so that nothing turns inside out.
        const outward = rotate(
          box.rotation,
          by.map((v, k) => (id['corner'.length + k] === '+' ? v : -v)) as Vec3,
        );
        const grown = dragCorner(box, id, outward);
        const size = ownFrame(grown).size.reduce((a, b) => a + b);
        expect(distance(subtract(at(grown, id), at(box, id)), outward)).toBeLessThan(1e-9 * (1 + size));
        expect(distance(at(grown, across(id)), at(box, across(id)))).toBeLessThan(1e-9 * (1 + size));
        const back = dragCorner(grown, id, scaled(outward, -1));
        expect(distance(ownFrame(back).size, ownFrame(box).size)).toBeLessThan(1e-9 * (1 + size));
      }),
    );
  });

  it('keeps any kind convex, its own kind and its middle when that is held, and never turns it inside out', () => {
    fc.assert(
      fc.property(anyShape, place, fc.nat({ max: 7 }), (shape, by, i) => {
        const { id } = cornerHandles(shape)[i]!;
        const dragged = dragCorner(shape, id, by, { held: 'middle' });
        expect(dragged.kind).toBe(shape.kind);
        expect(shapeVolume(dragged)).toBeGreaterThan(0);
        const reach = 1 + Math.hypot(...ownFrame(shape).center) + Math.hypot(...by);
        expect(distance(ownFrame(dragged).center, ownFrame(shape).center)).toBeLessThan(1e-9 * reach);
      }),
    );
  });

  it('is none of a surface, and an unknown one changes nothing', () => {
    const surface = { kind: 'surface' as const, points: [0, 0, 0, 1, 0, 0, 0, 1, 0], indices: [0, 1, 2] };
    expect(cornerHandles(surface)).toEqual([]);
    expect(dragCorner(surface, 'corner+++', [1, 1, 1])).toBe(surface);
    const ball = { kind: 'sphere' as const, center: [0, 0, 0] as Vec3, radius: 1 };
    expect(dragCorner(ball, 'nowhere', [1, 1, 1])).toBe(ball);
  });
});

describe('angles that catch what is turned', () => {
  it('are those of the art, however it is turned about the axis', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 89.9, noNaN: true }), (degrees) => {
        const half = (degrees * Math.PI) / 360;
        const cube = boxMesh([1, 2, 3], [5, 0, 0], [0, Math.sin(half), 0, Math.cos(half)]);
        const [found] = anglesOfArt([0, 1, 0], cube);
        const wanted = angleAbout([0, 1, 0], rotate([0, Math.sin(half), 0, Math.cos(half)], [1, 0, 0]));
        expect(Math.abs(Math.sin(((found! - wanted) * Math.PI * 2) / 90))).toBeLessThan(0.01);
      }),
    );
    expect(anglesOfArt([0, 1, 0], { positions: [], indices: [] })).toEqual([]);
  });

  it('are taken within reach: the art before steps, and every quarter turn alike', () => {
    expect(caughtAngle(101, [12], { within: 2, every: 15 })).toEqual({
      degrees: 102,
      name: 'square to the art',
    });
    expect(caughtAngle(-78.5, [12], { within: 2, every: 15 })).toEqual({
      degrees: -78,
      name: 'square to the art',
    });
    expect(caughtAngle(44, [12], { within: 2, every: 15 })).toEqual({ degrees: 45, name: 'every 15°' });
    expect(caughtAngle(40, [12], { within: 2, every: 15 })).toBeNull();
    expect(caughtAngle(44, [], { within: 2, every: 0 })).toBeNull();
  });
});
