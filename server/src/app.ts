import Koa from 'koa';
import compress from 'koa-compress';
import helmet from 'koa-helmet';
import type { Logger } from 'pino';
import type { DataSource } from 'typeorm';
import { DeliveryService } from './delivery/delivery-service.js';
import { apiRouter } from './http/api.js';
import { localOnly, problems, requestLog } from './http/guard.js';
import { HttpProblem } from './http/problems.js';
import { staticFiles } from './http/static-files.js';
import { BlobStore } from './store/blob-store.js';
import { YardStore } from './store/yard-store.js';

export interface AppOptions {
  source: DataSource;
  log: Logger;
  /** folder of the built client; default: API only */
  web?: string;
}

export interface App {
  koa: Koa;
  blobs: BlobStore;
  close(): Promise<void>;
}

/** The whole server but its socket. */
export function createApp({ source, log, web }: AppOptions): App {
  const blobs = new BlobStore(source);
  const yards = new YardStore(source, blobs);
  const deliveries = new DeliveryService(source, yards, blobs);
  const koa = new Koa();
  koa.silent = true;
  koa.on('error', (error: Error & { code?: string }) => {
    if (error.code !== 'ECONNRESET' && error.code !== 'EPIPE' && error.code !== 'ERR_STREAM_PREMATURE_CLOSE')
      log.error({ err: error }, 'response failed');
  });
  koa.use(requestLog(log));
  koa.use(localOnly);
  koa.use(helmet({ contentSecurityPolicy: false, strictTransportSecurity: false }));
  koa.use(problems(log));
  koa.use(compress({ threshold: 2048, br: false, filter: (type) => /text|json|javascript|svg/.test(type) }));
  if (web) koa.use(staticFiles(web));
  const router = apiRouter({ source, yards, blobs, deliveries });
  koa.use(router.routes());
  koa.use((ctx) => {
    throw new HttpProblem('not-found', `There is nothing at ${ctx.path.slice(0, 100)}.`);
  });
  return { koa, blobs, close: () => deliveries.close() };
}
