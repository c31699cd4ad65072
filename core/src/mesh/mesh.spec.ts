import fc from 'fast-check';
import { composeMatrix, type Quat, type Vec3 } from '../math/index.js';
import { ballMesh, boxMesh, moved, threeParts } from '../testing/meshes.js';
import { shellsOf } from './shells.js';
import { featureEdges } from './feature-edges.js';
import { joinMeshes } from './join-meshes.js';
import { massOf } from './mass.js';
import { decodeMesh, encodeMesh, MeshCodecError } from './mesh-codec.js';
import { meshBounds, plainMesh } from './mesh.js';
import { surveyMesh } from '../solid/index.js';
import { topologyOf } from './topology.js';
import { transformMesh } from './transform-mesh.js';
import { weld } from './weld.js';

const coordinate = fc.double({ min: -1e4, max: 1e4, noNaN: true });
const point = fc.tuple(coordinate, coordinate, coordinate);
const turn = fc
  .tuple(
    fc.double({ min: -1, max: 1, noNaN: true }),
    fc.double({ min: -1, max: 1, noNaN: true }),
    fc.double({ min: -1, max: 1, noNaN: true }),
    fc.double({ min: 0.1, max: 1, noNaN: true }),
  )
  .map((q): Quat => q.map((v) => v / Math.hypot(...q)) as Quat);

describe('weld', () => {
  it('joins vertices in one place and nothing else', () => {
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 1, maxLength: 40 }),
        fc.array(fc.nat(39), { maxLength: 40 }),
        (places, copies) => {
          const all = [...places, ...copies.map((i) => places[i % places.length]!)];
          const { remap, count } = weld(Float64Array.from(all.flat()));
          expect(count).toBe(new Set(all.map((p) => p.map((v) => v + 0).join())).size);
          all.forEach((p, i) =>
            all.forEach((q, j) => expect(remap[i] === remap[j]).toBe(p.every((v, k) => v === q[k]))),
          );
        },
      ),
      { numRuns: 50 },
    );
  });

  it('with a tolerance moves no vertex farther than that', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(30), fc.nat(30), fc.nat(30)), { minLength: 1, maxLength: 60 }),
        (places) => {
          const positions = Float64Array.from(places.flat(), (v) => v * 0.1);
          const { remap, first, count } = weld(positions, 0.15);
          places.forEach((_, i) => {
            const to = first[remap[i]!]! * 3;
            expect(
              Math.hypot(
                positions[i * 3]! - positions[to]!,
                positions[i * 3 + 1]! - positions[to + 1]!,
                positions[i * 3 + 2]! - positions[to + 2]!,
              ),
            ).toBeLessThanOrEqual(0.15);
          });
          const kept = [...first];
          expect(kept.length).toBe(count);
          for (const a of kept)
            for (const b of kept) {
              if (a < b)
                expect(
                  Math.hypot(...[0, 1, 2].map((k) => positions[a * 3 + k]! - positions[b * 3 + k]!)),
                ).toBeGreaterThan(0.15);
            }
        },
      ),
      { numRuns: 50 },
    );
  });
});

it('weld finds the nearest kept vertex on either side of any cell, near the origin and far from it', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.tuple(
          fc.double({ min: -0.4, max: 0.4, noNaN: true }),
          fc.double({ min: -0.4, max: 0.4, noNaN: true }),
          fc.double({ min: -0.4, max: 0.4, noNaN: true }),
        ),
        { minLength: 1, maxLength: 60 },
      ),
      fc.constantFrom(0, 1000, -77.7),
      (places, shift) => {
        const positions = Float64Array.from(places.flat(), (value) => value + shift);
        const tolerance = 0.13;
        const { remap, first } = weld(positions, tolerance);
        const kept: number[] = [];
        places.forEach((_, v) => {
          const away = (w: number) =>
            [0, 1, 2].reduce((sum, k) => sum + (positions[v * 3 + k]! - positions[w * 3 + k]!) ** 2, 0);
          const near = kept.filter((w) => away(w) <= tolerance * tolerance);
          const wanted = near.length ? near.reduce((best, w) => (away(w) < away(best) ? w : best)) : v;
          if (wanted === v) kept.push(v);
          expect(first[remap[v]!]).toBe(wanted);
        });
      },
    ),
    { numRuns: 100 },
  );
});

describe('topology', () => {
  it('knows a closed box from one with a face missing', () => {
    const box = boxMesh([1, 1, 1]);
    expect(topologyOf(box)).toEqual(
      jasmine.objectContaining({ closed: true, openEdges: 0, flippedEdges: 0, doubledFaces: 0 }),
    );
    const open = plainMesh(box.positions, box.indices.slice(6));
    expect(topologyOf(open)).toEqual(jasmine.objectContaining({ closed: false, openEdges: 4 }));
  });

  it('counts doubled, collapsed and turned faces, and edges that three faces share', () => {
    const box = boxMesh([1, 1, 1]);
    const [a, b, c] = box.indices;
    const dirty = plainMesh(box.positions, [...box.indices, b!, c!, a!, a!, a!, b!]);
    expect(topologyOf(dirty)).toEqual(
      jasmine.objectContaining({ doubledFaces: 1, collapsedFaces: 1, nonManifoldEdges: 3, closed: false }),
    );
    const turned = plainMesh(box.positions, [a!, c!, b!, ...box.indices.slice(3)]);
    expect(topologyOf(turned).flippedEdges).toBe(3);
  });

  it('sees through seams: vertices split for normals do not open the surface', () => {
    const box = boxMesh([1, 2, 3]);
    const split = plainMesh(
      Float64Array.from([...box.indices].flatMap((v) => [...box.positions.slice(v * 3, v * 3 + 3)])),
      Array.from(box.indices, (_, i) => i),
    );
    expect(topologyOf(split).closed).toBeTrue();
    expect(surveyMesh(split).doubledVertices).toBe(28);
  });
});

