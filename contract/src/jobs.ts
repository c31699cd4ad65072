import { pieceFiguresSchema, recipeSchema, stepReportSchema } from '@yard-brace/core';
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

export const JOB_STATES = ['running', 'stopped', 'ended'] as const;

/** A job as its list shows it. */
export const jobSchema = z.object({
  id,
  yard: id,
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
  piece: z.object({ id, name: z.string(), /** null once it was removed */ version: z.number().nullable() }),
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
  recipe: recipeSchema,
  items: z.array(jobItemSchema),
  /** so many come after these */
  more: count,
});
export type JobReport = z.infer<typeof jobReportSchema>;

/** Some of a job's pieces, or all that it fits. */
export const jobPiecesSchema = z.object({ pieces: z.array(id).min(1).max(MAX_JOB_PIECES).nullable() });

/** What was taken back, and what was not, each with its reason. */
export const takenBackSchema = z.object({
  pieces: z.array(id),
  refused: z.array(z.object({ piece: id, name: z.string(), says: z.string() })),
});
export type TakenBack = z.infer<typeof takenBackSchema>;

export const jobPrioritySchema = z.object({ priority: z.number().int().min(-100).max(100) });
