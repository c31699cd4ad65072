import { randomBytes } from 'node:crypto';
import type { ServerResponse } from 'node:http';
import helmet from 'koa-helmet';

const nonces = new WeakMap<object, string>();

/** What styles of the page that is answered have to carry; a fresh one each answer. */
export function nonceOf(response: ServerResponse): string {
  const known = nonces.get(response);
  if (known) return known;
  const made = randomBytes(16).toString('base64');
  nonces.set(response, made);
  return made;
}

const SELF = "'self'";

/**
 * The script of a web worker, which goes by the policy of its own answer. The library that unwraps UVs there makes the
 * functions that call into its WebAssembly from text of its own; the page itself may not.
 */
const isWorker = (url: string | undefined): boolean => /^\/worker-\w+\.js$/.test(url ?? '');

/** Security headers of every answer: nothing from outside, styles only from our files or with the page's nonce. */
export const security = helmet({
  strictTransportSecurity: false,
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: [SELF],
      scriptSrc: [SELF, "'wasm-unsafe-eval'", (request) => (isWorker(request.url) ? "'unsafe-eval'" : SELF)],
      styleSrc: [SELF, (_request, response) => `'nonce-${nonceOf(response as ServerResponse)}'`],
      styleSrcAttr: ["'unsafe-inline'"],
      imgSrc: [SELF, 'blob:', 'data:'],
      fontSrc: [SELF],
      connectSrc: [SELF, 'blob:'],
      workerSrc: [SELF],
      objectSrc: ["'none'"],
      baseUri: [SELF],
      formAction: [SELF],
      frameAncestors: ["'none'"],
    },
  },
});
