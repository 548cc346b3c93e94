import type { BusySpan } from '../../contract/availability.ts';
import type { PublishedFreeBusy } from '../../core/icalendar/freebusy.ts';
import type { Database, Transaction } from '../db/transaction.ts';

export interface PublishedRow {
  personId: number;
  readAt: number | null;
  failing: boolean;
  /** Starts and ends of what it is of, in order; null before it was read. */
  coversFrom: number[] | null;
  coversTo: number[] | null;
}

export async function readPublishedCalendars(
  db: Database,
  personIds: readonly number[],
): Promise<PublishedRow[]> {
  const { rows } = await db.query<PublishedRow>(
    `select person_id as "personId", read_at as "readAt", failure is not null as failing,
            case when covers is not null then array(
              select (extract(epoch from lower(part)) * 1000)::float8
              from unnest(covers) part order by lower(part)) end as "coversFrom",
            case when covers is not null then array(
              select (extract(epoch from upper(part)) * 1000)::float8
              from unnest(covers) part order by lower(part)) end as "coversTo"
     from published_calendar where person_id = any($1)`,
    [personIds],
  );
  return rows;
}

export async function readPublishedTimes(
  db: Database,
  personIds: readonly number[],
  from: number,
  to: number,
): Promise<Map<number, BusySpan[]>> {
  const { rows } = await db.query<{
    personId: number;
    start: number;
    end: number;
    occupancy: 'busy' | 'tentative' | 'away';
  }>(
    `select person_id as "personId", lower(during) as start, upper(during) as "end", occupancy
     from published_busy
     where person_id = any($1) and during && tstzrange($2, $3)
     order by person_id, lower(during)`,
    [personIds, new Date(from), new Date(to)],
  );
  const times = new Map<number, BusySpan[]>(personIds.map((id) => [id, []]));
  for (const { personId, start, end, occupancy } of rows)
    times.get(personId)!.push([start, end, occupancy]);
  return times;
}

/**
 * Takes addresses that were not tried since an instant, and marks them as tried, so that nobody else
 * reads them at the same moment.
 * @param personIds whose; null for everybody's
 */
export async function takeAddresses(
  db: Database,
  personIds: readonly number[] | null,
  triedBefore: number,
  now: number,
  most: number,
): Promise<{ personId: number; address: string; zone: string }[]> {
  const { rows } = await db.query<{ personId: number; address: string; zone: string }>(
    `update published_calendar set tried_at = $3
     from person
     where person.subject_id = published_calendar.person_id
       and published_calendar.person_id in (
         select person_id from published_calendar
         where ($1::int[] is null or person_id = any($1))
           and (tried_at is null or tried_at <= $2)
         order by tried_at nulls first limit $4 for update skip locked)
     returning person_id as "personId", address, person.zone`,
    [personIds, new Date(triedBefore), new Date(now), most],
  );
  return rows;
}

/** Replaces what is kept of somebody's published times. */
export async function replaceTimes(
  tx: Transaction,
  personId: number,
  { covers, busy }: PublishedFreeBusy,
  now: number,
): Promise<void> {
  await tx.query(
    `update published_calendar
     set read_at = $2, tried_at = $2, failure = null,
         covers = (select range_agg(tstzrange(starts_at, ends_at))
                   from unnest($3::timestamptz[], $4::timestamptz[]) as part (starts_at, ends_at))
     where person_id = $1`,
    [
      personId,
      new Date(now),
      covers.map((one) => new Date(one.start)),
      covers.map((one) => new Date(one.end)),
    ],
  );
  await tx.query('delete from published_busy where person_id = $1', [personId]);
  await tx.query(
    `insert into published_busy (person_id, during, occupancy)
     select $1, tstzrange(starts_at, ends_at), occupancy
     from unnest($2::timestamptz[], $3::timestamptz[], $4::text[]) as new (starts_at, ends_at, occupancy)`,
    [
      personId,
      busy.map((one) => new Date(one.start)),
      busy.map((one) => new Date(one.end)),
      busy.map((one) => one.occupancy),
    ],
  );
}

/** Notes that an address could not be read; what was read before is kept. */
export async function noteFailure(
  tx: Transaction,
  personId: number,
  failure: string,
  now: number,
): Promise<void> {
  await tx.query('update published_calendar set tried_at = $2, failure = $3 where person_id = $1', [
    personId,
    new Date(now),
    failure.slice(0, 500),
  ]);
}
