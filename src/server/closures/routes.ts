import Router from '@koa/router';
import { closurePath, closurePreviewQuery, closureRequest } from '../../contract/closures.ts';
import { undoTogetherRequest } from '../../contract/events.ts';
import { placePath } from '../../contract/places.ts';
import { act, read, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { closePlace, previewClosure, reopenPlace, undoClosure } from './service.ts';

/** /api/places/:id/closures: places out of use, and where their bookings go. */
export function closuresRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/places' });

  router.get('/:id/closures/preview', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(placePath, ctx.params);
    const span = read(closurePreviewQuery, { ...ctx.query });
    ctx.body = await previewClosure(platform.pool, actor, id, span);
  });

  router.post('/:id/closures', async (ctx) => {
    const { id } = read(placePath, ctx.params);
    const request = read(closureRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 201,
      body: await closePlace(tx, platform, actor, id, request),
    }));
  });

  router.delete('/:id/closures/:closure', async (ctx) => {
    const { id, closure } = read(closurePath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await reopenPlace(tx, actor, id, closure);
      return { status: 200, body: { closed: false } };
    });
  });

  router.post('/:id/closures/:closure/undo', async (ctx) => {
    const path = read(closurePath, ctx.params);
    const { changes } = read(undoTogetherRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await undoClosure(tx, platform, actor, path, changes),
    }));
  });

  return router;
}
