import { faceNeighbours, plainMesh } from '@yard-brace/core';
import { flatRegionOf, snapOnFace } from './snap';
import type { ArtToDraw } from './art-to-draw';

/** A flat square of two triangles, and one upright on its right side. */
function square(): ArtToDraw {
  const mesh = plainMesh(
    [0, 0, 0, 2, 0, 0, 2, 0, -2, 0, 0, -2, 2, 2, 0, 2, 2, -2],
    [0, 1, 2, 0, 2, 3, 1, 4, 5, 1, 5, 2],
  );
  return {
    origin: [0, 0, 0],
    positions: Float32Array.from(mesh.positions),
    indices: mesh.indices as Uint32Array<ArrayBuffer>,
    neighbours: Int32Array.from(faceNeighbours(mesh)),
    groups: [],
  } as unknown as ArtToDraw;
}

describe('what the pointer catches', () => {
  const flat = (p: readonly number[]): [number, number] => [p[0]! * 100, p[2]! * 100];

  it('takes no diagonal of a polygon for an edge', () => {
    const art = square();
    const region = flatRegionOf(art, 0);
    expect(region.sides.sort()).toEqual([0, 1, 4, 5]);
    // Its middle is that of the square, not of the triangle that was pointed at.
    expect(region.centre).toEqual([1, 0, -1]);
    // Right beside the diagonal, and yet the edge is one of the square's own.
    const snap = snapOnFace(art, 0, [1.2, 0, -1.15], [120, -115], flat);
    expect(snap.kind).toBe('face');
    const [a, b] = snap.edge;
    expect(a.filter((v, k) => v !== b[k]).length).toBe(1);
  });

  it('catches vertices first, then edges', () => {
    const art = square();
    expect(snapOnFace(art, 0, [1.98, 0, -0.02], [198, -2], flat).kind).toBe('vertex');
    expect(snapOnFace(art, 0, [1.5, 0, -0.02], [150, -2], flat).kind).toBe('edge');
  });

  it('tells the edges of the piece from those of its polygons', () => {
    const art = square();
    const seen = snapOnFace(art, 0, [1.2, 0, -1.15], [120, -115], flat);
    expect(seen.feature).toBeDefined();
    // Where two materials meet on one flat side there is an edge, too.
    const groups = [
      { material: 0, start: 0, count: 1 },
      { material: 1, start: 1, count: 3 },
    ];
    const [a, b] = snapOnFace({ ...art, groups }, 0, [1.1, 0, -1.05], [110, -105], flat).feature!;
    expect([a, b].sort()).toEqual([
      [0, 0, 0],
      [2, 0, -2],
    ]);
    // A gentle bend is one where a flat side ends at it, as a bevel's.
    const bent = { ...art, positions: art.positions.map((v, i) => (i % 3 === 1 && v === 2 ? 0.1 : v)) };
    const region = flatRegionOf(bent, 0);
    expect(region.sides.length).toBe(4);
    expect(region.features.length).toBe(4);
  });

  it('takes the edge of a bevelled side, and none between the triangles of what is curved', () => {
    // A flat square that goes on to the left by 15 degrees, and a triangle that goes on from there by as much.
    const [c, s] = [Math.cos(Math.PI / 12), Math.sin(Math.PI / 12)];
    const mesh = plainMesh(
      [0, 0, 0, 2, 0, 0, 2, 0, -2, 0, 0, -2, -c, -s, 0, -c, -s, -2],
      [0, 1, 2, 0, 2, 3, 4, 0, 3, 4, 3, 5],
    );
    const neighbours = Int32Array.from(faceNeighbours(mesh));
    const bevelled = {
      ...square(),
      positions: Float32Array.from(mesh.positions),
      indices: mesh.indices as Uint32Array<ArrayBuffer>,
      neighbours,
    };
    const [a, b] = snapOnFace(bevelled, 0, [0.3, 0, -1], [30, -100], flat).feature!;
    expect([a, b].sort()).toEqual([
      [0, 0, -2],
      [0, 0, 0],
    ]);
    // Three triangles that lean gently to each other, closed all round by others of their kind: nothing of them is an edge.
    const lonely = { ...bevelled, positions: bevelled.positions.map((v, i) => (i === 10 ? 0.1 : v)) };
    const inner = [...flatRegionOf(lonely, 1).features].filter((side) => neighbours[side]! >= 0);
    expect(inner).toEqual([]);
  });
});
