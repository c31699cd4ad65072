import * as z from 'zod';
import type { CheckRules } from '../check/index.js';
import { characterRangeSchema, type NameRules } from '../naming/index.js';
import { unitNameSchema } from '../piece/index.js';
import { SHAPE_KINDS, type ShapeKind } from '../shape/index.js';

const kind = z.enum(SHAPE_KINDS);

/** How a target recognises and takes what is delivered: data that a person can copy and change. */
export const targetProfileSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]+$/),
  name: z.string().min(1),
  help: z.string(),
  unit: unitNameSchema,
  up: z.enum(['y', 'z']),
  handedness: z.enum(['left', 'right']),
  fileFormat: z.literal('glb'),
  hierarchy: z.enum(['kept', 'flattened']),
  textures: z.literal('inside'),
  /** whether material values without a picture arrive */
  constants: z.enum(['kept', 'dropped']),
  proxies: z.object({
    place: z.enum(['beside-mesh', 'below-mesh']),
    /** tag in front of the art mesh name, for each kind the target knows */
    prefixes: z.partialRecord(kind, z.string().min(1)),
    /** what a kind becomes that the target does not know */
    nearest: z.partialRecord(kind, kind),
    padding: z.number().int().min(1).max(6),
    maxShapes: z.number().int().positive(),
    maxHullVertices: z.number().int().min(4),
  }),
  names: z.object({
    legalCharacters: z.array(characterRangeSchema).min(1),
    longest: z.number().int().positive(),
  }),
});

export type TargetProfile = z.infer<typeof targetProfileSchema>;

/** The kind under which the target gets a shape. */
export const deliveredKind = (profile: TargetProfile, shape: ShapeKind): ShapeKind =>
  profile.proxies.prefixes[shape] ? shape : (profile.proxies.nearest[shape] ?? 'hull');

export const prefixOf = (profile: TargetProfile, shape: ShapeKind): string => {
  const prefix = profile.proxies.prefixes[deliveredKind(profile, shape)];
  if (!prefix) throw new Error(`profile ${profile.id} names no tag for ${shape}`);
  return prefix;
};

/** What the target takes for the name of a mesh that carries shapes: theirs are composed of it. */
const namesWithShapes = ({ names, proxies }: Pick<TargetProfile, 'names' | 'proxies'>): NameRules => ({
  ...names,
  tokens:
    Math.max(...Object.values(proxies.prefixes).map((prefix) => prefix.length)) +
    1 +
    Math.max(proxies.padding, String(proxies.maxShapes).length),
});

export const checkRulesOf = ({ names, proxies, constants }: TargetProfile): CheckRules => ({
  names: namesWithShapes({ names, proxies }),
  dropsConstants: constants === 'dropped',
  maxShapes: proxies.maxShapes,
  maxHullVertices: proxies.maxHullVertices,
  kinds: Object.keys(proxies.prefixes) as ShapeKind[],
});
