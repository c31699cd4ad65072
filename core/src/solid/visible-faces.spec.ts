import fc from 'fast-check';
import { boxMesh } from '../testing/meshes.js';
import { joinMeshes, transformMesh } from '../mesh/index.js';
import { composeMatrix, type Vec3 } from '../math/index.js';
import { visibleFaces } from './visible-faces.js';

const shifted = (at: Vec3) =>
  transformMesh(
    boxMesh([1, 1, 1]),
    composeMatrix({ translation: at, rotation: [0, 0, 0, 1], scale: [1, 1, 1] }),
  );
const all = (count: number) => new Uint8Array(count).fill(1);
const count = (marks: Uint8Array) => marks.reduce((sum, m) => sum + m, 0);

describe('visibleFaces', () => {
  it('sees the sides of a box that face the eye, and no others', () => {
    const box = boxMesh([1, 1, 1]);
    fc.assert(
      fc.property(
        fc
          .tuple(...[0, 1, 2].map(() => fc.constantFrom(-9, -0.3, 0.3, 9)))
          .filter((eye) => eye.some((v) => Math.abs(v) > 1)),
        (eye) => {
          const outside = eye.filter((v) => Math.abs(v) > 1).length;
          expect(count(visibleFaces(box, all(12), { eye: eye as Vec3, direction: null }))).toBe(outside * 2);
        },
      ),
    );
  });

  it('looks past what is hidden, and neither sees nor is stopped by it', () => {
    const mesh = joinMeshes([shifted([0, 0, 0]), shifted([3, 0, 0])]);
    const sight = { eye: [9, 0, 0] as Vec3, direction: [-1, 0, 0] as Vec3 };
    const seen = visibleFaces(mesh, all(24), sight);
    expect([count(seen.subarray(0, 12)), count(seen.subarray(12))]).toEqual([0, 2]);
    const alone = visibleFaces(mesh, all(24), sight, { face: (face) => face < 12 });
    expect([count(alone.subarray(0, 12)), count(alone.subarray(12))]).toEqual([2, 0]);
  });

  it('sees into what is cut open, and not what is cut away', () => {
    const mesh = joinMeshes([shifted([0, 0, 0]), shifted([3, 0, 0])]);
    const sight = { eye: [9, 0, 0] as Vec3, direction: [-1, 0, 0] as Vec3 };
    // Kept is what lies below x = 1.5: the second box is gone, and the first one is seen.
    const seen = visibleFaces(mesh, all(24), sight, { cut: { normal: [-1, 0, 0], offset: -1.5 } });
    expect([count(seen.subarray(0, 12)), count(seen.subarray(12))]).toEqual([2, 0]);
    // Cut through the middle of the first box: its far wall is seen from inside.
    const open = visibleFaces(mesh, all(24), sight, { cut: { normal: [-1, 0, 0], offset: 0 } });
    expect([...open.subarray(0, 12)].filter(Boolean).length).toBeGreaterThanOrEqual(2);
    expect(count(open.subarray(12))).toBe(0);
  });

  it('answers only for what is asked, and for nothing when nothing is', () => {
    const box = boxMesh([1, 1, 1]);
    const asked = new Uint8Array(12);
    asked[0] = 1;
    const seen = visibleFaces(box, asked, { eye: [4, 5, 6], direction: null });
    expect(count(seen.subarray(1))).toBe(0);
    expect(count(visibleFaces(box, new Uint8Array(12), { eye: [4, 5, 6], direction: null }))).toBe(0);
  });
});
