import { setTimeout as pause } from 'node:timers/promises';
import type { DataSource, EntityManager } from 'typeorm';

const TRIES = 8;
/** What the database itself says may work when it is tried again. */
const TRY_AGAIN = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD']);

/**
 * A transaction that is tried again when the database gave it up for another one's sake. Work takes its locks in
 * one order, yard before piece before blob, so that this is rare.
 */
export async function transact<T>(
  source: DataSource,
  work: (manager: EntityManager) => Promise<T>,
): Promise<T> {
  for (let tried = 1; ; tried++) {
    try {
      return await source.transaction(work);
    } catch (error) {
      if (tried === TRIES || !TRY_AGAIN.has((error as { code?: string }).code ?? '')) throw error;
      await pause(5 * 2 ** tried);
    }
  }
}
