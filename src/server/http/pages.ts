import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { Middleware } from 'koa';
import send from 'koa-send';
import { styleNonce } from './headers.ts';

const YEAR_MS = 365 * 24 * 3_600_000;

/**
 * Serves the built interface: files with a hash in their name for good, and for every other address
 * the one page, with this response's style nonce in it.
 */
export function pages(root: string): Middleware {
  let page: string | undefined;
  return async (ctx, next) => {
    if (ctx.method !== 'GET' && ctx.method !== 'HEAD') return next();
    if (ctx.path.startsWith('/api')) return next();
    if (ctx.path.startsWith('/assets/')) {
      await send(ctx, ctx.path, { root, maxage: YEAR_MS, immutable: true });
      return;
    }
    if (/\.(svg|png|ico|txt)$/.test(ctx.path)) {
      await send(ctx, ctx.path, { root, maxage: 3_600_000 });
      return;
    }
    page ??= await readFile(path.join(root, 'index.html'), 'utf8');
    ctx.type = 'html';
    ctx.set('Cache-Control', 'no-store');
    ctx.body = page.replaceAll('__STYLE_NONCE__', styleNonce(ctx.state));
  };
}
