import { randomUUID } from 'node:crypto';
import { setTimeout } from 'node:timers/promises';
import { MessageChannel } from 'node:worker_threads';
import { blobsOfMeshes, currentDocument, historySchema, proxyFactsSchema } from '@yard-brace/core';
import type { Logger } from 'pino';
import { Piscina } from 'piscina';
import type { DataSource, EntityManager } from 'typeorm';
import { isDatabaseAway, isDiskFull } from '../database/connect.js';
import { JobItems, type JobItemRow, Jobs } from '../database/entities.js';
import { transact } from '../database/transact.js';
import type { DeliveryService } from '../delivery/delivery-service.js';
import { asPerson } from '../http/person.js';
import { HttpProblem } from '../http/problems.js';
import type { BlobStore } from '../store/blob-store.js';
import type { PieceStore } from '../store/piece-store.js';
import { pieceRow, yardRow } from '../store/rows.js';
import { rulesOf } from '../store/rules-store.js';
import { FileReader } from './file-reader.js';
import { type ItemReport, NO_REPORT, recipeFrom, reportFrom } from './job-rows.js';
import type { RecipeTask, RecipeTaskResult } from './recipe-task.js';

/** A piece that nobody has renewed for so long is free for others: its process is gone. */
const LEASE_SECONDS = 20;
const RENEWED_EVERY_MS = 4000;
/** Waits, or is held by nobody: its lease is over, or ends later than one of now could, since the clock was set back. */
const FREE = [
  "state = 'waiting'",
  `state = 'running' AND leased_until NOT BETWEEN UTC_TIMESTAMP(3) AND UTC_TIMESTAMP(3) + INTERVAL ${LEASE_SECONDS + 5} SECOND`,
];
/** A piece that ended its process so often is not begun again. */
const MAX_TRIES = 5;
const LOOKED_EVERY_MS = 700;

export interface JobRunnerParts {
  source: DataSource;
  pieces: PieceStore;
  blobs: BlobStore;
  deliveries: DeliveryService;
  log: Logger;
  /** pieces that are worked on at a time */
  threads: number;
}

type ClaimedRow = Pick<
  JobItemRow,
  'jobId' | 'position' | 'pieceId' | 'file' | 'versionAfter' | 'report' | 'tries'
>;
type Claimed = ClaimedRow & {
  /** who began the job: what it saves and delivers is theirs */
  person: string | null;
};

/** This process has lost a piece to another one, which does it again: what was worked out here is let go. */
class LostError extends Error {
  override readonly name = 'LostError';
}

/**
 * Works on the pieces of jobs. Each is claimed in its row under a lease by the database's clock, and counts as done in the
 * very transaction that saves it: any number of processes share a job, a killed one loses nothing, and no piece is done
 * twice.
 */
export class JobRunner {
  private readonly owner = randomUUID();
  private readonly pool: Piscina<RecipeTask, RecipeTaskResult>;
  private readonly files: FileReader;
  private readonly loops: Promise<void>[];
  private readonly ending = new AbortController();

  constructor(private readonly parts: JobRunnerParts) {
    const { threads } = parts;
    this.files = new FileReader(parts);
    this.pool = new Piscina({
      filename: new URL('./recipe-task.js', import.meta.url).href,
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 60_000,
    });
    this.loops = Array.from({ length: threads }, () => this.work());
  }

  async close(): Promise<void> {
    this.ending.abort();
    await Promise.all([this.pool.destroy(), this.files.close()]);
    await Promise.all(this.loops);
    // What this process leaves undone is not waited for by the others.
    await this.parts.source
      .query(
        "UPDATE job_item SET state = 'waiting', tries = tries - 1, owner = NULL WHERE owner = ? AND state = 'running'",
        [this.owner],
      )
      .catch(() => undefined);
  }

  private async work(): Promise<void> {
    const { signal } = this.ending;
    while (!signal.aborted) {
      try {
        const item = await this.claim();
        if (item) await asPerson(item.person, () => this.doItem(item));
        else await pause(LOOKED_EVERY_MS, signal);
      } catch (error) {
        if (signal.aborted) return;
        if (!isDatabaseAway(error)) this.parts.log.error({ err: error }, 'job failed');
        await pause(LOOKED_EVERY_MS, signal);
      }
    }
  }

  /** The next piece of the job that comes first; null where nothing waits. */
  private async claim(): Promise<Claimed | null> {
    const { source } = this.parts;
    // The jobs of a yard in the bin wait until it is put back.
    const open: { id: number; person: string | null }[] = await source.query(
      `SELECT j.id, j.person FROM job j JOIN yard y ON y.id = j.yard_id AND y.removed_at IS NULL
        WHERE j.ended_at IS NULL AND j.stopped = 0 ORDER BY j.priority DESC, j.id LIMIT 20`,
    );
    for (const { id, person } of open) {
      const item = await transact(source, (manager) => this.claimOf(manager, id));
      if (item) return { ...item, person };
      await this.endIfDone(id);
    }
    return null;
  }

