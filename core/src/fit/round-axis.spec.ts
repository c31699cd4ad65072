import fc from 'fast-check';
import { applyMatrix, composeMatrix, distance, dot, rotate, subtract, type Vec3 } from '../math/index.js';
import { facesWhere, plainMesh, transformMesh } from '../mesh/index.js';
import { boxMesh } from '../testing/meshes.js';
import { place, turn } from '../testing/shapes.js';
import { tube } from '../testing/solids.js';
import { discAxis, roundAxis, roundFaces } from './round-axis.js';

describe('the axis of a round', () => {
  const wheel = tube(
    [
      [0, 0, 0],
      [0, 0, 0.2],
    ],
    0.6,
    20,
  );

  it('is found from one face of its tread, wherever it stands, caps chosen with it or not', () => {
    fc.assert(
      fc.property(place, turn, fc.boolean(), (translation, rotation, caps) => {
        const matrix = composeMatrix({ translation, rotation, scale: [1, 1, 1] });
        const mesh = transformMesh(wheel, matrix);
        const faces = caps ? new Uint8Array(mesh.indices.length / 3).fill(1) : roundFaces(mesh, 3);
        const found = roundAxis(mesh, faces)!;
        expect(Math.abs(dot(found.axis, rotate(rotation, [0, 0, 1])))).toBeCloseTo(1, 9);
        expect(distance(found.center, applyMatrix(matrix, [0, 0, 0.1]))).toBeLessThan(1e-9);
        expect(found.radius).toBeCloseTo(0.6, 9);
      }),
      { numRuns: 40 },
    );
  });

  it('is that of an arch of which a third stands, and there is none of a box, a slab or a lone face', () => {
    const third = Uint8Array.from({ length: wheel.indices.length / 3 }, (_, f) => (f < 14 ? 1 : 0));
    const arch = facesWhere(wheel, third);
    const { center, radius } = roundAxis(arch, new Uint8Array(14).fill(1))!;
    expect(distance(center, [0, 0, 0.1])).toBeLessThan(1e-9);
    expect(radius).toBeCloseTo(0.6, 9);
    const few = facesWhere(
      wheel,
      Uint8Array.from(third, (_, f) => (f < 4 ? 1 : 0)),
    );
    expect(roundAxis(few, new Uint8Array(4).fill(1))).toBeNull();
    const slab = boxMesh([2, 0.1, 1]);
    expect(roundAxis(slab, new Uint8Array(12).fill(1))).toBeNull();
    expect(roundAxis(slab, Uint8Array.of(1, ...new Array<number>(11).fill(0)))).toBeNull();
  });

  it('is that of a turned profile, however that bends', () => {
    // A rim with a flange, turned about z: radii along the axis.
    const profile = [0.4, 0.5, 0.52, 0.5, 0.3, 0.28];
    const around = 24;
    const positions = profile.flatMap((r, i) =>
      Array.from({ length: around }, (_, k) => {
        const angle = (k / around) * 2 * Math.PI;
        return [r * Math.cos(angle) + 2, r * Math.sin(angle) - 1, i * 0.05];
      }).flat(),
    );
    const indices = profile.slice(1).flatMap((_, i) =>
      Array.from({ length: around }, (_, k) => {
        const [a, b] = [i * around + k, i * around + ((k + 1) % around)];
        return [a, b, a + around, b, b + around, a + around];
      }).flat(),
    );
    const rim = plainMesh(positions, indices);
    const found = roundAxis(rim, new Uint8Array(indices.length / 3).fill(1))!;
    expect(Math.abs(found.axis[2])).toBeCloseTo(1, 9);
    expect(distance(found.center, [2, -1, 0.125])).toBeLessThan(1e-3);
    expect(found.radius).toBeGreaterThan(0.48);
  });

  it('is found from a flat end as well, by its round outline', () => {
    fc.assert(
      fc.property(place, turn, (translation, rotation) => {
        const matrix = composeMatrix({ translation, rotation, scale: [1, 1, 1] });
        const found = discAxis(transformMesh(wheel, matrix), wheel.indices.length / 3 - 1)!;
        expect(Math.abs(dot(found.axis, rotate(rotation, [0, 0, 1])))).toBeCloseTo(1, 9);
        expect(distance(found.center, applyMatrix(matrix, [0, 0, 0.2]))).toBeLessThan(1e-9);
      }),
      { numRuns: 20 },
    );
    expect(discAxis(boxMesh([1, 1, 1]), 0)).toBeNull();
  });

  it('points up, or along x, whichever way the faces go round', () => {
    const upright = tube(
      [
        [0, 0, 0],
        [0, -1, 0],
      ] as Vec3[],
      0.3,
      12,
    );
    expect(subtract(roundAxis(upright, roundFaces(upright, 0))!.axis, [0, 1, 0]).map(Math.abs)).toEqual([
      0, 0, 0,
    ]);
  });
});
