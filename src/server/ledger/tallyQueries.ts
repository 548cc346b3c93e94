import type { Pool } from 'pg';
import type { LedgerExportQuery, LedgerGroup } from '../../contract/ledger.ts';
import { DAY } from '../../core/time/interval.ts';
import { transaction, type Database } from '../db/transaction.ts';
import type { JobDefinition } from '../jobs/index.ts';
import type { Span, Statement } from './matchingQueries.ts';
import { CHANGES_ADDED_AT_ONCE } from './limits.ts';

const WEEK = 7 * DAY;
/** The first Monday since the epoch. */
const FIRST_MONDAY = 4 * DAY;

/** The beginning of the week (from Monday, UTC) that an instant is in. */
const weekOf = (instant: number): number =>
  Math.floor((instant - FIRST_MONDAY) / WEEK) * WEEK + FIRST_MONDAY;

/** The day an instant is of in UTC, as the database reads it. */
const dayOf = (instant: number | null): string | null =>
  instant === null ? null : new Date(instant).toISOString().slice(0, 10);

/** The sums that are kept, and what has changed since. */
const SUMS = '(select * from booking_tally union all select * from booking_tally_change)';

/** What sums are added up by for a group. */
const COLUMN: Partial<Record<LedgerGroup, string>> = { week: 'week', state: 'state' };

/**
 * Bookings by place, week or state as `met`, added up of the sums that are kept of whole weeks; only what
 * begins before the first of these, or after the last, is counted.
 *
 * Weeks begin on the reader's clock, those that are kept in UTC. What lies between the two beginnings is
 * taken from the one week and added to the other.
 */
export function talliedBy(
  { places, span, where, param }: Statement,
  group: LedgerGroup,
  zone: string,
): string[] {
  const column = COLUMN[group] ?? 'resource_id';
  const isByWeek = column === 'week';
  const at = (instant: number | null) =>
    `${param(instant === null ? null : new Date(instant))}::timestamptz`;
  const first = span.start === null ? null : weekOf(span.start + WEEK - 1);
  const last = span.end === null ? null : weekOf(span.end);
  const [firstDay, lastDay] = [dayOf(first), dayOf(last)].map((day) => `${param(day)}::date`);
  const own = () =>
    isByWeek
      ? `date_trunc('week', r.starts_at at time zone ${param(zone)}::text)::date`
      : 'null::date';
  const counted = (start: string, end: string) =>
    `select r.resource_id, ${own()} as week, r.state, 1 as bookings, r.minutes
     from reservation r where r.starts_at >= ${start} and r.starts_at < ${end}`;
  const parts = [
    'select * from sums',
    ...(first === null ? [] : [counted(at(span.start), at(first))]),
    ...(last === null ? [] : [counted(at(last), at(span.end))]),
    ...(isByWeek
      ? [
          `select r.resource_id, case when early = (sign = 1) then monday else monday - 7 end as week,
                  r.state, sign as bookings, sign * r.minutes as minutes
           from (select distinct week + days as monday from sums, (values (0), (7)) edge (days)) mondays
           cross join lateral (
             select monday::timestamp at time zone 'UTC' as kept,
                    monday::timestamp at time zone ${param(zone)}::text as here) begins
           cross join lateral (
             select r.resource_id, r.state, r.minutes, here < kept as early from reservation r
             where r.starts_at >= greatest(least(here, kept), ${at(first)})
               and r.starts_at < least(greatest(here, kept), ${at(last)}) offset 0) r
           cross join (values (1), (-1)) as signs (sign)`,
        ]
      : []),
  ];
  return [
    `sums as (
       select resource_id, week, state, bookings, minutes
       from ${SUMS} kept
       where (${firstDay!} is null or week >= ${firstDay!}) and (${lastDay!} is null or week < ${lastDay!}))`,
    `met as materialized (
       select r.${column}, sum(bookings) as bookings, sum(r.minutes) as lasting
       from (${parts.join('\nunion all\n')}) r ${places}
       where ${where.map((one) => `(${one})`).join(' and ')}
       group by 1 having sum(bookings) > 0)`,
  ];
}

/**
 * How many bookings there are at most in a span, at a place, of a kind and a site: those of all weeks of
 * which some is in it, by the sums that are kept.
 */
export async function tallyOf(
  db: Database,
  { start, end }: Span,
  { place, kind, site }: Pick<LedgerExportQuery, 'place' | 'kind' | 'site'>,
): Promise<number> {
  const { rows } = await db.query<{ bookings: number }>(
    `select coalesce(sum(bookings), 0)::int as bookings
     from ${SUMS} kept
     join resource on resource.subject_id = kept.resource_id
     where ($1::date is null or week >= $1) and ($2::date is null or week < $2)
       and ($3::int is null or resource.subject_id = $3)
       and ($4::text is null or resource.kind = $4) and ($5::int is null or resource.site_id = $5)`,
    [
      dayOf(start === null ? null : weekOf(start)),
      dayOf(end === null ? null : weekOf(end + WEEK - 1)),
      place ?? null,
      kind ?? null,
      site ?? null,
    ],
  );
  return rows[0]!.bookings;
}

/** Adds what has changed to the sums that are kept, so many changes at most. @returns how many these were */
export const foldTally = (pool: Pool, most = CHANGES_ADDED_AT_ONCE): Promise<number> =>
  transaction(pool, async (tx) => {
    // One at a time, of whatever server: nobody else writes to the sums.
    tx.send(`select pg_advisory_xact_lock(hashtext('booking_tally'))`);
    const { rows } = await tx.query<{ changes: number }>(
      `with changed as (
         delete from booking_tally_change
         where ctid = any(array(select ctid from booking_tally_change limit $1))
         returning *
       ), added as (
         insert into booking_tally as kept (resource_id, week, state, bookings, minutes)
         select resource_id, week, state, sum(bookings), sum(minutes) from changed
         group by resource_id, week, state
         on conflict (week, resource_id, state) do update
         set bookings = kept.bookings + excluded.bookings, minutes = kept.minutes + excluded.minutes
       )
       select count(*)::int as changes from changed`,
      [most],
    );
    const { changes } = rows[0]!;
    if (changes > 0)
      tx.send(
        `delete from booking_tally where week > '-infinity' and bookings = 0 and minutes = 0`,
      );
    return changes;
  });

/** Every minute: what was booked meanwhile is added to the sums that the ledger adds up. */
export const tallyJob: JobDefinition = {
  kind: 'tally',
  atOnce: 1,
  timeLimitMs: 60_000,
  pausesMinutes: [1],
  everyMinutes: 1,
  async work({ pool }, _, signal) {
    while (!signal.aborted && (await foldTally(pool)) === CHANGES_ADDED_AT_ONCE);
  },
};
