import { composeMatrix, type Vec3 } from '../math/index.js';
import { facesWhere, joinMeshes, plainMesh, transformMesh, weldMesh, borderGaps } from '../mesh/index.js';
import { boxMesh, moved } from '../testing/meshes.js';
import { blocks, SOLIDS, tube } from '../testing/solids.js';
import { likelyForward, likelyUps } from './likely-axes.js';
import { surveyMesh } from './survey.js';
import { walkable } from './walkable.js';

describe('what is walked up', () => {
  it('is told by rise and run of a stair, and by the slope of a ramp', () => {
    const { stairs, slopeDegrees } = walkable(SOLIDS.stair(6));
    expect(stairs!.steps).toBe(5);
    expect(stairs!.rise).toBeCloseTo(0.18, 9);
    expect(stairs!.run).toBeCloseTo(0.3, 9);
    expect(slopeDegrees).toBeNull();
    const ramp = plainMesh(
      [0, 0, 0, 2, 1, 0, 2, 1, 1, 0, 0, 1, 2, 0, 0, 2, 0, 1],
      [0, 2, 1, 0, 3, 2, 1, 2, 5, 1, 5, 4, 0, 4, 5, 0, 5, 3],
    );
    expect(walkable(ramp).slopeDegrees).toBe(27);
    expect(walkable(boxMesh([1, 1, 1]))).toEqual({ stairs: null, slopeDegrees: null });
  });

  it('tells the highest of uneven steps', () => {
    const uneven = blocks([
      [0, 0, 0, 1, 0.2, 1],
      [1, 0, 0, 2, 0.4, 1],
      [2, 0, 0, 3, 0.7, 1],
      [3, 0, 0, 4, 0.9, 1],
    ]);
    expect(walkable(uneven).stairs!.rise).toBeCloseTo(0.3, 9);
  });
});

describe('likely axes', () => {
  it('have up where the piece stands on its largest flat side, however it lies', () => {
    const table = SOLIDS.stair(5);
    const [up] = likelyUps(table);
    expect(up!.up).toEqual([0, 1, 0]);
    const lying = transformMesh(
      table,
      composeMatrix({
        translation: [3, 0, 0],
        rotation: [Math.SQRT1_2, 0, 0, Math.SQRT1_2],
        scale: [1, 1, 1],
      }),
    );
    expect(likelyUps(lying)[0]!.up).toEqual([0, 0, 1]);
    expect(likelyUps(lying)[0]!.standsOn).toBeGreaterThan(0.1);
  });

  it('have forward along what is the same to both sides, and none where it is all round', () => {
    expect(likelyForward(SOLIDS.stair(5))).toEqual({ mirrored: 2, share: 1 });
    expect(likelyForward(boxMesh([1, 1, 1]))).toBeNull();
    const odd = joinMeshes([boxMesh([1, 1, 1]), boxMesh([0.1, 0.2, 0.3], [2, 0.5, 3])]);
    expect(likelyForward(odd)).toBeNull();
  });
});

describe('open edges', () => {
  const apart = (gap: number) =>
    facesWhere(
      joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1], [2 + gap, 0, 0])]),
      Uint8Array.from({ length: 24 }, () => 1),
    );
  const without = (mesh: ReturnType<typeof boxMesh>, axis: number, at: number) =>
    facesWhere(
      mesh,
      Uint8Array.from({ length: mesh.indices.length / 3 }, (_, f) =>
        [0, 1, 2].every((k) => Math.abs(mesh.positions[mesh.indices[f * 3 + k]! * 3 + axis]! - at) < 1e-9)
          ? 0
          : 1,
      ),
    );

  it('are told apart by distance: seams whose sides nearly meet, and true holes', () => {
    const gap = 0.0004;
    const half = without(boxMesh([1, 1, 1]), 0, 1);
    const other = moved(without(boxMesh([1, 1, 1]), 0, -1), [2 + gap, 0, 0] as Vec3);
    const seam = joinMeshes([half, other]);
    const found = borderGaps(seam);
    expect(found.seamEdges).toBe(8);
    expect(found.seamGap).toBeCloseTo(gap, 9);
    const { openEdges, seamEdges } = surveyMesh(seam);
    expect([openEdges, seamEdges]).toEqual([8, 8]);
    expect(surveyMesh(weldMesh(seam, found.seamGap * 1.01)).openEdges).toBe(0);
    // A hole is wide against its edges, and a tube's far end is no seam either.
    expect(borderGaps(half)).toEqual({ seamEdges: 0, seamGap: 0 });
    expect(
      borderGaps(
        without(
          tube(
            [
              [0, 0, 0],
              [0, 0, 4],
            ],
            0.5,
            8,
          ),
          2,
          0,
        ),
      ).seamEdges,
    ).toBe(0);
    expect(borderGaps(apart(0))).toEqual({ seamEdges: 0, seamGap: 0 });
  });
});
