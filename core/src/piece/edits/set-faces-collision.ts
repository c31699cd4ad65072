import * as z from 'zod';
import { combinedFaces } from '../areas.js';
import { facesOfPartsSchema } from '../document.js';
import { editKind } from './edit-kind.js';

/** Whether faces are to be collided with, beyond those that were said before. */
export const setFacesCollision = editKind({
  schema: z.object({
    kind: z.literal('set-faces-collision'),
    faces: facesOfPartsSchema,
    collides: z.boolean(),
  }),
  apply: (document, { faces, collides }) => ({
    ...document,
    noCollision: combinedFaces(document, document.noCollision, faces, collides ? 'take' : 'add'),
  }),
  describe: ({ collides }) => `faces ${collides ? 'with' : 'without'} collision`,
});
