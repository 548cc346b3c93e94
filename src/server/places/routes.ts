import Router from '@koa/router';
import { boardQuery, placeDayQuery, placePath, placesQuery } from '../../contract/places.ts';
import { read, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { placesBoard } from './board.ts';
import { placeDay, placeNow, placesNow } from './service.ts';

/** /api/places: rooms and other resources, their state now and their days. */
export function placesRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/places' });

  router.get('/', async (ctx) => {
    const actor = requireActor(ctx);
    const query = read(placesQuery, { ...ctx.query });
    ctx.body = await placesNow(platform.pool, actor, query, platform.clock.now());
  });

  router.get('/board', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = await placesBoard(platform.pool, actor, read(boardQuery, { ...ctx.query }));
  });

  router.get('/:id', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(placePath, ctx.params);
    ctx.body = await placeNow(platform.pool, actor, id, platform.clock.now());
  });

  router.get('/:id/day', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(placePath, ctx.params);
    const { date } = read(placeDayQuery, { ...ctx.query });
    ctx.body = await placeDay(platform.pool, actor, id, date);
  });

  return router;
}
