import fc from 'fast-check';
import { type Vec3 } from '../math/index.js';
import { joinMeshes, type Mesh, plainMesh } from '../mesh/index.js';
import { ballMesh, boxMesh, moved } from '../testing/meshes.js';
import { SOLIDS } from '../testing/solids.js';
import { closedSolid, DistanceBound, SolidDistance } from './index.js';

const sum = (values: Float64Array) => values.reduce((a, b) => a + b, 0);
/** Every face with corners of its own, each off by up to `hair`. */
function torn(mesh: Mesh, hair: number): Mesh {
  const positions = [...mesh.indices].flatMap((v, i) =>
    [0, 1, 2].map((k) => mesh.positions[v * 3 + k]! + (((i * 7 + k * 3) % 5) / 4 - 0.5) * hair),
  );
  return plainMesh(positions, [...mesh.indices.keys()]);
}

describe('reading soups as solids', () => {
  it('tells apart boxes that share an edge, a corner or a side', () => {
    for (const at of [
      [2, 2, 0],
      [2, 2, 2],
      [2, 0, 0],
    ] as Vec3[]) {
      const solid = closedSolid(joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1], at)]));
      expect(solid.shells).toBe(2);
      expect([...solid.volumes].map((v) => v.toFixed(9))).toEqual(['8.000000000', '8.000000000']);
    }
  });

  it('closes seams that are open by a hair, and leaves gaps that are meant', () => {
    const table = SOLIDS.table();
    const solid = closedSolid(torn(table, 1e-4));
    expect(solid.shells).toBe(1);
    expect(Math.abs(sum(solid.volumes) / sum(closedSolid(table).volumes) - 1)).toBeLessThan(1e-3);
    const touching = joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1], [2, 0, 0])]);
    expect(closedSolid(torn(touching, 1e-4)).shells).toBe(2);
    expect(closedSolid(torn(table, 0.05)).shells).toBeGreaterThan(20);
  });

  it('turns over what looks inward as a whole or in part, but not a hollow', () => {
    const box = boxMesh([1, 1, 1]);
    const over = plainMesh(box.positions, [...box.indices].reverse());
    const half = plainMesh(
      box.positions,
      [...box.indices].map((_, i, all) => (i < 15 ? all[i - (i % 3) + 2 - (i % 3)]! : all[i]!)),
    );
    for (const mesh of [over, half]) expect(sum(closedSolid(mesh).volumes)).toBeCloseTo(8, 9);
    const inner = boxMesh([0.5, 0.5, 0.5]);
    const hollow = joinMeshes([box, plainMesh(inner.positions, [...inner.indices].reverse())]);
    expect(sum(closedSolid(hollow).volumes)).toBeCloseTo(7, 9);
  });

  it('leaves out copies of faces, and lines that exporters leave about', () => {
    const box = boxMesh([1, 1, 1]);
    const line = plainMesh([5, 5, 5, 6, 6, 6, 7, 7, 7], [0, 1, 2]);
    const solid = closedSolid(joinMeshes([box, box, line]));
    expect([solid.faces, solid.shells]).toEqual([12, 1]);
    expect([...solid.source].every((f) => f < 12)).toBeTrue();
  });

  it('bounds distances from both sides without asking each place', () => {
    const distance = new SolidDistance(
      joinMeshes([moved(SOLIDS.tray(), [0.3, 0.1, 0]), ballMesh(1, [2, 3, 1])]),
    );
    const bound = new DistanceBound(distance, 24);
    const place = fc.tuple(
      ...[0, 1, 2].map(() => fc.double({ min: -1, max: 5, noNaN: true })),
    ) as fc.Arbitrary<Vec3>;
    fc.assert(
      fc.property(place, (p) => {
        const true_ = distance.signed(p);
        expect(bound.most(...p)).toBeGreaterThanOrEqual(true_ - 1e-9);
        expect(bound.least(...p)).toBeLessThanOrEqual(Math.max(0, true_) + 1e-9);
      }),
      { numRuns: 400 },
    );
  });
});
