import type { Database } from '../db/transaction.ts';

/** Where somebody works, as a city; null where that is nowhere. */
export async function cityOf(db: Database, personId: number): Promise<string | null> {
  const { rows } = await db.query<{ city: string }>(
    `select site.city from person join site on site.id = person.site_id
     where person.subject_id = $1`,
    [personId],
  );
  return rows[0]?.city ?? null;
}

/** The meeting that an attendee is asked to; null where they are asked no more. */
export async function meetingOfAttendee(db: Database, attendeeId: number): Promise<string | null> {
  const { rows } = await db.query<{ id: string }>(
    'select event_id as id from attendee where id = $1',
    [attendeeId],
  );
  return rows[0]?.id ?? null;
}