  private async claimOf(manager: EntityManager, jobId: number): Promise<ClaimedRow | null> {
    for (const which of FREE) {
      const [row]: ClaimedRow[] = await manager.query(
        `SELECT job_id jobId, position, piece_id pieceId, file, version_after versionAfter, report, tries FROM job_item
          WHERE job_id = ? AND ${which} ORDER BY position LIMIT 1 FOR UPDATE SKIP LOCKED`,
        [jobId],
      );
      if (!row) continue;
      await manager.query(
        `UPDATE job_item SET state = 'running', owner = ?, tries = tries + 1, share = 0,
          leased_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND WHERE job_id = ? AND position = ?`,
        [this.owner, LEASE_SECONDS, row.jobId, row.position],
      );
      return row;
    }
    return null;
  }

  private async doItem(item: Claimed): Promise<void> {
    let share = 0;
    const renew = async () => {
      await this.parts.source
        .query(
          `UPDATE job_item SET share = ?, leased_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND
            WHERE job_id = ? AND position = ? AND owner = ? AND state = 'running'`,
          [share, LEASE_SECONDS, item.jobId, item.position, this.owner],
        )
        .catch(() => undefined);
    };
    const renewing = setInterval(() => void renew(), RENEWED_EVERY_MS);
    try {
      if (item.tries >= MAX_TRIES)
        return await this.fail(
          item,
          `It ended the process ${MAX_TRIES} times; try a smaller ${item.file === null ? 'piece or recipe' : 'file'}.`,
        );
      const tell = (now: number) => void (share = now);
      if (item.file !== null) return await this.takeIn(item, item.file, tell);
      const piece = item.pieceId!;
      const version = item.versionAfter ?? (await this.runRecipe(item, piece, tell));
      if (version !== null) await this.leave(item, piece, version);
    } catch (error) {
      await this.failed(item, error);
    } finally {
      clearInterval(renewing);
      await this.endIfDone(item.jobId);
    }
  }

  /** Reads a file, and stores what came of it as a new piece. */
  private async takeIn(item: Claimed, file: number, tell: (share: number) => void): Promise<void> {
    const { source, pieces, blobs } = this.parts;
    const { yardId } = await source.getRepository(Jobs).findOneByOrFail({ id: item.jobId });
    const yard = await yardRow(source.manager, yardId);
    const rules = await rulesOf(source.manager, yard);
    const read = await this.files.read(
      item.jobId,
      file,
      rules,
      (share) => tell(share * 0.9),
      this.ending.signal,
    );
    if ('refused' in read) return this.fail(item, read.refused);
    for (const made of read.blobs.values()) await blobs.writeBytes(made);
    const { figures } = read;
    await pieces.addPiece(yardId, read.body, (manager, { id, name, version }) =>
      this.put(manager, item, {
        ...DONE,
        pieceId: id,
        pieceName: name,
        versionAfter: version,
        report: { ...NO_REPORT, before: figures, after: figures },
      }),
    );
  }

  /** Does the recipe, and saves what came of it; the version that leaves, or null where nothing is left to do. */
  private async runRecipe(
    item: Claimed,
    piece: number,
    tell: (share: number) => void,
  ): Promise<number | null> {
    const { source, pieces, blobs } = this.parts;
    const { manager } = source;
    const row = await pieceRow(manager, piece);
    const yard = await yardRow(manager, row.yardId);
    const job = await source.getRepository(Jobs).findOneByOrFail({ id: item.jobId });
    const history = await pieces.historyAt(piece, row.version);
    const { meshes } = currentDocument(historySchema.parse(JSON.parse(history)));
    const bytes = new Map<string, Uint8Array>();
    for (const id of blobsOfMeshes(meshes)) bytes.set(id, await blobs.readBytes(id));
    const { port1, port2 } = new MessageChannel();
    port1.on('message', (share: number) => tell(share * 0.9));
    const task: RecipeTask = {
      recipe: recipeFrom(job)!,
      rules: await rulesOf(manager, yard),
      history,
      version: row.version,
      measured: row.measured === null ? null : proxyFactsSchema.parse(JSON.parse(row.measured)),
      blobs: bytes,
      port: port2,
    };
    let result: RecipeTaskResult;
    try {
      result = await this.pool.run(task, { transferList: [port2], signal: this.ending.signal });
    } finally {
      port1.close();
    }
    const { steps, before, after, leaving, stopped } = result;
    const report: ItemReport = { ...NO_REPORT, steps, before, after, leaving };
    if (stopped !== null) {
      await this.fail(item, stopped, report);
      return null;
    }
    for (const made of result.made.values()) await blobs.writeBytes(made);
    const more = leaving.length > 0;
    if (result.save === null && result.measured === null) {
      await transact(source, (manager) => this.put(manager, item, { report, ...(more ? {} : DONE) }));
      return more ? row.version : null;
    }
    const { version } = await pieces.saveRun(
      piece,
      {
        version: row.version,
        body: result.save,
        measured: result.measured,
        pictureStays: !result.artChanged,
      },
      (manager, version) =>
        this.put(manager, item, {
          report,
          ...(version > row.version ? { versionBefore: row.version, versionAfter: version } : {}),
          ...(more ? {} : DONE),
        }),
    );
    return more ? version : null;
  }

