import type { Context, Middleware } from 'koa';
import type { Platform } from '../platform.ts';
import { findSession } from './queries.ts';
import { SESSION_MS, tokenHash } from './service.ts';

const COOKIE = 'marmot_session';

/** Finds out who asks, from the session cookie. */
export function sessions(platform: Platform): Middleware {
  return async (ctx, next) => {
    const token = sessionToken(ctx);
    if (token && ctx.path.startsWith('/api')) {
      const me = await findSession(platform.pool, tokenHash(token), platform.clock.now());
      if (me) (ctx.state as { me?: typeof me }).me = me;
    }
    await next();
  };
}

export const sessionToken = (ctx: Context): string | undefined => ctx.cookies.get(COOKIE);

/** Sets the cookie, or with null takes it away. */
export function setSessionCookie(ctx: Context, platform: Platform, token: string | null): void {
  ctx.cookies.set(COOKIE, token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: platform.publicUrl.startsWith('https:'),
    maxAge: token ? SESSION_MS : 0,
    overwrite: true,
  });
}
