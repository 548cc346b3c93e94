import Router from '@koa/router';
import { waitPath, waitRequest } from '../../contract/waiting.ts';
import { act, read, requireActor } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { readWaited } from './queries.ts';
import { takeOffer, waitFor, waitNoMore } from './service.ts';

/** /api/waiting: times for which I wait, and what came free of them. */
export function waitingRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/waiting' });

  router.get('/', async (ctx) => {
    const { me } = requireActor(ctx);
    ctx.body = { waiting: await readWaited(platform.pool, me.id) };
  });

  router.post('/', async (ctx) => {
    const request = read(waitRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => {
      const body = await waitFor(tx, platform, actor, request);
      announce(tx, [subjectOf('person', actor.me.id)]);
      return { status: 201, body };
    });
  });

  router.post('/:id/take', async (ctx) => {
    const { id } = read(waitPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      const body = await takeOffer(tx, platform, actor, id);
      announce(tx, [subjectOf('person', actor.me.id)]);
      return { status: 200, body };
    });
  });

  router.delete('/:id', async (ctx) => {
    const { id } = read(waitPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await waitNoMore(tx, platform, actor, id);
      announce(tx, [subjectOf('person', actor.me.id)]);
      return { status: 200, body: { waits: false } };
    });
  });

  return router;
}
