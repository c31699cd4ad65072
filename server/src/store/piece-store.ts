import type {
  Added,
  BinEntry,
  LastDelivery,
  Piece,
  RulesEffect,
  Saved,
  Versions,
} from '@yard-brace/contract';
import {
  currentDocument,
  deliveryChoicesSchema,
  familyShare,
  historySchema,
  inventorySchema,
  type PieceDocument,
  type ProxyFacts,
  type ShelfFacts,
} from '@yard-brace/core';
import { type DataSource, type EntityManager, In, IsNull, Not } from 'typeorm';
import { Blobs, Deliveries, type PieceRow, Pieces, Yards } from '../database/entities.js';
import { transact } from '../database/transact.js';
import { HttpProblem } from '../http/problems.js';
import type { Judged, JudgeSurroundings, StateTexts, StoredState, Verdict } from '../judge/judge.js';
import type { Judges } from '../judge/judges.js';
import type { BlobStore } from './blob-store.js';
import type { DiskSpace } from './disk-space.js';
import { PieceStates } from './piece-states.js';
import { pieceRow, putPiece, yardRow } from './rows.js';
import { rulesOf, rulesTextOf } from './rules-store.js';
import { shelfFactsFrom } from './shelf-summary.js';

/** Pieces of a bin that are listed, at most. */
const MAX_BIN_ENTRIES = 1000;

/** What a window can do whose save came second. */
const OVER_OR_COPY = 'take that over, or keep yours as a copy';

export interface PieceStoreParts {
  source: DataSource;
  blobs: BlobStore;
  judges: Judges;
  space: DiskSpace;
}

/** The pieces of yards. Everything locks yard before piece before blob. */
export class PieceStore {
  private readonly source: DataSource;
  private readonly blobs: BlobStore;
  private readonly judges: Judges;
  private readonly space: DiskSpace;
  private readonly states: PieceStates;

  constructor({ source, blobs, judges, space }: PieceStoreParts) {
    this.source = source;
    this.blobs = blobs;
    this.judges = judges;
    this.space = space;
    this.states = new PieceStates(source, blobs);
  }

  /** A new piece in a yard, from the JSON of a request; the bytes it names are stored before. */
  async addPiece(
    yardId: number,
    body: string,
    also?: (manager: EntityManager, added: Added) => Promise<void>,
  ): Promise<Added> {
    await this.space.check();
    const yard = await yardRow(this.source.manager, yardId);
    const judged = accepted(
      await this.judges.sent(body, null, aroundNew(await rulesTextOf(this.source.manager, yard))),
    );
    await this.checkMeshes(judged, new Set());
    return transact(this.source, async (manager) => {
      await yardRow(manager, yardId, true);
      const row = await this.insertPiece(manager, yardId, judged);
      await manager.getRepository(Yards).update(yardId, { changedAt: new Date() });
      const added = this.added(row, judged);
      await also?.(manager, added);
      return added;
    });
  }

  /**
   * Several pieces that were in one: all come, and the one that held them goes when that is asked for, or nothing
   * happens at all.
   *
   * @param bodies JSON of each new piece, as for `addPiece`
   */
  async takeApart(
    pieceId: number,
    version: number,
    bodies: readonly string[],
    remove: boolean,
  ): Promise<Added[]> {
    await this.space.check();
    const row = await pieceRow(this.source.manager, pieceId);
    const yard = await yardRow(this.source.manager, row.yardId);
    const known = await this.states.knownBlobs(pieceId);
    const judged: Judged[] = [];
    for (const body of bodies) {
      judged.push(
        accepted(await this.judges.sent(body, null, aroundNew(await rulesTextOf(this.source.manager, yard)))),
      );
      await this.checkMeshes(judged.at(-1)!, known);
    }
    return transact(this.source, async (manager) => {
      await yardRow(manager, yard.id, true);
      const now = await pieceRow(manager, pieceId, true);
      if (now.version !== version) throw savedElsewhere(now, 'take it apart again');
      const added: Added[] = [];
      for (const each of judged) added.push(this.added(await this.insertPiece(manager, yard.id, each), each));
      if (remove) await putPiece(manager, pieceId, { removedAt: new Date() });
      await manager.getRepository(Yards).update(yard.id, { changedAt: new Date() });
      return added;
    });
  }

