import Router from '@koa/router';
import {
  readNotificationsRequest,
  type NotificationsResponse,
} from '../../contract/notifications.ts';
import { act, readBody, requireActor } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { markRead, readNotifications } from './queries.ts';

/** /api/notifications: what I hear of at once, and that I have read it, on whatever device. */
export function notificationsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/notifications' });

  router.get('/', async (ctx) => {
    const { me } = requireActor(ctx);
    ctx.body = (await readNotifications(platform.pool, me.id)) satisfies NotificationsResponse;
  });

  router.post('/read', async (ctx) => {
    const { upTo } = readBody(readNotificationsRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      await markRead(tx, me.id, upTo, platform.clock.now());
      announce(tx, [subjectOf('notifications', me.id)]);
      return { status: 200, body: await readNotifications(tx, me.id) };
    });
  });

  return router;
}
