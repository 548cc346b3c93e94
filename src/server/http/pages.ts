import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Context, Middleware } from 'koa';
import send from 'koa-send';
import { styleNonce } from './headers.ts';

const YEAR_MS = 365 * 24 * 3_600_000;
const HOUR_MS = 3_600_000;

/**
 * Serves the built interface: files with a hash in their name for good, and for the addresses of its
 * views the one page, with this response's style nonce in it. Whatever is neither is not found, and
 * a browser is told so on the same page.
 * @param isView whether an address is that of a view
 */
export function pages(root: string, isView: (path: string) => boolean): Middleware {
  let page: string | undefined;
  return async (ctx, next) => {
    if (ctx.method !== 'GET' && ctx.method !== 'HEAD') return next();
    if (ctx.path.startsWith('/api')) return next();
    if (ctx.path.startsWith('/assets/') || /\.[a-z0-9]+$/i.test(ctx.path)) {
      await sendFile(ctx, root);
      return;
    }
    page ??= await readFile(path.join(root, 'index.html'), 'utf8');
    ctx.status = isView(ctx.path) ? 200 : 404;
    ctx.type = 'html';
    ctx.set('Cache-Control', 'no-store');
    ctx.body = page.replaceAll('__STYLE_NONCE__', styleNonce(ctx.state));
  };
}

async function sendFile(ctx: Context, root: string) {
  const hashed = ctx.path.startsWith('/assets/');
  const name = fileName(ctx.path, root);
  const found = name !== null && (await stat(name).catch(() => null))?.isFile();
  if (!found) {
    ctx.status = 404;
    ctx.type = 'text/plain';
    ctx.set('Cache-Control', 'no-store');
    ctx.body = 'There is no such file.';
    return;
  }
  await send(ctx, ctx.path, { root, maxage: hashed ? YEAR_MS : HOUR_MS, immutable: hashed });
}

/** The file that an address means; null when it lies outside the folder or is no address. */
function fileName(address: string, root: string): string | null {
  try {
    const name = path.join(root, decodeURIComponent(address));
    const inside = name.startsWith(root + path.sep) && !name.includes('\0');
    return inside && !/[\\/]\./.test(decodeURIComponent(address)) ? name : null;
  } catch {
    return null;
  }
}
