import { sessionRoutes } from '../../contract/session.ts';
import { transaction } from '../db/transaction.ts';
import { implement } from '../http/index.ts';
import { preferencesOf } from '../preferences/index.ts';
import { deviceToken, sessionToken, setSignedIn, setSignedOut } from './middleware.ts';
import { demonstration, isDemonstration, nobodyThere, organizationName } from './queries.ts';
import { endSession, SignIn } from './service.ts';

export const sessionApi = implement(sessionRoutes, (platform) => {
  const { pool, clock } = platform;
  const signIn = new SignIn(platform);
  return {
    'GET /api/session': async ({ actor, now }) => {
      const me = actor?.me ?? null;
      return {
        me,
        preferences: me && (await preferencesOf(pool, me.id)),
        organization: await organizationName(pool),
        now,
        clockFixed: clock.fixed,
        publicDemonstration: platform.demonstrationIsPublic && (await isDemonstration(pool)),
        demonstration: me ? null : await demonstration(pool),
        needsSetup: !me && (await nobodyThere(pool)),
      };
    },
    'POST /api/session': async ({ body, ctx }) => {
      const asking = {
        from: ctx.ip,
        device: deviceToken(ctx),
        session: sessionToken(ctx),
        agent: ctx.get('User-Agent'),
      };
      setSignedIn(ctx, platform, await signIn.signIn(body, asking));
    },
    'DELETE /api/session': async ({ ctx }) => {
      const token = sessionToken(ctx);
      if (token) await transaction(pool, (tx) => endSession(tx, token));
      setSignedOut(ctx, platform);
    },
  };
});
