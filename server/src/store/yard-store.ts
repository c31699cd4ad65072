import {
  type BinEntry,
  FIRST_SHELF_PIECES,
  type PieceSummary,
  SHELF_CHANGES_BACK,
  SHELF_PIECES_AT_ONCE,
  type ShelfChanges,
  type Yard,
  type YardWithPieces,
} from '@yard-brace/contract';
import { FIRST_RULES, type YardRules } from '@yard-brace/core';
import { type DataSource, IsNull, Not, type SelectQueryBuilder } from 'typeorm';
import { Blobs, type PieceRow, Pieces, Rules, Yards, type YardRow } from '../database/entities.js';
import { transact } from '../database/transact.js';
import { HttpProblem } from '../http/problems.js';
import type { DiskSpace } from './disk-space.js';
import { yardRow } from './rows.js';
import { rulesOf } from './rules-store.js';
import { shelfFactsFrom, type ShelfRow, summaryOf } from './shelf-summary.js';

/** Yards and what their shelves show. */
export class YardStore {
  constructor(
    private readonly source: DataSource,
    private readonly space: DiskSpace,
  ) {}

  async list(): Promise<Yard[]> {
    const rows = await this.source
      .getRepository(Yards)
      .find({ where: { removedAt: IsNull() }, order: { id: 'ASC' } });
    const counts = await this.source
      .getRepository(Pieces)
      .createQueryBuilder('p')
      .select('p.yardId', 'yardId')
      .addSelect('COUNT(*)', 'pieces')
      .where('p.removedAt IS NULL')
      .groupBy('p.yardId')
      .getRawMany<{ yardId: number; pieces: string }>();
    const pieces = new Map(counts.map((count) => [count.yardId, Number(count.pieces)]));
    return Promise.all(
      rows.map(async (row) =>
        yardFrom(row, await rulesOf(this.source.manager, row), pieces.get(row.id) ?? 0),
      ),
    );
  }

  async create(name: string): Promise<Yard> {
    await this.space.check();
    return transact(this.source, async (manager) => {
      const now = new Date();
      const row = await manager
        .getRepository(Yards)
        .save({ name, rulesVersion: 1, changedAt: now } as YardRow);
      await manager.getRepository(Rules).insert({
        yardId: row.id,
        version: 1,
        content: JSON.stringify(FIRST_RULES),
        beforeVersion: null,
        savedAt: now,
      });
      return yardFrom(row, FIRST_RULES, 0);
    });
  }

  /** A yard goes into the bin, with all that is in it. */
  async remove(id: number): Promise<void> {
    await transact(this.source, async (manager) => {
      await yardRow(manager, id, true);
      await manager.getRepository(Yards).update(id, { removedAt: new Date() });
    });
  }

  /** A yard comes out of the bin; one that is in none stays as it is. */
  async putBack(id: number): Promise<void> {
    const { affected } = await this.source.getRepository(Yards).update(id, { removedAt: null });
    if (!affected)
      throw new HttpProblem('not-found', `There is no yard ${id} any more, not even in the bin.`);
  }

  /** Yards that lie in the bin, the newest first. */
  async inBin(): Promise<BinEntry[]> {
    const rows = await this.source
      .getRepository(Yards)
      .find({ where: { removedAt: Not(IsNull()) }, order: { removedAt: 'DESC', id: 'DESC' } });
    return rows.map(({ id, name, removedAt }) => ({ id, name, removedAt: removedAt!.toISOString() }));
  }

  /** A yard with the first pieces of its shelf: one query, whatever they weigh; one that cannot be opened stands there as such. */
  async withPieces(id: number): Promise<YardWithPieces> {
    const yard = await yardRow(this.source.manager, id);
    // Before the pieces: what changes meanwhile is told again, not left out.
    const [{ changed }] = await this.source.query(
      'SELECT COALESCE(MAX(changed), 0) changed FROM piece WHERE yard_id = ?',
      [id],
    );
    const count = await this.source.getRepository(Pieces).countBy({ yardId: id, removedAt: IsNull() });
    const shelf = await this.pieces(id, (rows) => rows.limit(FIRST_SHELF_PIECES));
    const rules = await rulesOf(this.source.manager, yard);
    return { ...yardFrom(yard, rules, count), shelf, more: Math.max(0, count - shelf.length), changed };
  }

  /** The pieces of a shelf after one of them, by name. */
  async piecesAfter(id: number, after: { id: number; name: string }): Promise<PieceSummary[]> {
    await yardRow(this.source.manager, id);
    return this.pieces(id, (rows) =>
      rows
        .andWhere('(p.name > :name OR (p.name = :name AND p.id > :after))', {
          name: after.name,
          after: after.id,
        })
        .limit(SHELF_PIECES_AT_ONCE),
    );
  }

  /** What has changed on a shelf since a change; changes that come out of their order are told again. */
  async changesSince(id: number, since: number): Promise<ShelfChanges> {
    const yard = await yardRow(this.source.manager, id);
    const from = Math.max(0, since - SHELF_CHANGES_BACK);
    const listed: { id: number; removed: number; changed: number }[] = await this.source.query(
      `SELECT id, removed_at IS NOT NULL removed, changed FROM piece WHERE yard_id = ? AND changed > ?
        ORDER BY changed LIMIT ?`,
      [id, from, SHELF_PIECES_AT_ONCE + SHELF_CHANGES_BACK],
    );
    const there = listed.flatMap((row) => (Number(row.removed) ? [] : [row.id]));
    const count = await this.source.getRepository(Pieces).countBy({ yardId: id, removedAt: IsNull() });
    return {
      yard: yardFrom(yard, await rulesOf(this.source.manager, yard), count),
      pieces: there.length
        ? await this.pieces(id, (rows) => rows.andWhere('p.id IN (:...there)', { there }))
        : [],
      gone: listed.flatMap((row) => (Number(row.removed) ? [row.id] : [])),
      changed: Math.max(since, Number(listed.at(-1)?.changed ?? 0)),
      more: listed.length === SHELF_PIECES_AT_ONCE + SHELF_CHANGES_BACK,
    };
  }

  private async pieces(
    id: number,
    which: (rows: SelectQueryBuilder<PieceRow>) => SelectQueryBuilder<PieceRow>,
  ): Promise<PieceSummary[]> {
    const rows = this.source
      .getRepository(Pieces)
      .createQueryBuilder('p')
      .leftJoin(Blobs.options.name, 'b', 'b.id = p.pictureId')
      .select(['p.id id', 'p.name name', 'p.version version', 'p.savedAt savedAt', 'p.facts facts'])
      .addSelect('b.sha256', 'picture')
      .where('p.yardId = :id AND p.removedAt IS NULL', { id })
      .orderBy('p.name')
      .addOrderBy('p.id');
    const found = await which(rows).getRawMany<ShelfRow>();
    return found.map((row) => summaryOf(row, shelfFactsFrom(row.facts)));
  }
}

const yardFrom = (row: YardRow, rules: YardRules, pieces: number): Yard => ({
  id: row.id,
  name: row.name,
  rules,
  rulesVersion: row.rulesVersion,
  pieces,
  changedAt: row.changedAt.toISOString(),
});
