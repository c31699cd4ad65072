import type { RulesEffect, YardRulesState } from '@yard-brace/contract';
import { type YardRules, yardRulesSchema } from '@yard-brace/core';
import type { DataSource, EntityManager } from 'typeorm';
import { Rules, type RulesRow, Yards, type YardRow } from '../database/entities.js';
import { transact } from '../database/transact.js';
import { HttpProblem } from '../http/problems.js';
import type { PieceStore } from './piece-store.js';
import { yardRow } from './rows.js';

/** The JSON of a yard's rules as they are. */
export async function rulesTextOf(manager: EntityManager, yard: YardRow): Promise<string> {
  return (await rulesRow(manager, yard)).content;
}

export const rulesOf = async (manager: EntityManager, yard: YardRow): Promise<YardRules> =>
  yardRulesSchema.parse(JSON.parse(await rulesTextOf(manager, yard)));

const rulesRow = (
  manager: EntityManager,
  { id, rulesVersion }: YardRow,
  version = rulesVersion,
): Promise<RulesRow> => manager.getRepository(Rules).findOneByOrFail({ yardId: id, version });

/** The rules of yards: every state is kept, and the one before can be had back. */
export class RulesStore {
  constructor(
    private readonly source: DataSource,
    private readonly pieces: PieceStore,
  ) {}

  async get(yardId: number): Promise<YardRulesState> {
    const yard = await yardRow(this.source.manager, yardId);
    const row = await rulesRow(this.source.manager, yard);
    return stateFrom(row);
  }

  /** What other rules would do to the pieces of a yard. Nothing is stored. */
  async tried(yardId: number, rules: YardRules): Promise<RulesEffect> {
    await yardRow(this.source.manager, yardId);
    return { pieces: await this.pieces.retallied(yardId, JSON.stringify(rules), false) };
  }

  /** @throws HttpProblem `conflict` when others saved rules since that version */
  async save(yardId: number, version: number, rules: YardRules): Promise<YardRulesState> {
    return this.put(yardId, version, (row) => ({
      content: JSON.stringify(rules),
      beforeVersion: row.version,
    }));
  }

  /** Have the state before back. @throws HttpProblem when there is none, or others saved rules since that version */
  async undo(yardId: number, version: number): Promise<YardRulesState> {
    return this.put(yardId, version, async (row, manager, yard) => {
      if (row.beforeVersion === null)
        throw new HttpProblem('refused', 'These are the first rules of the yard; there is nothing to undo.');
      const before = await rulesRow(manager, yard, row.beforeVersion);
      return { content: before.content, beforeVersion: before.beforeVersion };
    });
  }

  private async put(
    yardId: number,
    version: number,
    next: (
      row: RulesRow,
      manager: EntityManager,
      yard: YardRow,
    ) => Pick<RulesRow, 'content' | 'beforeVersion'> | Promise<Pick<RulesRow, 'content' | 'beforeVersion'>>,
  ): Promise<YardRulesState> {
    const saved = await transact(this.source, async (manager) => {
      const yard = await yardRow(manager, yardId, true);
      const row = await rulesRow(manager, yard);
      if (row.version !== version)
        throw new HttpProblem(
          'conflict',
          'The rules were saved somewhere else in the meantime; load those and make your change again.',
          { version: row.version, savedAt: row.savedAt.toISOString() },
        );
      const now = new Date();
      const fresh = { yardId, version: version + 1, savedAt: now, ...(await next(row, manager, yard)) };
      await manager.getRepository(Rules).insert(fresh);
      await manager.getRepository(Yards).update(yardId, { rulesVersion: version + 1, changedAt: now });
      return fresh;
    });
    await this.pieces.retallied(yardId, saved.content, true);
    return stateFrom(saved);
  }
}

const stateFrom = ({ version, content, beforeVersion }: RulesRow): YardRulesState => ({
  version,
  rules: yardRulesSchema.parse(JSON.parse(content)),
  canUndo: beforeVersion !== null,
});
