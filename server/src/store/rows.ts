import { type EntityManager, IsNull } from 'typeorm';
import { type PieceRow, Pieces, Yards, type YardRow } from '../database/entities.js';
import { HttpProblem } from '../http/problems.js';

const locked = (lock: boolean) => (lock ? { lock: { mode: 'pessimistic_write' as const } } : {});

/** @throws HttpProblem when there is none, or it lies in the bin */
export async function yardRow(manager: EntityManager, id: number, lock = false): Promise<YardRow> {
  const row = await manager
    .getRepository(Yards)
    .findOne({ where: { id, removedAt: IsNull() }, ...locked(lock) });
  if (!row) throw new HttpProblem('not-found', `There is no yard ${id}; it may have been removed.`);
  return row;
}

/** @throws HttpProblem when there is none, or it lies in the bin */
export async function pieceRow(manager: EntityManager, id: number, lock = false): Promise<PieceRow> {
  const row = await manager
    .getRepository(Pieces)
    .findOne({ where: { id, removedAt: IsNull() }, ...locked(lock) });
  if (!row) throw new HttpProblem('not-found', `There is no piece ${id}; it may have been removed.`);
  return row;
}

/**
 * Changes a piece, and counts that it was changed: shelves that are open ask for what was changed since.
 *
 * @param version changed only while it is at that. Default: whatever it is at
 */
export async function putPiece(
  manager: EntityManager,
  id: number,
  change: Partial<PieceRow>,
  version?: number,
): Promise<void> {
  await manager
    .getRepository(Pieces)
    .update(
      { id, ...(version === undefined ? {} : { version }) },
      { ...change, changed: () => 'NEXT VALUE FOR piece_change' },
    );
}
