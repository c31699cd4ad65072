import * as z from 'zod';
import { editKind } from './edit-kind.js';

export const renameMesh = editKind({
  schema: z.object({ kind: z.literal('rename-mesh'), name: z.string().max(200) }),
  apply: (document, { name }) => ({ ...document, meshName: name }),
  describe: ({ name }) => `mesh name ${name}`,
});
