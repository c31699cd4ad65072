import {
  blobIdSchema,
  comparisonSchema,
  deliveryChoicesSchema,
  familyShareSchema,
  givenNameSchema,
  historySchema,
  historyStepsSchema,
  inventorySchema,
  proxyFactsSchema,
  readBackSchema,
  SET_FORMS,
  setOutHistorySchema,
  setOutSchema,
  setOutStepsSchema,
  shelfFactsSchema,
  tallySchema,
  targetProfileSchema,
  yardRulesSchema,
} from '@yard-brace/core';
import * as z from 'zod';

/** Most bytes of a request's JSON: twenty thousand nodes fit. */
export const MAX_JSON_BYTES = 32 * 2 ** 20;

/** Identities are numbers that the database gives out. */
export const idSchema = z.coerce.number().int().positive();
const when = z.iso.datetime();
const version = z.number().int().positive();

export const healthSchema = z.object({ status: z.enum(['ok', 'database away']) });

export const yardNameSchema = givenNameSchema;
export const newYardSchema = z.object({ name: yardNameSchema });

export const yardSchema = z.object({
  id: idSchema,
  name: z.string(),
  rules: yardRulesSchema,
  /** of the rules */
  rulesVersion: version,
  pieces: z.number().int().nonnegative(),
  changedAt: when,
});
export const yardListSchema = z.array(yardSchema);

export const lastDeliverySchema = z.object({
  id: idSchema,
  version,
  target: z.string(),
  agreed: z.boolean(),
  at: when,
  choices: deliveryChoicesSchema,
  inventory: inventorySchema.nullable(),
});

/** The rules of a yard as they are; and whether an older state can be had back. */
export const yardRulesStateSchema = z.object({
  version,
  rules: yardRulesSchema,
  canUndo: z.boolean(),
});
/** New rules, made from a version of them. */
export const saveRulesSchema = z.object({ version, rules: yardRulesSchema });
/** Rules to be tried: what they would do is told, and nothing stored. */
export const tryRulesSchema = z.object({ rules: yardRulesSchema });
/** How the pieces of a yard stand before and after a change of its rules; those that stay the same are left out. */
export const rulesEffectSchema = z.object({
  pieces: z.array(z.object({ id: idSchema, name: z.string(), before: tallySchema, after: tallySchema })),
});
export const undoRulesSchema = z.object({ version });

/** A piece as the shelf shows it. */
export const pieceSummarySchema = shelfFactsSchema.extend({
  id: idSchema,
  name: z.string(),
  version,
  picture: blobIdSchema.nullable(),
  savedAt: when,
  /** the same as it comes from the server; a page adds to `tally` what other pieces have to do with it */
  ownTally: tallySchema,
  /** why it cannot be opened; null for a piece that can */
  broken: z.string().nullable(),
});
/** Pieces that one answer of a shelf lists, at most: first, and after that. */
export const FIRST_SHELF_PIECES = 120;
export const SHELF_PIECES_AT_ONCE = 400;
/** Numbers of changes that may come out of their order: so far back is asked again. */
export const SHELF_CHANGES_BACK = 200;
const changeNumber = z.coerce.number().int().nonnegative();

/** A yard with the first pieces of its shelf by name. */
export const yardWithPiecesSchema = yardSchema.extend({
  shelf: z.array(pieceSummarySchema),
  /** so many come after these */
  more: z.number().int().nonnegative(),
  /** number of the newest change that they show */
  changed: changeNumber,
});
/** Further pieces of a shelf, in the order of their names. */
export const shelfPageSchema = z.object({ pieces: z.array(pieceSummarySchema) });
/** What has changed on a shelf since a change. */
export const shelfChangesSchema = z.object({
  yard: yardSchema,
  pieces: z.array(pieceSummarySchema),
  /** ids of those that were removed */
  gone: z.array(idSchema),
  changed: changeNumber,
  /** whether there are more changes than one answer lists */
  more: z.boolean(),
});

/** Yards that came in an archive. */
export const importedYardsSchema = z.object({ yards: z.array(idSchema) });

/** Something that was removed and can be put back. */
export const binEntrySchema = z.object({ id: idSchema, name: z.string(), removedAt: when });
export const binSchema = z.array(binEntrySchema);

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
  yard: z.object({ id: idSchema, name: z.string(), rules: yardRulesSchema, rulesVersion: version }),
  version,
  savedAt: when,
  history: historySchema,
  picture: blobIdSchema.nullable(),
  /** the newest for each target that it left for, the newest of all first */
  lastDeliveries: z.array(lastDeliverySchema),
  /** mesh names of other pieces that are the same as its own */
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

/** A set-out in the list of its yard. */
export const setOutEntrySchema = z.object({
  id: idSchema,
  name: z.string(),
  version,
  savedAt: when,
  /** how many pieces stand in it */
  placements: z.number().int().nonnegative(),
});
export const setOutListSchema = z.array(setOutEntrySchema);
export const newSetOutSchema = z.object({ setOut: setOutSchema });

