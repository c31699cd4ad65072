import fc from 'fast-check';
import { faceNeighbours, joinMeshes, type Mesh, plainMesh, shellsOf } from '../mesh/index.js';
import { ballMesh, boxMesh, inverted } from '../testing/meshes.js';
import { closedSolid } from './closed-solid.js';
import { hiddenFaces, insideOutShells, specks } from './hidden-faces.js';

const sum = (values: ArrayLike<number>) => Array.from(values).reduce((total, v) => total + v, 0);
const volumeOf = (mesh: Mesh) => sum(closedSolid(mesh).volumes);
const shellsFacingIn = (mesh: Mesh) => insideOutShells(mesh, shellsOf(mesh), faceNeighbours(mesh));
const without = (mesh: Mesh, ...faces: number[]): Mesh =>
  plainMesh(
    mesh.positions,
    mesh.indices.filter((_, i) => !faces.includes(Math.floor(i / 3))),
  );

describe('a soup read as a solid', () => {
  it('keeps the volume of what is closed, however its faces were shuffled and turned', () =>
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }), fc.nat(11), (turned, first) => {
        const box = boxMesh([1, 1, 1]);
        const faces = Array.from({ length: 12 }, (_, f) => (f + first) % 12);
        const indices = faces.flatMap((f) => {
          const [a, b, c] = box.indices.slice(f * 3, f * 3 + 3) as unknown as [number, number, number];
          return turned[f] ? [a, c, b] : [a, b, c];
        });
        expect(volumeOf(plainMesh(box.positions, indices))).toBeCloseTo(8, 9);
      }),
      { numRuns: 60 },
    ));

  it('closes borders by caps that follow after the art, each art face once and known by its source', () => {
    const solid = closedSolid(without(boxMesh([1, 1, 1]), 0, 1));
    expect([solid.faces, solid.source.length, solid.indices.length / 3 > 10]).toEqual([10, 10, true]);
    expect(sum(solid.volumes)).toBeCloseTo(8, 9);
    const doubled = joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1])]);
    expect(closedSolid(doubled).faces).toBe(12);
    expect(volumeOf(doubled)).toBeCloseTo(8, 9);
  });

  it('takes a hollow away, and turns over what looks inward as a whole', () => {
    const hollow = joinMeshes([boxMesh([1, 1, 1]), inverted(boxMesh([0.5, 0.5, 0.5]))]);
    expect(volumeOf(hollow)).toBeCloseTo(7, 9);
    expect(volumeOf(inverted(boxMesh([1, 1, 1])))).toBeCloseTo(8, 9);
    expect([...closedSolid(hollow).volumes].map(Math.sign).sort()).toEqual([-1, 1]);
  });

  it('gives no volume to one triangle, a sheet, a line or nothing', () => {
    const sheet = plainMesh([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], [0, 1, 2, 0, 2, 3]);
    const line = plainMesh([0, 0, 0, 1, 0, 0, 2, 0, 0], [0, 1, 2]);
    for (const mesh of [plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]), sheet, line, plainMesh([], [])])
      expect(Math.abs(volumeOf(mesh))).toBe(0);
  });

  it('is the same at a micron and at ten kilometres', () => {
    for (const size of [1e-6, 1, 1e4])
      expect(volumeOf(without(ballMesh(size), 3)) / (volumeOf(ballMesh(1)) * size ** 3)).toBeCloseTo(1, 2);
  });
});

describe('faces that nobody sees', () => {
  it('are those inside another closed shell, and where shells run into each other', () => {
    const inside = joinMeshes([boxMesh([1, 1, 1]), boxMesh([0.2, 0.2, 0.2])]);
    expect([...hiddenFaces(inside)].map(Boolean)).toEqual([
      ...Array<boolean>(12).fill(false),
      ...Array<boolean>(12).fill(true),
    ]);
    expect(sum(hiddenFaces(joinMeshes([boxMesh([1, 1, 1]), boxMesh([0.2, 0.2, 0.2], [5, 0, 0])])))).toBe(0);
    expect(sum(hiddenFaces(boxMesh([1, 1, 1])))).toBe(0);
  });

  it('are seen through the hole of an open shell', () => {
    const open = joinMeshes([without(boxMesh([1, 1, 1]), 0, 1), boxMesh([0.2, 0.2, 0.2])]);
    expect(sum(hiddenFaces(open))).toBeLessThan(12);
  });

  it('inside-out shells are told from hollows, specks from small pieces of their own', () => {
    const pair = (second: Mesh) => joinMeshes([boxMesh([1, 1, 1]), second]);
    const facingIn = pair(inverted(boxMesh([0.3, 0.3, 0.3], [4, 0, 0])));
    const hollow = pair(inverted(boxMesh([0.3, 0.3, 0.3])));
    expect(shellsFacingIn(facingIn)).toEqual([1]);
    expect(shellsFacingIn(hollow)).toEqual([]);
    const speck = pair(boxMesh([0.001, 0.001, 0.001], [2, 0, 0]));
    expect(sum(specks(speck, shellsOf(speck)))).toBe(12);
    const small = pair(boxMesh([0.3, 0.3, 0.3], [2, 0, 0]));
    expect(sum(specks(small, shellsOf(small)))).toBe(0);
  });
});
