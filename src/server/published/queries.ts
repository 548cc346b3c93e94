import type { BusySpan } from '../../contract/availability.ts';
import type { PublishedFreeBusy } from '../../core/icalendar/freebusy.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { Database, Transaction } from '../db/transaction.ts';

export interface PublishedRow {
  personId: number;
  readAt: number | null;
  failing: boolean;
  coversFrom: number | null;
  coversTo: number | null;
}

export async function readCalendars(
  db: Database,
  personIds: readonly number[],
): Promise<PublishedRow[]> {
  const { rows } = await db.query<PublishedRow>(
    `select person_id as "personId", read_at as "readAt", failure is not null as failing,
            lower(covers) as "coversFrom", upper(covers) as "coversTo"
     from published_calendar where person_id = any($1)`,
    [personIds],
  );
  return rows;
}

export async function readTimes(
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

/** Addresses to read: of some people, or all that were not tried since an instant. */
export async function readAddresses(
  db: Database,
  which: { personIds: readonly number[] } | { triedBefore: number },
): Promise<{ personId: number; address: string }[]> {
  const of = 'personIds' in which;
  const { rows } = await db.query<{ personId: number; address: string }>(
    `select person_id as "personId", address from published_calendar
     where case when $1 then person_id = any($2)
                else tried_at is null or tried_at < $3 end
     order by person_id`,
    [of, of ? which.personIds : [], new Date(of ? 0 : which.triedBefore)],
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
  const span = ({ start, end }: Interval) => [new Date(start), new Date(end)];
  await tx.query(
    `update published_calendar
     set read_at = $2, tried_at = $2, failure = null, covers = tstzrange($3, $4)
     where person_id = $1`,
    [personId, new Date(now), ...span(covers)],
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
