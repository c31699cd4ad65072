import fc from 'fast-check';
import { distanceToSegment, type Vec3 } from '../math/index.js';
import { joinMeshes, plainMesh, reversedFaces } from '../mesh/index.js';
import { ballMesh, boxMesh, moved, threeParts } from '../testing/meshes.js';
import { buildBvh } from './bvh.js';
import { closestDistance, closestPoint, lastFace } from './closest-point.js';
import { FAULT_KINDS, faultPlaces } from './faults.js';
import { hiddenFaces } from './hidden-faces.js';
import { surveyMesh } from './survey.js';
import { Winding } from './winding.js';

const coordinate = fc.double({ min: -2, max: 2, noNaN: true });
const point = fc.tuple(coordinate, coordinate, coordinate);

describe('inside and outside', () => {
  it('is 1 inside a box and 0 outside, near and far, and counts overlapping solids', () => {
    const one = new Winding(boxMesh([1, 1, 1]));
    const two = new Winding(joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1], [0.5, 0, 0])]));
    fc.assert(
      fc.property(point, (p) => {
        const depth = Math.max(...p.map((v) => Math.abs(v))) - 1;
        if (Math.abs(depth) < 1e-3) return;
        expect(Math.abs(one.at(...p) - (depth < 0 ? 1 : 0))).toBeLessThan(0.02);
        const second = Math.max(Math.abs(p[0] - 0.5), Math.abs(p[1]), Math.abs(p[2])) - 1;
        if (Math.abs(second) > 1e-3)
          expect(Math.round(two.at(...p))).toBe((depth < 0 ? 1 : 0) + (second < 0 ? 1 : 0));
      }),
    );
    expect(Math.abs(one.at(1e6, 0, 0))).toBeLessThan(1e-9);
  });

  it('is near to exact where far triangles are taken together, and judges open shells by half', () => {
    const ball = ballMesh(1, [0, 0, 0], 96);
    const winding = new Winding(ball);
    fc.assert(
      fc.property(point, (p) => {
        const depth = Math.hypot(...p) - 1;
        if (Math.abs(depth) > 0.02)
          expect(Math.abs(winding.at(...p) - (depth < 0 ? 1 : 0))).toBeLessThan(0.05);
      }),
    );
    const open = {
      ...ball,
      indices: ball.indices.slice(ball.indices.length / 8 - ((ball.indices.length / 8) % 3)),
    };
    expect(new Winding(open).at(0, 0, 0)).toBeGreaterThan(0.5);
  });
});

