import Router from '@koa/router';
import type { Context } from 'koa';
import {
  cancelEventRequest,
  changeEventRequest,
  createEventRequest,
  eventPath,
  eventQuery,
  myPartRequest,
  restoreEventRequest,
  undoEventRequest,
} from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import type { Transaction } from '../db/transaction.ts';
import { act, type Answer } from '../http/action.ts';
import { requirePerson } from '../http/access.ts';
import { read, readBody } from '../http/validate.ts';
import type { Platform } from '../platform.ts';
import type { Changed } from './change.ts';
import type { EventRecord } from './model.ts';
import { detailFor, visibleEvent } from './present.ts';
import { refuseTaken } from './refusal.ts';
import { cancelEvent, changeEvent, changeMyPart, createEvent, restoreEvent } from './service.ts';
import { undoChange } from './undo.ts';

const eventId = (ctx: Context & { params: unknown }) => read(eventPath, ctx.params).id;

/** What a request left, with notes about it before those of the event itself. */
async function changed(
  tx: Transaction,
  me: Me,
  { event, notes, undo }: Changed,
  status: number,
): Promise<Answer> {
  const detail = await detailFor(tx, event, me);
  const clockNotes = [...new Set([...notes, ...detail.clockNotes])];
  return { status, body: { ...detail, clockNotes, ...(undo && { undo }) } };
}

const shown = async (tx: Transaction, me: Me, event: EventRecord): Promise<Answer> => ({
  status: 200,
  body: await detailFor(tx, event, me),
});

/** /api/events: making, changing, cancelling, restoring events, and taking changes back. */
export function eventsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/events' });

  router.post('/', async (ctx) => {
    const request = readBody(createEventRequest, ctx);
    await refuseTaken(ctx, platform, { request }, () =>
      act(ctx, platform, async (tx, me) =>
        changed(tx, me, await createEvent(tx, platform, me, request), 201),
      ),
    );
  });

  router.get('/:id', async (ctx) => {
    const me = requirePerson(ctx);
    const { occurrence } = read(eventQuery, { ...ctx.query });
    const now = platform.clock.now();
    const event = await visibleEvent(platform.pool, me, eventId(ctx), now, occurrence);
    ctx.body = await detailFor(platform.pool, event, me);
  });

  router.patch('/:id', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(changeEventRequest, ctx);
    await refuseTaken(ctx, platform, { request: {}, id }, () =>
      act(ctx, platform, async (tx, me) =>
        changed(tx, me, await changeEvent(tx, platform, me, id, request), 200),
      ),
    );
  });

  router.put('/:id/mine', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(myPartRequest, ctx);
    await act(ctx, platform, async (tx, me) =>
      shown(tx, me, await changeMyPart(tx, platform, me, id, request)),
    );
  });

  router.post('/:id/cancel', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(cancelEventRequest, ctx);
    await act(ctx, platform, async (tx, me) =>
      shown(tx, me, await cancelEvent(tx, platform, me, id, request)),
    );
  });

  router.post('/:id/restore', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(restoreEventRequest, ctx);
    await refuseTaken(ctx, platform, { request: {}, id }, () =>
      act(ctx, platform, async (tx, me) =>
        shown(tx, me, await restoreEvent(tx, platform, me, id, request)),
      ),
    );
  });

  router.post('/:id/undo', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(undoEventRequest, ctx);
    await refuseTaken(ctx, platform, { request: {}, id }, () =>
      act(ctx, platform, async (tx, me) =>
        shown(tx, me, await undoChange(tx, platform, me, id, request)),
      ),
    );
  });

  return router;
}
