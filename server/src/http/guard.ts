import type { Middleware } from 'koa';
import type { Logger } from 'pino';
import { isDatabaseAway } from '../database/connect.js';
import { HttpProblem } from './problems.js';

/** Only names of this very machine may ask: a page from elsewhere that resolves to us is turned away. */
export const localOnly: Middleware = async (ctx, next) => {
  const { origin } = ctx.headers;
  if (!isLocal(ctx.host) || (origin !== undefined && !isOwnOrigin(origin, ctx.host))) {
    ctx.status = 403;
    ctx.body = { code: 'refused', message: 'Yard Brace answers only to this machine under its own address.' };
    return;
  }
  await next();
};

const isLocal = (host: string) => /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/.test(host);

function isOwnOrigin(origin: string, host: string): boolean {
  const match = /^http:\/\/(.+)$/.exec(origin);
  const port = (name: string) => /:(\d+)$/.exec(name)?.[1] ?? '80';
  return !!match && isLocal(match[1]!) && port(match[1]!) === port(host);
}

/** Turns everything thrown into a problem the client can show, and logs what was our fault. */
export const problems =
  (log: Logger): Middleware =>
  async (ctx, next) => {
    try {
      await next();
    } catch (error) {
      if (ctx.req.destroyed && ctx.req.errored) return;
      const problem = toProblem(error);
      if (problem.status >= 500)
        log.error({ err: error, method: ctx.method, path: ctx.path }, 'request failed');
      ctx.status = problem.status;
      ctx.body = { code: problem.code, message: problem.message, ...problem.more };
      // What was not read of a refused upload would otherwise be taken for the next request.
      if (!ctx.req.complete) ctx.set('Connection', 'close');
    }
  };

function toProblem(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (isDatabaseAway(error))
    return new HttpProblem('unavailable', 'The database cannot be reached just now.');
  return new HttpProblem('failed', 'Something went wrong on the server; it is written in its log.');
}

export const requestLog =
  (log: Logger): Middleware =>
  async (ctx, next) => {
    const start = performance.now();
    await next();
    log.info(
      { method: ctx.method, path: ctx.path, status: ctx.status, ms: Math.round(performance.now() - start) },
      'request',
    );
  };
