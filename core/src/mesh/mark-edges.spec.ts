import { boxMesh } from '../testing/meshes.js';
import { tube } from '../testing/solids.js';
import { edgeNormals } from './edge-normals.js';
import { hardEdges, markEdges } from './mark-edges.js';
import { weldMesh } from './mend-weld.js';
import type { Mesh } from './mesh.js';
import { transformMesh } from './transform-mesh.js';
import { composeMatrix } from '../math/index.js';

const drum = (): Mesh =>
  edgeNormals(
    tube(
      [
        [0, 0, 0],
        [0, 0, 1],
      ],
      1,
      16,
    ),
  );

/** An edge by the two places it runs between, whatever its face is numbered. */
const named = (mesh: Mesh, side: number): string => {
  const at = (corner: number) =>
    [0, 1, 2].map((k) => mesh.positions[mesh.indices[corner]! * 3 + k]!.toFixed(3)).join();
  return [at(side), at(side % 3 === 2 ? side - 2 : side + 1)].sort().join(' ');
};
const hardNames = (mesh: Mesh) => new Set(hardEdges(mesh).map((side) => named(mesh, side)));
const sideNamed = (mesh: Mesh, name: string) =>
  [...mesh.indices.keys()].find((side) => named(mesh, side) === name)!;

describe('marked edges', () => {
  it('build up: a second run keeps the first, and smooth takes one back', () => {
    const mesh = drum();
    const rims = hardNames(mesh);
    expect(rims.size).toBe(32);
    // Two seams down the side of the drum.
    const seams = [...mesh.indices.keys()]
      .map((side) => named(mesh, side))
      .filter((name) => /,0.000 .*,1.000$/.test(name) && !rims.has(name));
    const straight = [...new Set(seams)].filter((name) => {
      const [a, b] = name.split(' ').map((place) => place.split(',').slice(0, 2).join());
      return a === b;
    });
    expect(straight.length).toBe(16);
    const once = markEdges(mesh, [sideNamed(mesh, straight[0]!)], 'hard');
    const twice = markEdges(once, [sideNamed(once, straight[5]!)], 'hard');
    expect(hardNames(twice)).toEqual(new Set([...rims, straight[0]!, straight[5]!]));
    const back = markEdges(twice, [sideNamed(twice, straight[0]!)], 'smooth');
    expect(hardNames(back)).toEqual(new Set([...rims, straight[5]!]));
  });

  it('leave normals that nothing was asked of as they came, to the bit', () => {
    const mesh = drum();
    // A file's own normals: bent by hand on the far end.
    const bent = mesh.normals!.slice();
    mesh.positions.forEach((v, i) => {
      if (i % 3 === 2 && v === 1) bent.set([0.6, 0, 0.8], i - 2);
    });
    const came = { ...mesh, normals: bent };
    const [rim] = [...hardNames(came)].filter((name) => name.split(' ').every((at) => at.endsWith('0.000')));
    const marked = markEdges(came, [sideNamed(came, rim!)], 'smooth');
    for (let v = 0; v < marked.positions.length / 3; v++)
      if (marked.positions[v * 3 + 2] === 1)
        expect([...marked.normals!.subarray(v * 3, v * 3 + 3)]).toEqual([
          Math.fround(0.6),
          0,
          Math.fround(0.8),
        ]);
    expect(hardNames(marked).has(rim!)).toBeFalse();
  });

  it('are kept through welding and a turned, scaled place', () => {
    const box = edgeNormals(boxMesh([1, 2, 3]));
    const [edge] = [...hardNames(box)];
    const marked = markEdges(box, [sideNamed(box, edge!)], 'smooth');
    expect(hardNames(marked).size).toBe(11);
    expect(hardNames(weldMesh(marked, 1e-4)).size).toBe(11);
    const placed = composeMatrix({ translation: [1, 2, 3], rotation: [0, 0.6, 0, 0.8], scale: [2, 2, -2] });
    expect(hardEdges(transformMesh(marked, placed)).length).toBe(11);
  });

  it('get normals where there are none, and borders are no edges between faces', () => {
    const { normals: _none, ...bare } = boxMesh([1, 1, 1]);
    expect(hardEdges(bare)).toEqual([]);
    const marked = markEdges(bare, [], 'hard');
    expect(hardEdges(marked).length).toBe(12);
    expect(hardEdges({ ...marked, indices: marked.indices.slice(0, 3) })).toEqual([]);
  });
});
