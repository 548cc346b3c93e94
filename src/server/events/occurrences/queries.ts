import type { Interval } from '../../../core/time/interval.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import { sendTogether, type StatementPart } from '../../db/parts.ts';
import type { Database, Transaction } from '../../db/transaction.ts';
import { followOccurrences } from '../../reservations/index.ts';

export interface OccurrenceSpan extends Interval {
  /** Its place in the rule; null for what happens once. */
  recurrenceId: WallTime | null;
}

export interface StoredOccurrence extends OccurrenceSpan {
  id: number;
}

/** An occurrence and whose it is. */
export interface OccurrenceOf extends OccurrenceSpan {
  eventId: string;
}

/** The occurrences of meetings, by the meeting's id, the earliest name first. */
export async function readOccurrences(
  db: Database,
  eventIds: readonly string[],
): Promise<Map<string, StoredOccurrence[]>> {
  const found = new Map<string, StoredOccurrence[]>(eventIds.map((id) => [id, []]));
  if (eventIds.length === 0) return found;
  const { rows } = await db.query<StoredOccurrence & { eventId: string }>(
    `select event_id as "eventId", id, recurrence_at as "recurrenceId", starts_at as start,
            ends_at as "end"
     from occurrence where event_id = any($1::uuid[]) order by event_id, recurrence_at`,
    [eventIds],
  );
  for (const { eventId, ...one } of rows) found.get(eventId)!.push(one);
  return found;
}

/** Occurrences that are new, as a part of a statement; it gives their ids in the order of the spans. */
export const newOccurrences = (spans: readonly OccurrenceOf[]): StatementPart => ({
  text: `new_span as (
       select nextval(pg_get_serial_sequence('occurrence', 'id')) as id, *
       from unnest($1::uuid[], $2::timestamp[], $3::timestamptz[], $4::timestamptz[])
         with ordinality as new (event_id, recurrence_at, starts_at, ends_at, place)
     ), made_occurrence as (
       insert into occurrence (id, event_id, recurrence_at, starts_at, ends_at)
       overriding system value
       select id, event_id, recurrence_at, starts_at, ends_at from new_span
     )`,
  values: [
    spans.map((one) => one.eventId),
    spans.map((one) => one.recurrenceId),
    spans.map((one) => new Date(one.start)),
    spans.map((one) => new Date(one.end)),
  ],
  gives: `coalesce((select json_agg(id order by place) from new_span), '[]')`,
});

/** What spans are once they are stored. @param ids as `newOccurrences` gives them */
export const withIds = <Span extends OccurrenceSpan>(
  spans: readonly Span[],
  ids: unknown,
): (Span & { id: number })[] => spans.map((span, k) => ({ ...span, id: (ids as number[])[k]! }));

export async function insertOccurrences<Span extends OccurrenceOf>(
  tx: Transaction,
  spans: readonly Span[],
): Promise<(Span & { id: number })[]> {
  if (spans.length === 0) return [];
  return withIds(spans, (await sendTogether(tx, [newOccurrences(spans)]))[0]);
}

/** Gives occurrences other names or times, and deletes those that are gone, in one statement. */
export function updateOccurrences(
  tx: Transaction,
  changed: readonly StoredOccurrence[],
  gone: readonly number[],
): void {
  if (changed.length + gone.length === 0) return;
  tx.send(
    `with gone as (delete from occurrence where id = any($5::bigint[]))
     update occurrence set recurrence_at = new.recurrence_at, starts_at = new.starts_at,
                           ends_at = new.ends_at
     from unnest($1::bigint[], $2::timestamp[], $3::timestamptz[], $4::timestamptz[])
       as new (id, recurrence_at, starts_at, ends_at)
     where occurrence.id = new.id`,
    [
      changed.map((one) => one.id),
      changed.map((one) => one.recurrenceId),
      changed.map((one) => new Date(one.start)),
      changed.map((one) => new Date(one.end)),
      gone,
    ],
  );
}

/**
 * Hands occurrences over to another event, with all that hangs on them.
 * @param names how they are named there, by their names here
 */
export function moveOccurrences(
  tx: Transaction,
  fromId: string,
  toId: string,
  names: ReadonlyMap<WallTime | null, WallTime | null>,
): void {
  tx.send(
    `update occurrence set event_id = $2, recurrence_at = new.name
     from unnest($3::timestamp[], $4::timestamp[]) as new (old, name)
     where event_id = $1 and recurrence_at is not distinct from new.old`,
    [fromId, toId, [...names.keys()], [...names.values()]],
  );
  followOccurrences(tx, toId);
}

