import type { BookingNote } from '../../contract/bookings.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/**
 * Keeps what those who look after places are told of a booking; whom to ask is remembered for whoever
 * has it, for the next time.
 * @param rememberedFor whose word it is; null where it is not the holder's own
 */
export function writeNote(
  tx: Transaction,
  eventId: string,
  { note, contact }: BookingNote,
  rememberedFor: number | null,
): void {
  tx.send(
    `with remembered as (
       insert into preference (person_id, booking_contact)
       select $4::int, $3 where $4::int is not null and $3 <> ''
       on conflict (person_id) do update set booking_contact = excluded.booking_contact
     )
     insert into booking_note (event_id, note, contact) values ($1, $2, $3)
     on conflict (event_id) do update set note = excluded.note, contact = excluded.contact`,
    [eventId, note, contact, rememberedFor],
  );
}

/** Notes go along with the part of a series that becomes one of its own. */
export const noteBelonging = {
  table: 'booking_note',
  columns: ['note', 'contact'],
  identity: ['note', 'contact'],
};

/** What is kept of a booking; empty where nothing was said. */
export async function readNote(db: Database, eventId: string): Promise<BookingNote> {
  const { rows } = await db.query<BookingNote>(
    'select note, contact from booking_note where event_id = $1',
    [eventId],
  );
  return rows[0] ?? { note: '', contact: '' };
}

/** Whom somebody last named to be asked about their bookings. */
export async function readContact(db: Database, personId: number): Promise<string> {
  const { rows } = await db.query<{ contact: string }>(
    'select booking_contact as contact from preference where person_id = $1',
    [personId],
  );
  return rows[0]?.contact ?? '';
}
