import fc from 'fast-check';
import { rotate, scaled } from '../math/index.js';
import { boxMesh, moved } from '../testing/meshes.js';
import { turn } from '../testing/shapes.js';
import { blocks, tube } from '../testing/solids.js';
import { cutByPlane } from './cut-by-plane.js';
import { fillHoles } from './fill-holes.js';
import { joinBorders } from './join-borders.js';
import { joinMeshes } from './join-meshes.js';
import { massOf } from './mass.js';
import type { Mesh } from './mesh.js';
import { facesWhere } from './take-faces.js';
import { topologyOf } from './topology.js';

/** A pipe with a square section and a bore, subdivided so that straight sides hold vertices. */
const pipe = (): Mesh =>
  blocks(
    [
      [0, 0, 0, 2, 2, 3],
      [0, 0, 0, 1, 1, 1],
      [0, 0, 1.3, 1.4, 2, 2],
    ],
    [[0.5, 0.5, 0, 1.5, 1.5, 3]],
  );
const volume = (mesh: Mesh) => massOf(mesh).volume;
const withoutEnds = (mesh: Mesh, low: number, high: number): Mesh =>
  facesWhere(
    mesh,
    Uint8Array.from({ length: mesh.indices.length / 3 }, (_, f) => {
      const z = [0, 1, 2].map((k) => mesh.positions[mesh.indices[f * 3 + k]! * 3 + 2]!);
      return z.every((v) => v === low) || z.every((v) => v === high) ? 0 : 1;
    }),
  );

describe('a cut that is closed', () => {
  it('leaves the bore of a hollow section open, and both halves closed with all that they enclosed', () => {
    fc.assert(
      fc.property(turn, fc.double({ min: 0.2, max: 2.8, noNaN: true }), (rotation, z) => {
        const whole = moved(pipe(), [0, 0, 0], rotation);
        const normal = rotate(rotation, [0, 0, 1]);
        const { front, back } = cutByPlane(whole, { point: scaled(normal, z), normal }, { close: true });
        expect(topologyOf(front).closed).toBeTrue();
        expect(topologyOf(back).closed).toBeTrue();
        expect(volume(back)).toBeCloseTo(3 * z, 9);
        expect(volume(front)).toBeCloseTo(3 * (3 - z), 9);
      }),
      { numRuns: 40 },
    );
  });

  it('fills what stands in a bore, and a section that caves in, with vertices on its straight sides', () => {
    const stem = boxMesh([0.2, 0.2, 1.5], [1, 1, 1.5]);
    const ell = moved(
      blocks([
        [0, 0, 0, 3, 1, 3],
        [0, 0, 0, 1, 4, 3],
        [0, 0, 0, 0.5, 0.5, 0.7],
      ]),
      [5, 0, 0],
    );
    for (const [mesh, expected] of [
      [joinMeshes([pipe(), stem]), (3 + 0.16) * 1.25],
      [ell, 6 * 1.25],
    ] as const) {
      const { back } = cutByPlane(mesh, { point: [0, 0, 1.25], normal: [0, 0, 1] }, { close: true });
      expect(topologyOf(back).closed).toBeTrue();
      expect(volume(back)).toBeCloseTo(expected, 9);
    }
  });
});

describe('borders', () => {
  it('of one end are joined to a ring by their bore, or each filled by itself', () => {
    const open = withoutEnds(pipe(), 0, 3);
    expect(topologyOf(open).closed).toBeFalse();
    const rings = fillHoles(open, { bores: true });
    expect([rings.filled, volume(rings.mesh)]).toEqual([4, jasmine.any(Number)]);
    expect(volume(rings.mesh)).toBeCloseTo(9, 9);
    expect(topologyOf(rings.mesh).closed).toBeTrue();
    expect(volume(fillHoles(open).mesh)).toBeCloseTo(9, 9);
    expect(fillHoles(open, { longest: 4.5 }).filled).toBe(2);
  });

  it('that face each other are joined in pairs by bands, whatever their number of vertices', () => {
    const inner = withoutEnds(
      tube(
        [
          [0, 0, 0],
          [0, 0, 2],
        ],
        0.5,
        9,
      ),
      0,
      2,
    );
    const outer = withoutEnds(
      tube(
        [
          [0, 0, -0.2],
          [0, 0, 2.2],
        ],
        1,
        17,
      ),
      -0.2,
      2.2,
    );
    const flipped = { ...inner, indices: inner.indices.slice().reverse() };
    const both = joinMeshes([outer, flipped]);
    const { mesh, joined } = joinBorders(both);
    expect(joined).toBe(2);
    const topology = topologyOf(mesh);
    expect([topology.closed, topology.flippedEdges]).toEqual([true, 0]);
    expect(mesh.indices.length / 3).toBe(both.indices.length / 3 + 2 * (9 + 17));
    expect(volume(mesh)).toBeGreaterThan(volume(outer) * 0.6);
  });

  it('stay alone where there is no other one to join', () => {
    const cap = withoutEnds(
      tube(
        [
          [0, 0, 0],
          [0, 0, 2],
        ],
        0.5,
        9,
      ),
      0,
      9,
    );
    expect(joinBorders(cap).joined).toBe(0);
    expect(joinBorders(boxMesh([1, 1, 1])).mesh.indices.length).toBe(36);
  });
});