/** Hands over the occurrences from one on, under the names they have. */
export function moveOccurrencesFrom(
  tx: Transaction,
  fromId: string,
  toId: string,
  at: WallTime,
): void {
  tx.send('update occurrence set event_id = $2 where event_id = $1 and recurrence_at >= $3', [
    fromId,
    toId,
    at,
  ]);
  followOccurrences(tx, toId);
}

/** Whose claims are brought in line: everybody's, some people's, or theirs on some dates. */
export interface Concerned {
  personIds: readonly number[];
  /** Names of the dates; null for all. */
  dates: readonly (WallTime | null)[] | null;
}

/** How people's time is taken by the dates that are meant, in SQL. @param people whose; empty for everybody's */
const wantedClaims = (isMeant: (row: string) => string, people: string): string => `
  select presence.occurrence_id, presence.person_id,
         presence.during,
         case
           when presence.shows_as = 'free' then 'free'
           when presence.role = 'organizer' or presence.reply = 'accepted' then presence.shows_as
           else 'tentative'
         end as occupancy
  from effective_presence presence
  where ${isMeant('presence')} and presence.status = 'confirmed'
    and presence.person_id is not null and presence.reply <> 'declined'
    ${people && `and presence.person_id = any(${people})`}`;

/** The statement for each of these ways, so that each is planned for what it looks at. */
const CLAIMS = {
  all: claimsStatement((row) => `${row}.event_id = any($1)`, ''),
  people: claimsStatement((row) => `${row}.event_id = $1`, '$2::int[]'),
  dates: claimsStatement(
    (row) => `${row}.event_id = $1 and ${row}.recurrence_at = any($3::timestamp[])`,
    '$2::int[]',
  ),
};

/** The same of what is new, which has no claims yet. */
const FIRST_CLAIMS = `
  insert into claim (subject_id, during, occupancy, occurrence_id)
  select person_id, during, occupancy, occurrence_id
  from (${wantedClaims((row) => `${row}.event_id = $1`, '')}) wanted`;

/** Takes people's time for an event that is new. */
export function claimPeopleFirst(tx: Transaction, eventId: string): void {
  tx.send(FIRST_CLAIMS, [eventId]);
}

/** Looked up date by date: everybody's of a date are read otherwise, since most dates have few. */
function claimsOfEach(people: string): string {
  return `
  cross join unnest(${people}) as somebody
  cross join lateral (select * from claim
                      where occurrence_id = occurrence.id and subject_id = somebody offset 0) claim`;
}

/** @param isMeant which dates, in SQL @param people whose; empty for everybody's */
function claimsStatement(isMeant: (row: string) => string, people: string): string {
  return `with wanted as materialized (${wantedClaims(isMeant, people)}
     ), present as materialized (
       select claim.id, claim.occurrence_id, claim.subject_id, claim.during, claim.occupancy
       from occurrence ${people ? claimsOfEach(people) : 'join claim on claim.occurrence_id = occurrence.id'}
       where ${isMeant('occurrence')} and not claim.exclusive
     ), compared as materialized (
       select present.id, coalesce(wanted.occurrence_id, present.occurrence_id) as occurrence_id,
              wanted.person_id, wanted.during, wanted.occupancy
       from wanted full join present
         on present.occurrence_id = wanted.occurrence_id and present.subject_id = wanted.person_id
       where (wanted.during, wanted.occupancy) is distinct from (present.during, present.occupancy)
     ), gone as (
       delete from claim using compared
       where claim.id = compared.id and compared.person_id is null
     ), changed as (
       update claim set during = compared.during, occupancy = compared.occupancy
       from compared where claim.id = compared.id and compared.person_id is not null
     )
     insert into claim (subject_id, during, occupancy, occurrence_id)
     select person_id, during, occupancy, occurrence_id from compared where id is null`;
}

/**
 * Brings the claims on people's time in line with what an event says: nothing after declining, and
 * those that stay the same are not touched. One statement, however many they are.
 * @param only whose time alone can be another, where that is known
 */
export function syncBusyTime(
  tx: Transaction,
  eventIds: readonly string[],
  only: Concerned | null = null,
): void {
  if (only === null) return tx.send(CLAIMS.all, [eventIds]);
  for (const eventId of eventIds)
    if (only.dates === null) tx.send(CLAIMS.people, [eventId, only.personIds]);
    else tx.send(CLAIMS.dates, [eventId, only.personIds, only.dates]);
}
