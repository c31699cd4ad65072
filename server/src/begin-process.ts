import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import pino, { type Logger } from 'pino';
import type { DataSource } from 'typeorm';
import { connect } from './database/connect.js';
import { rotatingLog } from './rotating-log.js';
import type { DiskSpaceOptions } from './store/disk-space.js';

/** Options that every process of the server is started with. */
export const PROCESS_OPTIONS = {
  'db-port': { type: 'string' },
  'db-password-file': { type: 'string' },
  log: { type: 'string' },
  data: { type: 'string' },
  deliveries: { type: 'string' },
} as const;

/** The log of a process, its database and where that has its disk; whoever started it is told why it cannot begin. */
export async function beginProcess(
  values: Partial<Record<keyof typeof PROCESS_OPTIONS, string>>,
): Promise<{ log: Logger; source: DataSource; space: DiskSpaceOptions }> {
  const log = pino({ level: 'info' }, values.log ? rotatingLog(values.log) : pino.destination(1));
  try {
    const source = await connect({
      host: '127.0.0.1',
      port: Number(values['db-port']),
      user: 'yard',
      password: readFileSync(values['db-password-file']!, 'utf8').trim(),
      database: 'yard_brace',
    });
    return { log, source, space: { folder: values.data && join(values.data, 'database') } };
  } catch (error) {
    log.error({ err: error }, 'could not begin');
    process.send?.({ failed: (error as Error).message });
    return process.exit(1);
  }
}
