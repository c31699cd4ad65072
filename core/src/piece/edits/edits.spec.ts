import fc from 'fast-check';
import { pieceOf } from '../../testing/documents.js';
import { boxMesh, sceneOf } from '../../testing/meshes.js';
import type { Shape } from '../../shape/index.js';
import { pieceDocumentSchema, type Proxy } from '../document.js';
import { currentDocument, historySchema } from '../history.js';
import { pivotAt } from '../pivot.js';
import {
  applyEdit,
  describeEdit,
  type Edit,
  editSchema,
  OPERATION_LABELS,
  pivotEdit,
  removeProxy,
  replaceProxies,
  weightOf,
} from './index.js';

const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
const box = (x: number): Shape => ({
  kind: 'box',
  center: [x, 0, 0],
  halfExtents: [1, 1, 1],
  rotation: [0, 0, 0, 1],
});
const proxy = (id: string, x = 0): Proxy => ({ id, shape: box(x) });
const withProxies = (ids: readonly string[]) =>
  applyEdit(document, replaceProxies(ids.map((id) => proxy(id))));
const idsOf = ({ proxies }: typeof document) => proxies.map(({ id }) => id);

describe('put-proxies', () => {
  const ids = fc.uniqueArray(fc.constantFrom<string[]>('a', 'b', 'c', 'd', 'e', 'f'), { maxLength: 6 });

  it('changes what it names, adds what is new at the end, removes what it names, and nothing else', () =>
    fc.assert(
      fc.property(ids, ids, ids, (there, changed, removed) => {
        const before = withProxies(there);
        const after = applyEdit(before, {
          kind: 'put-proxies',
          changed: changed.map((id) => proxy(id, 7)),
          removed,
        });
        const gone = removed.filter((id) => !changed.includes(id));
        const kept = there.filter((id) => !gone.includes(id));
        expect(idsOf(after)).toEqual([...kept, ...changed.filter((id) => !kept.includes(id))]);
        for (const each of after.proxies)
          if (changed.includes(each.id)) expect(each.shape).toEqual(box(7));
          else expect(before.proxies).toContain(each);
      }),
    ));

  it('says and weighs what changes, not what there is', () => {
    const all = replaceProxies(Array.from({ length: 64 }, (_, i) => proxy(`s${i}`)));
    const one: Edit = { kind: 'put-proxies', changed: [proxy('s3', 1)], removed: [] };
    expect(weightOf(one)).toBeLessThan(weightOf(all) / 30);
    expect([all, one, removeProxy('a'), replaceProxies([])].map(describeEdit)).toEqual([
      '64 shapes',
      '1 shape',
      'remove 1 shape',
      'remove all shapes',
    ]);
  });

  it('is refused with two shapes under one id', () => {
    expect(editSchema.safeParse(replaceProxies([proxy('a'), proxy('a')])).success).toBeFalse();
    expect(
      pieceDocumentSchema.safeParse({ ...document, proxies: [proxy('a'), proxy('a')] }).error?.issues[0]
        ?.message,
    ).not.toBe('two shapes have one id');
  });
});

