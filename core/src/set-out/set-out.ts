import * as z from 'zod';
import {
  composeMatrix,
  invertMatrix,
  type Matrix,
  multiplyMatrices,
  NO_ROTATION,
  type Quat,
  type Vec3,
} from '../math/index.js';
import { quatSchema, vec3Schema } from '../math/schemas.js';
import { MAX_NAME_CHARACTERS, type Pivot } from '../piece/index.js';

/** Most placements of one set-out. */
export const MAX_PLACEMENTS = 20_000;

const id = z.string().min(1).max(40);

/** One piece put somewhere by its pivot. Lengths in metres in the set-out's space, Y up. */
export const placementSchema = z.object({
  id,
  /** number of the piece in its yard */
  piece: z.number().int().positive(),
  /** a kept version of it, as it was delivered for instance; null as it is now */
  version: z.number().int().positive().nullable().default(null),
  /** where its pivot is, and how its pivot's axes are turned */
  position: vec3Schema,
  rotation: quatSchema,
  /** an instance of scale −1 along its pivot's own x: the piece itself is not changed */
  mirrored: z.boolean().default(false),
  /** id of the group that it moves with; null for none */
  group: id.nullable().default(null),
  /** nothing moves it until it is unlocked */
  locked: z.boolean().default(false),
  /** by the name of a slot, the name of the material that stands for it here */
  materials: z.record(z.string().max(255), z.string().max(255)).default({}),
});
export type Placement = z.infer<typeof placementSchema>;

/** What stands somewhere, as a key: placements of one piece in one state share it. */
export const sourceKey = ({ piece, version }: Pick<Placement, 'piece' | 'version'>): string =>
  version === null ? `${piece}` : `${piece}@${version}`;

export const setOutSchema = z
  .object({
    format: z.literal(1),
    name: z.string().trim().min(1, 'A set-out needs a name.').max(MAX_NAME_CHARACTERS),
    placements: z.array(placementSchema).max(MAX_PLACEMENTS),
  })
  .refine(
    ({ placements }) => new Set(placements.map((each) => each.id)).size === placements.length,
    'two placements have one id',
  );
export type SetOut = z.infer<typeof setOutSchema>;

export const emptySetOut = (name: string): SetOut => ({ format: 1, name, placements: [] });

/** The next id that no placement has: the same work gives the same set-out. */
export function freshIds({ placements }: Pick<SetOut, 'placements'>, count: number): string[] {
  const taken = placements.map((each) => Number(/^p(\d+)$/.exec(each.id)?.[1] ?? 0));
  const first = taken.reduce((most, each) => Math.max(most, each), 0) + 1;
  return Array.from({ length: count }, (_, i) => `p${first + i}`);
}

type Frame = Pick<Pivot, 'position' | 'rotation'>;

/** From a piece's own space into the set-out's: its pivot goes where the placement has it. */
export function placementMatrix(
  { position, rotation, mirrored }: Pick<Placement, 'position' | 'rotation' | 'mirrored'>,
  pivot: Frame,
): Matrix {
  const there = composeMatrix({ translation: position, rotation, scale: [mirrored ? -1 : 1, 1, 1] });
  const own = composeMatrix({ translation: pivot.position, rotation: pivot.rotation, scale: [1, 1, 1] });
  // A pivot is a rigid frame: it can always be undone.
  return multiplyMatrices(there, invertMatrix(own)!);
}

/** A placement by which a piece stands where it stood when it was made: its pivot where it is. */
export const placedAsMade = (pivot: Frame): Pick<Placement, 'position' | 'rotation' | 'mirrored'> => ({
  position: [...pivot.position] as Vec3,
  rotation: [...pivot.rotation] as Quat,
  mirrored: false,
});

/** A placement with its pivot at a place, its axes along those of the set-out. */
export const placedAt = (position: Vec3): Pick<Placement, 'position' | 'rotation' | 'mirrored'> => ({
  position,
  rotation: [...NO_ROTATION] as Quat,
  mirrored: false,
});
