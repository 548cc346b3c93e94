import Router from '@koa/router';
import { dismissRequest, snoozeRequest, type RemindersResponse } from '../../contract/reminders.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { act, readBody, requireActor } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { dismiss, putOff, readOpen } from './queries.ts';

/** /api/reminders: those of mine that are due, putting them off and away. */
export function remindersRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/reminders' });
  const { pool, clock } = platform;
  const idsOf = (which: 'all' | number[]) => (which === 'all' ? null : which);

  router.get('/', async (ctx) => {
    const { me } = requireActor(ctx);
    ctx.body = { reminders: await readOpen(pool, me.id, clock.now()) } satisfies RemindersResponse;
  });

  router.post('/snooze', async (ctx) => {
    const { reminders, until } = readBody(snoozeRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      const now = clock.now();
      const then = until === 'start' ? null : now + until * MINUTE;
      await putOff(tx, me.id, idsOf(reminders), then, now);
      announce(tx, [subjectOf('reminders', me.id)]);
      return { status: 200, body: { reminders: await readOpen(tx, me.id, now) } };
    });
  });

  router.post('/dismiss', async (ctx) => {
    const { reminders } = readBody(dismissRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      const now = clock.now();
      await dismiss(tx, me.id, idsOf(reminders), now);
      announce(tx, [subjectOf('reminders', me.id)]);
      return { status: 200, body: { reminders: await readOpen(tx, me.id, now) } };
    });
  });

  return router;
}
