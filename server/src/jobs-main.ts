import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import pino from 'pino';
import { createApp } from './app.js';
import { connect } from './database/connect.js';
import { rotatingLog } from './rotating-log.js';

// A process that works on jobs and listens to nobody: any number of them share one database.
const { values } = parseArgs({
  options: {
    'db-port': { type: 'string' },
    'db-password-file': { type: 'string' },
    log: { type: 'string' },
    data: { type: 'string' },
    deliveries: { type: 'string' },
    threads: { type: 'string' },
  },
});

const log = pino({ level: 'info' }, values.log ? rotatingLog(values.log) : pino.destination(1));
const source = await connect({
  host: '127.0.0.1',
  port: Number(values['db-port']),
  user: 'yard',
  password: readFileSync(values['db-password-file']!, 'utf8').trim(),
  database: 'yard_brace',
});
const app = createApp({
  source,
  log,
  space: { folder: values.data },
  ...(values.deliveries ? { deliveries: values.deliveries } : {}),
  jobThreads: Number(values.threads ?? 1),
});
log.info('working on jobs');
process.send?.({ ready: true });

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  await app.close();
  await source.destroy().catch(() => undefined);
  process.exit(0);
}

process.on('SIGINT', () => undefined);
process.on('SIGTERM', stop);
// The starter went away without a word: do not stay behind as an orphan.
process.on('disconnect', stop);
