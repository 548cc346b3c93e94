import Router from '@koa/router';
import { peopleQuery } from '../../contract/people.ts';
import { read, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { directory } from './directory.ts';

/** GET /api/people: the directory, a part at a time. */
export function peopleRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/people' });
  router.get('/', async (ctx) => {
    const { me } = requireActor(ctx);
    ctx.body = await directory(platform.pool, me.id, read(peopleQuery, { ...ctx.query }));
  });
  return router;
}
