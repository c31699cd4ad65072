import fc from 'fast-check';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { documentFault, pieceDocumentSchema } from './document.js';
import { type Edit, editSchema, replaceProxies } from './edits/index.js';
import {
  currentDocument,
  type History,
  historySchema,
  MAX_HISTORY_BYTES,
  MAX_UNDO_STEPS,
  pushEdit,
  redo,
  startHistory,
  undo,
} from './history.js';
import { historyStepsSchema, stepsBetween, withSteps } from './history-steps.js';
import { openable } from './openable.js';

const start = () => startHistory(pieceOf(sceneOf(boxMesh([1, 1, 1]))).document);
const rename = (name: string): Edit => ({ kind: 'rename-mesh', name });
/** What a person may do next: a name, a growth, undo, redo. */
const move = fc.oneof(
  fc.integer({ min: 0, max: 99 }).map((n) => (history: History) => pushEdit(history, rename(`Name_${n}`))),
  fc.constant((history: History) => pushEdit(history, { kind: 'resize', factor: 1.01, about: [0, 0, 0] })),
  fc.constant(undo),
  fc.constant(redo),
);
const moves = (most: number) => fc.array(move, { maxLength: most });
const after = (history: History, steps: readonly ((history: History) => History)[]) =>
  steps.reduce((now, step) => step(now), history);
/** As it comes back from a database. */
const reread = (history: History) => historySchema.parse(JSON.parse(JSON.stringify(history)));

describe('the steps of a save', () => {
  it('lead from what is stored to what is there, however it came about', () =>
    fc.assert(
      fc.property(moves(30), moves(30), (before, then) => {
        const stored = after(start(), before);
        const now = after(stored, then);
        const steps = stepsBetween(stored, now)!;
        const sent = historyStepsSchema.parse(JSON.parse(JSON.stringify(steps)));
        expect(reread(withSteps(reread(stored), sent)!)).toEqual(reread(now));
      }),
      { numRuns: 60 },
    ));

  it('fold what has become part of the base', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), (more) => {
        let stored = start();
        for (let i = 0; i < MAX_UNDO_STEPS; i++) stored = pushEdit(stored, rename(`A${i}`));
        let now = stored;
        for (let i = 0; i < more; i++) now = pushEdit(now, rename(`B${i}`));
        const steps = stepsBetween(stored, now)!;
        expect([steps.fold, steps.edits.length]).toEqual([more, more]);
        expect(reread(withSteps(reread(stored), steps)!)).toEqual(reread(now));
      }),
      { numRuns: 10 },
    ));

  it('cannot be told between histories that do not grow out of each other, and do not fit any other', () => {
    const stored = pushEdit(start(), rename('A'));
    expect(stepsBetween(stored, startHistory(currentDocument(stored)))).toBeNull();
    for (const steps of [
      { fold: 2, keep: 0, edits: [], cursor: 0 },
      { fold: 0, keep: 2, edits: [], cursor: 0 },
      { fold: 0, keep: 1, edits: [], cursor: 2 },
    ])
      expect(withSteps(stored, steps)).toBeNull();
    expect(withSteps({ ...stored, cursor: 0 }, { fold: 1, keep: 0, edits: [], cursor: 0 })).toBeNull();
  });

  it('stay short beside a history of many hulls, which folds by its length', () => {
    const points = Array.from({ length: 3000 }, (_, i) => Math.sin(i));
    const hulls = (n: number): Edit =>
      editSchema.parse(
        replaceProxies(
          Array.from({ length: 8 }, (_, i) => ({
            id: `${n}-${i}`,
            shape: {
              kind: 'hull',
              points,
              faces: [
                [0, 1, 2],
                [0, 2, 3],
                [0, 3, 1],
                [1, 3, 2],
              ],
            },
          })),
        ),
      );
    let history = start();
    for (let n = 0; n < 40; n++) history = pushEdit(history, hulls(n));
    expect(JSON.stringify(history.edits).length).toBeLessThan(MAX_HISTORY_BYTES * 1.01);
    expect(history.edits.length).toBeGreaterThan(3);
    expect(currentDocument(history).proxies[0]!.id).toBe('39-0');
    const next = pushEdit(history, rename('Short'));
    expect(JSON.stringify(stepsBetween(history, next)).length).toBeLessThan(300);
  });
});

describe('what is stored', () => {
  it('is the same object each time the document is asked for', () => {
    const history = pushEdit(start(), rename('A'));
    expect(currentDocument(history)).toBe(currentDocument(history));
  });

  it('can be opened: as it is, and as redoing leaves it', () => {
    const grow: Edit = { kind: 'resize', factor: 1e200, about: [0, 0, 0] };
    const broken = pushEdit(pushEdit(start(), grow), grow);
    for (const history of [broken, undo(broken), undo(undo(broken))])
      expect(openable(history)).toEqual({ refused: jasmine.stringContaining('no longer open') });
    expect('document' in openable(pushEdit(start(), grow))).toBeTrue();
  });

  it('is looked at only where it changed, and nothing wrong gets by', () => {
    const good = pieceOf(sceneOf(boxMesh([1, 1, 1]))).document;
    const spoil = fc.constantFrom<(document: typeof good) => object>(
      (document) => ({ ...document, meshName: 7 }),
      (document) => ({ ...document, meshName: 'fine' }),
      (document) => ({ ...document, pivot: { ...document.pivot, position: [0, Infinity, 0] } }),
      (document) => ({ ...document, nodes: [...document.nodes, document.nodes[0]!] }),
      (document) => ({ ...document, nodes: [{ ...document.nodes[0]!, mesh: 'f'.repeat(64) }] }),
      (document) => ({ ...document, placing: { ...document.placing, factor: -1 } }),
      (document) => ({ ...document, family: 'copings' }),
      (document) => ({ ...document, meshName: 'x'.repeat(201) }),
    );
    fc.assert(
      fc.property(fc.array(spoil, { minLength: 1, maxLength: 3 }), (changes) => {
        const document = changes.reduce(
          (now, change) => change(now as typeof good),
          good as object,
        ) as typeof good;
        expect(documentFault(document, good) === null).toBe(pieceDocumentSchema.safeParse(document).success);
      }),
    );
  });
});
