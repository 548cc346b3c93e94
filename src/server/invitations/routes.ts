import Router from '@koa/router';
import { proposeRequest, takeTimeRequest } from '../../contract/asking.ts';
import { eventPath, eventQuery } from '../../contract/events.ts';
import {
  daysQuery,
  invitationQuery,
  repliesQuery,
  replyRequest,
  type AnswerHistory,
  type News,
  type RepliesList,
} from '../../contract/invitations.ts';
import {
  changeableMeeting,
  detailAgain,
  detailFor,
  proposeTo,
  readDetail,
  replyTo,
} from '../events/index.ts';
import { act, read, readBody, requireActor } from '../http/index.ts';
import { actingFor } from '../session/index.ts';
import type { Platform } from '../platform.ts';
import { daysAround, exceptOf } from './daysAround.ts';
import { otherTimes } from './otherTimes.ts';
import { countOrganized, readDrafts, readOrganized, readHistory, readWaiting } from './queries.ts';
import { invitation } from './service.ts';
import { takeTime } from './takeTime.ts';

/** /api/invitations: what waits for my answer, one beside my day, answering. /api/replies: theirs. */
export function invitationsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api' });
  const { pool, clock } = platform;

  router.get('/invitations', async (ctx) => {
    const { principals } = requireActor(ctx);
    ctx.body = { waiting: await readWaiting(pool, principals, clock.now()) } satisfies News;
  });

  router.get('/invitations/:id', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(eventPath, ctx.params);
    const { occurrence, for: whom } = read(invitationQuery, { ...ctx.query });
    const whose = await actingFor(pool, actor, whom);
    ctx.body = await invitation(pool, whose, id, clock.now(), occurrence);
  });

  router.post('/invitations/:id/reply', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(replyRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      const whose = await actingFor(tx, actor, request.for);
      const { meeting, occurrence } = await replyTo(tx, platform, whose, id, request);
      const at = occurrence ?? undefined;
      const detail = await detailFor(tx, whose, meeting, { at, now: clock.now() });
      return { status: 200, body: detail, again: detailAgain(id, occurrence, request.for) };
    });
  });

  router.get('/invitations/:id/days', async (ctx) => {
    const asker = requireActor(ctx);
    const { id } = read(eventPath, ctx.params);
    const asked = read(daysQuery, { ...ctx.query });
    const actor = await actingFor(pool, asker, asked.for);
    const now = clock.now();
    const event = await readDetail(pool, actor, id, { at: asked.occurrence, now });
    ctx.body = await daysAround(pool, actor, {
      people: event.attendees.flatMap(({ personId }) => personId ?? []),
      except: exceptOf(id, event.series?.recurrenceId ?? null),
      start: event.start,
      now,
      asked,
    });
  });

  router.put('/invitations/:id/proposals', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(proposeRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      const whose = await actingFor(tx, actor, request.for);
      const { occurrence } = await proposeTo(tx, platform, whose, id, request);
      const at = occurrence ?? undefined;
      const detail = await readDetail(tx, whose, id, { at, now: clock.now() });
      return { status: 200, body: detail, again: detailAgain(id, occurrence, request.for) };
    });
  });

  router.get('/replies/:id/history', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(eventPath, ctx.params);
    await changeableMeeting(pool, actor, id, 'organizer');
    ctx.body = { entries: await readHistory(pool, id) } satisfies AnswerHistory;
  });

  router.get('/replies/:id/times', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(eventPath, ctx.params);
    const { occurrence } = read(eventQuery, { ...ctx.query });
    ctx.body = await otherTimes(pool, actor, id, clock.now(), occurrence);
  });

  router.post('/replies/:id/times', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(takeTimeRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      const { occurrence, undo } = await takeTime(tx, platform, actor, id, request);
      const at = occurrence ?? undefined;
      const detail = await readDetail(tx, actor, id, { at, now: clock.now() });
      const more = undo ? { undo } : {};
      return {
        status: 200,
        body: { ...detail, ...more },
        again: { ...detailAgain(id, occurrence), more },
      };
    });
  });

  router.get('/replies', async (ctx) => {
    const { principals } = requireActor(ctx);
    const asked = read(repliesQuery, { ...ctx.query });
    const now = clock.now();
    const [meetings, counts, drafts] = await Promise.all([
      readOrganized(pool, principals, now, asked),
      countOrganized(pool, principals, now),
      readDrafts(pool, principals, now),
    ]);
    ctx.body = { meetings, ...counts, drafts } satisfies RepliesList;
  });

  return router;
}
