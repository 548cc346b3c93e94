import Router from '@koa/router';
import {
  bookingNote,
  bookingPath,
  decideRequest,
  presenceRequest,
} from '../../contract/bookings.ts';
import { act, read, requireActor } from '../http/index.ts';
import { readContact } from '../reservations/index.ts';
import type { Platform } from '../platform.ts';
import { changeNote, noteOn } from './notes.ts';
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

  router.get('/contact', async (ctx) => {
    const { me } = requireActor(ctx);
    ctx.body = { contact: await readContact(platform.pool, me.id) };
  });

  router.get('/notes/:id', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(bookingPath, ctx.params);
    ctx.body = await noteOn(platform.pool, actor, id);
  });

  router.put('/notes/:id', async (ctx) => {
    const { id } = read(bookingPath, ctx.params);
    const note = read(bookingNote, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await changeNote(tx, actor, id, note),
    }));
  });

  return router;
}
