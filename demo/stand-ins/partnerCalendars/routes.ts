import Router from '@koa/router';
import { PARTNER_DOMAIN } from '../../data/organization.ts';
import type { Platform } from '../../../src/server/platform.ts';
import { partnerAddress } from './calendars.ts';

/** /stand-ins/nilgiri: what the partner publishes, to be looked at as it is. */
export function partnerRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/stand-ins/nilgiri' });
  router.get('/freebusy/:mailbox.ifb', async (ctx) => {
    const mailbox = String(ctx.params.mailbox);
    const text = await platform.calendars.read(partnerAddress(mailbox)).catch(() => null);
    if (text === null) {
      ctx.status = 404;
      ctx.body = `Nobody at ${PARTNER_DOMAIN} publishes times under this name.`;
      return;
    }
    ctx.type = 'text/calendar';
    ctx.body = text;
  });
  return router;
}
