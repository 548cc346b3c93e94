import type { WallTime } from '../../core/time/wall.ts';
import type { Unprojected } from '../access/index.ts';
import { holding } from '../db/like.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import type { Searched } from './matchingQueries.ts';
import { MOST_MEETINGS_OF_TITLE } from './limits.ts';

/** The index of titles knows words by three letters in a row. */
const FINDABLE = /[\p{L}\p{N}]{3}/u;

/**
 * The places, people and meetings that words name; who of them is seen is the statement's to say.
 * @param most how many meetings are listed
 */
export async function readNamedBy(
  db: Database,
  words: string,
  most = MOST_MEETINGS_OF_TITLE,
): Promise<Searched['named']> {
  if (words === '') return { places: [], people: [], meetings: null };
  const { rows } = await db.query<{ places: number[]; people: number[]; meetings: string[] }>(
    `select
       array(select resource.subject_id from resource
             join subject on subject.id = resource.subject_id
             join site on site.id = resource.site_id
             where subject.name ilike $1 or site.name ilike $1) as places,
       array(select subject.id from person join subject on subject.id = person.subject_id
             where subject.name ilike $1) as people,
       array((select id from event where $2 and title ilike $1 limit ${most + 1})
             union
             (select event_id from occurrence_override where $2 and title ilike $1
              limit ${most + 1})) as meetings`,
    [holding(words), FINDABLE.test(words)],
  );
  const { meetings, ...named } = rows[0]!;
  const isComplete = FINDABLE.test(words) && meetings.length <= most;
  return { ...named, meetings: isComplete ? meetings : null };
}

/** The views that somebody keeps, by name. */
export async function readViews(
  db: Database,
  ownerId: number,
): Promise<{ id: number; name: string; query: string }[]> {
  const { rows } = await db.query<{ id: number; name: string; query: string }>(
    'select id, name, query from ledger_view where owner_id = $1 order by lower(name)',
    [ownerId],
  );
  return rows;
}

/** Keeps a view; one of the same name is replaced. */
export async function upsertView(
  tx: Transaction,
  ownerId: number,
  { name, query }: { name: string; query: string },
): Promise<number> {
  const { rows } = await tx.query<{ id: number }>(
    `insert into ledger_view (owner_id, name, query) values ($1, $2, $3)
     on conflict (owner_id, name) do update set query = excluded.query returning id`,
    [ownerId, name, query],
  );
  return rows[0]!.id;
}

/** @returns whether there was one */
export async function deleteView(tx: Transaction, ownerId: number, id: number): Promise<boolean> {
  const { rowCount } = await tx.query('delete from ledger_view where owner_id = $1 and id = $2', [
    ownerId,
    id,
  ]);
  return rowCount === 1;
}

/** A booking that is to be changed: a date of a meeting, and a place it has then. */
export interface NamedBooking {
  id: string;
  eventId: string;
  occurrence: WallTime | null;
  placeId: number;
  start: number;
}

/** Which bookings some ids mean. */
export async function readNamed(db: Database, ids: readonly string[]): Promise<NamedBooking[]> {
  const { rows } = await db.query<NamedBooking>(
    `select r.id::text, occurrence.event_id as "eventId", occurrence.recurrence_at as occurrence,
            r.resource_id as "placeId", r.starts_at as start
     from reservation r join occurrence on occurrence.id = r.occurrence_id
     where r.id = any($1::bigint[]) and r.state <> 'released'`,
    [ids],
  );
  return rows;
}

/** What calendar programs know a booking by, and what else its date has. */
export interface CalendarName {
  eventId: string;
  placeId: number;
  unit: number;
  uid: string;
  sequence: number;
  zone: string;
  allDay: boolean;
  occurrence: WallTime | null;
  /** All places of its date that are not given back, as `Gannet, Skerry House`. */
  places: string[];
}

/** By what names some bookings are written out, by their ids; those that are gone are left out. */
export async function readCalendarNames(
  db: Database,
  ids: readonly string[],
): Promise<Map<string, CalendarName>> {
  const { rows } = await db.query<CalendarName & { id: string }>(
    `select r.id::text, r.event_id as "eventId", r.resource_id as "placeId", r.unit, event.uid,
            event.sequence, event.zone, event.all_day as "allDay",
            occurrence.recurrence_at as occurrence,
            array(select subject.name || ', ' || site.name
                  from reservation beside
                  join resource on resource.subject_id = beside.resource_id
                  join subject on subject.id = beside.resource_id
                  join site on site.id = resource.site_id
                  where beside.occurrence_id = r.occurrence_id and beside.state <> 'released'
                  order by subject.name, beside.unit) as places
     from reservation r
     join event on event.id = r.event_id
     left join occurrence on occurrence.id = r.occurrence_id
     where r.id = any($1::bigint[])`,
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** Enough to put two hundred thousand bookings together without a file. */
const WORK_MEM = '16MB';

/** Has the statements of a transaction planned each by itself, for what they ask of a table this long. */
export function planAlone(tx: Transaction): void {
  tx.send('set local plan_cache_mode = force_custom_plan');
  tx.send('set local random_page_cost = 1.1');
  tx.send('set local jit = off');
  // Into few meetings all bookings are looked up, which beside each other are gone through whole.
  tx.send('set local enable_mergejoin = off');
  tx.send(`set local work_mem = '${WORK_MEM}'`);
}

/** What some events are for, by their ids. */
export async function readTitles(
  db: Database,
  ids: readonly string[],
): Promise<Map<string, Unprojected<string>>> {
  const { rows } = await db.query<{ id: string; title: Unprojected<string> }>(
    'select id, title from event where id = any($1::uuid[])',
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row.title]));
}
