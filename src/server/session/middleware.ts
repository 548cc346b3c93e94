import type { Context, Middleware } from 'koa';
import { noteActor, noteSession } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { transaction } from '../db/transaction.ts';
import { findSession, noteSeen } from './queries.ts';
import {
  openSession,
  subjectOfSession,
  tokenHash,
  type SignedIn,
  type VouchedBy,
} from './service.ts';
import { DEVICE_MS, SEEN_EVERY_MS, SESSION_MS } from './limits.ts';

const COOKIE = 'marmot_session';
const DEVICE_COOKIE = 'marmot_device';

/** Finds out who asks, from the session cookie. */
export function sessions(platform: Platform): Middleware {
  return async (ctx, next) => {
    const token = sessionToken(ctx);
    if (token && ctx.path.startsWith('/api')) {
      const now = platform.clock.now();
      const found = await findSession(platform.pool, tokenHash(token), now);
      if (found) {
        noteActor(ctx, found.actor);
        if (now - found.seenAt > SEEN_EVERY_MS) seen(platform, token, now);
        noteSession(ctx, subjectOfSession(token));
      }
    }
    await next();
  };
}

/** Notes, behind the request, that a browser is used. */
function seen(platform: Platform, token: string, now: number): void {
  transaction(platform.pool, async (tx) => noteSeen(tx, tokenHash(token), now)).catch(
    (error: unknown) => platform.log.warn({ error }, 'could not note that somebody was seen'),
  );
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
export async function signInAs(
  ctx: Context,
  platform: Platform,
  personId: number,
  by: VouchedBy | null = null,
): Promise<void> {
  const browser = {
    device: deviceToken(ctx),
    session: sessionToken(ctx),
    agent: ctx.get('User-Agent'),
  };
  const opened = await openSession(platform, personId, browser, platform.clock.now(), by);
  setSignedIn(ctx, platform, opened);
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
