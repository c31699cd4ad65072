import { readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import pino from 'pino';
import type { DataSource } from 'typeorm';
import { type App, createApp } from '../app.js';
import { connect } from '../database/connect.js';
import type { ProxyDoor } from '../http/guard.js';
import type { DiskSpaceOptions } from '../store/disk-space.js';

/** The whole server on a real database that the test command started and throws away. */
export interface TestServer {
  address: string;
  port: number;
  source: DataSource;
  app: App;
  /** messages that were logged as errors */
  errors: string[];
  close(): Promise<void>;
}

export async function startTestServer(
  space?: DiskSpaceOptions,
  deliveries?: string,
  jobThreads = 0,
  proxy?: ProxyDoor,
): Promise<TestServer> {
  const port = Number(process.env['TEST_DATABASE_PORT']);
  if (!port) throw new Error('Server specs need a database: run them with npm run test:server.');
  const password = readFileSync(process.env['TEST_DATABASE_PASSWORD_FILE']!, 'utf8').trim();
  const source = await connect({ host: '127.0.0.1', port, user: 'yard', password, database: 'yard_brace' });
  const errors: string[] = [];
  const log = pino({ level: 'error' }, { write: (line: string) => void errors.push(line) });
  const app = createApp({
    source,
    log,
    ...(space ? { space } : {}),
    ...(deliveries ? { deliveries } : {}),
    jobThreads,
    ...(proxy ? { proxy } : {}),
  });
  const server: Server = createServer(app.koa.callback());
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = server.address() as AddressInfo;
  return {
    address: `http://127.0.0.1:${address.port}`,
    port: address.port,
    source,
    app,
    errors,
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await app.close();
      await source.destroy();
    },
  };
}
