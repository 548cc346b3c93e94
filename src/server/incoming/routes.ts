import { incomingRoutes, type CountedMail } from '../../contract/incoming.ts';
import { changeableMeeting, mayChangeIt, visibleMeeting } from '../events/index.ts';
import { peopleOf } from '../../core/meetings/meeting.ts';
import { takesPart } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { implement } from '../http/index.ts';
import { countAside, leaveAside } from './aside.ts';
import { readAside, readAsideOf, readCounted } from './queries.ts';

export const incomingApi = implement(incomingRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/incoming': async ({ actor }) => ({ mails: await readAsideOf(pool, actor.me.id) }),
    'GET /api/replies/:id/aside': async ({ actor, params }) => {
      await changeableMeeting(pool, actor, params.id, 'organizer');
      return { mails: await readAside(pool, params.id) };
    },
    'GET /api/events/:id/letters': async ({ actor, params }) => ({
      letters: await lettersFor(pool, actor, params.id),
    }),
    'POST /api/incoming/:id/count': (tx, { actor, params, body }) =>
      countAside(tx, platform, actor, params.id, body),
    'POST /api/incoming/:id/leave': (tx, { actor, params }) => leaveAside(tx, actor, params.id),
  };
});

/**
 * Letters from which a meeting was taken, for those of here who are invited to one elsewhere, and for whoever may
 * change one of here; all others who see it are told of none.
 * @throws Refusal where the actor does not see it
 */
async function lettersFor(db: Database, actor: PersonActor, id: string): Promise<CountedMail[]> {
  const meeting = await visibleMeeting(db, actor, id);
  const isTold =
    meeting.organizerId === null
      ? takesPart(actor, peopleOf(meeting))
      : await mayChangeIt(db, actor, meeting);
  return isTold ? readCounted(db, id) : [];
}
