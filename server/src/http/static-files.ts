import { readdirSync, readFileSync } from 'node:fs';
import { extname, join, relative, sep } from 'node:path';
import type { Middleware } from 'koa';
import { nonceOf } from './security.js';

const TYPES: Record<string, string> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
  '.svg': 'image/svg+xml',
  '.png': 'image/png',
  '.ico': 'image/x-icon',
  '.woff2': 'font/woff2',
  '.woff': 'font/woff',
  '.ttf': 'font/ttf',
  '.eot': 'application/vnd.ms-fontobject',
  '.json': 'application/json',
  '.wasm': 'application/wasm',
  '.md': 'text/markdown; charset=utf-8',
  '.txt': 'text/plain; charset=utf-8',
};

/**
 * The built client from memory: only files found at the start are ever served, so no name from outside
 * reaches the file system. Any other address gets the page, with the nonce of this answer for its styles.
 */
export function staticFiles(folder: string): Middleware {
  const files = new Map<string, { type: string; content: Buffer }>();
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile()) continue;
    const path = join(entry.parentPath, entry.name);
    files.set(`/${relative(folder, path).split(sep).join('/')}`, {
      type: TYPES[extname(path)] ?? 'application/octet-stream',
      content: readFileSync(path),
    });
  }
  const page = files.get('/index.html')?.content.toString('utf8') ?? '';
  files.delete('/index.html');

  return async (ctx, next) => {
    if (ctx.path.startsWith('/api/') || (ctx.method !== 'GET' && ctx.method !== 'HEAD')) return next();
    const file = files.get(ctx.path);
    ctx.type = file?.type ?? TYPES['.html']!;
    if (file) {
      ctx.set(
        'Cache-Control',
        /-[A-Z0-9]{8}\./.test(ctx.path) ? 'public, max-age=31536000, immutable' : 'no-cache',
      );
      ctx.body = file.content;
      return;
    }
    if (extname(ctx.path)) return next();
    ctx.set('Cache-Control', 'no-store');
    ctx.body = page.replaceAll('NONCE', nonceOf(ctx.res));
  };
}
