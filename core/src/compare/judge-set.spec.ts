import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { joinMeshes, plainMesh } from '../mesh/index.js';
import { type Shape, shapeTriangles } from '../shape/index.js';
import { boxMesh, ballMesh } from '../testing/meshes.js';
import { anyShape } from '../testing/shapes.js';
import { hullVolume } from '../hull/index.js';
import { Comparer, judgeSet, type JudgeSetInput, lensBetween, shapeDistance, TOUCH_METRES } from './index.js';

const box = (half: Vec3, center: Vec3 = [0, 0, 0]): Shape => ({
  kind: 'box',
  center,
  halfExtents: half,
  rotation: [0, 0, 0, 1],
});

/** A wall 4 wide and 3 high with a doorway 1 wide and 2 high in its middle, 0.4 thick: jambs, then lintel. */
const wall = () =>
  joinMeshes([
    boxMesh([0.75, 1.5, 0.2], [-1.25, 1.5, 0]),
    boxMesh([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
    boxMesh([0.5, 0.5, 0.2], [0, 2.5, 0]),
  ]);
const doorway = { id: 'door', shape: box([0.5, 1, 0.2], [0, 1, 0]) };

function judged(
  mesh: ReturnType<typeof wall>,
  shapes: Record<string, Shape>,
  more: Partial<JudgeSetInput> = {},
) {
  const members = Object.entries(shapes).map(([id, shape]) => ({ id, shape, owner: null }));
  return judgeSet(new Comparer(mesh), {
    members,
    openings: [],
    partOfFace: () => 'wall',
    toleranceMetres: 0.01,
    ...more,
  });
}

describe('a set that is judged', () => {
  it('finds nothing wrong with boxes that are the art and meet', () => {
    const found = judged(
      wall(),
      {
        left: box([0.75, 1.5, 0.2], [-1.25, 1.5, 0]),
        right: box([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
        lintel: box([0.5, 0.5, 0.2], [0, 2.5, 0]),
      },
      { openings: [doorway] },
    );
    expect([found.crossings, found.bare, found.blocked]).toEqual([[], [], []]);
    expect(Math.max(found.figures.artOutside.max, found.figures.proxyOutside.max)).toBeLessThan(1e-6);
    expect(found.shapes.map(({ away }) => away)).toEqual([0, 0, 0]);
  });

  it('says where a box over a doorway stands in the air, which opening it blocks and by how much', () => {
    const found = judged(wall(), { all: box([2, 1.5, 0.2], [0, 1.5, 0]) }, { openings: [doorway] });
    // The middle of the sill is half the width of the doorway from either jamb.
    expect(found.figures.proxyOutside.max).toBeCloseTo(0.5, 3);
    expect(Math.abs(found.figures.proxyOutside.at![0])).toBeLessThan(0.01);
    expect(found.figures.proxyOutside.at![1]).toBeLessThan(1.51);
    expect(found.blocked).toEqual([jasmine.objectContaining({ opening: 'door', shape: 'all' })]);
    expect(found.blocked[0]!.depth).toBeCloseTo(0.4, 6);
    expect(Math.abs(found.shapes[0]!.overfill - 0.8)).toBeLessThan(0.03);
  });

  it('measures how deep two shapes go into each other, and how much they share', () => {
    const found = judged(wall(), {
      left: box([0.75, 1.5, 0.2], [-1.25, 1.5, 0]),
      lintel: box([0.6, 0.5, 0.2], [0, 2.5, 0]),
      right: box([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
    });
    expect(found.crossings.map(({ a, b }) => [a, b])).toEqual([
      ['left', 'lintel'],
      ['lintel', 'right'],
    ]);
    for (const { depth, volume, at } of found.crossings) {
      expect(depth).toBeCloseTo(0.1, 9);
      expect(volume).toBeCloseTo(0.1 * 1 * 0.4, 9);
      expect(Math.abs(at[0])).toBeCloseTo(0.55, 6);
    }
  });

  it('lists what is bare with its size and its worst place, and shapes that lie away from all art', () => {
    const found = judged(wall(), {
      left: box([0.75, 1.5, 0.2], [-1.25, 1.5, 0]),
      lost: box([0.1, 0.1, 0.1], [9, 0, 0]),
    });
    expect(found.bare.length).toBe(2);
    expect(found.bare[0]!.area).toBeGreaterThan(found.bare[1]!.area);
    expect(found.bare[0]!.most).toBeCloseTo(2.5, 5);
    expect(found.shapes[1]!.away).toBeCloseTo(6.9, 2);
    // What lies beyond the art is empty all the same.
    expect(found.shapes[1]!.overfill).toBeCloseTo(0.008, 6);
    expect(found.figures.proxyVolume).toBeCloseTo(0.75 * 2 * 3 * 0.4 + 0.008, 1);
  });

  it('tells owners apart', () => {
    const mesh = joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1], [5, 0, 0])]);
    const found = judgeSet(new Comparer(mesh), {
      members: [
        { id: 'a', owner: 'first', shape: box([1, 1, 1]) },
        { id: 'b', owner: 'second', shape: box([1, 0.8, 1], [5, 0, 0]) },
        { id: 'c', owner: null, shape: box([0.1, 0.1, 0.1], [2, 0, 0]) },
      ],
      openings: [],
      partOfFace: (face) => (face < 12 ? 'first' : 'second'),
      toleranceMetres: 0.01,
    });
    const of = (owner: string | null) => found.owners.find((each) => each.owner === owner)!;
    expect(of('first').uncovered.max).toBeLessThan(1e-9);
    expect(of('second').uncovered.max).toBeCloseTo(0.2, 9);
    expect(of('second').excess.max).toBeLessThan(1e-9);
    expect(of(null).excess.max).toBeGreaterThan(0.9);
    expect(found.owners.map(({ shapes }) => shapes)).toEqual([1, 1, 1]);
  });

  it('tells a maximum that no place of the surface exceeds', () => {
    const art = ballMesh(1, [0, 0, 0], 24);
    const comparer = new Comparer(art, { cells: 12 });
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(anyShape, { minLength: 1, maxLength: 3 }),
        fc.array(fc.tuple(share, share), { minLength: 40, maxLength: 40 }),
        (shapes, shares) => {
          const { artOutside } = comparer.compare(shapes);
          const distances = shapes.map(shapeDistance);
          const most = artOutside.max * (1 + 1e-3) + 1e-4;
          shares.forEach(([s, t], i) => {
            const f = (i * 7919) % (art.indices.length / 3);
            const [u, v] = s + t > 1 ? [1 - s, 1 - t] : [s, t];
            const p = [0, 1, 2].map((k) => {
              const [a, b, c] = [0, 1, 2].map((j) => art.positions[art.indices[f * 3 + j]! * 3 + k]!);
              return a! + (b! - a!) * u + (c! - a!) * v;
            }) as Vec3;
            expect(Math.min(...distances.map((distance) => distance(...p)))).toBeLessThanOrEqual(most);
          });
        },
      ),
      { numRuns: 40 },
    );
  });

  it('paints what stands in the air on the faces of the shapes: a filled doorway is red in its middle', () => {
    const { points, indices, values } = new Comparer(wall()).painted([box([2, 1.5, 0.2], [0, 1.5, 0])]);
    expect(indices.length / 3).toBeGreaterThan(1000);
    const at = (x: number, y: number) =>
      [...values.keys()]
        .filter((v) => points[v * 3 + 2]! === 0.2)
        .reduce((a, b) =>
          Math.hypot(points[b * 3]! - x, points[b * 3 + 1]! - y) <
          Math.hypot(points[a * 3]! - x, points[a * 3 + 1]! - y)
            ? b
            : a,
        );
    expect(values[at(0, 1)]!).toBeGreaterThan(0.45);
    expect(values[at(-1.5, 1)]!).toBeLessThan(1e-6);
    expect(values[at(0, 2.7)]!).toBeLessThan(1e-6);
    // Two that meet there are painted alike, but not where they meet.
    const two = new Comparer(wall()).painted([
      box([1, 1.5, 0.2], [-1, 1.5, 0]),
      box([1, 1.5, 0.2], [1, 1.5, 0]),
    ]);
    for (let v = 0; v < two.values.length; v++)
      if (
        Math.abs(two.points[v * 3]!) < 1e-9 &&
        Math.abs(two.points[v * 3 + 2]!) < 0.19 &&
        two.points[v * 3 + 1]! > 0.01
      )
        expect(two.values[v]!).toBeLessThan(1e-9);
  });

  it('lists the same bare faces as when every vertex is asked, from set to set', () => {
    const art = ballMesh(1, [0, 0, 0], 20);
    const kept = new Comparer(art);
    fc.assert(
      fc.property(fc.array(anyShape, { minLength: 1, maxLength: 4 }), (shapes) => {
        const fresh = new Comparer(art).inDetail(shapes, 0.05).uncovered;
        expect(kept.bareFaces(shapes, 0.05)).toEqual(fresh);
      }),
      { numRuns: 40 },
    );
  });

  it('does not take a face for covered by a folded surface that only its corners lie on', () => {
    // A valley one deep under a flat face between its rims.
    const valley: Shape = {
      kind: 'surface',
      points: [-1, 0, -1, -1, 0, 1, 0, -1, -1, 0, -1, 1, 1, 0, -1, 1, 0, 1],
      indices: [0, 1, 2, 2, 1, 3, 2, 3, 4, 4, 3, 5],
    };
    const lid = plainMesh([-1, 0, -1, -1, 0, 1, 1, 0, -1, 1, 0, 1], [0, 1, 2, 2, 1, 3]);
    const comparer = new Comparer(lid);
    expect(comparer.compare([valley]).artOutside.max).toBeCloseTo(Math.SQRT1_2, 2);
    expect(comparer.bareFaces([valley], 0.1)).toEqual([[0, 1]]);
  });

  it('finds the place of a face between its samples that stands off most', () => {
    // A post beside a wide plate: between the corners of the box round both nothing is sampled at few cells.
    const mesh = joinMeshes([boxMesh([3, 0.05, 3]), boxMesh([0.05, 1, 0.05], [1.3, 1, 0.7])]);
    const hollow = new Comparer(mesh, { cells: 4 }).compare([box([3, 1, 3], [0, 1, 0])]);
    const { points, indices } = shapeTriangles(box([3, 1, 3], [0, 1, 0]));
    expect(indices.length / 3).toBe(12);
    expect(points.length).toBe(24);
    // The top's far corner: 1.95 above the plate, farther than that from the post.
    expect(hollow.proxyOutside.max).toBeCloseTo(1.95, 2);
  });
});

describe('the lens that two shapes share', () => {
  it('has their common volume, and is none where they touch, stand apart or are surfaces', () => {
    const at = (x: number): Shape => ({
      kind: 'box',
      center: [x, 0, 0],
      halfExtents: [1, 1, 1],
      rotation: [0, 0, 0, 1],
    });
    const lens = lensBetween(at(0), at(1.5), TOUCH_METRES)!;
    expect(hullVolume({ points: Float64Array.from(lens.points), faces: lens.faces })).toBeCloseTo(0.5 * 4, 9);
    const ball: Shape = { kind: 'sphere', center: [0, 0, 0], radius: 1 };
    const round = lensBetween(ball, at(1), TOUCH_METRES)!;
    const half = hullVolume({ points: Float64Array.from(round.points), faces: round.faces });
    expect(Math.abs(half / ((2 / 3) * Math.PI) - 1)).toBeLessThan(0.03);
    expect([lensBetween(at(0), at(2), TOUCH_METRES), lensBetween(at(0), at(5), TOUCH_METRES)]).toEqual([
      null,
      null,
    ]);
    expect(lensBetween(at(0), { kind: 'surface', points: [], indices: [] }, TOUCH_METRES)).toBeNull();
  });
});