describe('the words of the undo button', () => {
  it('are made from the values of each kind', () => {
    const half = Math.SQRT1_2;
    const edits: Edit[] = [
      { kind: 'rename-piece', name: 'Post' },
      { kind: 'rename-parts', names: [{ part: 'n1', name: 'post' }] },
      {
        kind: 'rename-parts',
        names: [
          { part: 'n1', name: 'a' },
          { part: 'n2', name: 'b' },
        ],
      },
      { kind: 'resize', factor: 2.54, about: [0, 0, 0] },
      { kind: 'turn', turn: [half, 0, 0, half], about: [0, 0, 0] },
      { kind: 'turn', turn: [0.5, 0.5, 0.5, 0.5], about: [0, 0, 0] },
      pivotEdit('base-centre', [0, 0, 0]),
      {
        kind: 'set-pivots',
        act: 'lock',
        pivots: [{ part: null, pivot: { ...pivotAt('origin', [0, 0, 0]), locked: true } }],
      },
      { kind: 'set-pivots', pivots: ['n1', 'n2'].map((part) => ({ part, pivot: null })) },
      { kind: 'set-family', family: null },
      { kind: 'set-agent', agent: 'gull' },
      { kind: 'set-areas', areas: [] },
      { kind: 'set-collision', parts: ['n1'], collides: false },
      { kind: 'set-faces-collision', faces: [], collides: false },
      { kind: 'change-sets', keep: { name: 'rough' }, use: 'gull' },
      { kind: 'set-leaves', leaves: 'each-part' },
      { kind: 'set-clearances', clearances: [] },
      {
        kind: 'set-ridden-edges',
        changed: [
          {
            id: 'e1',
            name: 'nosing',
            line: [
              [0, 0, 0],
              [1, 0, 0],
            ],
            sides: [
              [
                [0, -1, 0],
                [0, 0, -1],
              ],
            ],
          },
        ],
        removed: [],
      },
      { kind: 'set-ridden-edges', changed: [], removed: ['e1'] },
      { kind: 'set-unit', unit: 'cm' },
    ];
    for (const edit of edits) expect(editSchema.parse(edit)).toEqual(edit);
    expect(edits.map(describeEdit)).toEqual([
      'rename to “Post”',
      'rename to “post”',
      'rename 2 parts',
      'scale by 2.54',
      'turn 90° about X',
      'turn 120°',
      'pivot to base centre',
      'lock pivot',
      '2 pivots as imported',
      'remove from family',
      'who collides',
      '0 areas',
      '1 part without collision',
      'faces without collision',
      'use “gull”',
      'deliver each part',
      '0 clearances',
      '1 ridden edge',
      'remove 1 ridden edge',
      'unit cm',
    ]);
    expect(new Set(Object.values(OPERATION_LABELS)).size).toBe(Object.keys(OPERATION_LABELS).length);
  });
});

describe('edits that were stored before', () => {
  const { nodes, meshes, whole, materials, unit, placing } = document;
  const stored = {
    base: { ...document, proxies: [proxy('a'), proxy('a', 3)] },
    edits: [
      { kind: 'set-pivot', anchor: 'numeric', position: [1, 2, 3] },
      { kind: 'resize', factor: 2, about: [0, 0, 0], what: 'twice as large' },
      { kind: 'turn', turn: [0, 0, 0, 1], about: [0, 0, 0], what: 'z up' },
      { kind: 'remove-proxy', id: 's1' },
      { kind: 'set-proxies', proxies: [proxy('b'), proxy('b', 5), proxy('c')] },
      { kind: 'set-pivots', what: 'hinge', pivots: [{ part: null, pivot: pivotAt('hinge', [0, 1, 0]) }] },
      { kind: 'reshape', what: 'weld', nodes, meshes, whole, materials, unit, placing },
    ],
    cursor: 7,
  };

  it('are read in the form of today, and do what they did', () => {
    const history = historySchema.parse(JSON.parse(JSON.stringify(stored)));
    expect(idsOf(history.base)).toEqual(['a', 's1']);
    const states = history.edits.map((_, i) => currentDocument({ ...history, cursor: i + 1 }));
    expect(states[0]!.pivot.position).toEqual([1, 2, 3]);
    expect(states[1]!.pivot.position).toEqual([2, 4, 6]);
    expect(idsOf(states[3]!)).toEqual(['a']);
    expect(idsOf(states[4]!)).toEqual(['b', 's1', 'c']);
    expect(states[5]!.pivot.position).toEqual([0, 1, 0]);
    expect(JSON.stringify(history)).not.toContain('what');
    expect(history.edits.map(describeEdit)).toEqual([
      'pivot by numbers',
      'scale by 2',
      'turn 0°',
      'remove 1 shape',
      '3 shapes',
      'pivot to the hinge',
      'operation',
    ]);
  });

  it('are refused where they never were an edit', () => {
    for (const edit of [null, 7, {}, { kind: 'set-proxies' }, { kind: 'set-proxies', proxies: [7] }])
      expect(editSchema.safeParse(edit).success).withContext(JSON.stringify(edit)).toBeFalse();
  });
});
