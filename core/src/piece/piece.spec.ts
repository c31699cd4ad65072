import fc from 'fast-check';
import { type Quat, scalingMatrix, type Vec3 } from '../math/index.js';
import { transformPoints } from '../mesh/index.js';
import { surveyMesh } from '../solid/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf, threeParts } from '../testing/meshes.js';
import { pieceDocumentSchema } from './document.js';
import { applyEdit, type Edit, editSchema, pivotEdit, replaceProxies, removeProxy } from './edits/index.js';
import { artBounds, artMesh, pivotPlace, worldMatrices } from './geometry.js';
import { pivotAt } from './pivot.js';
import {
  canRedo,
  currentDocument,
  historySchema,
  MAX_UNDO_STEPS,
  pushEdit,
  redo,
  startHistory,
  undo,
} from './history.js';
import { pieceNameFrom } from './intake.js';
import { plainNode } from './scene.js';

const number = fc.double({ min: -5, max: 5, noNaN: true });
const edit: fc.Arbitrary<Edit> = fc.oneof(
  fc.constantFrom<Edit>(
    { kind: 'set-unit', unit: 'cm' },
    { kind: 'set-unit', unit: 'm' },
    { kind: 'rename-mesh', name: 'Post_02' },
    { kind: 'rename-piece', name: 'Post' },
    removeProxy('a'),
  ),
  fc.tuple(number, number, number).map((position): Edit => pivotEdit('numeric', position)),
  fc.constant<Edit>(replaceProxies([{ id: 'a', shape: { kind: 'sphere', center: [0, 1, 0], radius: 1 } }])),
);

describe('a piece document', () => {
  it('is made from a scene, passes its schema and proposes a unit where the format states none', () => {
    const big = { ...sceneOf(boxMesh([150, 90, 40])), unit: { metres: 1, stated: false } };
    const { document } = pieceOf(big);
    expect(pieceDocumentSchema.parse(document)).toEqual(document);
    expect(document.unit).toEqual({ name: 'cm', stated: false, confirmed: false });
    expect(artBounds(document).max[0]).toBeCloseTo(1.5, 12);
  });

  it('refuses nodes that stand before their parents and meshes that are not listed', () => {
    const { document } = pieceOf(sceneOf(threeParts()));
    expect(
      pieceDocumentSchema.safeParse({ ...document, nodes: [{ ...document.nodes[0]!, parent: 0 }] }).success,
    ).toBeFalse();
    expect(pieceDocumentSchema.safeParse({ ...document, meshes: {} }).success).toBeFalse();
    expect(pieceDocumentSchema.safeParse({ ...document, name: 'a\u0007b' }).success).toBeFalse();
  });

  it('keeps every world-space vertex where it is when the pivot moves', () => {
    const { document, meshOf } = pieceOf(sceneOf(threeParts()));
    const before = artMesh(document, meshOf).positions;
    for (const anchor of ['base-centre', 'centre', 'origin', 'as-it-came'] as const) {
      const after = applyEdit(document, pivotEdit(anchor, pivotPlace(document, anchor)));
      expect(artMesh(after, meshOf).positions).toEqual(before);
      expect(surveyMesh(artMesh(after, meshOf)).min).toEqual(document.whole.min);
    }
    expect(pivotPlace(document, 'base-centre')).toEqual([1.75, -1, 0]);
  });

  it('takes the node of a lone mesh as the pivot it came with', () => {
    const scene = {
      ...sceneOf(boxMesh([1, 1, 1])),
      nodes: [
        { ...plainNode('root', null), translation: [5, 0, 0] as Vec3 },
        { ...plainNode('box', 0, 0), translation: [0, 2, 0] as Vec3, rotation: [0, 1, 0, 0] as Quat },
      ],
    };
    expect(pieceOf(scene).document.pivot).toEqual(pivotAt('as-it-came', [5, 2, 0]));
  });

  it('bakes a tree of nodes as a point would travel through it', () => {
    const nodes = [
      { ...plainNode('a', null), scale: [2, -1, 0.5] as Vec3 },
      {
        ...plainNode('b', 0, 0),
        rotation: [0, 0, Math.SQRT1_2, Math.SQRT1_2] as Quat,
        translation: [1, 0, 0] as Vec3,
      },
    ];
    const [, inner] = worldMatrices(nodes, scalingMatrix(0.01));
    const [x, y, z] = transformPoints(Float64Array.of(1, 0, 4), inner!);
    expect(x).toBeCloseTo(0.02, 12);
    expect(y).toBeCloseTo(-0.01, 12);
    expect(z).toBeCloseTo(0.02, 12);
  });
});