  /**
   * A piece as the bench works on it, as JSON: its history goes out as it is stored, once it was read.
   *
   * @throws HttpProblem `broken` when what is stored cannot be opened
   */
  async piece(id: number): Promise<{ head: PieceHead; history: string }> {
    const row = await pieceRow(this.source.manager, id);
    const yard = await yardRow(this.source.manager, row.yardId);
    const state = await this.states.at(id, row.version);
    const lastDeliveries = await this.lastDeliveries(id);
    const texts = await this.states.textsOf(state);
    const verdict = await this.judges.stored(
      state,
      aroundOf(row, await rulesTextOf(this.source.manager, yard), lastDeliveries),
      async () => texts,
    );
    if ('refused' in verdict) throw cannotBeOpened(row, verdict.refused);
    const { family, meshName } = JSON.parse(verdict.facts) as ShelfFacts;
    // Those that could be mixed up with it: what others are called the page knows from its shelf.
    const others: { meshName: string }[] = await this.source.query(
      'SELECT mesh_name meshName FROM piece WHERE yard_id = ? AND mesh_name = ? AND id <> ? AND removed_at IS NULL LIMIT 1',
      [row.yardId, meshName, id],
    );
    const picture =
      row.pictureId === null ? null : await this.source.getRepository(Blobs).findOneBy({ id: row.pictureId });
    const head = {
      id,
      yard: {
        id: yard.id,
        name: yard.name,
        rules: await rulesOf(this.source.manager, yard),
        rulesVersion: yard.rulesVersion,
      },
      version: row.version,
      savedAt: row.savedAt.toISOString(),
      picture: picture?.sha256 ?? null,
      lastDeliveries,
      otherMeshNames: others.map((other) => other.meshName),
      family: family === null ? null : await this.familyOf(row, family),
      measured: row.measured === null ? null : (JSON.parse(row.measured) as ProxyFacts),
    };
    return { head, history: historyJson(state, texts) };
  }

  /**
   * Save a new state over the version it was made from, from the JSON of a request.
   *
   * @throws HttpProblem `conflict` when another save came first; nothing is changed then
   */
  async savePiece(id: number, body: string): Promise<Saved> {
    await this.space.check();
    const row = await pieceRow(this.source.manager, id);
    const yard = await yardRow(this.source.manager, row.yardId);
    const stored = await this.states.at(id, row.version);
    const lastDeliveries = await this.lastDeliveries(id);
    const around = {
      ...aroundOf(row, await rulesTextOf(this.source.manager, yard), lastDeliveries),
      version: row.version + 1,
    };
    const verdict = await this.judges.sent(body, stored, around, () => this.states.textsOf(stored));
    const judged = accepted(verdict);
    if (judged.version !== row.version) throw savedElsewhere(row, OVER_OR_COPY);
    if (judged.meshBlobs.length) await this.checkMeshes(judged, await this.states.knownBlobs(id));
    return this.commit(id, row.version, judged, stored, OVER_OR_COPY);
  }

  /**
   * What a recipe made of a piece, over the version it was made from: a new state where it was edited, and how its shapes
   * were measured.
   *
   * @param run `body` as for `savePiece`; null where nothing was edited
   * @param also done in the same transaction, with the version that the piece has then
   * @throws HttpProblem `conflict` when somebody saved it meanwhile; nothing is changed then
   */
  async saveRun(
    id: number,
    { version, body, measured, pictureStays }: SavedRun,
    also: (manager: EntityManager, version: number) => Promise<void>,
  ): Promise<{ version: number }> {
    await this.space.check();
    const row = await pieceRow(this.source.manager, id);
    if (row.version !== version) throw savedElsewhere(row, 'run the recipe again');
    const yard = await yardRow(this.source.manager, row.yardId);
    const stored = await this.states.at(id, version);
    const kept = { measured: measured === null ? row.measured : JSON.stringify(measured) };
    const around = {
      ...aroundOf(
        { ...row, ...kept },
        await rulesTextOf(this.source.manager, yard),
        await this.lastDeliveries(id),
      ),
      version: body === null ? version : version + 1,
    };
    const texts = () => this.states.textsOf(stored);
    if (body === null) {
      const { facts } = accepted(await this.judges.stored(stored, around, texts));
      return transact(this.source, async (manager) => {
        const now = await pieceRow(manager, id, true);
        if (now.version !== version) throw savedElsewhere(now, 'run the recipe again');
        await putPiece(manager, id, { ...kept, facts });
        await also(manager, version);
        return { version };
      });
    }
    const judged = accepted(await this.judges.sent(body, stored, around, texts));
    if (judged.meshBlobs.length) await this.checkMeshes(judged, await this.states.knownBlobs(id));
    return this.commit(id, version, judged, stored, 'run the recipe again', {
      also,
      change: { ...kept, ...(pictureStays ? {} : { pictureId: null }) },
    });
  }

