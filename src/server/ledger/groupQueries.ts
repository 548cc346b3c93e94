import { type LedgerGroup, type LedgerGroupRow } from '../../contract/ledger.ts';
import { MOST_GROUPS } from '../../contract/limits.ts';
import { DAY } from '../../core/time/interval.ts';
import type { PersonActor } from '../actions/index.ts';
import { EACH_TIME } from '../db/pool.ts';
import type { Database } from '../db/transaction.ts';
import { groupOf } from './columns.ts';
import { countedBy } from './counted.ts';
import { allOf, matching, PLACES, type Searched, type Span } from './matchingQueries.ts';
import { talliedBy } from './tallyQueries.ts';
import { TALLIED_FROM_DAYS } from './limits.ts';

/** What bookings are counted by for a group, each by its name, and what is read beside that to name it. */
const BY: Record<LedgerGroup, { by: Record<string, string>; beside: string }> = {
  place: { by: { resource_id: 'r.resource_id' }, beside: PLACES },
  kind: { by: { resource_id: 'r.resource_id' }, beside: PLACES },
  site: { by: { resource_id: 'r.resource_id' }, beside: PLACES },
  floor: { by: { resource_id: 'r.resource_id' }, beside: PLACES },
  day: { by: { starts_at: 'r.starts_at' }, beside: '' },
  week: { by: { starts_at: 'r.starts_at' }, beside: '' },
  length: { by: { minutes: 'r.minutes' }, beside: '' },
  state: { by: { state: 'r.state' }, beside: '' },
  title: { by: {}, beside: '' },
  holder: { by: {}, beside: '' },
};

/** The groups that can be added up of sums that are kept by place, week and state. */
const TALLIED: readonly LedgerGroup[] = ['place', 'kind', 'site', 'floor', 'week', 'state'];

/**
 * Whether groups are added up of sums that are kept, however many bookings there are; others are counted
 * one by one.
 */
export function isTallied(
  query: Pick<Searched, 'q' | 'whose'>,
  { start, end }: Span,
  group: LedgerGroup,
): boolean {
  const isLong = start === null || end === null || end - start >= TALLIED_FROM_DAYS * DAY;
  return isLong && query.q === '' && query.whose === 'all' && TALLIED.includes(group);
}

/** Bookings put together, the largest groups first. */
export async function readGroups(
  db: Database,
  actor: PersonActor,
  query: Searched,
  group: LedgerGroup,
  now: number,
): Promise<LedgerGroupRow[]> {
  const { by, beside } = BY[group];
  const isOfMeetings = group === 'title' || group === 'holder';
  const statement = matching(actor, query, isOfMeetings ? [group] : [], now);
  const { about, param, values } = statement;
  const { zone } = actor.me;
  const tallied = isTallied(query, statement.span, group);
  const counted = tallied
    ? talliedBy(statement, group, zone)
    : [countedBy(statement, { ...about?.by, ...by })];
  const { key, label } =
    tallied && group === 'week'
      ? { key: 'r.week', label: 'r.week' }
      : groupOf(group, statement, zone);
  const { rows } = await db.query<LedgerGroupRow>(
    `${EACH_TIME}with ${[...statement.with, ...counted].join(',\n')}
     select (${key})::text as key, (${label})::text as label, sum(r.bookings)::int as bookings,
            sum(r.lasting)::float8 as minutes
     from met r ${about?.from ?? ''} ${beside}
     where ${allOf(about?.where ?? [])}
     group by 1, 2
     order by bookings desc, key limit ${param(MOST_GROUPS)}::int`,
    values,
  );
  return rows;
}
