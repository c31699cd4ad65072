import type { Yard, YardWithPieces } from '@yard-brace/contract';
import { FIRST_AGENTS, PREFIX_TAGS, talliesBeside } from '@yard-brace/core';
import type { DataSource } from 'typeorm';
import { Blobs, Pieces, Yards, type YardRow } from '../database/entities.js';
import { transact } from '../database/transact.js';
import type { DiskSpace } from './disk-space.js';
import { rulesFrom, yardRow } from './rows.js';
import { shelfFactsFrom, type ShelfRow, summaryOf } from './shelf-summary.js';

const DEFAULT_GRID_METRES = 4;
const DEFAULT_PIXELS_PER_METRE = 512;

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
    return rows.map((row) => yardFrom(row, pieces.get(row.id) ?? 0));
  }

  async create(name: string): Promise<Yard> {
    await this.space.check();
    const row = await this.source.getRepository(Yards).save({
      name,
      gridMetres: DEFAULT_GRID_METRES,
      target: PREFIX_TAGS.id,
      agents: JSON.stringify(FIRST_AGENTS),
      pixelsPerMetre: DEFAULT_PIXELS_PER_METRE,
      changedAt: new Date(),
    } as YardRow);
    return yardFrom(row, 0);
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
    return { ...yardFrom(yard, rows.length), shelf };
  }
}

const yardFrom = (row: YardRow, pieces: number): Yard => ({
  id: row.id,
  name: row.name,
  rules: rulesFrom(row),
  pieces,
  changedAt: row.changedAt.toISOString(),
});
