import type { OpenSetOut, SavedSetOut, SaveSetOut, SetOutEntry } from '@yard-brace/contract';
import {
  currentSetOut,
  issueSentence,
  type SetOut,
  setOutFault,
  type SetOutHistory,
  setOutHistorySchema,
  type SetOutSteps,
  withSetOutSteps,
} from '@yard-brace/core';
import type { DataSource, EntityManager } from 'typeorm';
import { SetOutEdits, type SetOutRow, SetOuts } from '../database/entities.js';
import { transact } from '../database/transact.js';
import { HttpProblem } from '../http/problems.js';
import type { DiskSpace } from './disk-space.js';
import { yardRow } from './rows.js';
import { rulesOf } from './rules-store.js';

/** The set-outs of yards. A save writes what is new of it, however long its history is. */
export class SetOutStore {
  constructor(
    private readonly source: DataSource,
    private readonly space: DiskSpace,
  ) {}

  async ofYard(yardId: number): Promise<SetOutEntry[]> {
    await yardRow(this.source.manager, yardId);
    const rows = await this.source.getRepository(SetOuts).find({
      where: { yardId },
      order: { id: 'ASC' },
      select: { id: true, name: true, version: true, savedAt: true, placements: true },
    });
    return rows.map(entryFrom);
  }

  async add(yardId: number, setOut: SetOut): Promise<SetOutEntry> {
    await this.space.check();
    return transact(this.source, async (manager) => {
      await yardRow(manager, yardId, true);
      const row = await manager.getRepository(SetOuts).save({
        yardId,
        name: setOut.name,
        version: 1,
        savedAt: new Date(),
        base: JSON.stringify(setOut),
        cursor: 0,
        placements: setOut.placements.length,
      } as SetOutRow);
      return entryFrom(row);
    });
  }

  /** @throws HttpProblem `broken` when what is stored cannot be opened */
  async get(id: number): Promise<OpenSetOut> {
    const { manager } = this.source;
    const row = await setOutRow(manager, id);
    const yard = await yardRow(manager, row.yardId);
    const { history } = await this.historyOf(manager, row);
    return {
      id,
      yard: {
        id: yard.id,
        name: yard.name,
        rules: await rulesOf(manager, yard),
        rulesVersion: yard.rulesVersion,
      },
      version: row.version,
      savedAt: row.savedAt.toISOString(),
      history: history as OpenSetOut['history'],
    };
  }

  /** The set-out as it stands. @throws HttpProblem `conflict` when it is not at that version */
  async setOutAt(id: number, version: number): Promise<{ setOut: SetOut; yardId: number }> {
    const row = await setOutRow(this.source.manager, id);
    if (row.version !== version) throw savedElsewhere(row, 'load it again before delivering');
    const { history } = await this.historyOf(this.source.manager, row);
    return { setOut: currentSetOut(history), yardId: row.yardId };
  }

  /** @throws HttpProblem `conflict` when another save came first; nothing is changed then */
  async save(id: number, { version, ...sent }: SaveSetOut): Promise<SavedSetOut> {
    await this.space.check();
    return transact(this.source, async (manager) => {
      const row = await setOutRow(manager, id, true);
      if (row.version !== version) throw savedElsewhere(row, 'load their version, or keep yours as a copy');
      const { history, first } = await this.historyOf(manager, row);
      const steps: SetOutSteps | null = 'steps' in sent ? sent.steps : null;
      const next = 'steps' in sent ? withSetOutSteps(history, sent.steps) : sent.history;
      const fault = next && setOutFault(next);
      if (!next || fault)
        throw new HttpProblem(
          'bad-request',
          fault ? issueSentence(fault) : 'These steps do not fit the stored set-out; load it again.',
        );
      const { name, placements } = currentSetOut(next);
      const { fold, keep } = steps ?? { fold: history.edits.length, keep: 0 };
      const edits = steps?.edits ?? next.edits;
      const savedAt = new Date();
      await manager.getRepository(SetOuts).update(id, {
        name,
        version: version + 1,
        savedAt,
        cursor: next.cursor,
        placements: placements.length,
        ...(fold || !steps ? { base: JSON.stringify(next.base) } : {}),
      });
      const from = first + fold + keep;
      await manager.query(
        'DELETE FROM set_out_edit WHERE set_out_id = ? AND (position < ? OR position >= ?)',
        [id, first + fold, from],
      );
      if (edits.length)
        await manager.getRepository(SetOutEdits).insert(
          edits.map((edit, i) => ({
            setOutId: id,
            position: from + i,
            content: JSON.stringify(edit),
          })),
        );
      return { version: version + 1, savedAt: savedAt.toISOString() };
    });
  }

  async remove(id: number): Promise<void> {
    await transact(this.source, async (manager) => {
      await setOutRow(manager, id, true);
      await manager.getRepository(SetOuts).delete(id);
    });
  }

  /** What is stored of a set-out, and the position of its first edit. */
  private async historyOf(
    manager: EntityManager,
    row: SetOutRow,
  ): Promise<{ history: SetOutHistory; first: number }> {
    const rows = await manager
      .getRepository(SetOutEdits)
      .find({ where: { setOutId: row.id }, order: { position: 'ASC' } });
    const read = setOutHistorySchema.safeParse({
      base: JSON.parse(row.base) as unknown,
      edits: rows.map(({ content }) => JSON.parse(content) as unknown),
      cursor: row.cursor,
    });
    if (!read.success)
      throw new HttpProblem(
        'broken',
        `“${row.name}” cannot be opened as it was last saved: ${issueSentence(read.error.issues[0]!)}`,
      );
    return { history: read.data, first: rows[0]?.position ?? 0 };
  }
}

async function setOutRow(manager: EntityManager, id: number, lock = false): Promise<SetOutRow> {
  const row = await manager
    .getRepository(SetOuts)
    .findOne({ where: { id }, ...(lock ? { lock: { mode: 'pessimistic_write' as const } } : {}) });
  if (!row) throw new HttpProblem('not-found', `There is no set-out ${id}; it may have been removed.`);
  return row;
}

const entryFrom = ({ id, name, version, savedAt, placements }: SetOutRow): SetOutEntry => ({
  id,
  name,
  version,
  savedAt: savedAt.toISOString(),
  placements,
});

const savedElsewhere = ({ name, version, savedAt }: SetOutRow, what: string) =>
  new HttpProblem('conflict', `“${name}” was saved somewhere else in the meantime; ${what}.`, {
    version,
    savedAt: savedAt.toISOString(),
  });
