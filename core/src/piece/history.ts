import * as z from 'zod';
import { pieceDocumentSchema, type PieceDocument } from './document.js';
import { applyEdit, type Edit, editSchema } from './edit.js';

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
export const MOST_UNDO_STEPS = 100;

export const startHistory = (base: PieceDocument): History => ({ base, edits: [], cursor: 0 });

export const currentDocument = ({ base, edits, cursor }: History): PieceDocument =>
  edits.slice(0, cursor).reduce(applyEdit, base);

/** The history with one more edit; what was undone is dropped. */
export function pushEdit({ base, edits, cursor }: History, edit: Edit): History {
  const kept = [...edits.slice(0, cursor), edit];
  const folded = kept.splice(0, Math.max(0, kept.length - MOST_UNDO_STEPS));
  return { base: folded.reduce(applyEdit, base), edits: kept, cursor: kept.length };
}

export const canUndo = (history: History): boolean => history.cursor > 0;
export const canRedo = (history: History): boolean => history.cursor < history.edits.length;
export const undo = (history: History): History =>
  canUndo(history) ? { ...history, cursor: history.cursor - 1 } : history;
export const redo = (history: History): History =>
  canRedo(history) ? { ...history, cursor: history.cursor + 1 } : history;
