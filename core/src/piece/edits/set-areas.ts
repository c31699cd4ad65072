import * as z from 'zod';
import { counted } from '../../math/figures.js';
import { areaSchema, MAX_AREAS } from '../document.js';
import { editKind } from './edit-kind.js';

export const setAreas = editKind({
  schema: z.object({ kind: z.literal('set-areas'), areas: z.array(areaSchema).max(MAX_AREAS) }),
  apply: (document, { areas }) => ({ ...document, areas }),
  describe: ({ areas }) => counted(areas.length, 'area'),
});
