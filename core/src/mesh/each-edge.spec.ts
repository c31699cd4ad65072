import fc from 'fast-check';
import { eachEdge } from './each-edge.js';
import { faceNeighbours, MANY_NEIGHBOURS, plainMesh, topologyOf, weld } from './index.js';

/** Sides by edge, the slow way. */
function edgesOf(indices: Uint32Array): Map<string, number[]> {
  const edges = new Map<string, number[]>();
  for (let f = 0; f < indices.length; f += 3) {
    const corners = [...indices.subarray(f, f + 3)];
    if (new Set(corners).size < 3) continue;
    corners.forEach((from, k) => {
      const to = corners[(k + 1) % 3]!;
      const key = `${Math.min(from, to)} ${Math.max(from, to)}`;
      edges.set(key, [...(edges.get(key) ?? []), f + k]);
    });
  }
  return edges;
}

const own = (count: number) => ({ remap: Uint32Array.from({ length: count }, (_, i) => i), count });

describe('edges of a mesh', () => {
  it('names every edge once, with all sides of faces there, however many meet at a vertex', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 40 }).chain((count) =>
          fc.record({
            count: fc.constant(count),
            corners: fc.array(fc.nat(count - 1), { minLength: 3, maxLength: 240 }),
            hub: fc.boolean(),
          }),
        ),
        ({ count, corners, hub }) => {
          const whole = corners.slice(0, corners.length - (corners.length % 3));
          // Every face at one vertex: more sides there than are looked through one by one.
          const indices = Uint32Array.from(whole, (v, i) => (hub && i % 3 === 0 ? 0 : v));
          const left = edgesOf(indices);
          eachEdge(indices, own(count), (sides, found) => {
            const [side] = sides;
            const from = indices[side!]!;
            const to = indices[side! % 3 === 2 ? side! - 2 : side! + 1]!;
            const key = `${Math.min(from, to)} ${Math.max(from, to)}`;
            expect(sides.slice(0, found)).toEqual(left.get(key)!);
            left.delete(key);
          });
          expect(left.size).toBe(0);
        },
      ),
      { seed: 15 },
    );
  });

  it('counts a face that stands on the places of another once for each beyond the first', () => {
    const triangle = [0, 0, 0, 1, 0, 0, 0, 1, 0];
    const mesh = plainMesh([...triangle, 0, 0, 1], [0, 1, 2, 1, 2, 0, 0, 2, 1, 0, 1, 3, 0, 0, 1]);
    expect(topologyOf(mesh)).toEqual(
      jasmine.objectContaining({ doubledFaces: 2, collapsedFaces: 1, nonManifoldEdges: 3, openEdges: 2 }),
    );
  });

  it('sees no third face in one that is collapsed onto an edge of two', () => {
    const mesh = plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, -1, 0], [0, 1, 2, 1, 0, 3, 0, 1, 1]);
    const neighbours = faceNeighbours(mesh, weld(mesh.positions));
    expect([...neighbours]).toEqual([1, -1, -1, 0, -1, -1, -1, -1, -1]);
    expect(neighbours).not.toContain(MANY_NEIGHBOURS);
  });
});
