import Router from '@koa/router';
import { signInRequest, type SessionState } from '../../contract/session.ts';
import { whoAsks } from '../http/access.ts';
import { readBody } from '../http/validate.ts';
import type { Platform } from '../platform.ts';
import { preferencesOf } from '../preferences/service.ts';
import { sessionToken, setSessionCookie } from './middleware.ts';
import { deleteSession, demonstration, organizationName } from './queries.ts';
import { SignIn, tokenHash } from './service.ts';

/** /api/session: who is signed in, signing in and signing out. */
export function sessionRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/session' });
  const signIn = new SignIn(platform);

  router.get('/', async (ctx) => {
    const me = whoAsks(ctx);
    const state: SessionState = {
      me,
      preferences: me && (await preferencesOf(platform.pool, me.id)),
      organization: await organizationName(platform.pool),
      now: platform.clock.now(),
      clockFixed: platform.clock.fixed,
      demonstration: me ? null : await demonstration(platform.pool),
    };
    ctx.set('Cache-Control', 'no-store');
    ctx.body = state;
  });

  router.post('/', async (ctx) => {
    const request = readBody(signInRequest, ctx);
    const token = await signIn.signIn(request, ctx.ip);
    setSessionCookie(ctx, platform, token);
    ctx.status = 204;
  });

  router.delete('/', async (ctx) => {
    const token = sessionToken(ctx);
    if (token) await deleteSession(platform.pool, tokenHash(token));
    setSessionCookie(ctx, platform, null);
    ctx.status = 204;
  });

  return router;
}
