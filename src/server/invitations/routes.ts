import { invitationsRoutes } from '../../contract/invitations.ts';
import {
  changeableMeeting,
  detailAgain,
  detailFor,
  proposeTo,
  readDetail,
  replyTo,
} from '../events/index.ts';
import { implement, MadeAgain } from '../http/index.ts';
import { actingFor } from '../session/index.ts';
import { readDaysAround, exceptOf } from './daysAround.ts';
import { readOtherTimes } from './otherTimes.ts';
import {
  countOrganized,
  readDrafts,
  readHistory,
  readOrganized,
  readUnanswered,
  readWaitingInvitations,
} from './queries.ts';
import { invitation } from './service.ts';
import { takeTime } from './takeTime.ts';

export const invitationsApi = implement(invitationsRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/invitations': async ({ actor, now }) => ({
      waiting: await readWaitingInvitations(pool, actor.principals, now),
    }),
    'GET /api/invitations/:id': async ({ actor, params, query, now }) => {
      const whose = await actingFor(pool, actor, query.for);
      return invitation(pool, whose, params.id, now, query.occurrence);
    },
    'POST /api/invitations/:id/reply': async (tx, { actor, params: { id }, body, now }) => {
      const whose = await actingFor(tx, actor, body.for);
      const { meeting, occurrence } = await replyTo(tx, platform, whose, id, body);
      const detail = await detailFor(tx, whose, meeting, { at: occurrence ?? undefined, now });
      return new MadeAgain(detail, detailAgain(id, occurrence, body.for));
    },
    'GET /api/invitations/:id/days': async ({ actor: asker, params: { id }, query, now }) => {
      const actor = await actingFor(pool, asker, query.for);
      const event = await readDetail(pool, actor, id, { at: query.occurrence, now });
      return readDaysAround(pool, actor, {
        people: event.attendees.flatMap(({ personId }) => personId ?? []),
        except: exceptOf(id, event.series?.recurrenceId ?? null),
        start: event.start,
        now,
        asked: query,
      });
    },
    'PUT /api/invitations/:id/proposals': async (tx, { actor, params: { id }, body, now }) => {
      const whose = await actingFor(tx, actor, body.for);
      const { occurrence } = await proposeTo(tx, platform, whose, id, body);
      const detail = await readDetail(tx, whose, id, { at: occurrence ?? undefined, now });
      return new MadeAgain(detail, detailAgain(id, occurrence, body.for));
    },
    'GET /api/replies': async ({ actor: { principals }, query, now }) => {
      const [meetings, counts, drafts] = await Promise.all([
        readOrganized(pool, principals, now, query),
        countOrganized(pool, principals, now),
        readDrafts(pool, principals, now),
      ]);
      return { meetings, ...counts, drafts };
    },
    'GET /api/replies/unanswered': ({ actor: { principals }, now }) =>
      readUnanswered(pool, principals, now),
    'GET /api/replies/:id/history': async ({ actor, params }) => {
      await changeableMeeting(pool, actor, params.id, 'organizer');
      return { entries: await readHistory(pool, params.id) };
    },
    'GET /api/replies/:id/times': ({ actor, params, query, now }) =>
      readOtherTimes(pool, actor, params.id, now, query.occurrence),
    'POST /api/replies/:id/times': async (tx, { actor, params: { id }, body, now }) => {
      const { occurrence, undo } = await takeTime(tx, platform, actor, id, body);
      const detail = await readDetail(tx, actor, id, { at: occurrence ?? undefined, now });
      const more = undo ? { undo } : {};
      return new MadeAgain({ ...detail, ...more }, { ...detailAgain(id, occurrence), more });
    },
  };
});
