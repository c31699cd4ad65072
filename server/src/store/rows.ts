import type { EntityManager } from 'typeorm';
import { type PieceRow, Pieces, Yards, type YardRow } from '../database/entities.js';
import { HttpProblem } from '../http/problems.js';

const locked = (lock: boolean) => (lock ? { lock: { mode: 'pessimistic_write' as const } } : {});

/** @throws HttpProblem when there is none */
export async function yardRow(manager: EntityManager, id: number, lock = false): Promise<YardRow> {
  const row = await manager.getRepository(Yards).findOne({ where: { id }, ...locked(lock) });
  if (!row) throw new HttpProblem('not-found', `There is no yard ${id}; it may have been removed.`);
  return row;
}

/** @throws HttpProblem when there is none */
export async function pieceRow(manager: EntityManager, id: number, lock = false): Promise<PieceRow> {
  const row = await manager.getRepository(Pieces).findOne({ where: { id }, ...locked(lock) });
  if (!row) throw new HttpProblem('not-found', `There is no piece ${id}; it may have been removed.`);
  return row;
}
