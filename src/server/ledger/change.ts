import type { LedgerChange, LedgerChanged } from '../../contract/ledger.ts';
import { mayChange, showsEverything } from '../../core/availability/busy.ts';
import { grouped } from '../../core/grouped.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { Levels, takesPart } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { changeBookings, lockMeetings, type StoredMeeting } from '../events/index.ts';
import type { Platform } from '../platform.ts';

/** A change as it was read, its defaults filled in. */
type Change = Required<Pick<LedgerChange, 'change' | 'message'>> & {
  bookings: { eventId: string; occurrence: string | null; placeId: number }[];
};

/**
 * Gives several bookings back, puts them into another place or moves them in time: all of them, or none.
 * Those who look after places may give back and put elsewhere whatever they can see; their times are moved
 * by those alone who may change them.
 * @throws Refusal naming the first booking that is none, or not theirs to change
 */
export async function changeLedger(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { bookings, change, message }: Change,
): Promise<LedgerChanged> {
  const keyOf = (one: Change['bookings'][number]) =>
    `${one.eventId} ${one.occurrence ?? ''} ${one.placeId}`;
  if (new Set(bookings.map(keyOf)).size < bookings.length) {
    throw invalid([{ field: 'bookings', message: 'must name each booking once' }]);
  }
  const meetings = await lockMeetings(tx, [...new Set(bookings.map((one) => one.eventId))].sort());
  const allowed = await changeable(tx, actor, [...meetings.values()], change.kind);
  bookings.forEach(({ eventId }, k) => {
    const may = allowed.get(eventId);
    if (may === undefined) {
      throw new Refusal('no-such-booking', 'There is no such booking.', {
        fields: [{ field: `bookings.${k}.eventId`, message: 'must be the id of a booking' }],
      });
    }
    if (!may) {
      throw new Refusal('not-organizer', `Only its organizer can change “${titleOf(eventId)}”.`, {
        fields: [{ field: `bookings.${k}.eventId`, message: 'must be a booking you may change' }],
      });
    }
  });
  function titleOf(id: string) {
    return meetings.get(id)!.title;
  }
  const byMeeting = grouped(bookings, (one) => one.eventId);
  return changeBookings(tx, platform, actor, meetings, byMeeting, change, message);
}

/** Which of meetings are seen whole, and whether they may be changed so. */
async function changeable(
  tx: Transaction,
  actor: PersonActor,
  meetings: readonly StoredMeeting[],
  kind: Change['change']['kind'],
): Promise<Map<string, boolean>> {
  const levels = await Levels.of(
    tx,
    actor,
    meetings.map((one) => one.organizerId),
  );
  const looksAfter = actor.me.role !== 'staff' && kind !== 'shift';
  return new Map(
    meetings.flatMap((one): [string, boolean][] => {
      const level = levels.event({
        organizerId: one.organizerId,
        visibility: one.draft ? 'draft' : one.visibility,
        rights: one.rights,
        takesPart:
          !one.draft &&
          takesPart(
            actor,
            one.participants.map((person) => person.personId),
          ),
      });
      return showsEverything(level) ? [[one.id, mayChange(level) || looksAfter]] : [];
    }),
  );
}