  /** How the shapes lie to the art: kept beside the piece, no state of its own. */
  async setMeasured(id: number, measured: ProxyFacts): Promise<ShelfFacts> {
    const row = await pieceRow(this.source.manager, id);
    await putPiece(this.source.manager, id, { measured: JSON.stringify(measured) });
    return this.judgeAnew({ ...row, measured: JSON.stringify(measured) });
  }

  /** What the shelf shows of a piece, worked out anew: after a delivery, or for pieces that were stored before. */
  async refreshFacts(id: number): Promise<void> {
    await this.judgeAnew(await pieceRow(this.source.manager, id));
  }

  /** Pieces that were stored before shelves kept facts, or all of today's, get theirs; one that cannot be opened says so. */
  async completeFacts(): Promise<void> {
    const rows: { id: number }[] = await this.source.query(
      `SELECT id FROM piece WHERE removed_at IS NULL AND (facts IS NULL OR
        (JSON_VALUE(facts, '$.faults') IS NULL AND JSON_VALUE(facts, '$.broken') IS NULL)) ORDER BY facts IS NOT NULL, id`,
    );
    for (const { id } of rows) await this.refreshFacts(id).catch(() => undefined);
  }

  /** A piece goes into the bin of its yard, with all its versions and deliveries. */
  async removePiece(id: number): Promise<void> {
    await transact(this.source, async (manager) => {
      await pieceRow(manager, id, true);
      await putPiece(manager, id, { removedAt: new Date() });
    });
  }

  /** Removed as long as it is at that version. @throws HttpProblem `conflict` when it was changed since */
  async removeUnchanged(
    id: number,
    version: number,
    also: (manager: EntityManager) => Promise<void>,
  ): Promise<void> {
    await transact(this.source, async (manager) => {
      const row = await pieceRow(manager, id, true);
      if (row.version !== version) throw savedElsewhere(row, 'look at it before it is removed');
      await putPiece(manager, id, { removedAt: new Date() });
      await also(manager);
    });
  }

  /** A piece comes out of the bin; one that is in none stays where it is. */
  async putBack(id: number): Promise<void> {
    await transact(this.source, async (manager) => {
      const row = await manager.getRepository(Pieces).findOneBy({ id });
      if (!row) throw new HttpProblem('not-found', `There is no piece ${id} any more, not even in the bin.`);
      await yardRow(manager, row.yardId);
      await putPiece(manager, id, { removedAt: null });
    });
  }

  /** What lies in the bin of a yard, the newest first. */
  async inBin(yardId: number): Promise<BinEntry[]> {
    await yardRow(this.source.manager, yardId);
    const rows = await this.source.getRepository(Pieces).find({
      where: { yardId, removedAt: Not(IsNull()) },
      order: { removedAt: 'DESC', id: 'DESC' },
      select: { id: true, name: true, removedAt: true },
      take: MAX_BIN_ENTRIES,
    });
    return rows.map(({ id, name, removedAt }) => ({ id, name, removedAt: removedAt!.toISOString() }));
  }

  async setPicture(id: number, blob: string): Promise<void> {
    await transact(this.source, async (manager) => {
      await pieceRow(manager, id, true);
      const [pictureId] = await this.blobs.rowsOf(manager, [blob]);
      await putPiece(manager, id, { pictureId: pictureId! });
    });
  }

  async versions(id: number): Promise<Versions> {
    await pieceRow(this.source.manager, id);
    const versions = await this.states.versions(id);
    return versions.map(({ version, savedAt, person }) => ({
      version,
      savedAt: savedAt.toISOString(),
      person,
    }));
  }

  /** JSON of the history of a kept version. @throws HttpProblem when it is not kept any more */
  async historyAt(id: number, version: number): Promise<string> {
    await pieceRow(this.source.manager, id);
    const state = await this.states.at(id, version);
    return historyJson(state, await this.states.textsOf(state));
  }

