import { accountsRoutes } from '../../contract/accounts.ts';
import { transaction } from '../db/transaction.ts';
import { implement } from '../http/index.ts';
import { sessionToken, signInAs } from '../session/index.ts';
import { showLink, useLink } from './links.ts';
import { changeOwnPassword, endOne, ownSessions } from './own.ts';
import { askForgotten } from './queries.ts';

export const accountsApi = implement(accountsRoutes, (platform) => ({
  'POST /api/account/link': ({ body, now }) => showLink(platform.pool, body.token, now),
  'POST /api/account/link/use': async ({ body, ctx }) => {
    await signInAs(ctx, platform, await useLink(platform, body));
  },
  'POST /api/account/forgotten': async ({ body }) => {
    // Whether anybody has the address is looked up behind the answer, which is the same for all.
    await transaction(platform.pool, async (tx) => askForgotten(tx, body.email));
  },
  'POST /api/account/password': ({ actor, body, ctx }) =>
    changeOwnPassword(platform, actor.me, body, sessionToken(ctx)!),
  'GET /api/account/sessions': async ({ actor, ctx }) => ({
    sessions: await ownSessions(platform, actor.me, sessionToken(ctx)!),
  }),
  'DELETE /api/account/sessions/:id': ({ actor, params }) => endOne(platform, actor.me, params.id),
}));