describe('the closest point', () => {
  it('is as near as the nearest of all triangles', () => {
    const mesh = threeParts();
    const bvh = buildBvh(mesh);
    const each = Array.from({ length: mesh.indices.length / 3 }, (_, f) =>
      buildBvh({ positions: mesh.positions, indices: mesh.indices.slice(f * 3, f * 3 + 3) }),
    );
    fc.assert(
      fc.property(fc.tuple(coordinate, coordinate, coordinate), (p) => {
        const q = p.map((v) => v * 3) as Vec3;
        const nearest = Math.min(...each.map((one) => closestPoint(one, q)!.distance));
        const found = closestPoint(bvh, q)!;
        expect(found.distance).toBeCloseTo(nearest, 12);
        expect(Math.hypot(...found.point.map((v, k) => v - q[k]!))).toBeCloseTo(nearest, 12);
        expect(closestPoint(bvh, q, nearest / 2)).toBeNull();
        // Whichever face is thought to be near, the distance is the same.
        const distance = (within: number, hint: number) => closestDistance(bvh, ...q, within, hint);
        for (let hint = -1; hint < each.length; hint += 5) {
          expect(distance(Infinity, hint)).toBe(found.distance);
          expect(distance(nearest / 2, hint)).toBe(Infinity);
        }
        expect(distance(Infinity, lastFace())).toBe(found.distance);
      }),
      { numRuns: 50 },
    );
  });

  it('is that of their edges for triangles without area, and of all others beside them', () => {
    const at = fc.integer({ min: -2, max: 2 }).map((v) => v / 2);
    const place = fc.tuple(at, at, at) as fc.Arbitrary<Vec3>;
    fc.assert(
      fc.property(
        place,
        place,
        place,
        place,
        fc.double({ min: 0, max: 1, noNaN: true }),
        (a, b, p, far, t) => {
          const between = a.map((v, k) => v + (b[k]! - v) * t) as Vec3;
          const off = distanceToSegment(p, a, b);
          const corners: Vec3[][] = [
            [a, a, b],
            [a, b, b],
            [b, a, b],
            [a, between, b],
            [between, a, b],
            [a, b, between],
          ];
          for (const thin of corners) {
            const mesh = plainMesh([...thin.flat(), ...far, ...far, ...far], [0, 1, 2, 3, 4, 5]);
            const nearest = Math.min(off, Math.hypot(p[0] - far[0], p[1] - far[1], p[2] - far[2]));
            const found = closestPoint(buildBvh(mesh), p)!;
            expect(Math.abs(found.distance - nearest)).toBeLessThan(1e-7);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('faults', () => {
  it('are found where they are, as many as the survey counts', () => {
    const box = boxMesh([1, 1, 1]);
    const dirty = joinMeshes([
      box,
      boxMesh([0.4, 0.4, 0.4]),
      { ...boxMesh([1, 1, 1], [5, 0, 0]), indices: reversedFaces(boxMesh([1, 1, 1]).indices) },
      { ...box, indices: box.indices.slice(0, 3), groups: [{ material: -1, start: 0, count: 1 }] },
      moved(
        { ...box, indices: box.indices.slice(6), groups: [{ material: -1, start: 0, count: 10 }] },
        [0, 9, 0],
      ),
      boxMesh([0.001, 0.001, 0.001], [0, 3, 0]),
      plainMesh([0, 0, 7, 0, 0, 7, 0, 0, 7], [0, 1, 2]),
    ]);
    const facts = surveyMesh(dirty);
    const count = Object.fromEntries(FAULT_KINDS.map((kind) => [kind, faultPlaces(dirty, kind)]));
    expect(count['hidden-faces']!.faces.length).toBe(facts.hiddenFaces);
    expect(facts.hiddenFaces).toBe(12);
    expect([count['doubled-faces']!.faces.length, facts.doubledFaces]).toEqual([1, 1]);
    expect([count['zero-area']!.faces.length, facts.zeroAreaFaces]).toEqual([1, 1]);
    expect([count['specks']!.faces.length, facts.speckFaces]).toEqual([12 + 1, 12 + 1]);
    expect([count['inside-out']!.faces.length, facts.insideOutShells]).toEqual([12, 1]);
    expect([count['open-edges']!.edges.length / 2, facts.openEdges, facts.borders]).toEqual([4, 4, 1]);
    expect(count['non-manifold']!.edges.length).toBeGreaterThan(0);
  });

  it('do not call the inside of a hollow inside out, nor what only stands beside hidden', () => {
    const hollow = joinMeshes([
      boxMesh([1, 1, 1]),
      { ...boxMesh([0.8, 0.8, 0.8]), indices: reversedFaces(boxMesh([1, 1, 1]).indices) },
    ]);
    expect([surveyMesh(hollow).insideOutShells, surveyMesh(hollow).hiddenFaces]).toEqual([0, 0]);
    const beside = joinMeshes([boxMesh([1, 1, 1]), ballMesh(0.5, [1.5, 1.5, 1.5])]);
    expect(hiddenFaces(beside).reduce((a, b) => a + b, 0)).toBe(0);
    const through = joinMeshes([boxMesh([1, 1, 1]), boxMesh([0.1, 3, 0.1])]);
    expect(hiddenFaces(through).reduce((a, b) => a + b, 0)).toBe(0);
  });
});
