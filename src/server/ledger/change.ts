import type { z } from 'zod';
import type { LedgerChange, LedgerChanged, ledgerChangesMade } from '../../contract/ledger.ts';
import { MOST_MADE_TOGETHER } from '../../contract/limits.ts';
import { mayChange, showsEverything } from '../../core/availability/busy.ts';
import { wantedResources } from '../../core/meetings/meeting.ts';
import { grouped } from '../../core/grouped.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import {
  changeBookings,
  levelsOn,
  lockMeetings,
  readMadeTogether,
  type StoredMeeting,
} from '../events/index.ts';
import { LISTED_FOR } from './limits.ts';
import { readNamed, readTitles } from './queries.ts';
import type { Platform } from '../platform.ts';
import { may, titleIn, titlesSeen } from '../access/index.ts';

/** A change as it was read, its defaults filled in. */
type Change = Required<LedgerChange>;

/**
 * Gives several bookings back, puts them into another place or moves them in time: all of them, or none.
 * Those who look after places do so with any booking, whether or not they see what it is for; the time of
 * what others take part in is moved from its own page alone.
 * @throws Refusal naming the first booking that is none, was moved since, or is not theirs to change
 */
export async function changeLedger(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { bookings, change, message }: Change,
): Promise<LedgerChanged> {
  if (new Set(bookings.map((one) => one.id)).size < bookings.length) {
    throw invalid([{ field: 'bookings', message: 'must name each booking once' }]);
  }
  const ids = bookings.map((one) => one.id);
  const meant = await readNamed(tx, ids);
  const meetings = await lockMeetings(tx, [...new Set(meant.map((one) => one.eventId))].sort());
  // As they are now that nobody else changes them.
  const named = new Map((await readNamed(tx, ids)).map((one) => [one.id, one]));
  const allowed = await levelsOn(tx, actor, [...meetings.values()]);
  const chosen = bookings.map(({ id, start }, k) => {
    const one = named.get(id);
    const meeting = one && meetings.get(one.eventId);
    const right = meeting ? rightOn(actor, meeting, allowed, one, change) : 'hidden';
    if (!one || right === 'hidden') {
      throw new Refusal('no-such-booking', 'There is no such booking.', {
        fields: [{ field: `bookings.${k}.id`, message: 'must be the id of a booking' }],
      });
    }
    if (right === 'seen') {
      throw new Refusal('not-organizer', 'Only whoever organizes it can change it so.', {
        fields: [{ field: `bookings.${k}.id`, message: 'must be a booking you may change' }],
      });
    }
    if (one.start !== start) {
      throw new Refusal(
        'changed-since',
        'One of them was moved meanwhile. Look at them again; nothing was changed.',
        { fields: [{ field: `bookings.${k}.start`, message: 'must be when it begins now' }] },
      );
    }
    return one;
  });
  const byMeeting = grouped(chosen, (one) => one.eventId);
  return changeBookings(tx, platform, actor, meetings, byMeeting, change, message);
}

/** What somebody may do with a booking so: nothing, since it is not seen; see it; change it. */
function rightOn(
  actor: PersonActor,
  meeting: StoredMeeting,
  levels: Awaited<ReturnType<typeof levelsOn>>,
  { placeId }: { placeId: number },
  { kind }: Change['change'],
): 'hidden' | 'seen' | 'change' {
  const { level } = levels.get(meeting.id)!;
  // Another time is that of every place it has.
  const touched = kind === 'shift' ? wantedResources(meeting) : [placeId];
  if (mayChange(level) || touched.every((id) => may(actor, 'change', id))) return 'change';
  return showsEverything(level) || may(actor, 'see', placeId) ? 'seen' : 'hidden';
}

const TITLES = 3;

/** What somebody changed of several bookings at once, the latest first. */
export async function changesMade(
  db: Database,
  actor: PersonActor,
  now: number,
): Promise<z.output<typeof ledgerChangesMade>['made']> {
  const made = await readMadeTogether(db, actor.me.id, now - LISTED_FOR, MOST_MADE_TOGETHER);
  const first = made.flatMap(({ changes }) => changes.slice(0, TITLES).map((one) => one.id));
  const [seen, titles] = await Promise.all([titlesSeen(db, actor, first), readTitles(db, first)]);
  return made.map(({ changes, ...one }) => ({
    ...one,
    changes,
    titles: changes.slice(0, TITLES).flatMap(({ id }) => {
      const title = titles.get(id);
      return title === undefined ? [] : (titleIn(seen, { eventId: id, title }) ?? []);
    }),
  }));
}
