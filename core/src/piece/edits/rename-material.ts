import * as z from 'zod';
import { innerNameSchema } from '../document.js';
import { editKind } from './edit-kind.js';
import { renamed } from './renamed.js';

export const renameMaterial = editKind({
  schema: z.object({
    kind: z.literal('rename-material'),
    material: z.number().int().nonnegative(),
    name: innerNameSchema.min(1),
  }),
  apply: (document, edit) => ({
    ...document,
    materials: document.materials.map((material, i) =>
      i === edit.material ? renamed(material, edit.name) : material,
    ),
  }),
  describe: ({ name }) => `material name ${name}`,
});
