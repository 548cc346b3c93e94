import Router from '@koa/router';
import { requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { directory } from './directory.ts';

/** GET /api/people: the directory. */
export function peopleRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/people' });
  router.get('/', async (ctx) => {
    requireActor(ctx);
    ctx.body = await directory(platform.pool);
  });
  return router;
}
