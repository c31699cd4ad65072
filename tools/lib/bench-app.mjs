import { readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import { Database } from './database.mjs';
import { inHouse } from './house.mjs';
import { temporaryFolder } from './temporary.mjs';

export const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1];

export async function timed(work) {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** The server in this process, on a database of its own that goes with it. */
export async function benchApp() {
  const folder = temporaryFolder('bench');
  const database = new Database(folder);
  await database.start();
  const { connect } = await import(inHouse('server/dist/database/connect.js'));
  const { createApp } = await import(inHouse('server/dist/app.js'));
  const { default: pino } = await import('pino');
  const password = readFileSync(database.passwordFile, 'utf8').trim();
  const source = await connect({
    host: '127.0.0.1',
    port: database.port,
    user: 'yard',
    password,
    database: 'yard_brace',
  });
  const app = createApp({ source, log: pino({ level: 'silent' }) });
  const server = createServer(app.koa.callback());
  await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${server.address().port}`;
  return {
    address,
    database,
    folder,
    async ask(method, path, body) {
      const raw = body instanceof Uint8Array;
      const response = await fetch(address + path, {
        method,
        body: raw || body === undefined ? body : JSON.stringify(body),
      });
      const text = await response.text();
      if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${text.slice(0, 200)}`);
      return { json: text ? JSON.parse(text) : null, bytes: text.length };
    },
    async close() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await app.close();
      await source.destroy();
      await database.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
