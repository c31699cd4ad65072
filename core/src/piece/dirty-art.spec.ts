import fc from 'fast-check';
import { discAxis, roundAxis, roundFaces } from '../fit/index.js';
import { alongPath, bent, moduleAxes, stretched, type Vec3 } from '../math/index.js';
import {
  borderGaps,
  fillHoles,
  hardEdges,
  joinBorders,
  joinMeshes,
  markEdges,
  matchingShift,
  type Mesh,
  measureUvs,
  plainMesh,
  projectedUvs,
  seamBetween,
  uvLayout,
  warpMesh,
} from '../mesh/index.js';
import { likelyForward, likelyUps, walkable } from '../solid/index.js';
import { boxMesh, inverted, moved } from '../testing/meshes.js';
import { extentAlong } from './sides.js';

/** One of each thing that is wrong with art, at a size. */
function dirty(size: number): [string, Mesh][] {
  const h: Vec3 = [size / 2, size / 3, size / 5];
  const box = boxMesh(h);
  const open = { ...box, indices: box.indices.slice(6), groups: [{ material: -1, start: 0, count: 10 }] };
  const twice = joinMeshes([box, box]);
  return [
    ['one triangle', plainMesh([0, 0, 0, size, 0, 0, 0, size, 0], [0, 1, 2])],
    ['no area', plainMesh([0, 0, 0, size, 0, 0, size / 2, 0, 0], [0, 1, 2])],
    ['one place', plainMesh([size, size, size, size, size, size, size, size, size], [0, 1, 2])],
    ['no faces', plainMesh([0, 0, 0], [])],
    ['unused vertices', plainMesh([...box.positions, 9 * size, 9 * size, 9 * size], [...box.indices])],
    ['open', open],
    ['inside out', inverted(box)],
    ['doubled', twice],
    ['crossing', joinMeshes([box, moved(box, [size / 4, size / 7, 0], [0.1, 0.2, 0.3, Math.sqrt(0.86)])])],
    [
      'three at an edge',
      plainMesh([0, 0, 0, 0, 0, size, size, 0, 0, -size, 0, 0, 0, size, 0], [0, 1, 2, 0, 1, 3, 0, 1, 4]),
    ],
    ['a long way off', moved(box, [size * 1e5, 0, -size * 1e5])],
  ];
}

const finite = (mesh: Mesh) => {
  for (const values of [mesh.positions, mesh.normals ?? [], ...mesh.uvs])
    for (const value of values) if (!Number.isFinite(value)) return false;
  const most = mesh.positions.length / 3;
  return mesh.indices.every((v) => v < most) && mesh.indices.length % 3 === 0;
};

