import {
  applyEdit,
  compareNewArt,
  extractPiece,
  piecesIn,
  plainNode,
  type Scene,
  type SceneNode,
  pivotEdit,
  replaceProxies,
  sceneNoteText,
} from '../piece/index.js';
import { joinMeshes, type Mesh } from '../mesh/index.js';
import { meshNameFrom } from '../naming/index.js';
import { pieceOf } from '../testing/documents.js';
import { ballMesh, boxMesh, moved, sceneOf } from '../testing/meshes.js';
import { setApart } from './set-apart.js';
import { detailLevel, taggedAs } from './tags.js';

const scene = (...parts: [name: string, mesh: Mesh | null, change?: Partial<SceneNode>][]): Scene => {
  const meshes = parts.flatMap(([name, mesh]) => (mesh ? [{ name, mesh }] : []));
  let used = 0;
  return {
    ...sceneOf(boxMesh([1, 1, 1])),
    meshes,
    nodes: parts.map(([name, mesh, change]) => ({ ...plainNode(name, mesh ? used++ : null), ...change })),
  };
};

describe('what comes along in a file', () => {
  it('is known by its name under any target', () => {
    expect(taggedAs('UCX_Post_01')).toEqual({ kind: 'hull', owners: ['Post_01', 'Post'] });
    expect(taggedAs('UBX_Post_Cap')!.owners).toEqual(['Post_Cap']);
    expect(taggedAs('Post-convcolonly')).toEqual({ kind: 'hull', owners: ['Post'] });
    expect(taggedAs('Post-colonly')).toEqual({ kind: 'surface', owners: ['Post'] });
    expect(taggedAs('Post-col')).toEqual({ kind: 'surface', owners: [], drawn: true });
    for (const name of ['$proxy', '$physics_proxy', '$physics_proxy001', '$physics_proxy_02'])
      expect(taggedAs(name)).withContext(name).toEqual({ kind: 'hull', owners: [] });
    for (const name of ['Post', 'ucx_Post_01', 'Post-cold', 'physics_proxy', '$proxy_of_mine'])
      expect(taggedAs(name)).withContext(name).toBeNull();
    expect([detailLevel('Post_LOD0'), detailLevel('post.lod2'), detailLevel('Pilot12')]).toEqual([
      0,
      2,
      null,
    ]);
  });

  it('becomes proxies of its owner, of the kind that it really is', () => {
    const turned = moved(boxMesh([1, 0.5, 0.2]), [3, 1, 0], [0, 0, Math.sin(0.3), Math.cos(0.3)]);
    const apart = setApart(
      scene(
        ['Post', boxMesh([1, 1, 1]), { translation: [0, 5, 0] }],
        ['UBX_Post_01', turned],
        ['USP_Post_02', ballMesh(0.5, [0, 2, 0])],
        ['UBX_Post_03', ballMesh(0.5)],
        ['UCX_Gone_01', boxMesh([1, 1, 1])],
        ['$physics_proxy_01', boxMesh([2, 2, 2]), { parent: 0 }],
        ['Post-colonly', boxMesh([1, 1, 1])],
      ),
    );
    expect(apart.scene.nodes.map(({ name }) => name)).toEqual(['Post', 'UCX_Gone_01']);
    expect(apart.proxies.map(({ shape, owner }) => [shape.kind, owner])).toEqual([
      ['box', 0],
      ['sphere', 0],
      ['hull', 0],
      ['hull', 0],
      ['surface', 0],
    ]);
    const box = apart.proxies[0]!.shape;
    expect(box.kind === 'box' && [...box.halfExtents].sort().map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      0.2, 0.5, 1,
    ]);
    expect(apart.scene.notes.map(sceneNoteText)).toEqual([
      '“UBX_Post_03” is tagged box and is none; it was imported as a hull.',
      'A proxy belongs to no mesh in the file and was set aside: UCX_Gone_01.',
    ]);
  });

  it('belongs to the mesh of its whole name before its number is cut off', () => {
    const apart = setApart(
      scene(
        ['Wall', boxMesh([1, 1, 1])],
        ['Wall_01', boxMesh([1, 1, 1])],
        ['UCX_Wall_01', boxMesh([1, 1, 1])],
        ['UCX_Wall_01_02', boxMesh([1, 1, 1])],
        ['UCX_Wall_03', boxMesh([1, 1, 1])],
      ),
    );
    expect(apart.proxies.map(({ name, owner }) => [name, owner])).toEqual([
      ['UCX_Wall_01', 1],
      ['UCX_Wall_01_02', 1],
      ['UCX_Wall_03', 0],
    ]);
    expect(apart.scene.notes).toEqual([]);
  });

  it('belongs to the art that it hangs below, whatever its name says', () => {
    const apart = setApart(
      scene(
        ['Frame', boxMesh([1, 1, 1])],
        ['Leaf', boxMesh([1, 1, 1]), { parent: 0 }],
        ['UCX_Frame_01', boxMesh([1, 1, 1]), { parent: 1 }],
        ['$proxy', boxMesh([1, 1, 1]), { parent: 0 }],
        ['Gone-colonly', boxMesh([1, 1, 1]), { parent: 1 }],
      ),
    );
    expect(apart.proxies.map(({ owner }) => owner)).toEqual([1, 0, 1]);
  });

  it('that is drawn and its own collision is both', () => {
    const apart = setApart(scene(['Rock-col', boxMesh([1, 1, 1]), { translation: [2, 0, 0] }]));
    expect(apart.scene.nodes.map(({ name, mesh }) => [name, mesh])).toEqual([['Rock-col', 0]]);
    expect(apart.aside).toEqual([]);
    expect(apart.proxies.map(({ shape, owner }) => [shape.kind, owner])).toEqual([['surface', 0]]);
    const { shape } = apart.proxies[0]!;
    expect(shape.kind === 'surface' && Math.min(...shape.points.filter((_, i) => i % 3 === 0))).toBe(1);
  });

  it('that caves in or is open stays the surface that it is, and is never filled unseen', () => {
    const elbow = joinMeshes([boxMesh([1, 0.2, 1]), boxMesh([0.2, 1, 1], [-0.8, 1.2, 0])]);
    const box = boxMesh([1, 1, 1]);
    const open = { ...box, indices: box.indices.slice(0, -6) };
    const apart = setApart(
      scene(
        ['Post', boxMesh([1, 1, 1])],
        ['UCX_Post_01', elbow],
        ['UCX_Post_02', open],
        ['UCX_Post_03', box],
      ),
    );
    expect(apart.proxies.map(({ shape }) => shape.kind)).toEqual(['surface', 'surface', 'hull']);
    expect(apart.scene.notes.map(sceneNoteText)).toEqual([
      '“UCX_Post_01” is tagged hull and caves in or is open; it was kept as a surface, which can be broken up into solids.',
      '“UCX_Post_02” is tagged hull and caves in or is open; it was kept as a surface, which can be broken up into solids.',
    ]);
  });

  it('sets coarser detail levels aside, whatever the finest is called', () => {
    const apart = setApart(
      scene(
        ['Post_LOD1', boxMesh([1, 1, 1])],
        ['Post_LOD2', boxMesh([1, 1, 1])],
        ['Cap', boxMesh([1, 1, 1]), { parent: 1 }],
        ['Base', boxMesh([1, 1, 1])],
      ),
    );
    expect(apart.aside).toEqual([1, 2]);
  });

  it('comes apart into the pieces that stand apart, each where it stood', () => {
    const piece = pieceOf(
      scene(
        ['kit', null],
        ['coping', boxMesh([1, 1, 1]), { parent: 0, translation: [20, 0, 0] }],
        ['lip', boxMesh([1, 0.1, 1]), { parent: 0, translation: [20, 1.1, 0] }],
        ['post', boxMesh([0.2, 1, 0.2]), { parent: 0 }],
        ['hook', boxMesh([0.1, 0.1, 0.1]), { parent: 3, translation: [0, 1, 0] }],
      ),
    );
    const pieces = piecesIn(piece.document);
    expect(pieces).toEqual([['n2', 'n3'], ['n4']]);
    const post = extractPiece(piece.document, pieces[1]!, piece.meshOf, meshNameFrom);
    expect([post.name, post.meshName, post.nodes.map(({ name }) => name)]).toEqual([
      'Post',
      'Post',
      ['kit', 'post', 'hook'],
    ]);
    const coping = extractPiece(piece.document, pieces[0]!, piece.meshOf, meshNameFrom);
    expect([coping.whole.min, coping.whole.max]).toEqual([
      [19, -1, -1],
      [21, 1.2000000000000002, 1],
    ]);
    expect(piecesIn(coping)).toEqual([['n2', 'n3']]);
  });
});

