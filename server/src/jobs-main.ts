import { parseArgs } from 'node:util';
import { createApp } from './app.js';
import { beginProcess, PROCESS_OPTIONS } from './begin-process.js';

// A process that works on jobs and listens to nobody: any number of them share one database.
const { values } = parseArgs({
  options: {
    ...PROCESS_OPTIONS,
    threads: { type: 'string' },
  },
});

const { log, source, space } = await beginProcess(values);
const app = createApp({
  source,
  log,
  space,
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
