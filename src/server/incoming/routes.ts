import { incomingRoutes } from '../../contract/incoming.ts';
import { changeableMeeting, visibleMeeting } from '../events/index.ts';
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
    'GET /api/events/:id/letters': async ({ actor, params }) => {
      await lettersOf(pool, actor, params.id);
      return { letters: await readCounted(pool, params.id) };
    },
    'POST /api/incoming/:id/count': (tx, { actor, params, body }) =>
      countAside(tx, platform, actor, params.id, body),
    'POST /api/incoming/:id/leave': (tx, { actor, params }) => leaveAside(tx, actor, params.id),
  };
});

/**
 * Who is told which letters a meeting was taken from: of one that is organized here its organizer, of one elsewhere
 * those of here who are invited.
 * @throws Refusal where the actor is neither
 */
async function lettersOf(db: Database, actor: PersonActor, id: string): Promise<void> {
  const meeting = await visibleMeeting(db, actor, id);
  if (meeting.organizerId === null && takesPart(actor, peopleOf(meeting))) return;
  await changeableMeeting(db, actor, id, 'organizer');
}
