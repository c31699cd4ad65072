import { pieceOf } from '../testing/documents.js';
import { boxMesh } from '../testing/meshes.js';
import { after } from '../testing/reshaped.js';
import { applyEdit, replaceProxies } from './edits/index.js';
import { type Extra, extrasOf, withoutExtras } from './extras.js';
import { artMesh } from './geometry.js';
import { pieceDocumentSchema } from './document.js';
import { plainNode, type Scene } from './scene.js';

/** Two posts far apart, a coarser level of the first, and a shape on each. */
async function loaded() {
  const mesh = (name: string, half: number) => ({ name, mesh: boxMesh([half, half, half]) });
  const scene: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [
      plainNode('post', 0),
      { ...plainNode('sill', 1), translation: [50, 0, 0] },
      plainNode('post far', 2),
    ],
    meshes: [mesh('post', 1), mesh('sill', 2), mesh('post far', 0.9)],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  const piece = await after(pieceOf(scene), { op: 'set-aside', parts: ['n3'], aside: true });
  const ball = { kind: 'sphere' as const, center: [0, 0, 0] as [number, number, number], radius: 1 };
  const document = applyEdit(
    piece.document,
    replaceProxies(['n1', 'n2'].map((part, i) => ({ id: `s${i}`, part, shape: ball }))),
  );
  return { ...piece, document };
}

describe('what a file holds beside its art', () => {
  const said = (extras: readonly Extra[]) =>
    extras.map(({ kind, name, triangles }) => [kind, name, triangles]);

  it('is told one by one: pieces, what is set aside, shapes; a plain file has none', async () => {
    const { document } = await loaded();
    expect(said(extrasOf(document))).toEqual([
      ['piece', 'post', 12],
      ['piece', 'sill', 12],
      ['aside', 'post far', 12],
      ['shape', 'sphere of post', null],
      ['shape', 'sphere of sill', null],
    ]);
    expect(extrasOf({ ...document, proxies: [], nodes: [document.nodes[0]!] })).toEqual([]);
  });

  it('is left out as if it had never been there, each by itself or all together', async () => {
    const { document, meshOf } = await loaded();
    const ids = extrasOf(document).map(({ id }) => id);
    for (const id of [...ids, 'nothing known']) {
      const without = await withoutExtras(document, new Set([id]), meshOf);
      expect(pieceDocumentSchema.safeParse(without).success).toBeTrue();
      expect(without.whole.triangles).toBe(artMesh(without, meshOf).indices.length / 3);
      if (id === 'nothing known') expect(without).toBe(document);
      else
        expect(
          extrasOf(without).some((each) => each.name === extrasOf(document)[ids.indexOf(id)]!.name),
        ).toBeFalse();
    }
    const plain = await withoutExtras(document, new Set(ids.filter((id) => id !== ids[0])), meshOf);
    expect(plain.nodes.map(({ name }) => name)).toEqual(['post']);
    expect([plain.proxies.length, extrasOf(plain).length, Object.keys(plain.meshes).length]).toEqual([
      0, 0, 1,
    ]);
  });

  it('takes the shapes of a piece along', async () => {
    const { document, meshOf } = await loaded();
    const [, sill] = extrasOf(document);
    const without = await withoutExtras(document, new Set([sill!.id]), meshOf);
    expect(without.proxies.map(({ part }) => part)).toEqual(['n1']);
  });
});
