import type { Context, Middleware } from 'koa';
import { noteActor, noteSession } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { findSession } from './queries.ts';
import { openSession, subjectOfSession, tokenHash, type SignedIn } from './service.ts';
import { SESSION_MS } from './limits.ts';
import { DEVICE_MS } from './limits.ts';

const COOKIE = 'marmot_session';
const DEVICE_COOKIE = 'marmot_device';

/** Finds out who asks, from the session cookie. */
export function sessions(platform: Platform): Middleware {
  return async (ctx, next) => {
    const token = sessionToken(ctx);
    if (token && ctx.path.startsWith('/api')) {
      const actor = await findSession(platform.pool, tokenHash(token), platform.clock.now());
      if (actor) {
        noteActor(ctx, actor);
        noteSession(ctx, subjectOfSession(token));
      }
    }
    await next();
  };
}

export const sessionToken = (ctx: Context): string | undefined => ctx.cookies.get(COOKIE);

/** By which a browser is known again, also after signing out. */
export const deviceToken = (ctx: Context): string | undefined => ctx.cookies.get(DEVICE_COOKIE);

/** Sets the cookies of somebody who signed in. */
export function setSignedIn(ctx: Context, platform: Platform, { session, device }: SignedIn): void {
  setCookie(ctx, platform, COOKIE, session, SESSION_MS);
  setCookie(ctx, platform, DEVICE_COOKIE, device, DEVICE_MS);
}

/** Signs somebody in who has proved in another way who they are. */
export async function signInAs(ctx: Context, platform: Platform, personId: number): Promise<void> {
  const browser = { device: deviceToken(ctx), session: sessionToken(ctx) };
  setSignedIn(ctx, platform, await openSession(platform, personId, browser, platform.clock.now()));
}

export const setSignedOut = (ctx: Context, platform: Platform): void =>
  setCookie(ctx, platform, COOKIE, null, 0);

function setCookie(
  ctx: Context,
  { publicUrl }: Platform,
  name: string,
  value: string | null,
  maxAge: number,
): void {
  // TLS may end at a proxy: what people's browsers see is what counts.
  const secure = publicUrl.startsWith('https:');
  ctx.cookies.secure = secure;
  ctx.cookies.set(name, value, {
    httpOnly: true,
    sameSite: 'lax',
    secure,
    maxAge,
    overwrite: true,
  });
}
