import type * as z from 'zod';
import type { PieceDocument } from '../document.js';

/** One kind of change to a piece: how it is read, what it does, what the undo button says, what it weighs. */
export interface EditKind<Schema extends z.ZodType> {
  schema: Schema;
  /** The document after the edit. Pure: the one given stays as it is. */
  apply(document: PieceDocument, edit: z.infer<Schema>): PieceDocument;
  /** in the words of the undo button: "unit cm" */
  describe(edit: z.infer<Schema>): string;
  /** bytes, about, that it takes where it is stored. Default: the length of its JSON */
  weigh(edit: z.infer<Schema>): number;
}

export const editKind = <Schema extends z.ZodType>(
  kind: Omit<EditKind<Schema>, 'weigh'> & Partial<Pick<EditKind<Schema>, 'weigh'>>,
): EditKind<Schema> => ({ weigh: (edit) => JSON.stringify(edit).length, ...kind });
