import Router from '@koa/router';
import { eventPath } from '../../contract/events.ts';
import { incomingPath, type AsideList } from '../../contract/incoming.ts';
import { Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { changeableMeeting, receiveAnswer } from '../events/index.ts';
import { act, read, requireActor } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { lockAside, readAside, settle } from './queries.ts';

const noSuchMail = () =>
  new Refusal('no-such-mail', 'There is no such mail put aside, or it is settled by now.');

/** Mail about my meetings that was put aside: /api/replies/:id/aside, /api/incoming/:id/count and /leave. */
export function incomingRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api' });

  /** The mail, of a meeting that the actor organizes; others' look as if they were not there. */
  const mineAside = async (tx: Transaction, actor: PersonActor, id: string) => {
    const mail = await lockAside(tx, id);
    const meeting =
      mail && (await changeableMeeting(tx, actor, mail.eventId, 'organizer').catch(() => null));
    if (!mail || !meeting) throw noSuchMail();
    return mail;
  };

  router.get('/replies/:id/aside', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(eventPath, ctx.params);
    await changeableMeeting(platform.pool, actor, id, 'organizer');
    ctx.body = { mails: await readAside(platform.pool, id) } satisfies AsideList;
  });

  router.post('/incoming/:id/count', async (ctx) => {
    const { id } = read(incomingPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      const { calendar, eventId } = await mineAside(tx, actor, id);
      if (calendar === null)
        throw new Refusal('not-a-reply', 'It carries no answer that could be counted.');
      await receiveAnswer(platform, calendar, null, tx);
      await settle(tx, id);
      announce(tx, [subjectOf('meeting', eventId)]);
      return { status: 200, body: { mails: await readAside(tx, eventId) } };
    });
  });

  router.post('/incoming/:id/leave', async (ctx) => {
    const { id } = read(incomingPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      const { eventId } = await mineAside(tx, actor, id);
      await settle(tx, id);
      announce(tx, [subjectOf('meeting', eventId)]);
      return { status: 200, body: { mails: await readAside(tx, eventId) } };
    });
  });

  return router;
}
