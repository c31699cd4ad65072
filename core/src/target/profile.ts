import * as z from 'zod';
import { characterRangeSchema } from '../naming/index.js';
import { PROXY_ROLES } from '../piece/index.js';
import { SHAPE_KINDS, type ShapeKind } from '../shape/index.js';
import { collisionSchema } from './collision.js';
import { spaceSchema } from '../format/index.js';

const kind = z.enum(SHAPE_KINDS);
const sentence = z.string().min(1).max(600);
const sentences = z.array(sentence).max(40);

/** File formats that a target can take, and what each of them is called. */
export const CONTAINERS = ['glb', 'gltf', 'dae', 'obj', 'usda'] as const;
export type Container = (typeof CONTAINERS)[number];
export const CONTAINER_NAMES: Record<Container, string> = {
  glb: 'GLB',
  gltf: 'glTF',
  dae: 'COLLADA',
  obj: 'OBJ',
  usda: 'USDA',
};

export const FILE_SPLITS = ['piece', 'part', 'top-node'] as const;
export const PICTURE_PLACES = ['inside', 'beside', 'left-out'] as const;
export const MATERIAL_WAYS = ['written', 'by-name', 'left-out'] as const;
export const HIERARCHY_WAYS = ['kept', 'flattened'] as const;
export const SOLID_WAYS = ['node-each', 'joined'] as const;
export const CONSTANT_WAYS = ['kept', 'dropped'] as const;

/** A rule of the target in a small picture: flat outlines on a field of 120 x 72, drawn in their order. */
const pictureSchema = z.object({
  title: z.string().min(1).max(60),
  says: sentence,
  outlines: z.array(
    z.object({ as: z.enum(['art', 'shape', 'fault']), points: z.array(z.number()).min(4).max(200) }),
  ),
});

/** The shape kinds a target knows, and what each of the others becomes. */
export const kindsSchema = z.object({
  known: z.array(kind).min(1, 'A target knows one kind of shape at least.'),
  nearest: z.partialRecord(kind, kind),
  /** whether a cylinder may have two radii; where not, it becomes a hull */
  tapered: z.boolean(),
  /** sides of a round shape that becomes a hull or a surface, a multiple of four */
  sides: z.number().int().min(4).max(96).multipleOf(4),
  /** what is done with a surface that must become convex */
  concave: z.enum(['fill', 'break-up']),
});

const profileFields = z.object({
  format: z.literal(1),
  id: z
    .string()
    .regex(/^[a-z0-9-]+$/, 'An id is made of small letters, digits and hyphens.')
    .max(60),
  name: z.string().trim().min(1).max(60),
  space: spaceSchema,
  /** the first is the default */
  containers: z.array(z.enum(CONTAINERS)).min(1, 'A target takes one file format at least.'),
  files: z.object({ split: z.enum(FILE_SPLITS) }),
  hierarchy: z.enum(HIERARCHY_WAYS),
  collision: collisionSchema,
  kinds: kindsSchema,
  solids: z.object({
    as: z.enum(SOLID_WAYS),
    maxHullVertices: z.number().int().min(4).max(100_000),
    maxShapes: z.number().int().positive().max(100_000),
  }),
  names: z.object({
    legalCharacters: z.array(characterRangeSchema).min(1),
    /** of a composed name, token and number included */
    longest: z.number().int().min(8).max(1000),
    mayStartWithDigit: z.boolean(),
    caseMatters: z.boolean(),
  }),
  pictures: z.enum(PICTURE_PLACES),
  materials: z.enum(MATERIAL_WAYS),
  /** whether material values without a picture arrive */
  constants: z.enum(CONSTANT_WAYS),
  physics: z.object({
    roles: z.array(z.enum(PROXY_ROLES)).min(1),
    responses: z.boolean(),
    surfaces: z.boolean(),
    mass: z.boolean(),
  }),
  sheet: z.object({
    route: sentence,
    settings: z
      .array(z.object({ name: z.string().min(1).max(120), value: z.string().min(1).max(120), why: sentence }))
      .max(40),
    appears: sentences,
    warnings: z.array(z.object({ says: sentence, matters: z.boolean() })).max(40),
    refreshBrings: sentences,
    freshOnly: sentences,
  }),
  help: z.object({
    says: sentence,
    allowed: z.array(pictureSchema).max(12),
    refused: z.array(pictureSchema).max(12),
  }),
});

/** How a target recognises and takes what is delivered: data that a person can copy and change. */
export const targetProfileSchema = profileFields.superRefine((profile, context) => {
  const refuse = (path: PropertyKey[], message: string) =>
    context.addIssue({ code: 'custom', path, message });
  const { kinds, collision, containers, space } = profile;
  for (const shape of SHAPE_KINDS)
    if (endOf(kinds, shape) === null)
      refuse(
        ['kinds', 'nearest', shape],
        `A ${shape} ends nowhere: say which kind that the target knows it becomes.`,
      );
  if (!kinds.tapered && endOf(kinds, 'hull') === null)
    refuse(['kinds', 'tapered'], 'A tapered cylinder becomes a hull, and a hull ends nowhere.');
  if ('tokens' in collision)
    for (const known of kinds.known)
      if (!collision.tokens[known])
        refuse(['collision', 'tokens', known], `The target knows a ${known}, and no token says so.`);
  if (collision.by === 'second-file' && kinds.known.some((known) => known !== 'surface'))
    refuse(['kinds', 'known'], 'A second file holds one surface: the target can know no other kind.');
  if (collision.by === 'child-node' && kinds.known.some((known) => known !== 'hull' && known !== 'surface'))
    refuse(['kinds', 'known'], 'A child node is told by its mesh alone: it can be a hull or a surface.');
  if (new Set(containers).size < containers.length)
    refuse(['containers'], 'A file format is listed twice; remove one.');
  const wanted = { 'gltf-extension': ['glb', 'gltf'], 'usd-schema': ['usda'] } as Record<string, Container[]>;
  for (const container of containers) {
    if (wanted[collision.by] && !wanted[collision.by]!.includes(container))
      refuse(['containers'], `${collision.by} cannot be written as ${container}; remove it.`);
    if (!wanted[collision.by] && container === 'usda')
      refuse(['containers'], 'USDA says collision by its own schemas: choose usd-schema, or remove it.');
    if (container === 'obj' && collision.by === 'child-node')
      refuse(['containers'], 'OBJ has no tree, and the target finds shapes by it; remove OBJ.');
  }
  if (space.forward[1] === space.up)
    refuse(['space', 'forward'], `Forward lies along ${space.up.toUpperCase()}, which is up.`);
});

export type TargetProfile = z.infer<typeof targetProfileSchema>;
export type KindRules = z.infer<typeof kindsSchema>;

/** The known kind a shape comes to by way of what is nearest; null when that goes in a circle or nowhere. */
export function endOf(
  { known, nearest }: Pick<KindRules, 'known' | 'nearest'>,
  from: ShapeKind,
): ShapeKind | null {
  let at: ShapeKind | undefined = from;
  for (let i = 0; at && i <= SHAPE_KINDS.length; i++) {
    if (known.includes(at)) return at;
    at = nearest[at];
  }
  return null;
}
