import Router from '@koa/router';
import { requirePerson } from '../http/access.ts';
import type { Platform } from '../platform.ts';
import { directory } from './service.ts';

/** GET /api/people: the directory. */
export function peopleRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/people' });
  router.get('/', async (ctx) => {
    requirePerson(ctx);
    ctx.body = await directory(platform.pool);
  });
  return router;
}
