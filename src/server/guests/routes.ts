import { guestRoutes } from '../../contract/guest.ts';
import { implement } from '../http/index.ts';
import {
  answerByLink,
  guestCalendar,
  guestDays,
  readGuestInvitation,
  proposeByLink,
} from './service.ts';

export const guestsApi = implement(guestRoutes, (platform) => ({
  'GET /api/guest/:token': ({ params }) => readGuestInvitation(platform, params.token),
  'POST /api/guest/:token/reply': async ({ params, body }) => {
    await answerByLink(platform, params.token, body);
    return readGuestInvitation(platform, params.token);
  },
  'GET /api/guest/:token/days': ({ params, query }) => guestDays(platform, params.token, query),
  'PUT /api/guest/:token/proposals': async ({ params, body }) => {
    await proposeByLink(platform, params.token, body);
    return readGuestInvitation(platform, params.token);
  },
  'GET /api/guest/:token/calendar': async ({ params, ctx }) => {
    const content = await guestCalendar(platform, params.token);
    ctx.attachment('meeting.ics');
    ctx.type = 'text/calendar; charset=utf-8';
    ctx.body = content;
  },
}));
