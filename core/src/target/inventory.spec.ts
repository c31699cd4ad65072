import {
  plainMaterial,
  plainNode,
  pivotEdit,
  replaceProxies,
  applyEdit,
  type PieceDocument,
  type Scene,
} from '../piece/index.js';
import { proxyKey } from '../check/index.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { pieceOf } from '../testing/documents.js';
import { changesBetween, inventoryOf, inventorySchema } from './inventory.js';
import { planDelivery } from './plan.js';
import { PREFIX_TAGS, SUFFIX_TAGS } from './profiles/index.js';

const scene = (): Scene => ({
  ...sceneOf(boxMesh([1, 1, 1])),
  materials: [plainMaterial('oak'), plainMaterial('tar')],
  nodes: [plainNode('Post', 0), { ...plainNode('Leaf', 1), translation: [3, 0, 0] }],
  meshes: [
    { name: 'Post', mesh: boxMesh([1, 1, 1]) },
    { name: 'Leaf', mesh: boxMesh([0.5, 1, 0.1]) },
  ],
});

describe('what changed since a delivery', () => {
  const { document } = pieceOf(scene(), 'gate.obj');
  const held = (after: PieceDocument, profile = SUFFIX_TAGS) => inventoryOf(planDelivery(after, profile));
  const changes = (after: PieceDocument, profile = SUFFIX_TAGS) =>
    changesBetween(held(document, profile), held(after, profile)).map(
      ({ says, breaks }) => `${breaks ? '! ' : ''}${says}`,
    );

  it('is nothing where nothing that leaves did, saved again or not', () => {
    expect(inventorySchema.parse(JSON.parse(JSON.stringify(held(document))))).toEqual(held(document));
    expect(changes(JSON.parse(JSON.stringify(document)) as PieceDocument)).toEqual([]);
    expect(changes(applyEdit(document, { kind: 'rename-piece', name: 'Other' }))).toEqual([]);
  });

  it('tells of a pivot that moved, by how much, and that it breaks what is placed', () =>
    expect(changes(applyEdit(document, pivotEdit('numeric', [0, 0.25, 0])), PREFIX_TAGS)).toEqual([
      '! The pivot of “Gate” moved by 250.0 mm.',
    ]));

  it('tells of parts that are gone, new or called otherwise', () => {
    const renamed = applyEdit(document, { kind: 'rename-parts', names: [{ part: 'n2', name: 'Door' }] });
    expect(changes(renamed)).toEqual(['! “Leaf” is called “Door” now.']);
    const without = {
      ...document,
      nodes: document.nodes.map((node, i) => (i ? { ...node, aside: true } : node)),
    };
    expect(changes(without)).toContain('! “Leaf” is gone.');
    expect(
      changesBetween(held(without), held(document))
        .map(({ says }) => says)
        .join(),
    ).toContain('New:');
  });

  it('tells of slots: a new one at the end breaks nothing, another order does', () => {
    const [oak, tar] = document.materials;
    expect(changes({ ...document, materials: [oak!, tar!, { ...tar!, name: 'iron' }] })).toEqual([
      'New material slots at the end: iron.',
    ]);
    expect(changes({ ...document, materials: [tar!, oak!] })).toEqual([
      '! Material slots were oak, tar, and are tar, oak.',
    ]);
  });

  it('tells of size, scale, shapes and corners', () => {
    const twice = applyEdit(document, { kind: 'set-unit', unit: 'ft' });
    expect(changes(twice, PREFIX_TAGS).filter((says) => says.startsWith('! The scale'))).toEqual([
      '! The scale of “Gate” changed by 0.3048.',
    ]);
    const box = {
      kind: 'box' as const,
      center: [0, 0, 0] as [number, number, number],
      halfExtents: [1, 1, 1] as [number, number, number],
      rotation: [0, 0, 0, 1] as [number, number, number, number],
    };
    expect(changes(applyEdit(document, replaceProxies([{ id: 'a', shape: box, part: 'n1' }])))).toEqual([
      '1 shape, before 0: 1 new.',
      '8 corners of shapes, before 0.',
    ]);
  });

  it('tells how shapes lie otherwise, where both were measured as they stand', () => {
    const box = (half: number) =>
      applyEdit(
        document,
        replaceProxies([
          {
            id: 'a',
            shape: { kind: 'box', center: [0, 0, 0], halfExtents: [half, 1, 1], rotation: [0, 0, 0, 1] },
          },
        ]),
      );
    const lying = (piece: PieceDocument, proxyOutside: number) =>
      inventoryOf(planDelivery(piece, SUFFIX_TAGS), { key: proxyKey(piece), artOutside: 0, proxyOutside });
    expect(changesBetween(lying(box(1), 0.012), lying(box(1), 0.03)).map(({ says }) => says)).toEqual([
      'The shapes stand out of the art by at most 30.0 mm, before 12.0 mm.',
    ]);
    // What was measured on other shapes says nothing of these.
    const stale = inventoryOf(planDelivery(box(2), SUFFIX_TAGS), {
      key: proxyKey(box(1)),
      artOutside: 0,
      proxyOutside: 1,
    });
    expect(stale.lying).toBeNull();
    const { lying: _lying, ...old } = held(document);
    expect(inventorySchema.parse(old).lying).toBeNull();
  });
});
