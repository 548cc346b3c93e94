import type { Context, Middleware } from 'koa';
import type { Me } from '../../contract/session.ts';
import { Problem } from './problem.ts';

/** Who asks; set by the session middleware. */
export const whoAsks = (ctx: Context): Me | null => (ctx.state as { me?: Me }).me ?? null;

/** @throws Problem 401 when nobody is signed in */
export function requirePerson(ctx: Context): Me {
  const me = whoAsks(ctx);
  if (!me) throw new Problem(401, 'not-signed-in', 'Sign in first.');
  return me;
}

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Refuses writes that a page of another origin made a browser send. */
export const sameOriginWrites: Middleware = async (ctx, next) => {
  const origin = ctx.get('Origin');
  if (!READS.has(ctx.method) && origin && hostOf(origin) !== ctx.host) {
    throw new Problem(403, 'foreign-origin', 'This request comes from a page of another site.');
  }
  await next();
};

function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
}
