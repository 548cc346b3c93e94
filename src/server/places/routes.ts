import Router from '@koa/router';
import {
  boardQuery,
  findQuery,
  freeDayPath,
  ownerRequest,
  placeDayQuery,
  placePath,
  placesQuery,
} from '../../contract/places.ts';
import { act, read, requireActor } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { giveFree, setOwner, takeBack } from './assigned.ts';
import { placesBoard } from './board.ts';
import { placesFound } from './find.ts';
import { removePhoto, sendPhoto, takePhoto } from './photo.ts';
import { deleteFavourite } from './queries.ts';
import { addFavourite, placeDay, placeNow, placesNow } from './service.ts';

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

  router.get('/find', async (ctx) => {
    const actor = requireActor(ctx);
    const query = read(findQuery, { ...ctx.query });
    ctx.body = await placesFound(platform.pool, actor, query, platform.clock.now());
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

  router.put('/:id/favourite', async (ctx) => {
    const { id } = read(placePath, ctx.params);
    await act(ctx, platform, async (tx, { me }) => {
      await addFavourite(tx, me.id, id);
      announce(tx, [subjectOf('person', me.id)]);
      return { status: 200, body: { isFavourite: true } };
    });
  });

  router.delete('/:id/favourite', async (ctx) => {
    const { id } = read(placePath, ctx.params);
    await act(ctx, platform, (tx, { me }) => {
      deleteFavourite(tx, me.id, id);
      announce(tx, [subjectOf('person', me.id)]);
      return Promise.resolve({ status: 200, body: { isFavourite: false } });
    });
  });

  router.put('/:id/owner', async (ctx) => {
    const { id } = read(placePath, ctx.params);
    const { personId } = read(ownerRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => {
      await setOwner(tx, actor, id, personId, platform.clock.now());
      return { status: 200, body: await placeNow(tx, actor, id, platform.clock.now()) };
    });
  });

  router.put('/:id/free-days/:date', async (ctx) => {
    const { id, date } = read(freeDayPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await giveFree(tx, actor, id, date, platform.clock.now());
      return { status: 200, body: { isFree: true } };
    });
  });

  router.delete('/:id/free-days/:date', async (ctx) => {
    const { id, date } = read(freeDayPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await takeBack(tx, actor, id, date);
      return { status: 200, body: { isFree: false } };
    });
  });

  router.get('/:id/photo', async (ctx) => {
    requireActor(ctx);
    const { id } = read(placePath, ctx.params);
    await sendPhoto(ctx, platform, id);
  });

  router.post('/:id/photo', async (ctx) => {
    const { id } = read(placePath, ctx.params);
    await takePhoto(ctx, platform, id);
  });

  router.delete('/:id/photo', async (ctx) => {
    const { id } = read(placePath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await removePhoto(tx, actor, id);
      return { status: 200, body: { photo: null } };
    });
  });

  return router;
}
