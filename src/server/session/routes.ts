import Router from '@koa/router';
import { signInRequest, type SessionState } from '../../contract/session.ts';
import { transaction } from '../db/transaction.ts';
import { readBody, whoAsks } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { preferencesOf } from '../preferences/index.ts';
import { deviceToken, sessionToken, setSignedIn, setSignedOut } from './middleware.ts';
import { demonstration, isDemonstration, nobodyThere, organizationName } from './queries.ts';
import { endSession, SignIn } from './service.ts';

/** /api/session: who is signed in, signing in and signing out. */
export function sessionRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/session' });
  const signIn = new SignIn(platform);

  router.get('/', async (ctx) => {
    const me = whoAsks(ctx)?.me ?? null;
    const state: SessionState = {
      me,
      preferences: me && (await preferencesOf(platform.pool, me.id)),
      organization: await organizationName(platform.pool),
      now: platform.clock.now(),
      clockFixed: platform.clock.fixed,
      publicDemonstration: platform.demonstrationIsPublic && (await isDemonstration(platform.pool)),
      demonstration: me ? null : await demonstration(platform.pool),
      needsSetup: !me && (await nobodyThere(platform.pool)),
    };
    ctx.body = state;
  });

  router.post('/', async (ctx) => {
    const request = readBody(signInRequest, ctx);
    setSignedIn(
      ctx,
      platform,
      await signIn.signIn(request, {
        from: ctx.ip,
        device: deviceToken(ctx),
        session: sessionToken(ctx),
      }),
    );
    ctx.status = 204;
  });

  router.delete('/', async (ctx) => {
    const token = sessionToken(ctx);
    if (token) {
      await transaction(platform.pool, (tx) => endSession(tx, token));
    }
    setSignedOut(ctx, platform);
    ctx.status = 204;
  });

  return router;
}
