import { randomUUID } from 'node:crypto';
import type { Context, Middleware } from 'koa';

const GIVEN = /^[\w-]{8,64}$/;

/** By which a request is found in the log: as its proxy named it, or by a name of its own. */
export const requestId: Middleware = (ctx, next) => {
  const given = ctx.get('X-Request-Id');
  const id = GIVEN.test(given) ? given : randomUUID();
  (ctx.state as { requestId: string }).requestId = id;
  ctx.set('X-Request-Id', id);
  return next();
};

export const requestIdOf = (ctx: Context): string => (ctx.state as { requestId: string }).requestId;
