import type { Yard, YardWithPieces } from '@yard-brace/contract';
import { FIRST_RULES, talliesBeside, type YardRules } from '@yard-brace/core';
import type { DataSource } from 'typeorm';
import { Blobs, Pieces, Rules, Yards, type YardRow } from '../database/entities.js';
import { transact } from '../database/transact.js';
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
    const rows = await this.source.getRepository(Yards).find({ order: { id: 'ASC' } });
    const counts = await this.source
      .getRepository(Pieces)
      .createQueryBuilder('p')
      .select('p.yardId', 'yardId')
      .addSelect('COUNT(*)', 'pieces')
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

  async remove(id: number): Promise<void> {
    await transact(this.source, async (manager) => {
      await yardRow(manager, id, true);
      await manager.getRepository(Yards).delete(id);
    });
  }

  /** The shelf: one query, whatever the pieces weigh; one that cannot be opened stands there as such. */
  async withPieces(id: number): Promise<YardWithPieces> {
    const yard = await yardRow(this.source.manager, id);
    const rows = await this.source
      .getRepository(Pieces)
      .createQueryBuilder('p')
      .leftJoin(Blobs.options.name, 'b', 'b.id = p.pictureId')
      .select(['p.id id', 'p.name name', 'p.version version', 'p.savedAt savedAt', 'p.facts facts'])
      .addSelect('b.sha256', 'picture')
      .where('p.yardId = :id', { id })
      .orderBy('p.name')
      .addOrderBy('p.id')
      .getRawMany<ShelfRow>();
    const pieces = rows.map((row) => ({ row, ...shelfFactsFrom(row.facts) }));
    const tallies = talliesBeside(pieces.flatMap(({ row, facts }) => (facts ? [{ id: row.id, facts }] : [])));
    const shelf = pieces.map(({ row, facts, broken }) => summaryOf(row, facts, broken, tallies.get(row.id)));
    return { ...yardFrom(yard, await rulesOf(this.source.manager, yard), rows.length), shelf };
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
