import Router from '@koa/router';
import { eventPath } from '../../contract/events.ts';
import { incomingPath, type AsideList } from '../../contract/incoming.ts';
import { Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { changeableMeeting, receiveAnswer, receiveRequest } from '../events/index.ts';
import { act, read, requireActor } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { readCalendarPart } from './receive.ts';
import { lockAside, readAside, readAsideOf, settle } from './queries.ts';

const noSuchMail = () =>
  new Refusal('no-such-mail', 'There is no such mail put aside, or it is settled by now.');

/**
 * Mail that was put aside: about my meetings at /api/replies/:id/aside, to my own address at
 * /api/incoming; counted by hand and left at /api/incoming/:id/count and /leave.
 */
export function incomingRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api' });

  /**
   * The mail, to the actor or about a meeting that they organize; others' look as if they were not
   * there.
   */
  const mineAside = async (tx: Transaction, actor: PersonActor, id: string) => {
    const mail = await lockAside(tx, id);
    if (!mail) throw noSuchMail();
    const { eventId, personId } = mail;
    const isMine =
      eventId === null
        ? personId === actor.me.id
        : await changeableMeeting(tx, actor, eventId, 'organizer').catch(() => null);
    if (!isMine) throw noSuchMail();
    return mail;
  };

  const settled = async (tx: Transaction, actor: PersonActor, id: string, about: string | null) => {
    await settle(tx, id);
    announce(tx, [about ? subjectOf('meeting', about) : subjectOf('notifications', actor.me.id)]);
    const mails = about ? await readAside(tx, about) : await readAsideOf(tx, actor.me.id);
    return { status: 200, body: { mails } satisfies AsideList };
  };

  router.get('/incoming', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = { mails: await readAsideOf(platform.pool, actor.me.id) } satisfies AsideList;
  });

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
      // Whoever counts an invitation by hand vouches for it.
      const part = await readCalendarPart(calendar);
      if (eventId === null)
        await receiveRequest(platform, part, { from: null, to: actor.me.email }, tx);
      else await receiveAnswer(platform, part, null, tx);
      return settled(tx, actor, id, eventId);
    });
  });

  router.post('/incoming/:id/leave', async (ctx) => {
    const { id } = read(incomingPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      const { eventId } = await mineAside(tx, actor, id);
      return settled(tx, actor, id, eventId);
    });
  });

  return router;
}
