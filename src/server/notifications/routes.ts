import { notificationsRoutes } from '../../contract/notifications.ts';
import { implement } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { markRead, readNotifications } from './queries.ts';

export const notificationsApi = implement(notificationsRoutes, ({ pool }) => ({
  'GET /api/notifications': ({ actor }) => readNotifications(pool, actor.me.id),
  'POST /api/notifications/read': async (tx, { actor: { me }, body, now }) => {
    await markRead(tx, me.id, body.upTo, now);
    announce(tx, [subjectOf('notifications', me.id)]);
    return readNotifications(tx, me.id);
  },
}));