describe('new art for a piece', () => {
  const blobs = new Map<string, Mesh>();
  const taken = (s: Scene) => {
    const piece = pieceOf(s);
    for (const id of Object.keys(piece.document.meshes)) blobs.set(id, piece.meshOf(id));
    return piece.document;
  };
  const meshOf = (id: string) => blobs.get(id)!;
  const first = scene(
    ['post', boxMesh([1, 1, 1])],
    ['cap', boxMesh([0.5, 0.1, 0.5]), { translation: [0, 1.1, 0] }],
    ['hook', boxMesh([0.1, 0.1, 0.1]), { translation: [1, 0, 0] }],
  );
  const second = scene(
    ['post', boxMesh([1, 1, 1])],
    ['cap', boxMesh([0.5, 0.1, 0.5]), { translation: [0, 1.1, 0.25] }],
    ['ring', ballMesh(0.3), { translation: [-1, 0, 0] }],
  );

  it('says which parts are new, gone, moved and by how much, and where pivots would go', () => {
    let old = taken(first);
    old = applyEdit(old, { kind: 'rename-parts', names: [{ part: 'n2', name: 'Lid' }] });
    old = applyEdit(old, pivotEdit('base-centre', [0.05, -1, 0]));
    old = applyEdit(
      old,
      replaceProxies([
        {
          id: 'a',
          shape: { kind: 'box', center: [0, 0, 0], halfExtents: [1, 0.9, 1], rotation: [0, 0, 0, 1] },
          part: 'n1',
        },
        {
          id: 'b',
          shape: { kind: 'box', center: [0, 1.1, 0], halfExtents: [0.5, 0.1, 0.5], rotation: [0, 0, 0, 1] },
          part: 'n2',
        },
      ]),
    );
    const report = compareNewArt(old, taken(second), meshOf);
    expect(report.parts.map(({ name, became, off }) => [name, became, Math.round(off * 1000)])).toEqual([
      ['post', 'same', 0],
      ['Lid', 'moved', 250],
      ['ring', 'new', 0],
      ['hook', 'gone', 0],
    ]);
    expect(report.proxies).toEqual(['b']);
    expect(Math.round(report.pivots[0]!.off * 1000)).toBe(200);
    const after = applyEdit(old, report.edit);
    expect(after.pivot).toEqual(old.pivot);
    expect(after.nodes.map(({ id, name }) => [id, name])).toEqual([
      ['n1', 'post'],
      ['n2', 'Lid'],
      ['n4', 'ring'],
    ]);
    expect(after.proxies).toEqual(old.proxies);
  });

  it('finds renamed parts by their place and keeps the unit that fits', () => {
    const cm = (s: Scene): Scene => ({
      ...s,
      unit: { metres: 1, stated: false },
      meshes: s.meshes.map(({ name, mesh }) => ({
        name,
        mesh: { ...mesh, positions: mesh.positions.map((v) => v * 100) },
      })),
      nodes: s.nodes.map((node) => ({
        ...node,
        translation: node.translation.map((v) => v * 100) as [number, number, number],
      })),
    });
    const old = applyEdit(taken({ ...first, unit: { metres: 1, stated: false } }), {
      kind: 'set-unit',
      unit: 'm',
    });
    const fresh = cm({ ...first, nodes: first.nodes.map((node) => ({ ...node, name: `new_${node.name}` })) });
    const report = compareNewArt(old, taken(fresh), meshOf);
    expect(report.edit.unit.name).toBe('cm');
    expect(report.parts.map(({ became }) => became)).toEqual(['same', 'same', 'same']);
  });
});
