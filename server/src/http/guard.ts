import type { Middleware } from 'koa';
import type { Logger } from 'pino';
import { EntityNotFoundError } from 'typeorm';
import { isDatabaseAway, isDiskFull } from '../database/connect.js';
import { asPerson, personFrom } from './person.js';
import { HttpProblem } from './problems.js';

/** Behind a proxy that signs people in: the address that they know, and the header in which it names them. */
export interface ProxyDoor {
  /** "https://yard.example" */
  origin: string;
  /** in lower case */
  personHeader: string;
}

/** Only names of this very machine may ask: a page from elsewhere that resolves to us is turned away. */
export const localOnly: Middleware = async (ctx, next) => {
  const { origin } = ctx.headers;
  if (!isLocal(ctx.host) || (origin !== undefined && !isOwnOrigin(origin, ctx.host))) {
    refuse(ctx, 'Yard Brace answers only to this machine under its own address.');
    return;
  }
  await next();
};

/** Only what comes through the proxy, for a person that it names: everything is done in that name. */
export const behindProxy = ({ origin, personHeader }: ProxyDoor): Middleware => {
  const { host } = new URL(origin);
  return async (ctx, next) => {
    const person = personFrom(ctx.headers[personHeader]);
    if (ctx.host !== host || (ctx.headers.origin !== undefined && ctx.headers.origin !== origin))
      refuse(ctx, `Yard Brace answers only under ${origin}.`);
    else if (person === null)
      refuse(ctx, `Nobody is signed in: the proxy has to name who asks in the header ${personHeader}.`);
    else await asPerson(person, next);
  };
};

function refuse(ctx: Parameters<Middleware>[0], message: string): void {
  ctx.status = 403;
  ctx.body = { code: 'refused', message };
}

const isLocal = (host: string) => /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/.test(host);

function isOwnOrigin(origin: string, host: string): boolean {
  const match = /^http:\/\/(.+)$/.exec(origin);
  const port = (name: string) => /:(\d+)$/.exec(name)?.[1] ?? '80';
  return !!match && isLocal(match[1]!) && port(match[1]!) === port(host);
}

/** As web servers write it into their logs; nobody receives it. */
const CLIENT_WENT_AWAY = 499;
/** How long a refused upload may go on. */
const PATIENCE_MS = 10_000;

/** Turns everything thrown into a problem the client can show, and logs what was our fault. */
export const problems =
  (log: Logger): Middleware =>
  async (ctx, next) => {
    try {
      await next();
    } catch (error) {
      // The client went away: there is nobody to answer, and no fault of ours to log.
      if (ctx.req.errored) {
        ctx.status = CLIENT_WENT_AWAY;
        return;
      }
      const problem = toProblem(error);
      if (problem.status >= 500)
        log.error({ err: error, method: ctx.method, path: ctx.path }, 'request failed');
      ctx.status = problem.status;
      ctx.body = { code: problem.code, message: problem.message, ...problem.more };
      // What was not read of a refused upload would otherwise be taken for the next request. It is let run out
      // for a while, so that a client that only listens when it has sent all hears the answer.
      if (!ctx.req.complete) {
        ctx.set('Connection', 'close');
        ctx.req.resume();
        setTimeout(() => ctx.req.complete || ctx.req.destroy(), PATIENCE_MS).unref();
      }
    }
  };

function toProblem(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (isDiskFull(error))
    return new HttpProblem(
      'full',
      'The disk of the database is full; make room there. Nothing is lost meanwhile.',
    );
  if (error instanceof EntityNotFoundError)
    return new HttpProblem('not-found', 'It was removed in the meantime.');
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
