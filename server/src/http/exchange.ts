import type { Context } from 'koa';
import type * as z from 'zod';
import { HttpProblem } from './problems.js';

const LARGEST_JSON_BYTES = 12 * 1024 * 1024;

/** The request's JSON, checked. @throws HttpProblem with one sentence that names the place */
export async function receive<T extends z.ZodType>(ctx: Context, schema: T): Promise<z.infer<T>> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of ctx.req) {
    bytes += chunk.length;
    if (bytes > LARGEST_JSON_BYTES)
      throw new HttpProblem(
        'too-large',
        `The request is larger than ${LARGEST_JSON_BYTES / 2 ** 20} MB; remove shapes or undo steps.`,
      );
    chunks.push(chunk);
  }
  let value: unknown;
  try {
    value = JSON.parse(Buffer.concat(chunks).toString('utf8'));
  } catch {
    throw new HttpProblem('bad-request', 'The request is no JSON; send it again.');
  }
  return checked(schema, value);
}

/** A number or name from the address, checked. */
export function checked<T extends z.ZodType>(schema: T, value: unknown): z.infer<T> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  const place = issue.path.join('.');
  throw new HttpProblem('bad-request', place ? `${place}: ${issue.message}` : issue.message);
}

/** Answer with a value that keeps the contract; a value that does not is a fault of ours. */
export function answer<T extends z.ZodType>(ctx: Context, schema: T, value: z.input<T>, status = 200): void {
  ctx.status = status;
  ctx.body = schema.parse(value);
}
