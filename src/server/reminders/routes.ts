import { remindersRoutes } from '../../contract/reminders.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { implement } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { dismissReminders, putOff, readOpenReminders } from './queries.ts';

const idsOf = (which: 'all' | number[]) => (which === 'all' ? null : which);

export const remindersApi = implement(remindersRoutes, ({ pool }) => ({
  'GET /api/reminders': async ({ actor, now }) => ({
    reminders: await readOpenReminders(pool, actor.me.id, now),
  }),
  'POST /api/reminders/snooze': async (tx, { actor: { me }, body, now }) => {
    const then = body.until === 'start' ? null : now + body.until * MINUTE;
    await putOff(tx, me.id, idsOf(body.reminders), then, now);
    announce(tx, [subjectOf('reminders', me.id)]);
    return { reminders: await readOpenReminders(tx, me.id, now) };
  },
  'POST /api/reminders/dismiss': async (tx, { actor: { me }, body, now }) => {
    await dismissReminders(tx, me.id, idsOf(body.reminders), now);
    announce(tx, [subjectOf('reminders', me.id)]);
    return { reminders: await readOpenReminders(tx, me.id, now) };
  },
}));
