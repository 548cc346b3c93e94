import type {
  MovableMeeting,
  MovableRequest,
  MovableResponse,
} from '../../contract/availability.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { busyTimes } from './service.ts';
import { readMovable } from './ownQueries.ts';
import { MOST_MOVABLE_MEETINGS } from './limits.ts';

/** Meetings to come that the asker organizes, with the busy times of whom and what they take. */
export async function movableMeetings(
  db: Database,
  actor: PersonActor,
  { from, to }: MovableRequest,
  now: number,
): Promise<MovableResponse> {
  // What is over cannot move.
  if (to <= now) return { meetings: [], subjects: [] };
  const meetings: MovableMeeting[] = await readMovable(
    db,
    actor.me.id,
    Math.max(from, now),
    to,
    MOST_MOVABLE_MEETINGS,
  );
  const ids = [
    ...new Set(meetings.flatMap((one) => [...one.people.map(({ id }) => id), ...one.resources])),
  ];
  const { subjects } = ids.length
    ? await busyTimes(db, actor, { subjects: ids, from, to }, now)
    : { subjects: [] };
  return { meetings, subjects };
}
