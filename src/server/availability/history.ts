import type { HistoryResponse } from '../../contract/availability.ts';
import { DAY } from '../../core/time/interval.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { readShared } from './ownQueries.ts';
import { LOOK_BACK_DAYS, MOST_PAST_MEETINGS, MUCH_THE_SAME } from './limits.ts';

/** The last meetings that the asker had with at least two thirds of some people. */
export async function pastMeetings(
  db: Database,
  actor: PersonActor,
  people: readonly number[],
  now: number,
): Promise<HistoryResponse> {
  const others = people.filter((id) => id !== actor.me.id);
  if (others.length === 0) return { meetings: [] };
  const least = Math.max(1, Math.ceil(others.length * MUCH_THE_SAME));
  const from = now - LOOK_BACK_DAYS * DAY;
  return {
    meetings: await readShared(
      db,
      actor.me.id,
      others,
      { least, from, to: now },
      MOST_PAST_MEETINGS,
    ),
  };
}
