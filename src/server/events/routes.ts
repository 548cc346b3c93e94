import Router from '@koa/router';
import {
  calendarQuery,
  cancelEventRequest,
  changeEventRequest,
  createEventRequest,
  eventPath,
} from '../../contract/events.ts';
import { act } from '../http/action.ts';
import { requirePerson } from '../http/access.ts';
import { read, readBody } from '../http/validate.ts';
import type { Platform } from '../platform.ts';
import { readCalendar } from './calendarQueries.ts';
import { detailFor, visibleEvent } from './present.ts';
import { refuseTaken } from './refusal.ts';
import { cancelEvent, changeEvent, createEvent, restoreEvent } from './service.ts';

/** /api/events: my calendar, and making, changing, cancelling and restoring events. */
export function eventsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/events' });

  router.get('/', async (ctx) => {
    const me = requirePerson(ctx);
    const { from, to } = read(calendarQuery, { ...ctx.query });
    ctx.body = { items: await readCalendar(platform.pool, me.id, from, to) };
  });

  router.post('/', async (ctx) => {
    const request = readBody(createEventRequest, ctx);
    await refuseTaken(ctx, platform, { request }, () =>
      act(ctx, platform, async (tx, me) => {
        const { event, notes } = await createEvent(tx, platform, me, request);
        // Notes of the request come first: a skipped time no longer shows in what was kept.
        const detail = detailFor(event, me);
        return {
          status: 201,
          body: { ...detail, notes: [...new Set([...notes, ...detail.notes])] },
        };
      }),
    );
  });

  router.get('/:id', async (ctx) => {
    const me = requirePerson(ctx);
    const { id } = read(eventPath, ctx.params);
    const event = await visibleEvent(platform.pool, me, id, platform.clock.now());
    ctx.body = detailFor(event, me);
  });

  router.patch('/:id', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(changeEventRequest, ctx);
    await refuseTaken(ctx, platform, { request, id }, () =>
      act(ctx, platform, async (tx, me) => {
        const { event, notes } = await changeEvent(tx, platform, me, id, request);
        const detail = detailFor(event, me);
        return {
          status: 200,
          body: { ...detail, notes: [...new Set([...notes, ...detail.notes])] },
        };
      }),
    );
  });

  router.post('/:id/cancel', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(cancelEventRequest, ctx);
    await act(ctx, platform, async (tx, me) => ({
      status: 200,
      body: detailFor(await cancelEvent(tx, platform, me, id, request), me),
    }));
  });

  router.post('/:id/restore', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(cancelEventRequest, ctx);
    await refuseTaken(ctx, platform, { request: {}, id }, () =>
      act(ctx, platform, async (tx, me) => ({
        status: 200,
        body: detailFor(await restoreEvent(tx, platform, me, id, request), me),
      })),
    );
  });

  return router;
}
