import * as z from 'zod';
import { SHAPE_KINDS, type ShapeKind } from '../shape/index.js';

const token = z.string().min(1, 'A token has one character at least.').max(40);
const tokens = z.partialRecord(z.enum(SHAPE_KINDS), token);

const numberingFields = {
  /** between the name and the number */
  separator: z.string().max(8),
  digits: z.number().int().min(1).max(6),
  first: z.number().int().min(0).max(1),
  /** whether the only shape of an owner goes without a number */
  single: z.enum(['numbered', 'plain']),
};
export type Numbering = z.infer<z.ZodObject<typeof numberingFields>>;

const place = z.enum(['beside', 'below']);

/** How a target tells collision from art. */
export const collisionSchema = z
  .discriminatedUnion('by', [
    /** kind tag, whole name of the art mesh, number */
    z.object({ by: z.literal('name-prefix'), tokens, place, ...numberingFields }),
    /** name of the art mesh, number, kind tag */
    z.object({
      by: z.literal('name-suffix'),
      tokens,
      /** the tag of art that is its own collision */
      drawn: token.nullable(),
      place,
      ...numberingFields,
    }),
    /** a child of the art node by a name of its own; its mesh says whether it is a hull or a surface */
    z.object({
      by: z.literal('child-node'),
      token,
      singleToken: token.nullable(),
      /** the material of the shapes, after the art's own, that is not drawn */
      slot: z.object({ name: token, undrawn: z.string().max(40) }),
      ...numberingFields,
    }),
    /** a file beside the art's, with everything in one mesh */
    z.object({ by: z.literal('second-file'), suffix: token }),
    z.object({
      by: z.literal('gltf-extension'),
      /** the key that names a collider's mesh: drafts of the extension differ */
      meshKey: z.enum(['mesh', 'node']),
      /** between the owner's name and the number */
      word: token,
      ...numberingFields,
    }),
    z.object({ by: z.literal('usd-schema'), word: token, ...numberingFields }),
  ])
  .superRefine((collision, context) => {
    const refuse = (path: PropertyKey[], message: string) =>
      context.addIssue({ code: 'custom', path, message });
    if ('separator' in collision && /\d$/.test(collision.separator))
      refuse(['separator'], 'A separator that ends in a digit cannot be told from the number.');
    if (collision.by !== 'name-prefix' && collision.by !== 'name-suffix') return;
    if (collision.separator === '')
      refuse(['separator'], 'Without a separator a number cannot be told from the name before it.');
    const list = Object.entries(collision.tokens) as [ShapeKind, string][];
    const all = [
      ...list,
      ...('drawn' in collision && collision.drawn ? [['drawn', collision.drawn] as const] : []),
    ];
    if (!list.length) refuse(['tokens'], 'No token is given: nothing would be taken for collision.');
    for (const [one, a] of all)
      for (const [other, b] of all)
        if (one !== other && a === b)
          refuse(['tokens', one], `The token “${a}” stands for two things; give each its own.`);
  });

export type Collision = z.infer<typeof collisionSchema>;