describe('connected parts', () => {
  it('are numbered by their first triangle', () => {
    const parts = shellsOf(threeParts());
    expect(parts.count).toBe(3);
    expect(parts.ofTriangle[0]).toBe(0);
    expect(parts.ofTriangle[12]).toBe(1);
    expect(parts.ofTriangle[24]).toBe(2);
  });
});

describe('mass', () => {
  it('is that of a box wherever it stands, to the last digits', () => {
    fc.assert(
      fc.property(
        fc.tuple(
          fc.double({ min: 0.01, max: 10, noNaN: true }),
          fc.double({ min: 0.01, max: 10, noNaN: true }),
          fc.double({ min: 0.01, max: 10, noNaN: true }),
        ),
        point,
        (half, centre) => {
          const mass = massOf(boxMesh(half, centre as Vec3));
          const volume = 8 * half[0] * half[1] * half[2];
          expect(mass.volume / volume).toBeCloseTo(1, 6);
          mass.centroid.forEach((v, i) => expect(v).toBeCloseTo(centre[i]!, 6));
        },
      ),
    );
  });

  it('is negative inside out, and the survey says which parts are', () => {
    const good = boxMesh([1, 1, 1]);
    const bad = moved(boxMesh([1, 1, 1]), [5, 0, 0]);
    bad.indices = bad.indices.slice().reverse();
    expect(massOf(bad).volume).toBeCloseTo(-8, 9);
    expect(surveyMesh(joinMeshes([good, bad])).insideOutShells).toBe(1);
  });
});

describe('transformMesh', () => {
  it('keeps outward outward under mirrors, shears and squeezes', () => {
    fc.assert(
      fc.property(
        turn,
        turn,
        fc.tuple(
          ...([0, 1, 2].map(() =>
            fc.oneof(
              fc.double({ min: -3, max: -0.1, noNaN: true }),
              fc.double({ min: 0.1, max: 3, noNaN: true }),
            ),
          ) as [fc.Arbitrary<number>, fc.Arbitrary<number>, fc.Arbitrary<number>]),
        ),
        (q, r, scale) => {
          let mesh = { ...ballMesh(1, [0, 0, 0], 12) };
          mesh.normals = Float32Array.from(mesh.positions);
          mesh = transformMesh(
            transformMesh(mesh, composeMatrix({ translation: [0, 0, 0], rotation: q, scale })),
            composeMatrix({ translation: [1, 2, 3], rotation: r, scale: [1, 2, 1] }),
          ) as typeof mesh;
          expect(massOf(mesh).volume).toBeGreaterThan(0);
          for (let t = 0; t < mesh.indices.length; t += 3) {
            const [a, b, c] = [0, 1, 2].map((k) =>
              mesh.positions.slice(mesh.indices[t + k]! * 3, mesh.indices[t + k]! * 3 + 3),
            ) as [Float64Array, Float64Array, Float64Array];
            const u = b.map((v, i) => v - a[i]!);
            const w = c.map((v, i) => v - a[i]!);
            const face = [
              u[1]! * w[2]! - u[2]! * w[1]!,
              u[2]! * w[0]! - u[0]! * w[2]!,
              u[0]! * w[1]! - u[1]! * w[0]!,
            ];
            const normal = [0, 1, 2].map((i) =>
              [0, 1, 2].reduce((s, k) => s + mesh.normals![mesh.indices[t + k]! * 3 + i]!, 0),
            );
            expect(face[0]! * normal[0]! + face[1]! * normal[1]! + face[2]! * normal[2]!).toBeGreaterThan(0);
          }
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('mesh codec', () => {
  it('gives back what was put in, and equal bytes for equal meshes', () => {
    const mesh = threeParts();
    mesh.normals = new Float32Array(mesh.positions.length).fill(0.5);
    mesh.uvs = [new Float32Array((mesh.positions.length / 3) * 2).fill(0.25)];
    expect(decodeMesh(encodeMesh(mesh))).toEqual({ ...mesh, tangents: undefined, colors: undefined });
    expect(encodeMesh(threeParts())).toEqual(encodeMesh(threeParts()));
  });

  it('keeps doubles that single precision would round', () => {
    const mesh = boxMesh([0.1, 0.1, 0.1], [10000.1, 0, 0]);
    expect(decodeMesh(encodeMesh(mesh)).positions).toEqual(mesh.positions);
  });

  it('refuses bytes that were cut or changed, and never anything worse', () => {
    const good = encodeMesh(boxMesh([1, 1, 1]));
    fc.assert(
      fc.property(fc.nat(good.length - 1), fc.nat(255), fc.nat(good.length), (at, value, length) => {
        const bytes = good.slice(0, length);
        if (at < bytes.length) bytes[at] = value;
        try {
          meshBounds(decodeMesh(bytes));
        } catch (error) {
          expect(error).toBeInstanceOf(MeshCodecError);
        }
      }),
      { numRuns: 300 },
    );
  });
});

describe('feature edges', () => {
  it('are the twelve of a box, none of a fine ball, and every border', () => {
    const box = boxMesh([1, 1, 1]);
    expect(featureEdges(box).length / 2).toBe(12);
    // Faces that lie there twice have the same edges once.
    expect(featureEdges(joinMeshes([box, box])).length / 2).toBe(12);
    expect(featureEdges(ballMesh(1, [0, 0, 0], 48)).length).toBe(0);
    expect(featureEdges(plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2])).length / 2).toBe(3);
  });
});
