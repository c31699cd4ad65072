import Koa from 'koa';
import compress from 'koa-compress';
import type { Logger } from 'pino';
import type { DataSource } from 'typeorm';
import { DeliveriesFolder } from './delivery/deliveries-folder.js';
import { DeliveryService } from './delivery/delivery-service.js';
import { apiRouter } from './http/api.js';
import { behindProxy, localOnly, problems, type ProxyDoor, requestLog } from './http/guard.js';
import { personNow } from './http/person.js';
import { HttpProblem } from './http/problems.js';
import { requestRate, uploadRate } from './http/request-rate.js';
import { security } from './http/security.js';
import { staticFiles } from './http/static-files.js';
import { Judges } from './judge/judges.js';
import { JobRunner } from './jobs/job-runner.js';
import { JobStore } from './jobs/job-store.js';
import { BlobStore } from './store/blob-store.js';
import { DiskSpace, type DiskSpaceOptions } from './store/disk-space.js';
import { PieceStore } from './store/piece-store.js';
import { RulesStore } from './store/rules-store.js';
import { SetOutStore } from './store/set-out-store.js';
import { YardStore } from './store/yard-store.js';

/** Nobody is left to answer, and it was no fault of ours. */
const CLIENT_BROKE_OFF = /^(ECONNRESET|EPIPE|ERR_STREAM_PREMATURE_CLOSE|HPE_.*)$/;

export interface AppOptions {
  source: DataSource;
  log: Logger;
  /** folder of the built client; default: API only */
  web?: string | undefined;
  /** where the database keeps its files, and how much is free there */
  space?: DiskSpaceOptions;
  /** folder that deliveries are put into as well */
  deliveries?: string;
  /** behind a proxy that signs people in. Default: only this machine is answered */
  proxy?: ProxyDoor;
  /** pieces of jobs that this process works on at a time. Default: none */
  jobThreads?: number;
}

export interface App {
  koa: Koa;
  blobs: BlobStore;
  pieces: PieceStore;
  close(): Promise<void>;
}

/** The whole server but its socket. */
export function createApp({
  source,
  log,
  web,
  space: spaceOptions,
  deliveries: deliveriesFolder,
  proxy,
  jobThreads = 0,
}: AppOptions): App {
  const space = new DiskSpace(spaceOptions);
  const blobs = new BlobStore(source, space);
  const judges = new Judges();
  const yards = new YardStore(source, space);
  const pieces = new PieceStore({ source, blobs, judges, space });
  const rules = new RulesStore(source, pieces);
  const setOuts = new SetOutStore(source, space);
  const folder = deliveriesFolder === undefined ? null : new DeliveriesFolder(deliveriesFolder);
  const deliveries = new DeliveryService(source, pieces, blobs, setOuts, folder);
  const jobs = new JobStore(source, pieces, blobs, space);
  const runner = jobThreads
    ? new JobRunner({ source, pieces, blobs, deliveries, log, threads: jobThreads })
    : null;
  const koa = new Koa();
  koa.silent = true;
  koa.on('error', (error: Error & { code?: string }) => {
    if (!CLIENT_BROKE_OFF.test(error.code ?? '')) log.error({ err: error }, 'response failed');
  });
  koa.use(requestLog(log));
  koa.use(proxy ? behindProxy(proxy) : localOnly);
  koa.use(security);
  koa.use(problems(log));
  const whoIs = (ctx: Koa.Context) => personNow() ?? ctx.ip;
  koa.use(requestRate(whoIs));
  koa.use(uploadRate(whoIs));
  koa.use(compress({ threshold: 2048, br: false, filter: (type) => /text|json|javascript|svg/.test(type) }));
  if (web) koa.use(staticFiles(web));
  const router = apiRouter({ source, yards, rules, pieces, blobs, deliveries, setOuts, jobs, space });
  koa.use(router.routes());
  koa.use((ctx) => {
    throw new HttpProblem('not-found', `There is nothing at ${ctx.path.slice(0, 100)}.`);
  });
  return {
    koa,
    blobs,
    pieces,
    close: async () => {
      await runner?.close();
      await deliveries.close();
      await judges.close();
    },
  };
}
