import { type Job, type JobItem, jobItemSchema } from '@yard-brace/contract';
import {
  counted,
  deliveryChoicesSchema,
  figuresText,
  pieceFiguresSchema,
  type Recipe,
  recipeSchema,
  stepReportSchema,
} from '@yard-brace/core';
import * as z from 'zod';
import type { JobItemRow, JobRow } from '../database/entities.js';

/** What is kept of a piece of a job, as JSON in its row. */
export const itemReportSchema = z.object({
  /** why it failed; null where it did not */
  fault: z.string().nullable(),
  steps: z.array(stepReportSchema),
  before: pieceFiguresSchema.nullable(),
  after: pieceFiguresSchema.nullable(),
  /** for which targets it still leaves, with the choices */
  leaving: z.array(z.object({ target: z.string(), choices: deliveryChoicesSchema })),
  deliveries: jobItemSchema.shape.deliveries,
});
export type ItemReport = z.infer<typeof itemReportSchema>;

export const NO_REPORT: ItemReport = {
  fault: null,
  steps: [],
  before: null,
  after: null,
  leaving: [],
  deliveries: [],
};

export const reportFrom = ({ report }: Pick<JobItemRow, 'report'>): ItemReport =>
  report === null ? NO_REPORT : itemReportSchema.parse(JSON.parse(report));

/** A row with the name and version that its piece has now; null for one that was removed. */
export interface ItemNow extends JobItemRow {
  nameNow: string | null;
  versionNow: number | null;
}

export function itemFrom(row: ItemNow): JobItem {
  const { fault, steps, before, after, deliveries } = reportFrom(row);
  const done = row.state === 'done' && before && after ? figuresText(before, after) : '';
  return {
    position: row.position,
    piece: { id: row.pieceId, name: row.nameNow ?? row.pieceName, version: row.versionNow },
    state: row.state,
    share: row.share,
    says: fault ?? done,
    steps,
    before,
    after,
    foundVersion: row.versionBefore,
    savedVersion: row.versionAfter,
    deliveries,
    takenBack: Boolean(row.takenBack),
  };
}

/** How many pieces of a job are in each state, and the shares of those that run. */
export interface JobCounts {
  waiting: number;
  running: number;
  done: number;
  failed: number;
  shares: number;
}

export const recipeFrom = ({ recipe }: Pick<JobRow, 'recipe'>): Recipe | null =>
  recipe === null ? null : recipeSchema.parse(JSON.parse(recipe));

export function jobFrom(row: JobRow, counts: JobCounts): Job {
  const { waiting, running, done, failed, shares } = counts;
  const pieces = waiting + running + done + failed;
  return {
    id: row.id,
    yard: row.yardId,
    kind: row.recipe === null ? 'import' : 'recipe',
    name: recipeFrom(row)?.name ?? `Import of ${counted(pieces, 'file')}`,
    state: row.endedAt ? 'ended' : row.stopped ? 'stopped' : 'running',
    priority: row.priority,
    person: row.person,
    startedAt: row.startedAt.toISOString(),
    endedAt: row.endedAt?.toISOString() ?? null,
    pieces,
    waiting,
    running,
    done,
    failed,
    share: pieces ? Math.min(1, (done + failed + shares) / pieces) : 1,
  };
}
