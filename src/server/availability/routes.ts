import Router from '@koa/router';
import {
  busyRequest,
  historyRequest,
  movableRequest,
  openingsRequest,
  refreshRequest,
  roomsRequest,
} from '../../contract/availability.ts';
import { readBody, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { refreshPublished } from '../published/index.ts';
import { pastMeetings } from './history.ts';
import { movableMeetings } from './ownMeetings.ts';
import { busyTimes, findOpenings, roomTimes, visiblePeople } from './service.ts';

/**
 * /api/availability: busy times of a line-up and of rooms, meetings that could make room, those of
 * the past, and openings. Reads, though sent by POST.
 */
export function availabilityRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/availability' });
  const { pool, clock } = platform;

  router.post('/busy', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = await busyTimes(pool, actor, readBody(busyRequest, ctx), clock.now());
  });

  router.post('/rooms', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = await roomTimes(pool, actor, readBody(roomsRequest, ctx), clock.now());
  });

  router.post('/movable', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = await movableMeetings(pool, actor, readBody(movableRequest, ctx), clock.now());
  });

  router.post('/history', async (ctx) => {
    const actor = requireActor(ctx);
    const { people } = readBody(historyRequest, ctx);
    ctx.body = await pastMeetings(pool, actor, people, clock.now());
  });

  router.post('/refresh', async (ctx) => {
    const actor = requireActor(ctx);
    const { people } = readBody(refreshRequest, ctx);
    ctx.body = await refreshPublished(platform, await visiblePeople(pool, actor, people));
  });

  router.post('/openings', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = await findOpenings(pool, actor, readBody(openingsRequest, ctx), clock.now());
  });

  return router;
}