  /** An older state becomes the newest: what came after it stays among the versions. */
  async restore(id: number, version: number, from: number, also?: WithSave['also']): Promise<Saved> {
    const row = await pieceRow(this.source.manager, id);
    const yard = await yardRow(this.source.manager, row.yardId);
    const state = await this.states.at(id, from);
    const around = {
      ...aroundOf(row, await rulesTextOf(this.source.manager, yard), await this.lastDeliveries(id)),
      version: row.version + 1,
    };
    const judged = await this.judges.stored(state, around, () => this.states.textsOf(state));
    if ('refused' in judged) throw cannotBeOpened(row, judged.refused);
    return this.commit(id, version, judged, state, 'look at its versions again', also ? { also } : {});
  }

  /** The document to deliver. @throws HttpProblem `conflict` when the piece is not at that version */
  async documentAt(id: number, version: number): Promise<PieceDocument> {
    const row = await pieceRow(this.source.manager, id);
    if (row.version !== version) throw savedElsewhere(row, 'load it again before delivering');
    const state = await this.states.at(id, version);
    const history = historySchema.safeParse(JSON.parse(historyJson(state, await this.states.textsOf(state))));
    if (!history.success) throw cannotBeOpened(row, 'its stored state is damaged.');
    return currentDocument(history.data);
  }

  /** Store a judged state over the version it was made from. @throws HttpProblem `conflict` when another came first */
  private commit(
    id: number,
    version: number,
    judged: Judged,
    stored: StoredState,
    what: string,
    { change = {}, also }: WithSave = {},
  ): Promise<Saved> {
    return transact(this.source, async (manager) => {
      const now = await pieceRow(manager, id, true);
      if (now.version !== version) throw savedElsewhere(now, what);
      const { name, facts } = judged;
      const put = { version: version + 1, name, savedAt: new Date(), facts, ...change };
      await putPiece(manager, id, put);
      const next: PieceRow = { ...now, ...put };
      await this.states.add(manager, next, judged, stored);
      await also?.(manager, next.version);
      return {
        version: next.version,
        savedAt: next.savedAt.toISOString(),
        facts: JSON.parse(facts) as ShelfFacts,
      };
    });
  }

  private async judgeAnew(row: PieceRow): Promise<ShelfFacts> {
    const yard = await yardRow(this.source.manager, row.yardId);
    const state = await this.states.at(row.id, row.version);
    const around = aroundOf(
      row,
      await rulesTextOf(this.source.manager, yard),
      await this.lastDeliveries(row.id),
    );
    const verdict = await this.judges.stored(state, around, () => this.states.textsOf(state));
    const facts = 'refused' in verdict ? JSON.stringify({ broken: verdict.refused }) : verdict.facts;
    await putPiece(this.source.manager, row.id, { facts }, row.version);
    if ('refused' in verdict) throw cannotBeOpened(row, verdict.refused);
    return JSON.parse(facts) as ShelfFacts;
  }

  /**
   * How pieces of a yard stand by other rules, those that change; one that cannot be opened stays out of it.
   *
   * @param keep whether what was worked out is stored
   */
  async retallied(yardId: number, rules: string, keep: boolean): Promise<RulesEffect['pieces']> {
    const rows = await this.source
      .getRepository(Pieces)
      .find({ where: { yardId, removedAt: IsNull() }, order: { id: 'ASC' } });
    const moved: RulesEffect['pieces'] = [];
    for (const row of rows) {
      const state = await this.states.at(row.id, row.version);
      const around = aroundOf(row, rules, await this.lastDeliveries(row.id));
      const verdict = await this.judges.stored(state, around, () => this.states.textsOf(state));
      if ('refused' in verdict) continue;
      if (keep) await putPiece(this.source.manager, row.id, { facts: verdict.facts }, row.version);
      const before = row.facts === null ? null : shelfFactsFrom(row.facts).facts?.tally;
      const after = (JSON.parse(verdict.facts) as ShelfFacts).tally;
      if (before && JSON.stringify(before) !== JSON.stringify(after))
        moved.push({ id: row.id, name: row.name, before, after });
    }
    return moved;
  }

  private async insertPiece(manager: EntityManager, yardId: number, judged: Judged): Promise<PieceRow> {
    const row = await manager.getRepository(Pieces).save({
      yardId,
      name: judged.name,
      version: 1,
      savedAt: new Date(),
      pictureId: null,
      facts: judged.facts,
      measured: null,
    } as unknown as PieceRow);
    await this.states.add(manager, row, judged, null);
    return row;
  }

