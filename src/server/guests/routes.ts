import Router, { type RouterContext } from '@koa/router';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import {
  guestDaysQuery,
  guestPath,
  guestProposeRequest,
  guestReplyRequest,
} from '../../contract/guest.ts';
import { Problem, read, readBody, networkOf } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import {
  answerByLink,
  guestCalendar,
  guestDays,
  guestInvitation,
  proposeByLink,
} from './service.ts';

/** So many requests of guests may come from one network address within a minute. */
const MOST_A_MINUTE = 60;

/** /api/guest/:token: an invitation by the link in a letter, its answer and its calendar file. */
export function guestsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/guest' });
  const limiter = new RateLimiterPostgres({
    storeClient: platform.pool,
    tableName: 'rate_limit',
    tableCreated: true,
    keyPrefix: 'guest',
    points: MOST_A_MINUTE,
    duration: 60,
  });

  const tokenOf = async (ctx: RouterContext): Promise<string> => {
    const { token } = read(guestPath, ctx.params);
    await limiter.consume(networkOf(ctx.ip)).catch((refusal: unknown) => {
      if (!(refusal instanceof RateLimiterRes)) throw refusal;
      throw new Problem(429, 'too-many-requests', 'Too many requests. Try again in a minute.', {
        retryAfterSeconds: Math.ceil(refusal.msBeforeNext / 1000),
      });
    });
    return token;
  };

  router.get('/:token', async (ctx) => {
    ctx.body = await guestInvitation(platform, await tokenOf(ctx));
  });

  router.post('/:token/reply', async (ctx) => {
    const token = await tokenOf(ctx);
    const request = readBody(guestReplyRequest, ctx);
    await answerByLink(platform, token, request);
    ctx.body = await guestInvitation(platform, token);
  });

  router.get('/:token/days', async (ctx) => {
    const token = await tokenOf(ctx);
    ctx.body = await guestDays(platform, token, read(guestDaysQuery, { ...ctx.query }));
  });

  router.put('/:token/proposals', async (ctx) => {
    const token = await tokenOf(ctx);
    const request = readBody(guestProposeRequest, ctx);
    await proposeByLink(platform, token, request);
    ctx.body = await guestInvitation(platform, token);
  });

  router.get('/:token/calendar', async (ctx) => {
    const content = await guestCalendar(platform, await tokenOf(ctx));
    ctx.attachment('meeting.ics');
    ctx.type = 'text/calendar; charset=utf-8';
    ctx.body = content;
  });

  return router;
}
