import 'reflect-metadata';
import { DataSource } from 'typeorm';
import {
  Bases,
  Blobs,
  Deliveries,
  DeliveryFiles,
  Edits,
  JobFiles,
  JobItems,
  Jobs,
  Pieces,
  Revisions,
  Rules,
  SetOutEdits,
  SetOuts,
  Yards,
} from './entities.js';
import { FirstHouse1764000000000 } from './migrations/1-first-house.js';
import { Agents1764100000000 } from './migrations/2-agents.js';
import { ShelfFacts1764200000000 } from './migrations/3-shelf-facts.js';
import { HistoryEdits1764300000000 } from './migrations/4-history-edits.js';
import { JudgedSets1764400000000 } from './migrations/5-judged-sets.js';
import { DeliveredSets1764500000000 } from './migrations/6-delivered-sets.js';
import { YardRules1764600000000 } from './migrations/7-yard-rules.js';
import { SetOuts1764700000000 } from './migrations/8-set-outs.js';
import { Jobs1764800000000 } from './migrations/9-jobs.js';
import { BinAndLongShelves1764900000000 } from './migrations/10-bin-and-long-shelves.js';
import { Persons1765000000000 } from './migrations/11-persons.js';
import { ImportJobs1765200000000 } from './migrations/12-import-jobs.js';

export interface DatabaseAddress {
  host: string;
  port: number;
  user: string;
  password: string;
  database: string;
}

/** Connect and bring the schema up to date. Only migrations ever change it. */
export async function connect({ user, ...address }: DatabaseAddress): Promise<DataSource> {
  const source = new DataSource({
    type: 'mariadb',
    ...address,
    username: user,
    charset: 'utf8mb4',
    timezone: 'Z',
    entities: [
      Yards,
      Rules,
      Pieces,
      Bases,
      Edits,
      Revisions,
      Blobs,
      Deliveries,
      DeliveryFiles,
      SetOuts,
      SetOutEdits,
      Jobs,
      JobItems,
      JobFiles,
    ],
    migrations: [
      FirstHouse1764000000000,
      Agents1764100000000,
      ShelfFacts1764200000000,
      HistoryEdits1764300000000,
      JudgedSets1764400000000,
      DeliveredSets1764500000000,
      YardRules1764600000000,
      SetOuts1764700000000,
      Jobs1764800000000,
      BinAndLongShelves1764900000000,
      Persons1765000000000,
      ImportJobs1765200000000,
    ],
    migrationsRun: true,
    synchronize: false,
    connectTimeout: 4000,
    // The server marks columns that are checked to be JSON; they are parsed here, with their schema.
    extra: { connectionLimit: 8, jsonStrings: true },
  });
  await source.initialize();
  const applied: { name: string }[] = await source.query('SELECT name FROM migrations');
  const known = new Set(source.migrations.map((each) => each.name ?? each.constructor.name));
  if (applied.every(({ name }) => known.has(name))) return source;
  await source.destroy();
  throw new NewerDataError();
}

/** What is stored was written by a version after this one. */
export class NewerDataError extends Error {
  override readonly name = 'NewerDataError';

  constructor() {
    super(
      'the data were written by a newer version of Yard Brace; bring this one up to date, nothing was changed',
    );
  }
}

const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  'PROTOCOL_CONNECTION_LOST',
  'PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR',
  'PROTOCOL_ENQUEUE_AFTER_QUIT',
  'ER_SERVER_SHUTDOWN',
  'ER_NORMAL_SHUTDOWN',
  'ER_CONNECTION_KILLED',
  'ER_CON_COUNT_ERROR',
  'ECONNABORTED',
]);

const FULL = new Set([
  'ER_RECORD_FILE_FULL',
  'ER_DISK_FULL',
  'ER_ERROR_ON_WRITE',
  'ER_TEMP_FILE_WRITE_FAILURE',
]);

/** True when an error means that the database has no room left to write to. */
export function isDiskFull(error: unknown): boolean {
  return (
    error instanceof Error &&
    (FULL.has((error as { code?: string }).code ?? '') ||
      /No space left on device|errno: 28\b/i.test(error.message))
  );
}

/** True when an error means that the database cannot be reached, not that a query was wrong. */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code, driverError } = error as Error & { code?: string; driverError?: unknown };
  return (
    (!!code && AWAY.has(code)) ||
    /closed state|Connection lost/i.test(error.message) ||
    (driverError !== error && isDatabaseAway(driverError))
  );
}
