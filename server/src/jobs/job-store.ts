import {
  type Job,
  JOB_ITEMS_AT_ONCE,
  type JobReport,
  type NewImport,
  type newJobSchema,
  type TakenBack,
} from '@yard-brace/contract';
import {
  type DataSource,
  type EntityManager,
  type EntitySchema,
  In,
  IsNull,
  type ObjectLiteral,
  type QueryDeepPartialEntity,
} from 'typeorm';
import type * as z from 'zod';
import { JobFiles, type JobItemRow, JobItems, type JobRow, Jobs, Pieces } from '../database/entities.js';
import { transact } from '../database/transact.js';
import { personNow } from '../http/person.js';
import { HttpProblem } from '../http/problems.js';
import type { BlobStore } from '../store/blob-store.js';
import type { DiskSpace } from '../store/disk-space.js';
import type { PieceStore } from '../store/piece-store.js';
import { yardRow } from '../store/rows.js';
import { itemFrom, type ItemNow, type JobCounts, jobFrom, recipeFrom } from './job-rows.js';

/** Jobs that a list shows, at most: the newest. */
const LISTED_JOBS = 50;
/** Jobs of one person that are not at their end, at most. */
const MAX_OPEN_JOBS = 50;
/** Rows that one statement writes. */
const ROWS_AT_ONCE = 500;

const NO_COUNTS: JobCounts = { waiting: 0, running: 0, done: 0, failed: 0, shares: 0 };

/** Jobs of yards: begun, watched, stopped, taken back. What works on them is `JobRunner`. */
export class JobStore {
  constructor(
    private readonly source: DataSource,
    private readonly pieces: PieceStore,
    private readonly blobs: BlobStore,
    private readonly space: DiskSpace,
  ) {}

  /** @throws HttpProblem when a piece is not of the yard; nothing is begun then */
  async begin(yardId: number, { recipe, pieces }: z.infer<typeof newJobSchema>): Promise<Job> {
    const wanted = [...new Set(pieces)];
    return this.insert(yardId, JSON.stringify(recipe), async (manager) => {
      const rows = await manager
        .getRepository(Pieces)
        .find({ where: { id: In(wanted), yardId, removedAt: IsNull() }, select: { id: true, name: true } });
      const names = new Map(rows.map((row) => [row.id, row.name]));
      const missing = wanted.find((piece) => !names.has(piece));
      if (missing !== undefined)
        throw new HttpProblem('refused', `There is no piece ${missing} in this yard any more; choose again.`);
      return wanted.map((piece) => ({ pieceId: piece, pieceName: names.get(piece)! }));
    });
  }

