import Router from '@koa/router';
import { busyRequest, openingsRequest } from '../../contract/availability.ts';
import { requirePerson } from '../http/access.ts';
import { readBody } from '../http/validate.ts';
import type { Platform } from '../platform.ts';
import { busyTimes, findOpenings } from './service.ts';

/** /api/availability: busy times of a line-up, and openings for it. Reads, though sent by POST. */
export function availabilityRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/availability' });

  router.post('/busy', async (ctx) => {
    const me = requirePerson(ctx);
    ctx.body = await busyTimes(platform.pool, me, readBody(busyRequest, ctx));
  });

  router.post('/openings', async (ctx) => {
    const me = requirePerson(ctx);
    const request = readBody(openingsRequest, ctx);
    ctx.body = await findOpenings(platform.pool, me, request, platform.clock.now());
  });

  return router;
}
