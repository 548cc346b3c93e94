import Router from '@koa/router';
import { decideRequest, presenceRequest } from '../../contract/bookings.ts';
import { act, read, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { arrive, leave, myBookings } from './presence.ts';
import { decide, placeRequests } from './requests.ts';

/** /api/bookings: being there, and what a steward has to agree to. */
export function bookingsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/bookings' });

  router.get('/mine', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = { bookings: await myBookings(platform.pool, actor, platform.clock.now()) };
  });

  router.post('/check-in', async (ctx) => {
    const request = read(presenceRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await arrive(tx, platform, actor, request),
    }));
  });

  router.post('/check-out', async (ctx) => {
    const request = read(presenceRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await leave(tx, platform, actor, request),
    }));
  });

  router.get('/requests', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = await placeRequests(platform.pool, actor, platform.clock.now());
  });

  router.post('/requests/decide', async (ctx) => {
    const request = read(decideRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await decide(tx, platform, actor, request),
    }));
  });

  return router;
}
