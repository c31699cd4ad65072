import {
  agentSchema,
  blobIdSchema,
  comparisonSchema,
  familyShareSchema,
  givenNameSchema,
  historySchema,
  historyStepsSchema,
  MAX_NAME_CHARACTERS,
  proxyFactsSchema,
  readBackSchema,
  shelfFactsSchema,
  tallySchema,
} from '@yard-brace/core';
import * as z from 'zod';

/** Most bytes of a request's JSON: twenty thousand nodes fit. */
export const MAX_JSON_BYTES = 32 * 2 ** 20;

/** Identities are numbers that the database gives out. */
export const idSchema = z.coerce.number().int().positive();
const when = z.iso.datetime();
const version = z.number().int().positive();

export const healthSchema = z.object({ status: z.enum(['ok', 'database away']) });

export const yardRulesSchema = z.object({
  /** metres between the heavier lines of the grid */
  gridMetres: z.number().positive().max(1000),
  target: z.string(),
  /** who collides */
  agents: z.array(agentSchema).min(1).max(12),
  /** pixels a metre that textures are measured against */
  pixelsPerMetre: z.number().positive().max(100_000),
});

export const yardNameSchema = givenNameSchema;
export const newYardSchema = z.object({ name: yardNameSchema });

export const yardSchema = z.object({
  id: idSchema,
  name: z.string(),
  rules: yardRulesSchema,
  pieces: z.number().int().nonnegative(),
  changedAt: when,
});
export const yardListSchema = z.array(yardSchema);

export const lastDeliverySchema = z.object({ id: idSchema, version, agreed: z.boolean(), at: when });

/** A piece as the shelf shows it. */
export const pieceSummarySchema = shelfFactsSchema.extend({
  id: idSchema,
  name: z.string(),
  version,
  picture: blobIdSchema.nullable(),
  savedAt: when,
  /** its tally without what other pieces have to do with it */
  ownTally: tallySchema,
  /** why it cannot be opened; null for a piece that can */
  broken: z.string().nullable(),
});
export const yardWithPiecesSchema = yardSchema.extend({ shelf: z.array(pieceSummarySchema) });

export const newPieceSchema = z.object({ history: historySchema });

/** A piece that was added, and what the shelf shows of it. */
export const addedSchema = z.object({
  id: idSchema,
  version,
  savedAt: when,
  name: z.string(),
  facts: shelfFactsSchema,
});
export const addedListSchema = z.array(addedSchema);

/** Pieces that were in one piece; it goes, or stays beside them. */
export const takeApartSchema = z.object({
  version,
  pieces: z.array(newPieceSchema).min(1).max(1000),
  remove: z.boolean(),
});

/** A piece as the bench works on it. */
export const pieceSchema = z.object({
  id: idSchema,
  yard: z.object({ id: idSchema, name: z.string(), rules: yardRulesSchema }),
  version,
  savedAt: when,
  history: historySchema,
  picture: blobIdSchema.nullable(),
  lastDelivery: lastDeliverySchema.nullable(),
  otherMeshNames: z.array(z.string()),
  /** the piece whose pivot its family shares, when it is not this one */
  family: z.object({ from: z.string(), share: familyShareSchema }).nullable(),
  /** how its shapes were measured last */
  measured: proxyFactsSchema.nullable(),
});

/** A save: what changed since the version it was made from … */
export const saveStepsSchema = z.object({ version, steps: historyStepsSchema });
/** … or the whole history, where that cannot be told. */
export const saveHistorySchema = newPieceSchema.extend({ version });
export const savedSchema = z.object({ version, savedAt: when, facts: shelfFactsSchema });
export const setMeasuredSchema = z.object({ measured: proxyFactsSchema });
export const measuredSchema = z.object({ facts: shelfFactsSchema });

/** Saved states that are kept, the newest first. */
export const versionsSchema = z.array(z.object({ version, savedAt: when }));
/** An older state is to become the newest. */
export const restoreSchema = z.object({ version, from: version });

export const setPictureSchema = z.object({ blob: blobIdSchema });

export const blobSchema = z.object({ id: blobIdSchema, bytes: z.number().int().nonnegative() });

export const newDeliverySchema = z.object({
  version,
  target: z.string().max(60),
  /** name of a set that is kept beside the one in use: it leaves instead */
  set: z.string().max(MAX_NAME_CHARACTERS).optional(),
});

export const deliverySchema = z.object({
  id: idSchema,
  piece: z.object({ id: idSchema, name: z.string() }),
  version,
  target: z.string(),
  /** the set of shapes that left; null for the one in use */
  set: z.string().nullable(),
  at: when,
  files: z.array(z.object({ name: z.string(), type: z.string(), bytes: z.number() })),
  readBack: readBackSchema,
  comparison: comparisonSchema,
  agreed: z.boolean(),
});
/** The newest deliveries, or those before one of them; `more` are older still. */
export const deliveryListSchema = z.object({
  deliveries: z.array(deliverySchema),
  more: z.number().int().nonnegative(),
});

/** Every refusal: a sentence for the person, and a code for the program. */
export const problemSchema = z.object({
  code: z.enum([
    'bad-request',
    'not-found',
    'conflict',
    'too-large',
    'refused',
    'broken',
    'unavailable',
    'full',
    'failed',
  ]),
  message: z.string(),
});

/** Who was first: what a save against an old version is told. */
export const conflictSchema = problemSchema.extend({ code: z.literal('conflict'), version, savedAt: when });

export type YardRules = z.infer<typeof yardRulesSchema>;
export type Yard = z.infer<typeof yardSchema>;
export type YardWithPieces = z.infer<typeof yardWithPiecesSchema>;
export type PieceSummary = z.infer<typeof pieceSummarySchema>;
export type Piece = z.infer<typeof pieceSchema>;
export type Added = z.infer<typeof addedSchema>;
export type Versions = z.infer<typeof versionsSchema>;
export type Saved = z.infer<typeof savedSchema>;
export type Delivery = z.infer<typeof deliverySchema>;
export type DeliveryList = z.infer<typeof deliveryListSchema>;
export type LastDelivery = z.infer<typeof lastDeliverySchema>;
export type Problem = z.infer<typeof problemSchema>;
export type Conflict = z.infer<typeof conflictSchema>;
