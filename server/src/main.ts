import { createServer } from 'node:http';
import { parseArgs } from 'node:util';
import { createApp } from './app.js';
import { beginProcess, PROCESS_OPTIONS } from './begin-process.js';

const { values } = parseArgs({
  options: {
    ...PROCESS_OPTIONS,
    port: { type: 'string' },
    web: { type: 'string' },
    listen: { type: 'string' },
    origin: { type: 'string' },
    'person-header': { type: 'string' },
  },
});

const { log, source, space } = await beginProcess(values);
const app = createApp({
  source,
  log,
  web: values.web,
  space,
  ...(values.deliveries ? { deliveries: values.deliveries } : {}),
  ...(values.origin
    ? { proxy: { origin: values.origin, personHeader: values['person-header']!.toLowerCase() } }
    : {}),
});
const sweep = () => void app.blobs.sweep().catch((error) => log.warn({ err: error }, 'sweep failed'));
let stopping = false;
let sweeping: ReturnType<typeof setInterval> | undefined;

const answer = app.koa.callback();
const server = createServer((request, response) => {
  // Whoever asks again and again on one connection would hold up the end.
  if (stopping) response.setHeader('Connection', 'close');
  void answer(request, response);
});
server.requestTimeout = 0;
server.on('error', (error) => {
  process.send?.({ failed: error.message });
  process.exit(1);
});
server.listen(Number(values.port), values.origin ? values.listen! : '127.0.0.1', () => {
  log.info({ port: values.port }, 'listening');
  // Only the process that has the port sweeps: one that finds it taken goes without having touched anything.
  sweep();
  sweeping = setInterval(sweep, 3600 * 1000);
  // A yard of thousands is worked out anew while it is looked at.
  void app.pieces.completeFacts().catch((error) => log.warn({ err: error }, 'facts were not completed'));
  process.send?.({ ready: true });
});

/** Finish what is being answered, then go. */
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  clearInterval(sweeping);
  const closed = new Promise((resolve) => server.close(resolve));
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 5000).unref();
  await closed;
  await app.close();
  await source.destroy().catch(() => undefined);
  log.info('stopped');
  process.exit(0);
}

process.on('SIGINT', () => undefined);
process.on('SIGTERM', stop);
// The starter went away without a word: do not stay behind as an orphan on its port.
process.on('disconnect', stop);