describe('art that is dirty', () => {
  const each = (check: (mesh: Mesh, size: number) => void) => {
    for (const size of [1e-6, 1, 1e4])
      for (const [name, mesh] of dirty(size)) {
        const before = [...mesh.positions];
        try {
          check(mesh, size);
        } catch (error) {
          fail(`${name}, ${size} m: ${(error as Error).message}`);
        }
        expect([...mesh.positions])
          .withContext(`${name}, ${size} m, is left as it was`)
          .toEqual(before);
      }
  };

  it('is bent, stretched and laid along a line without a place that is none', () => {
    each((mesh, size) => {
      const module = { origin: [0, 0, 0] as Vec3, ...moduleAxes([1, 0, 0]) };
      const [from, to] = [-size / 2, size / 2];
      for (const warp of [
        bent(module, { from, to, radians: Math.PI / 2, divisions: 5 }),
        stretched(module, { from: from / 2, to: to / 2, length: size * 3 }),
        alongPath(module, {
          from,
          to,
          line: [
            [0, 0, 0],
            [size, 0, 0],
            [size, size, size],
          ],
        })!,
      ]) {
        const out = warpMesh(mesh, warp);
        if (!finite(out)) throw new Error('not finite');
      }
    });
  });

  it('has its holes filled and its borders joined with faces between its own vertices', () => {
    each((mesh) => {
      for (const out of [
        fillHoles(mesh).mesh,
        fillHoles(mesh, { bores: true }).mesh,
        joinBorders(mesh).mesh,
      ]) {
        if (!finite(out)) throw new Error('not finite');
        if (out.indices.length < mesh.indices.length) throw new Error('faces are lost');
      }
    });
  });

  it('has edges marked and told, each of them a side that is there', () => {
    each((mesh) => {
      const all = Array.from({ length: mesh.indices.length }, (_, side) => side);
      for (const as of ['hard', 'smooth'] as const) {
        const out = markEdges(mesh, all, as);
        if (!finite(out)) throw new Error('not finite');
        if (hardEdges(out).some((side) => side >= out.indices.length)) throw new Error('a side that is none');
      }
    });
  });

  it('gets UVs that can be measured', () => {
    each((mesh, size) => {
      for (const by of ['box', 'planar', 'cylinder'] as const) {
        const out = projectedUvs(mesh, size, { by, axis: 0, set: 1 });
        if (!finite(out)) throw new Error(`not finite by ${by}`);
        if (out.indices.length !== mesh.indices.length) throw new Error('faces are lost');
        const layout = uvLayout(out, 1, 256);
        const shares = layout ? [layout.fill, layout.overlap, layout.outside, layout.empty] : [];
        if (shares.some((share) => !(share >= 0 && share <= 1))) throw new Error(`shares ${shares.join()}`);
        const measured = measureUvs(out, 1);
        if (measured && !Number.isFinite(measured.density)) throw new Error('no density');
      }
    });
  });

  it('is told about without a figure that is none: gaps, steps, axes, rounds, seams, matches', () => {
    each((mesh, size) => {
      const { seamEdges, seamGap } = borderGaps(mesh);
      const { stairs, slopeDegrees } = walkable(mesh);
      const ups = likelyUps(mesh);
      const forward = likelyForward(mesh);
      const round = mesh.indices.length ? roundAxis(mesh, roundFaces(mesh, 0)) : null;
      const disc = mesh.indices.length ? discAxis(mesh, 0) : null;
      const seam = seamBetween(mesh, moved(mesh, [size / 100, 0, 0]), size / 50);
      const shift = matchingShift(mesh, moved(mesh, [size, 0, 0]), size / 1000);
      const figures = JSON.stringify([
        seamEdges,
        seamGap,
        stairs,
        slopeDegrees,
        ups,
        forward,
        round,
        disc,
        seam,
        shift,
      ]);
      // JSON writes null for a number that is none; what may be null by its type is taken out first.
      const numbers = [seamEdges, seamGap, ...ups.flatMap((up) => [up.standsOn, up.looksUp])];
      for (const fit of [round, disc])
        if (fit) numbers.push(...fit.center, ...fit.axis, fit.radius, fit.deviation);
      if (shift) numbers.push(...shift.shift, shift.share);
      if (numbers.some((value) => !Number.isFinite(value))) throw new Error(figures);
      if (mesh.indices.length) {
        const [low, high] = extentAlong(mesh, [1, 1, 0]);
        if (!(low <= high)) throw new Error(`from ${low} to ${high}`);
      }
    });
  });

  it('tells the same of the same art at any size', () => {
    fc.assert(
      fc.property(fc.integer({ min: -5, max: 4 }), fc.nat(10), (power, which) => {
        const size = 10 ** power;
        const [, mesh] = dirty(size)[which]!;
        const [, one] = dirty(1)[which]!;
        expect(borderGaps(mesh).seamEdges).toBe(borderGaps(one).seamEdges);
        expect(likelyUps(mesh).map(({ up }) => up)).toEqual(likelyUps(one).map(({ up }) => up));
        expect(hardEdges(mesh)).toEqual(hardEdges(one));
      }),
      { numRuns: 60 },
    );
  });
});
