import type { Context, Middleware } from 'koa';
import { Buckets } from './buckets.js';
import { HttpProblem } from './problems.js';

type Who = (ctx: Context) => string;

/** Requests that one may make at once, and how many come back a second. */
const BURST = 1200;
const PER_SECOND = 200;
/** Bytes that one may send at once, and within an hour. */
const BURST_BYTES = 32 * 2 ** 30;
const BYTES_PER_SECOND = BURST_BYTES / 3600;

/** No more requests of one person, or of one address, than a page ever makes. */
export function requestRate(whoIs: Who, now?: () => number): Middleware {
  const requests = new Buckets(BURST, PER_SECOND, now);
  return async (ctx, next) => {
    const who = whoIs(ctx);
    const refused = requests.of(who) < 1;
    requests.take(who, 1);
    if (refused)
      throw new HttpProblem('unavailable', 'Too many requests at once; wait a few seconds and try again.');
    await next();
  };
}

/** No more bytes of one person, or of one address, than an import of a whole studio; what is there stays to be read. */
export function uploadRate(whoIs: Who, now?: () => number): Middleware {
  const bytes = new Buckets(BURST_BYTES, BYTES_PER_SECOND, now);
  return async (ctx, next) => {
    if (ctx.method === 'GET' || ctx.method === 'HEAD') return next();
    const who = whoIs(ctx);
    if (bytes.of(who) <= 0)
      throw new HttpProblem(
        'unavailable',
        `You have sent more than ${BURST_BYTES / 2 ** 30} GB within an hour; go on in some minutes.`,
      );
    const { socket } = ctx.req;
    const before = socket.bytesRead;
    try {
      await next();
    } finally {
      bytes.take(who, socket.bytesRead - before);
    }
  };
}
