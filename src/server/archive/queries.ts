import type { Database } from '../db/transaction.ts';
import { ROWS_AT_ONCE } from './limits.ts';
import type { Part } from './parts.ts';

/** A part's rows, some at a time, each as JSON. No connection is held while they are written out. */
export async function* readPart(
  db: Database,
  { table, of, without = [] }: Part,
  personId: number,
): AsyncGenerator<string[]> {
  for (let after = '(0,0)'; ;) {
    const { rows } = await db.query<{ at: string; row: string }>(
      `select ctid::text as at, (to_jsonb(one) - $2::text[])::text as row from ${table} one
       where (${of}) and ctid > $3::tid order by ctid limit ${ROWS_AT_ONCE}`,
      [personId, without, after],
    );
    if (rows.length > 0) yield rows.map(({ row }) => row);
    if (rows.length < ROWS_AT_ONCE) return;
    after = rows.at(-1)!.at;
  }
}

/** A date in somebody's calendar. */
export interface OwnDate {
  id: string;
  uid: string;
  sequence: number;
  recurrence: number | null;
  start: number;
  end: number;
  title: string;
  place: string;
  status: 'confirmed' | 'cancelled';
}

/** What stands in somebody's calendar, date by date, some at a time. */
export async function* readDates(db: Database, personId: number): AsyncGenerator<OwnDate[]> {
  for (let after = '0'; ;) {
    const { rows } = await db.query<OwnDate>(
      `select claim.id::text, event.uid, event.sequence, occurrence.starts_at as start,
              occurrence.ends_at as "end", occurrence.title, occurrence.place, event.status,
              case when occurrence.recurrence_at is not null
                   then extract(epoch from occurrence.recurrence_at at time zone event.zone)::float8 * 1000
                   end as recurrence
       from claim
       join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
       join event on event.id = occurrence.event_id
       where claim.subject_id = $1 and claim.id > $2::bigint
         and (event.draft is null or event.organizer_id = $1)
       order by claim.id limit ${ROWS_AT_ONCE}`,
      [personId, after],
    );
    if (rows.length > 0) yield rows;
    if (rows.length < ROWS_AT_ONCE) return;
    after = rows.at(-1)!.id;
  }
}

/** The files that somebody added, and those of what they organize, without their contents. */
export async function readFiles(
  db: Database,
  personId: number,
): Promise<{ id: string; eventId: string; name: string }[]> {
  const { rows } = await db.query<{ id: string; eventId: string; name: string }>(
    `select attachment.id, attachment.event_id as "eventId", attachment.name
     from attachment join event on event.id = attachment.event_id
     where attachment.added_by = $1 or event.organizer_id = $1
     order by attachment.event_id, attachment.id`,
    [personId],
  );
  return rows;
}
