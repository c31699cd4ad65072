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
import type { Mesh } from '../mesh/index.js';
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
    expect(taggedAs('UCX_Post_01')).toEqual({ target: 'prefix-tags', kind: 'hull', owner: 'Post' });
    expect(taggedAs('UBX_Post_Cap_12')!.owner).toBe('Post_Cap');
    expect(taggedAs('Post-convcolonly')).toEqual({ target: 'suffix-tags', kind: 'hull', owner: 'Post' });
    expect([taggedAs('Post-colonly')!.kind, taggedAs('Post-col')!.kind]).toEqual(['surface', 'surface']);
    expect(taggedAs('$physics_proxy_02')).toEqual({ target: 'proxy-nodes', kind: 'hull', owner: null });
    for (const name of ['Post', 'ucx_Post_01', 'Post-cold', 'physics_proxy'])
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