  /** Delivers what has not left yet; each delivery is taken off the list as it is kept. */
  private async leave(item: Claimed, piece: number, version: number): Promise<void> {
    const { source, deliveries } = this.parts;
    for (;;) {
      const row = await source
        .getRepository(JobItems)
        .findOneByOrFail({ jobId: item.jobId, position: item.position });
      const report = reportFrom(row);
      const [next, ...leaving] = report.leaving;
      if (!next) break;
      await deliveries.deliver(
        piece,
        { version, target: next.target, choices: next.choices, answered: false },
        this.ending.signal,
        async (manager, [delivery]) => {
          const { id, target, agreed } = delivery!;
          await this.put(manager, item, {
            report: {
              ...report,
              // What kept it from leaving before is over.
              fault: null,
              leaving,
              deliveries: [...report.deliveries, { id, target, agreed: Boolean(agreed) }],
            },
            ...(leaving.length ? {} : DONE),
          });
        },
      );
    }
  }

  private async failed(item: Claimed, error: unknown): Promise<void> {
    if (error instanceof LostError || this.ending.signal.aborted) return;
    if (isFull(error)) return this.giveBack(item, error);
    if (error instanceof HttpProblem) {
      const says =
        error.code === 'conflict'
          ? 'It was changed while the recipe ran, and stays as it was changed; try it again.'
          : error.message;
      return this.fail(item, says);
    }
    if (isDatabaseAway(error)) throw error;
    this.parts.log.error({ err: error, piece: item.pieceId, file: item.file }, 'a piece of a job failed');
    await this.fail(
      item,
      item.file === null
        ? 'It could not be worked out; the log of the server says more. The piece is as it was.'
        : 'It could not be read; the log of the server says more.',
    );
  }

  /** No fault of the piece: it waits again, and says for what, and this process looks again after a while. */
  private async giveBack(item: Claimed, error: Error): Promise<void> {
    await transact(this.parts.source, async (manager) => {
      const row = await manager
        .getRepository(JobItems)
        .findOneByOrFail({ jobId: item.jobId, position: item.position });
      const fault =
        error instanceof HttpProblem ? error.message : 'The disk of the database is full; make room there.';
      const report = { ...reportFrom(row), fault };
      await this.put(manager, item, { state: 'waiting', owner: null, leasedUntil: null, report });
    });
    await pause(LOOKED_EVERY_MS, this.ending.signal);
  }

  private async fail(item: Claimed, fault: string, report?: ItemReport): Promise<void> {
    await transact(this.parts.source, async (manager) => {
      const row = await manager
        .getRepository(JobItems)
        .findOneByOrFail({ jobId: item.jobId, position: item.position });
      await this.put(manager, item, {
        state: 'failed',
        owner: null,
        leasedUntil: null,
        report: { ...(report ?? reportFrom(row)), fault },
      });
    });
  }

  /** Writes to the row of a piece that is still this process's. @throws LostError when it is another's */
  private async put(
    manager: EntityManager,
    { jobId, position }: Claimed,
    { report, ...change }: Partial<Omit<JobItemRow, 'report'>> & { report: ItemReport },
  ): Promise<void> {
    const { affected } = await manager
      .getRepository(JobItems)
      .createQueryBuilder()
      .update()
      .set({ ...change, report: JSON.stringify(report), tries: 0 })
      .where('jobId = :jobId AND position = :position', { jobId, position })
      .andWhere("owner = :owner AND state = 'running'", { owner: this.owner })
      .execute();
    if (!affected) throw new LostError();
  }

  private async endIfDone(jobId: number): Promise<void> {
    await this.parts.source
      .query(
        `UPDATE job SET ended_at = UTC_TIMESTAMP(3) WHERE id = ? AND ended_at IS NULL AND NOT EXISTS
          (SELECT 1 FROM job_item WHERE job_id = ? AND state IN ('waiting', 'running'))`,
        [jobId, jobId],
      )
      .catch(() => undefined);
  }
}

const isFull = (error: unknown): error is Error =>
  isDiskFull(error) || (error instanceof HttpProblem && error.code === 'full');

const DONE = { state: 'done', share: 1, owner: null, leasedUntil: null } as const;

/** Ends at once when the signal fires. */
const pause = (ms: number, signal: AbortSignal): Promise<void> =>
  setTimeout(ms, undefined, { signal }).catch(() => undefined);
