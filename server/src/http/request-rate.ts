import type { Middleware } from 'koa';
import { HttpProblem } from './problems.js';

/** Requests that one may make at once, and how many come back a second. */
const BURST = 1200;
const PER_SECOND = 200;
/** Whoever was not heard of for so long begins anew. */
const FORGOTTEN_AFTER_MS = 60_000;

/** No more requests of one person, or of one address, than a page ever makes. */
export function requestRate(
  whoIs: (ctx: Parameters<Middleware>[0]) => string,
  now: () => number = () => performance.now(),
): Middleware {
  const left = new Map<string, { tokens: number; at: number }>();
  let swept = now();
  return async (ctx, next) => {
    const [who, at] = [whoIs(ctx), now()];
    const before = left.get(who) ?? { tokens: BURST, at };
    const tokens = Math.min(BURST, before.tokens + ((at - before.at) / 1000) * PER_SECOND) - 1;
    left.set(who, { tokens: Math.max(tokens, 0), at });
    if (at - swept > FORGOTTEN_AFTER_MS) {
      swept = at;
      for (const [each, { at: last }] of left) if (at - last > FORGOTTEN_AFTER_MS) left.delete(each);
    }
    if (tokens < 0)
      throw new HttpProblem('unavailable', 'Too many requests at once; wait a few seconds and try again.');
    await next();
  };
}
