import * as z from 'zod';
import { vec3Schema, quatSchema } from '../math/schemas.js';
import {
  add,
  composeMatrix,
  type Matrix,
  multiplyQuats,
  NO_ROTATION,
  type Quat,
  rotate,
  scaled,
  subtract,
  type Vec3,
} from '../math/index.js';

/**
 * How the art is brought from the file's space, already in metres, into the piece's: grown, turned by
 * quarters, shifted. The nodes of the file stay as they came.
 */
export const placingSchema = z.object({
  turn: quatSchema,
  factor: z.number().positive(),
  at: vec3Schema,
});
export type Placing = z.infer<typeof placingSchema>;

export const NO_PLACING: Placing = { turn: [...NO_ROTATION] as Quat, factor: 1, at: [0, 0, 0] };

export const placingMatrix = ({ turn, factor, at }: Placing, metresPerUnit: number): Matrix =>
  composeMatrix({ translation: at, rotation: turn, scale: scaled([1, 1, 1], factor * metresPerUnit) });

/** A growth and turn about a point, in metres in the piece's space: it carries all that a piece has there. */
export interface Change {
  factor: number;
  turn: Quat;
  about: Vec3;
}

export const changedPoint = (p: Readonly<Vec3>, { factor, turn, about }: Change): Vec3 =>
  add(about, rotate(turn, scaled(subtract(p, about), factor)));

export const changedPlacing = (placing: Placing, change: Change): Placing => ({
  turn: multiplyQuats(change.turn, placing.turn),
  factor: placing.factor * change.factor,
  at: changedPoint(placing.at, change),
});
