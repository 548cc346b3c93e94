import type { BookingNote } from '../../contract/bookings.ts';
import { wantedResources } from '../../core/meetings/meeting.ts';
import { Refusal } from '../../core/refusal.ts';
import { may, takesPart } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { readMeeting } from '../events/index.ts';
import { readNote, writeNote } from '../reservations/index.ts';

/** Whose booking it is, for whoever has it and those who look after places. */
async function holderOf(db: Database, actor: PersonActor, eventId: string): Promise<number | null> {
  const meeting = await readMeeting(db, eventId);
  const isTheirs = meeting !== null && takesPart(actor, [meeting.organizerId]);
  // What takes no place is nothing to those who look after places.
  const keeps =
    meeting !== null &&
    meeting.draft === null &&
    wantedResources(meeting).some((id) => may(actor, 'see', id));
  if (isTheirs || keeps) return meeting.organizerId;
  throw new Refusal('no-such-booking', 'There is no such booking.', {
    fields: [{ field: 'id', message: 'must be the id of a booking' }],
  });
}

/** What those who look after places were told of a booking. @throws Refusal where it is not for the actor */
export async function noteOn(
  db: Database,
  actor: PersonActor,
  eventId: string,
): Promise<BookingNote> {
  await holderOf(db, actor, eventId);
  return readNote(db, eventId);
}

/** Says something else to those who look after places. @throws Refusal where it is not the actor's */
export async function changeNote(
  tx: Transaction,
  actor: PersonActor,
  eventId: string,
  note: BookingNote,
): Promise<BookingNote> {
  const holder = await holderOf(tx, actor, eventId);
  writeNote(tx, eventId, note, holder === actor.me.id ? holder : null);
  return note;
}