describe('edits and history', () => {
  const { document } = pieceOf(sceneOf(threeParts()));

  it('are plain values that pass their schema and leave the document whole', () => {
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 12 }), (edits) => {
        edits.forEach((e) => expect(editSchema.parse(e)).toEqual(e));
        expect(pieceDocumentSchema.safeParse(edits.reduce(applyEdit, document)).success).toBeTrue();
      }),
    );
  });

  it('undo and redo walk the same documents back and forth', () => {
    fc.assert(
      fc.property(fc.array(edit, { minLength: 1, maxLength: 12 }), (edits) => {
        let history = startHistory(document);
        const seen = [document];
        for (const e of edits) {
          history = pushEdit(history, e);
          seen.push(currentDocument(history));
        }
        for (let i = edits.length - 1; i >= 0; i--)
          expect(currentDocument((history = undo(history)))).toEqual(seen[i]!);
        expect(undo(history)).toBe(history);
        for (let i = 1; i <= edits.length; i++)
          expect(currentDocument((history = redo(history)))).toEqual(seen[i]!);
        expect(canRedo(history)).toBeFalse();
      }),
      { numRuns: 50 },
    );
  });

  it('fold what is older than the undo limit into the base', () => {
    let history = startHistory(document);
    for (let i = 0; i < MAX_UNDO_STEPS + 5; i++)
      history = pushEdit(history, { kind: 'rename-mesh', name: `N${i}` });
    expect(history.edits.length).toBe(MAX_UNDO_STEPS);
    expect(history.base.meshName).toBe('N4');
    expect(currentDocument(history).meshName).toBe(`N${MAX_UNDO_STEPS + 4}`);
    expect(historySchema.safeParse({ ...history, cursor: 500 }).success).toBeFalse();
  });

  it('a changed unit carries pivot and proxies along', () => {
    const set: Edit = replaceProxies([
      { id: 'a', shape: { kind: 'sphere', center: [100, 0, 0], radius: 50 } },
    ]);
    const after = [
      set,
      pivotEdit('numeric', [10, 0, 0]) as Edit,
      { kind: 'set-unit', unit: 'cm' } as Edit,
    ].reduce(applyEdit, document);
    expect(after.pivot.position[0]).toBeCloseTo(0.1, 12);
    expect(after.proxies[0]!.shape).toEqual({ kind: 'sphere', center: [1, 0, 0], radius: 0.5 });
  });
});

it('piece names come from file names', () => {
  expect(pieceNameFrom('boat_cradle-02.final.obj')).toBe('Boat cradle 02.final');
  expect(pieceNameFrom('.obj')).toBe('Piece');
});

describe('a document of format 1', () => {
  it('is read as one of today, with its edits', () => {
    const { document } = pieceOf(sceneOf(threeParts()));
    const old = {
      ...document,
      format: 1,
      nodes: document.nodes.map(
        ({ id: _id, bounds: _bounds, aside: _aside, pivot: _pivot, ...node }) => node,
      ),
      pivot: { anchor: 'base-centre', position: [1, 2, 3] },
    };
    for (const added of ['placing', 'family', 'clearances', 'leaves', 'areas', 'sets'] as const)
      delete (old as Partial<typeof old>)[added];
    const read = pieceDocumentSchema.parse(JSON.parse(JSON.stringify(old)));
    expect(read).toEqual({ ...document, pivot: pivotAt('base-centre', [1, 2, 3]) });
    expect(pieceDocumentSchema.safeParse({ ...old, nodes: 'none' }).success).toBeFalse();
    expect(pieceDocumentSchema.safeParse(null).success).toBeFalse();
    const history = historySchema.parse({
      base: old,
      edits: [pivotEdit('origin', [0, 0, 0])],
      cursor: 1,
    });
    expect(currentDocument(history).pivot).toEqual(pivotAt('origin', [0, 0, 0]));
  });
});

describe('growth and turns', () => {
  it('carry pivots, proxies and clearances along and leave the point they are about where it is', () => {
    const { document, meshOf } = pieceOf(sceneOf(boxMesh([1, 1, 1], [2, 1, 0])));
    const set = [
      replaceProxies([
        {
          id: 'a',
          shape: { kind: 'box', center: [2, 1, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] },
        },
      ]),
      {
        kind: 'set-clearances',
        clearances: [
          {
            id: 'c',
            name: 'gap',
            center: [2, 1, 0],
            halfExtents: [1, 1, 1],
            rotation: [0, 0, 0, 1],
            through: 'x',
          },
        ],
      },
      pivotEdit('numeric', [3, 2, 1]),
      { kind: 'resize', factor: 2, about: [2, 0, 0] },
      { kind: 'turn', turn: [0, Math.SQRT1_2, 0, Math.SQRT1_2], about: [2, 0, 0] },
    ] as Edit[];
    const after = set.reduce(applyEdit, document);
    const round = (v: readonly number[]) => v.map((x) => Math.round(x * 1e9) / 1e9 + 0);
    const bounds = artBounds(after);
    expect([round(bounds.min), round(bounds.max)]).toEqual([
      [0, 0, -2],
      [4, 4, 2],
    ]);
    expect(round(after.pivot.position)).toEqual([4, 4, -2]);
    const { shape } = after.proxies[0]!;
    if (shape.kind !== 'box') throw new Error('the box is none any more');
    expect([round(shape.center), shape.halfExtents, round(after.clearances[0]!.center)]).toEqual([
      [2, 2, 0],
      [2, 2, 2],
      [2, 2, 0],
    ]);
    const art = artMesh(after, meshOf);
    for (let i = 0; i < art.positions.length; i++)
      expect(Math.abs(art.positions[i]! - [2, 2, 0][i % 3]!)).toBeCloseTo(2, 9);
  });

  it('a locked pivot stays, and can be unlocked', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const pivot = { ...document.pivot, locked: true };
    const put = (change: object) =>
      ({ kind: 'set-pivots', pivots: [{ part: null, pivot: { ...pivot, ...change } }] }) as Edit;
    const locked = applyEdit(document, put({}));
    expect(applyEdit(locked, put({ position: [5, 0, 0] })).pivot.position).toEqual([0, 0, 0]);
    const free = applyEdit(locked, put({ locked: false }));
    expect(applyEdit(free, put({ position: [5, 0, 0], locked: false })).pivot.position).toEqual([5, 0, 0]);
  });
});
