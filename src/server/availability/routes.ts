import Router from '@koa/router';
import {
  busyRequest,
  historyRequest,
  movableRequest,
  openingsRequest,
  refreshRequest,
  roomsRequest,
} from '../../contract/availability.ts';
import { requirePerson } from '../http/access.ts';
import { readBody } from '../http/validate.ts';
import type { Platform } from '../platform.ts';
import { refreshPublished } from '../published/service.ts';
import { movableMeetings, pastMeetings } from './ownMeetings.ts';
import { busyTimes, findOpenings, roomTimes } from './service.ts';

/**
 * /api/availability: busy times of a line-up and of rooms, meetings that could make room, those of
 * the past, and openings. Reads, though sent by POST.
 */
export function availabilityRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/availability' });
  const { pool, clock } = platform;

  router.post('/busy', async (ctx) => {
    const me = requirePerson(ctx);
    ctx.body = await busyTimes(pool, me, readBody(busyRequest, ctx), clock.now());
  });

  router.post('/rooms', async (ctx) => {
    const me = requirePerson(ctx);
    ctx.body = await roomTimes(pool, me, readBody(roomsRequest, ctx), clock.now());
  });

  router.post('/movable', async (ctx) => {
    const me = requirePerson(ctx);
    ctx.body = await movableMeetings(pool, me, readBody(movableRequest, ctx), clock.now());
  });

  router.post('/history', async (ctx) => {
    const me = requirePerson(ctx);
    const { people } = readBody(historyRequest, ctx);
    ctx.body = await pastMeetings(pool, me, people, clock.now());
  });

  router.post('/refresh', async (ctx) => {
    requirePerson(ctx);
    const { people } = readBody(refreshRequest, ctx);
    ctx.body = await refreshPublished(platform, people);
  });

  router.post('/openings', async (ctx) => {
    const me = requirePerson(ctx);
    ctx.body = await findOpenings(pool, me, readBody(openingsRequest, ctx), clock.now());
  });

  return router;
}
