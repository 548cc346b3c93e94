import type { Context } from 'koa';
import { providersRoutes } from '../../contract/providers.ts';
import { implement } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { sessionToken, setSignedOut, signInAs } from '../session/index.ts';
import { addProvider, changeProvider, removeOne, tryProvider } from './administer.ts';
import { ATTEMPT_MS } from './limits.ts';
import { readProviders } from './queries.ts';
import { begin, comeBack, leave, returnAddress } from './signIn.ts';

const COOKIE = 'marmot_sign_in';
const PATH = '/api/sign-in';

/** By which a browser is known when it comes back from a provider. */
function setBrowser(ctx: Context, { publicUrl }: Platform, value: string | null): void {
  const secure = publicUrl.startsWith('https:');
  ctx.cookies.secure = secure;
  ctx.cookies.set(COOKIE, value, {
    ...{ httpOnly: true, sameSite: 'lax', secure, path: PATH, overwrite: true },
    maxAge: value === null ? 0 : ATTEMPT_MS,
  });
}

export const providersApi = implement(providersRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/sign-in/providers': async () => ({
      providers: (await readProviders(pool)).map(({ id, name }) => ({ id, name })),
    }),
    'POST /api/sign-in/providers/:id': async ({ params, body, ctx }) => {
      const { location, browser } = await begin(platform, params.id, body.leadsTo);
      setBrowser(ctx, platform, browser);
      return { location };
    },
    'GET /api/sign-in/return': async ({ ctx }) => {
      const query = new URLSearchParams(ctx.querystring);
      const returned = await comeBack(platform, query, ctx.cookies.get(COOKIE));
      setBrowser(ctx, platform, null);
      ctx.set('Referrer-Policy', 'no-referrer');
      ctx.set('Cache-Control', 'no-store');
      if ('problem' in returned) {
        ctx.redirect(`/?sign-in=${returned.problem}`);
        return;
      }
      const { personId, leadsTo, providerId, idToken } = returned;
      await signInAs(ctx, platform, personId, { providerId, idToken });
      ctx.redirect(leadsTo);
    },
    'POST /api/sign-in/end': async ({ ctx }) => {
      const token = sessionToken(ctx);
      setSignedOut(ctx, platform);
      return { location: token ? await leave(platform, token) : null };
    },
    'GET /api/administration/providers': async () => ({
      providers: (await readProviders(pool)).map(({ clientSecret: _secret, ...one }) => one),
      returnAddress: returnAddress(platform),
    }),
    'POST /api/administration/providers': (tx, { actor, body }) =>
      addProvider(tx, platform, actor, body),
    'PATCH /api/administration/providers/:id': (tx, { actor, params, body }) =>
      changeProvider(tx, platform, actor, params.id, body),
    'DELETE /api/administration/providers/:id': (tx, { actor, params }) =>
      removeOne(tx, platform, actor, params.id),
    'POST /api/administration/providers/:id/trial': ({ params }) =>
      tryProvider(platform, params.id),
  };
});
