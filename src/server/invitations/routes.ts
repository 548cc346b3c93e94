import Router from '@koa/router';
import { eventPath, eventQuery } from '../../contract/events.ts';
import { replyRequest } from '../../contract/invitations.ts';
import { detailFor } from '../events/index.ts';
import { act } from '../http/action.ts';
import { requirePerson } from '../http/access.ts';
import { read, readBody } from '../http/validate.ts';
import type { Platform } from '../platform.ts';
import { readOrganised, readWaiting } from './queries.ts';
import { invitation, replyTo } from './service.ts';

/** /api/invitations: what waits for my answer, one beside my day, answering. /api/replies: theirs. */
export function invitationsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api' });

  router.get('/invitations', async (ctx) => {
    const me = requirePerson(ctx);
    ctx.body = { waiting: await readWaiting(platform.pool, me.id, platform.clock.now()) };
  });

  router.get('/invitations/:id', async (ctx) => {
    const me = requirePerson(ctx);
    const { id } = read(eventPath, ctx.params);
    const { occurrence } = read(eventQuery, { ...ctx.query });
    ctx.body = await invitation(platform.pool, me, id, platform.clock.now(), occurrence);
  });

  router.post('/invitations/:id/reply', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(replyRequest, ctx);
    await act(ctx, platform, async (tx, me) => ({
      status: 200,
      body: await detailFor(tx, await replyTo(tx, platform, me, id, request), me),
    }));
  });

  router.get('/replies', async (ctx) => {
    const me = requirePerson(ctx);
    ctx.body = { meetings: await readOrganised(platform.pool, me.id, platform.clock.now()) };
  });

  return router;
}