/** A set-out as its page works on it. */
export const openSetOutSchema = z.object({
  id: idSchema,
  yard: z.object({ id: idSchema, name: z.string(), rules: yardRulesSchema, rulesVersion: version }),
  version,
  savedAt: when,
  history: setOutHistorySchema,
});
/** A save of a set-out: what changed since the version it was made from, or the whole where that cannot be told. */
export const saveSetOutSchema = z.union([
  z.object({ version, steps: setOutStepsSchema }),
  z.object({ version, history: setOutHistorySchema }),
]);
export const savedSetOutSchema = z.object({ version, savedAt: when });

/** Saved states that are kept, the newest first. */
/** Who did it; null where nobody signs people in. */
const person = z.string().nullable().default(null);
export const versionsSchema = z.array(z.object({ version, savedAt: when, person }));
/** An older state is to become the newest. */
export const restoreSchema = z.object({ version, from: version });

export const setPictureSchema = z.object({ blob: blobIdSchema });

export const blobSchema = z.object({ id: blobIdSchema, bytes: z.number().int().nonnegative() });

export const newDeliverySchema = z.object({
  version,
  target: z.string().max(60),
  choices: deliveryChoicesSchema.default({}),
  /** somebody has seen to what breaks placed copies; without that nothing that does leaves */
  answered: z.boolean().default(false),
});

/** Several pieces in one file, each where it stood. */
export const newJointDeliverySchema = newDeliverySchema.omit({ version: true }).extend({
  pieces: z
    .array(z.object({ id: idSchema, version }))
    .min(2)
    .max(200),
  choices: deliveryChoicesSchema.required({ together: true }),
});

/** A set-out as it stands: all in one file, a file a piece with a list of places, or a file a group. */
export const newSetDeliverySchema = newDeliverySchema.extend({
  form: z.enum(SET_FORMS),
  /** of the file; groups and lists are named after it */
  name: z.string().trim().min(1).max(120),
});

export const deliverySchema = z.object({
  id: idSchema,
  piece: z.object({ id: idSchema, name: z.string() }),
  version,
  target: z.string(),
  choices: deliveryChoicesSchema,
  /** the target as it was then; null for deliveries of before that was kept */
  profile: targetProfileSchema.nullable(),
  at: when,
  person,
  /** where it was put, below the folder for deliveries; null where there is none */
  place: z.string().nullable(),
  /** what it held; null for deliveries of before that was kept */
  inventory: inventorySchema.nullable(),
  files: z.array(z.object({ name: z.string(), type: z.string(), bytes: z.number() })),
  readBack: readBackSchema,
  comparison: comparisonSchema,
  agreed: z.boolean(),
});
export const jointDeliveriesSchema = z.array(deliverySchema);

/** A delivery as a line of the yard's dispatch book. */
export const deliveryEntrySchema = deliverySchema
  .pick({
    id: true,
    piece: true,
    version: true,
    target: true,
    at: true,
    person: true,
    place: true,
    inventory: true,
    agreed: true,
  })
  .extend({
    /** of the target's profile then */
    targetName: z.string(),
    shapes: z.number().int().nonnegative(),
    bytes: z.number().int().nonnegative(),
    /** points compared, those that differ, and of these the announced ones */
    points: z.number().int().nonnegative(),
    differ: z.number().int().nonnegative(),
    substituted: z.number().int().nonnegative(),
  });
export const deliveryBookSchema = z.object({
  entries: z.array(deliveryEntrySchema),
  more: z.number().int().nonnegative(),
});
/** Where a delivery for a target would be put, and what of it stands there already; null without a folder for them. */
export const deliveryPlaceSchema = z.object({ place: z.string().nullable(), standing: z.array(z.string()) });
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

export type RulesEffect = z.infer<typeof rulesEffectSchema>;
export type YardRulesState = z.infer<typeof yardRulesStateSchema>;
export type Yard = z.infer<typeof yardSchema>;
export type YardWithPieces = z.infer<typeof yardWithPiecesSchema>;
export type PieceSummary = z.infer<typeof pieceSummarySchema>;
export type ShelfPage = z.infer<typeof shelfPageSchema>;
export type ShelfChanges = z.infer<typeof shelfChangesSchema>;
export type BinEntry = z.infer<typeof binEntrySchema>;
export type Piece = z.infer<typeof pieceSchema>;
export type Added = z.infer<typeof addedSchema>;
export type SetOutEntry = z.infer<typeof setOutEntrySchema>;
export type OpenSetOut = z.infer<typeof openSetOutSchema>;
export type SaveSetOut = z.infer<typeof saveSetOutSchema>;
export type SavedSetOut = z.infer<typeof savedSetOutSchema>;
export type Versions = z.infer<typeof versionsSchema>;
export type Saved = z.infer<typeof savedSchema>;
export type Delivery = z.infer<typeof deliverySchema>;
export type DeliveryEntry = z.infer<typeof deliveryEntrySchema>;
export type DeliveryBook = z.infer<typeof deliveryBookSchema>;
export type DeliveryPlace = z.infer<typeof deliveryPlaceSchema>;
export type DeliveryList = z.infer<typeof deliveryListSchema>;
export type LastDelivery = z.infer<typeof lastDeliverySchema>;
export type Problem = z.infer<typeof problemSchema>;
export type Conflict = z.infer<typeof conflictSchema>;
