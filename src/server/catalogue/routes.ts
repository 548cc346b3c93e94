import Router from '@koa/router';
import {
  cataloguePath,
  changePlaceRequest,
  importRequest,
  newPlaceRequest,
  placePreviewRequest,
  retireRequest,
} from '../../contract/catalogue.ts';
import { requireSteward } from '../actions/index.ts';
import { act, read, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { importPlaces } from './import.ts';
import { readChoices } from './queries.ts';
import { addPlace, changePlace, previewChange, previewRetirement, retire } from './service.ts';

/** /api/catalogue: the places there are, for those who look after them. */
export function catalogueRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/catalogue' });
  const { pool, clock } = platform;

  router.get('/choices', async (ctx) => {
    requireSteward(requireActor(ctx));
    ctx.body = await readChoices(pool);
  });

  router.post('/places', async (ctx) => {
    const place = read(newPlaceRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 201,
      body: await addPlace(tx, actor, place),
    }));
  });

  router.patch('/places/:id', async (ctx) => {
    const { id } = read(cataloguePath, ctx.params);
    const change = read(changePlaceRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await changePlace(tx, actor, id, change, clock.now()),
    }));
  });

  router.post('/places/:id/preview', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(cataloguePath, ctx.params);
    const change = read(placePreviewRequest, ctx.request.body);
    ctx.body = await previewChange(pool, actor, id, change, clock.now());
  });

  router.get('/places/:id/retire', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(cataloguePath, ctx.params);
    ctx.body = await previewRetirement(pool, actor, id, clock.now());
  });

  router.post('/places/:id/retire', async (ctx) => {
    const { id } = read(cataloguePath, ctx.params);
    const request = read(retireRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await retire(tx, platform, actor, id, request),
    }));
  });

  router.post('/import', async (ctx) => {
    const request = read(importRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await importPlaces(tx, actor, request, clock.now()),
    }));
  });

  return router;
}
