import * as z from 'zod';
import { pieceNameSchema } from '../document.js';
import { editKind } from './edit-kind.js';

export const renamePiece = editKind({
  schema: z.object({ kind: z.literal('rename-piece'), name: pieceNameSchema }),
  apply: (document, { name }) => ({ ...document, name }),
  describe: ({ name }) => `rename to “${name}”`,
});
