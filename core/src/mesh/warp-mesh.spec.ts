import fc from 'fast-check';
import { alongPath, bent, distance, moduleAxes, stretched, type Vec3, warpPoint } from '../math/index.js';
import { boxMesh } from '../testing/meshes.js';
import { blocks } from '../testing/solids.js';
import { edgeNormals } from './edge-normals.js';
import { massOf } from './mass.js';
import { meshBounds } from './mesh.js';
import { topologyOf } from './topology.js';
import { warpMesh } from './warp-mesh.js';

const wall = (length: number) => boxMesh([length / 2, 1, 0.25], [length / 2, 1, 0]);
const alongX = { origin: [0, 0, 0] as Vec3, ...moduleAxes([1, 0, 0]) };

describe('a module', () => {
  it('bent by a quarter turn ends exactly square, on its own section, and stays closed', () => {
    const bend = bent(alongX, { from: 0, to: 3, radians: Math.PI / 2, divisions: 8 });
    const mesh = warpMesh(wall(3), bend);
    expect(topologyOf(mesh).closed).toBeTrue();
    const radius = 3 / (Math.PI / 2);
    const ends = [0.25, -0.25].map((across) => warpPoint(bend, [3, 0.5, across]));
    expect(ends).toEqual([
      [radius - 0.25, 0.5, radius],
      [radius + 0.25, 0.5, radius],
    ]);
    expect(warpPoint(bend, [4, 0.5, 0])).toEqual([radius, 0.5, radius + 1]);
    expect(massOf(mesh).volume).toBeGreaterThan(3 * 0.98);
  });

  it('keeps its sections, the held end and its volume, for any bend', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom('from' as const, 'to' as const),
        (radians, divisions, held) => {
          const bend = bent(alongX, { from: 0, to: 4, radians, divisions, held });
          const mesh = warpMesh(wall(4), bend);
          expect(topologyOf(mesh).closed).toBeTrue();
          const still: Vec3 = [held === 'from' ? 0 : 4, 1.5, 0.2];
          expect(distance(warpPoint(bend, still), still)).toBeLessThan(1e-9);
          for (const { at } of bend.stations) {
            const [a, b] = [warpPoint(bend, [at, 0, -0.25]), warpPoint(bend, [at, 2, 0.25])];
            expect(distance(a, b)).toBeCloseTo(Math.hypot(2, 0.5), 9);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('turns its normals along, and those of what is stretched', () => {
    const flat = edgeNormals(wall(3));
    for (const warp of [
      bent(alongX, { from: 0, to: 3, radians: 1, divisions: 30 }),
      stretched(alongX, { from: 1, to: 2, length: 5 }),
    ]) {
      const mesh = warpMesh(flat, warp);
      let worst = 1;
      for (let f = 0; f < mesh.indices.length; f += 3) {
        const [a, b, c] = [0, 1, 2].map((k) => {
          const v = mesh.indices[f + k]! * 3;
          return [mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!] as Vec3;
        }) as [Vec3, Vec3, Vec3];
        const u = b.map((v, k) => v - a[k]!);
        const w = c.map((v, k) => v - a[k]!);
        const n = [
          u[1]! * w[2]! - u[2]! * w[1]!,
          u[2]! * w[0]! - u[0]! * w[2]!,
          u[0]! * w[1]! - u[1]! * w[0]!,
        ];
        const l = Math.hypot(...n);
        for (let k = 0; k < 3; k++) {
          const v = mesh.indices[f + k]! * 3;
          const cosine = n.reduce((sum, x, i) => sum + (x / l) * mesh.normals![v + i]!, 0);
          worst = Math.min(worst, cosine);
        }
      }
      expect(worst).toBeGreaterThan(0.999);
    }
  });

  it('is stretched in its middle, and its ends keep their form to the bit', () => {
    // Two posts at the ends of a rail.
    const rail = blocks([
      [0, 0, 0, 0.25, 1, 0.25],
      [0, 0.5, 0, 4, 0.75, 0.25],
      [3.75, 0, 0, 4, 1, 0.25],
    ]);
    const mesh = warpMesh(rail, stretched(alongX, { from: 0.5, to: 3.5, length: 5 }));
    expect(meshBounds(mesh)).toEqual({ min: [0, 0, 0], max: [6, 1, 0.25] });
    expect(massOf(mesh).volume).toBeCloseTo(massOf(rail).volume + 2 * 0.25 * 0.25, 9);
    const xs = new Set([...mesh.positions].filter((_, i) => i % 3 === 0));
    for (const x of [0, 0.25, 5.75, 6]) expect(xs.has(x)).toBeTrue();
    const held = stretched(alongX, { from: 0.5, to: 3.5, length: 5, held: 'to' });
    expect(meshBounds(warpMesh(rail, held))).toEqual({ min: [-2, 0, 0], max: [4, 1, 0.25] });
  });

  it('is laid along a line of points, mitred at its bends, and nowhere else', () => {
    const line: Vec3[] = [
      [0, 0, 0],
      [2, 0, 0],
      [2, 0, 0],
      [2, 0, 3],
    ];
    const path = alongPath(alongX, { from: 0, to: 5, line })!;
    const mesh = warpMesh(wall(5), path);
    expect(topologyOf(mesh).closed).toBeTrue();
    expect(meshBounds(mesh).min.map((v) => v + 0)).toEqual([0, 0, -0.25]);
    expect(meshBounds(mesh).max[2]).toBeCloseTo(3, 12);
    // A mitred corner of two straight walls half a metre thick.
    expect(massOf(mesh).volume).toBeCloseTo(5 * 2 * 0.5, 9);
    expect(
      alongPath(alongX, {
        from: 0,
        to: 5,
        line: [
          [1, 1, 1],
          [1, 1, 1],
        ],
      }),
    ).toBeNull();
  });
});
