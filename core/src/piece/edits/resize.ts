import * as z from 'zod';
import { NO_ROTATION, type Quat, vec3Schema } from '../../math/index.js';
import { editKind } from './edit-kind.js';
import { grownAndTurned } from './grown-and-turned.js';

/** The piece grows about a point, in metres in its space, which stays where it is. */
export const resize = editKind({
  schema: z.object({ kind: z.literal('resize'), factor: z.number().positive(), about: vec3Schema }),
  apply: (document, { factor, about }) =>
    grownAndTurned(document, { factor, turn: [...NO_ROTATION] as Quat, about }),
  describe: ({ factor }) => `scale by ${Number(factor.toPrecision(4))}`,
});
