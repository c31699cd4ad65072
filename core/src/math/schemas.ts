import * as z from 'zod';

/** [x, y, z] */
export const vec3Schema = z.tuple([z.number(), z.number(), z.number()]);
/** [x, y, z, w] */
export const quatSchema = z.tuple([z.number(), z.number(), z.number(), z.number()]);
