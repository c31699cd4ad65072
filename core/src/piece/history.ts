import * as z from 'zod';
import { blobsOf, blobsOfMeshes, pieceDocumentSchema, type PieceDocument } from './document.js';
import { applyEdit, type Edit, editSchema, singleEdits, weightOf } from './edits/index.js';

/** A document as what it was, plus the edits since; those after the cursor are undone and can come back. */
export const historySchema = z
  .object({
    base: pieceDocumentSchema,
    edits: z.array(editSchema).max(200),
    cursor: z.number().int().nonnegative(),
  })
  .refine(({ edits, cursor }) => cursor <= edits.length, 'the cursor stands behind the last edit');

export type History = z.infer<typeof historySchema>;

/** How many steps can be undone; older edits become part of the base. */
export const MAX_UNDO_STEPS = 100;

/** Edits that carry whole trees or many hulls fold away sooner: this many bytes in all. */
export const MAX_HISTORY_BYTES = 4 * 2 ** 20;

/** Every blob that any state of the history names, undone ones included. */
export function blobsOfHistory({ base, edits }: History): string[] {
  const blobs = new Set(blobsOf(base));
  for (const edit of edits.flatMap(singleEdits)) {
    if ('meshes' in edit) for (const id of blobsOfMeshes(edit.meshes)) blobs.add(id);
    if ('pictures' in edit) for (const picture of edit.pictures) blobs.add(picture.blob);
    if ('source' in edit) for (const file of edit.source.files) blobs.add(file.blob);
  }
  return [...blobs].sort();
}

export const startHistory = (base: PieceDocument): History => ({ base, edits: [], cursor: 0 });

const documents = new WeakMap<History, PieceDocument>();

/** The document that a history leads to: the same object each time it is asked for, worked out once. */
export function currentDocument(history: History): PieceDocument {
  const known = documents.get(history);
  if (known) return known;
  const { base, edits, cursor } = history;
  const document = edits.slice(0, cursor).reduce(applyEdit, base);
  documents.set(history, document);
  return document;
}

/** Something as it was, plus the edits since; those after the cursor are undone and can come back. */
export interface HistoryOf<D, E> {
  base: D;
  edits: E[];
  cursor: number;
}

/** How edits of one kind work: what each makes of a thing, and what it weighs in bytes. */
export interface EditKind<D, E> {
  apply: (thing: D, edit: E) => D;
  weightOf: (edit: E) => number;
}

/** A history with one more edit; what was undone is dropped, and the eldest become part of the base. */
export function withEdit<D, E>(
  { base, edits, cursor }: HistoryOf<D, E>,
  edit: E,
  { apply, weightOf: weight }: EditKind<D, E>,
): HistoryOf<D, E> {
  const kept = [...edits.slice(0, cursor), edit];
  let bytes = kept.reduce((sum, each) => sum + weight(each), 0);
  let fold = Math.max(0, kept.length - MAX_UNDO_STEPS);
  for (let i = 0; i + 1 < kept.length && bytes > MAX_HISTORY_BYTES; i++) {
    bytes -= weight(kept[i]!);
    fold = Math.max(fold, i + 1);
  }
  const folded = kept.splice(0, fold);
  return { base: folded.reduce(apply, base), edits: kept, cursor: kept.length };
}

/** The history of a piece with one more edit; what was undone is dropped. */
export function pushEdit(history: History, edit: Edit): History {
  const next = withEdit(history, edit, { apply: applyEdit, weightOf });
  // What the edits before came to is known: an edit costs the same however long the history is.
  documents.set(next, applyEdit(currentDocument(history), edit));
  return next;
}

type Cursored = Pick<HistoryOf<unknown, unknown>, 'cursor' | 'edits'>;

export const canUndo = ({ cursor }: Cursored): boolean => cursor > 0;
export const canRedo = ({ cursor, edits }: Cursored): boolean => cursor < edits.length;
export const undo = <H extends Cursored>(history: H): H =>
  canUndo(history) ? { ...history, cursor: history.cursor - 1 } : history;
export const redo = <H extends Cursored>(history: H): H =>
  canRedo(history) ? { ...history, cursor: history.cursor + 1 } : history;
