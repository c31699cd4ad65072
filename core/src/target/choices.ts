import * as z from 'zod';
import type { PieceDocument } from '../piece/index.js';
import {
  type Container,
  CONTAINERS,
  FILE_SPLITS,
  HIERARCHY_WAYS,
  MATERIAL_WAYS,
  PICTURE_PLACES,
  SOLID_WAYS,
  type TargetProfile,
} from './profile.js';

/** What becomes of material values without a picture: they stand as values, or as small pictures. */
export const CONSTANT_CHOICES = ['as-values', 'as-pictures'] as const;

export const MAX_VARIANT = 9999;

/** What a person decides for a delivery; what is not said is as the target's profile has it. */
export const deliveryChoicesSchema = z.object({
  container: z.enum(CONTAINERS).optional(),
  files: z.enum(FILE_SPLITS).optional(),
  hierarchy: z.enum(HIERARCHY_WAYS).optional(),
  solids: z.enum(SOLID_WAYS).optional(),
  pictures: z.enum(PICTURE_PLACES).optional(),
  materials: z.enum(MATERIAL_WAYS).optional(),
  constants: z.enum(CONSTANT_CHOICES).optional(),
  /** its names end in this number, so that it stands beside those that left before. Default: the names of the piece */
  variant: z.number().int().min(2).max(MAX_VARIANT).optional(),
  /** name of the one file that several pieces leave in, each where it stood. Default: a piece leaves alone */
  together: z.string().min(1).max(120).optional(),
  /** name of the file of a piece, without its ending. Default: its mesh name */
  stem: z.string().min(1).max(200).optional(),
  /** by which a studio follows it through its own lists */
  code: z.string().max(60).optional(),
  /** for whoever imports it */
  note: z.string().max(2000).optional(),
  /** name of a set that is kept beside the one in use: it leaves instead */
  set: z.string().max(120).optional(),
  /** what material slots are called in the target, by their names in the piece. Default: as in the piece */
  materialNames: z.record(z.string().max(1000), z.string().min(1).max(255)).optional(),
  /** the same on single parts, by their names, before what is said of every part */
  partMaterials: z
    .array(
      z.object({ part: z.string().max(255), slot: z.string().max(1000), own: z.string().min(1).max(255) }),
    )
    .max(500)
    .optional(),
  /** on its pivot for presentation, where it has one. Default: on its own pivot */
  presentation: z.literal(true).optional(),
  /** ids of the parts that leave. Default: all */
  parts: z.array(z.string().max(40)).min(1).max(20_000).optional(),
});
export type DeliveryChoices = z.infer<typeof deliveryChoicesSchema>;

/** Whether two deliveries of a piece bear the same names, so that the later one replaces the earlier. */
export const replaces = (later: DeliveryChoices, earlier: DeliveryChoices): boolean =>
  later.variant === earlier.variant && later.together === earlier.together;

/** Every choice, made. */
export type SettledChoices = Required<
  Pick<
    DeliveryChoices,
    'container' | 'files' | 'hierarchy' | 'solids' | 'pictures' | 'materials' | 'constants'
  >
>;

/** Whether a container has a tree of nodes. */
export const hasTree = (container: Container): boolean => container !== 'obj';

/** Exact shapes stand each in a node; a second file is one mesh. */
const JOINED_BY: Partial<Record<TargetProfile['collision']['by'], SettledChoices['solids']>> = {
  'second-file': 'joined',
  'gltf-extension': 'node-each',
  'usd-schema': 'node-each',
};

/** Whether solids can stand in a node each or joined in one, as one likes. */
export const joinable = ({ collision }: TargetProfile): boolean => !JOINED_BY[collision.by];

/** Choices with what the profile and the piece say where nothing was chosen, as far as the container can. */
export function settledChoices(
  profile: TargetProfile,
  choices: DeliveryChoices,
  { leaves }: Pick<PieceDocument, 'leaves'>,
): SettledChoices {
  const container =
    choices.container && profile.containers.includes(choices.container)
      ? choices.container
      : profile.containers[0]!;
  const pictures = choices.pictures ?? profile.pictures;
  const materials = choices.materials ?? profile.materials;
  const placed =
    pictures === 'left-out' || materials !== 'written'
      ? 'left-out'
      : // Only a GLB has room for pictures, and it has no files beside it.
        container === 'glb'
        ? 'inside'
        : 'beside';
  return {
    container,
    files:
      choices.together !== undefined
        ? 'piece'
        : (choices.files ?? (leaves === 'each-part' ? 'part' : profile.files.split)),
    hierarchy: choices.hierarchy ?? profile.hierarchy,
    solids: joinable(profile) ? (choices.solids ?? profile.solids.as) : JOINED_BY[profile.collision.by]!,
    pictures: placed,
    materials,
    constants: placed === 'left-out' ? 'as-values' : (choices.constants ?? 'as-values'),
  };
}