  private added(row: PieceRow, judged: Judged): Added {
    return {
      id: row.id,
      version: row.version,
      savedAt: row.savedAt.toISOString(),
      name: row.name,
      facts: JSON.parse(judged.facts) as ShelfFacts,
    };
  }

  /** Bytes that a document newly names as meshes are read as such before it is stored. */
  private async checkMeshes({ meshBlobs }: Judged, known: ReadonlySet<string>): Promise<void> {
    for (const [blob, meshes] of meshBlobs) {
      if (known.has(blob)) continue;
      const bytes = await this.blobs.readBytes(blob).catch((error) => {
        if (error instanceof HttpProblem && error.code === 'not-found')
          throw new HttpProblem(
            'bad-request',
            `The bytes ${blob.slice(0, 12)}… are not stored yet; send them first.`,
          );
        throw error;
      });
      const fault = await this.judges.meshFault(blob, meshes, bytes);
      if (fault) throw new HttpProblem('bad-request', fault);
    }
  }

  /** The newest delivery for each target, the newest of all first. */
  private async lastDeliveries(pieceId: number): Promise<LastDelivery[]> {
    const newest = await this.source
      .getRepository(Deliveries)
      .createQueryBuilder('d')
      .select('MAX(d.id)', 'id')
      .where('d.pieceId = :pieceId', { pieceId })
      .groupBy('d.target')
      .getRawMany<{ id: number }>();
    if (!newest.length) return [];
    const rows = await this.source
      .getRepository(Deliveries)
      .find({ where: { id: In(newest.map(({ id }) => id)) }, order: { id: 'DESC' } });
    return rows.map((row) => ({
      id: row.id,
      version: row.version,
      target: row.target,
      agreed: Boolean(row.agreed),
      at: row.deliveredAt.toISOString(),
      choices: deliveryChoicesSchema.parse(JSON.parse(row.choices)),
      inventory: row.inventory === null ? null : inventorySchema.parse(JSON.parse(row.inventory)),
    }));
  }

  /** The eldest other piece of the same family: its pivot is the one that is shared. */
  private async familyOf({ id, yardId }: PieceRow, family: string): Promise<PieceHead['family']> {
    const eldest = await this.source
      .getRepository(Pieces)
      .createQueryBuilder('p')
      .where('p.yardId = :yardId', { yardId })
      .andWhere('p.family = :family AND p.removed_at IS NULL', { family })
      .orderBy('p.id')
      .getOne();
    if (!eldest || eldest.id === id) return null;
    const { facts } = shelfFactsFrom(eldest.facts);
    return facts && { from: eldest.name, share: familyShare(facts) };
  }
}

/** What a recipe made of a piece. */
interface SavedRun {
  version: number;
  body: string | null;
  measured: ProxyFacts | null;
  /** false where the art looks otherwise: its picture is taken anew */
  pictureStays: boolean;
}

/** What is stored together with a new state. */
interface WithSave {
  change?: Partial<Pick<PieceRow, 'measured' | 'pictureId'>>;
  also?: (manager: EntityManager, version: number) => Promise<void>;
}

/** A piece without its history, which goes out as the text it is stored as. */
type PieceHead = Omit<Piece, 'history'>;

const historyJson = ({ cursor }: StoredState, { base, edits }: StateTexts): string =>
  `{"base":${base},"edits":[${edits.join()}],"cursor":${cursor}}`;

function accepted(verdict: Verdict): Judged {
  if ('refused' in verdict) throw new HttpProblem('bad-request', verdict.refused);
  return verdict;
}

const aroundNew = (rules: string): JudgeSurroundings => ({
  rules,
  lastDeliveries: [],
  version: 1,
  measured: null,
});

const aroundOf = (
  { version, measured }: PieceRow,
  rules: string,
  lastDeliveries: LastDelivery[],
): JudgeSurroundings => ({ rules, lastDeliveries, version, measured });

const savedElsewhere = ({ name, version, savedAt }: PieceRow, what: string) =>
  new HttpProblem('conflict', `“${name}” was saved somewhere else in the meantime; ${what}.`, {
    version,
    savedAt: savedAt.toISOString(),
  });

const cannotBeOpened = ({ name }: PieceRow, why: string) =>
  new HttpProblem(
    'broken',
    `“${name}” cannot be opened as it was last saved: ${why} Go back to an older version.`,
  );