  /** Files whose bytes are stored become pieces. @throws HttpProblem when bytes are missing; nothing is begun then */
  async beginImport(yardId: number, { files, meshes }: NewImport): Promise<Job> {
    const wanted = [...new Set(meshes)];
    const outside = wanted.find((mesh) => mesh >= files.length);
    if (outside !== undefined)
      throw new HttpProblem(
        'refused',
        `There is no file ${outside} among the ${files.length}; import them again.`,
      );
    return this.insert(yardId, null, async (manager, jobId) => {
      const blobIds = await this.blobs.rowsOf(
        manager,
        files.map(({ blob }) => blob),
      );
      const rows = files.map(({ name, path }, position) => ({
        jobId,
        position,
        name,
        path,
        blobId: blobIds[position]!,
      }));
      await insertRows(manager, JobFiles, rows);
      // Among files of one name their folders tell which is meant.
      return wanted.map((file) => ({ file, pieceName: files[file]!.path.replace(/^\//, '').slice(-255) }));
    });
  }

  private async insert(
    yardId: number,
    recipe: string | null,
    itemsOf: (manager: EntityManager, jobId: number) => Promise<NewItem[]>,
  ): Promise<Job> {
    await this.space.check();
    const person = personNow();
    const open = await this.source
      .getRepository(Jobs)
      .countBy({ endedAt: IsNull(), person: person ?? IsNull() });
    if (open >= MAX_OPEN_JOBS)
      throw new HttpProblem(
        'refused',
        `${MAX_OPEN_JOBS} jobs are not at their end yet; wait for one of them, or run more pieces in one job.`,
      );
    const id = await transact(this.source, async (manager) => {
      await yardRow(manager, yardId);
      const job = await manager.getRepository(Jobs).save({
        yardId,
        recipe,
        priority: 0,
        stopped: false,
        startedAt: new Date(),
        endedAt: null,
        person,
      } as unknown as JobRow);
      const items = await itemsOf(manager, job.id);
      await insertRows(
        manager,
        JobItems,
        items.map((item, position) => ({
          ...item,
          jobId: job.id,
          position,
          state: 'waiting' as const,
          tries: 0,
          share: 0,
          takenBack: false,
        })),
      );
      return job.id;
    });
    return this.job(id);
  }

  /** The newest first. */
  async ofYard(yardId: number): Promise<Job[]> {
    await yardRow(this.source.manager, yardId);
    const rows = await this.source
      .getRepository(Jobs)
      .find({ where: { yardId }, order: { id: 'DESC' }, take: LISTED_JOBS });
    return this.withCounts(rows);
  }

  async job(id: number): Promise<Job> {
    const [job] = await this.withCounts([await this.row(id)]);
    return job!;
  }

  /** What became of pieces, those that failed first, then those under way, then in their order. */
  async report(id: number, from = 0): Promise<JobReport> {
    const row = await this.row(id);
    // The tally first: what it counts as ended is ended in the rows that are read after it.
    const job = await this.job(id);
    const asked = this.source
      .getRepository(JobItems)
      .createQueryBuilder('i')
      .leftJoin(Pieces.options.name, 'p', 'p.id = i.pieceId')
      .select(Object.keys(JobItems.options.columns).map((column) => `i.${column} \`${column}\``))
      .addSelect('p.name', 'nameNow')
      .addSelect('IF(p.removed_at IS NULL, p.version, NULL)', 'versionNow')
      .where('i.jobId = :id', { id })
      .orderBy("FIELD(i.state, 'failed', 'running', 'done', 'waiting')")
      .addOrderBy('i.position')
      .offset(from)
      .limit(JOB_ITEMS_AT_ONCE);
    const items = await asked.getRawMany<ItemNow>();
    return {
      job,
      recipe: recipeFrom(row),
      items: items.map(itemFrom),
      more: Math.max(0, job.pieces - from - items.length),
    };
  }

  /** Pieces that wait are left alone from now on; those under way come to their end. */
  async stop(id: number): Promise<Job> {
    await this.change(id, async (manager, row) => {
      if (!row.endedAt) await manager.getRepository(Jobs).update(id, { stopped: true });
    });
    return this.job(id);
  }

  async goOn(id: number): Promise<Job> {
    await this.change(id, (manager) => manager.getRepository(Jobs).update(id, { stopped: false }));
    return this.job(id);
  }

  async prioritise(id: number, priority: number): Promise<Job> {
    await this.change(id, (manager) => manager.getRepository(Jobs).update(id, { priority }));
    return this.job(id);
  }

  /** Failed pieces are begun anew: all, or those at these places. */
  async tryAgain(id: number, positions: readonly number[] | null): Promise<Job> {
    await this.change(id, async (manager) => {
      const which = { jobId: id, state: 'failed' as const, ...at(positions) };
      // What was saved before its delivery failed is not saved twice: only what is left is done.
      const { affected } = await manager
        .createQueryBuilder()
        .update(JobItems)
        .set({
          state: 'waiting',
          share: 0,
          tries: 0,
          owner: null,
          leasedUntil: null,
          report: () => "JSON_SET(report, '$.fault', NULL)",
        })
        .where(which)
        .execute();
      if (!affected)
        throw new HttpProblem('refused', 'None of those pieces has failed; nothing is tried again.');
      await manager.getRepository(Jobs).update(id, { endedAt: null, stopped: false });
    });
    return this.job(id);
  }

  /**
   * Pieces go back to how the job found them, and those that it made into the bin, unless they were changed since. What
   * left stays delivered.
   */
  async takeBack(id: number, positions: readonly number[] | null): Promise<TakenBack> {
    await this.row(id);
    const rows = await this.source
      .getRepository(JobItems)
      .find({ where: { jobId: id, ...at(positions) }, order: { position: 'ASC' } });
    const result: TakenBack = { pieces: [], refused: [] };
    for (const { pieceId, pieceName: name, position, versionBefore, versionAfter, takenBack } of rows) {
      if (pieceId === null || versionAfter === null || takenBack) {
        if (positions) result.refused.push({ name, says: 'The job left it as it was.' });
        continue;
      }
      const also = async (manager: EntityManager) => {
        await manager.getRepository(JobItems).update({ jobId: id, position }, { takenBack: true });
      };
      try {
        if (versionBefore === null) await this.pieces.removeUnchanged(pieceId, versionAfter, also);
        else await this.pieces.restore(pieceId, versionAfter, versionBefore, also);
        result.pieces.push(pieceId);
      } catch (error) {
        if (!(error instanceof HttpProblem)) throw error;
        const says =
          error.code === 'conflict' ? 'It was changed since; look at its versions.' : error.message;
        result.refused.push({ name, says });
      }
    }
    return result;
  }

  private async change(
    id: number,
    work: (manager: EntityManager, row: JobRow) => Promise<unknown>,
  ): Promise<void> {
    await transact(this.source, async (manager) => {
      const row = await manager
        .getRepository(Jobs)
        .findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!row) throw noJob(id);
      await work(manager, row);
    });
  }

  private async row(id: number): Promise<JobRow> {
    const row = await this.source.getRepository(Jobs).findOneBy({ id });
    if (!row) throw noJob(id);
    return row;
  }

  private async withCounts(rows: readonly JobRow[]): Promise<Job[]> {
    if (!rows.length) return [];
    const counted = await this.source
      .getRepository(JobItems)
      .createQueryBuilder('i')
      .select(['i.jobId job', 'i.state state', 'COUNT(*) count', 'SUM(i.share) shares'])
      .where('i.jobId IN (:...ids)', { ids: rows.map(({ id }) => id) })
      .groupBy('i.jobId')
      .addGroupBy('i.state')
      .getRawMany<{ job: number; state: keyof JobCounts; count: string; shares: number }>();
    return rows.map((row) => {
      const counts = { ...NO_COUNTS };
      for (const each of counted) {
        if (each.job !== row.id) continue;
        counts[each.state] = Number(each.count);
        if (each.state === 'running') counts.shares = Number(each.shares);
      }
      return jobFrom(row, counts);
    });
  }
}

/** What is told of a piece of a new job. */
type NewItem = Pick<JobItemRow, 'pieceName'> & Partial<Pick<JobItemRow, 'pieceId' | 'file'>>;

const at = (positions: readonly number[] | null) => (positions ? { position: In([...positions]) } : {});

async function insertRows<R extends ObjectLiteral>(
  manager: EntityManager,
  table: EntitySchema<R>,
  rows: QueryDeepPartialEntity<R>[],
): Promise<void> {
  for (let from = 0; from < rows.length; from += ROWS_AT_ONCE)
    await manager.getRepository(table).insert(rows.slice(from, from + ROWS_AT_ONCE));
}

const noJob = (id: number) =>
  new HttpProblem('not-found', `There is no job ${id}; it may have been removed.`);
