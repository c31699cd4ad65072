import { blobIdSchema, pieceFiguresSchema, recipeSchema, stepReportSchema } from '@yard-brace/core';
import * as z from 'zod';

const id = z.coerce.number().int().positive();
const count = z.number().int().nonnegative();
const when = z.iso.datetime();

/** Most pieces of one job. */
export const MAX_JOB_PIECES = 10_000;
/** Pieces that one answer of a report lists, at most. */
export const JOB_ITEMS_AT_ONCE = 100;

/** A recipe to be done to pieces of a yard. */
export const newJobSchema = z.object({
  recipe: recipeSchema,
  pieces: z.array(id).min(1, 'Choose the pieces that it is done to.').max(MAX_JOB_PIECES),
});

/** Most mesh files of one import. */
export const MAX_MESH_FILES = 1000;
/** Most files of one import, with what stands beside the meshes. */
export const MAX_IMPORT_FILES = 5000;

/** Files to be read into pieces of a yard. Their bytes are stored before. */
export const newImportSchema = z.object({
  files: z
    .array(
      z.object({
        name: z.string().min(1).max(255),
        /** where it stood among what came, with “/” between folders: what a mesh names is looked for near it first */
        path: z.string().min(1).max(1000),
        blob: blobIdSchema,
      }),
    )
    .max(MAX_IMPORT_FILES),
  /** which of the files become pieces, each by its place in the list */
  meshes: z.array(count).min(1, 'Choose the files that become pieces.').max(MAX_MESH_FILES),
});
export type NewImport = z.infer<typeof newImportSchema>;

export const JOB_KINDS = ['recipe', 'import'] as const;
export const JOB_STATES = ['running', 'stopped', 'ended'] as const;

/** A job as its list shows it. */
export const jobSchema = z.object({
  id,
  yard: id,
  /** a recipe done to pieces, or files read into pieces */
  kind: z.enum(JOB_KINDS),
  /** of its recipe */
  name: z.string(),
  state: z.enum(JOB_STATES),
  /** those of more come first */
  priority: z.number().int(),
  /** who began it; null where nobody signs people in */
  person: z.string().nullable(),
  startedAt: when,
  endedAt: when.nullable(),
  /** pieces in all, and how many are in each state */
  pieces: count,
  waiting: count,
  running: count,
  done: count,
  failed: count,
  /** share of all that is done, 0 to 1, with what is under way */
  share: z.number().min(0).max(1),
});
export const jobListSchema = z.array(jobSchema);
export type Job = z.infer<typeof jobSchema>;

export const JOB_ITEM_STATES = ['failed', 'running', 'waiting', 'done'] as const;

/** What became of one piece of a job. */
export const jobItemSchema = z.object({
  /** its place in the job, which names it */
  position: count,
  /** without a number as long as none has come of its file; without a version once it was removed */
  piece: z.object({ id: id.nullable(), name: z.string(), version: z.number().nullable() }),
  state: z.enum(JOB_ITEM_STATES),
  share: z.number().min(0).max(1),
  /** what has changed, or why it failed, in a sentence; empty while it waits */
  says: z.string(),
  steps: z.array(stepReportSchema),
  before: pieceFiguresSchema.nullable(),
  after: pieceFiguresSchema.nullable(),
  /** versions that the job found and made; null where it changed nothing */
  foundVersion: z.number().nullable(),
  savedVersion: z.number().nullable(),
  deliveries: z.array(z.object({ id, target: z.string(), agreed: z.boolean() })),
  takenBack: z.boolean(),
});
export type JobItem = z.infer<typeof jobItemSchema>;

/** A job with what became of its pieces, those that failed first. */
export const jobReportSchema = z.object({
  job: jobSchema,
  /** null for an import */
  recipe: recipeSchema.nullable(),
  items: z.array(jobItemSchema),
  /** so many come after these */
  more: count,
});
export type JobReport = z.infer<typeof jobReportSchema>;

/** Some of a job's pieces by their places in it, or all that it fits. */
export const jobPositionsSchema = z.object({
  positions: z.array(count).min(1).max(MAX_JOB_PIECES).nullable(),
});

/** What was taken back, and what was not, each with its reason. */
export const takenBackSchema = z.object({
  pieces: z.array(id),
  refused: z.array(z.object({ name: z.string(), says: z.string() })),
});
export type TakenBack = z.infer<typeof takenBackSchema>;

export const jobPrioritySchema = z.object({ priority: z.number().int().min(-100).max(100) });
