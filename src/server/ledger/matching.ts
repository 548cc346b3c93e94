import type { LedgerColumn, LedgerExportQuery, LedgerGroup } from '../../contract/ledger.ts';
import { addDays, dateAt, isDate, startOfDay } from '../../core/time/wall.ts';
import { levelsSql, seesHolderSql, seesTitleSql } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import { holding } from '../db/like.ts';

/** A statement that is put together: every value is a parameter, every word of SQL written here. */
export interface Statement {
  /** What stands before the select. */
  with: string;
  from: string;
  where: string[];
  values: unknown[];
  /** Takes a value in. @returns the parameter that holds it */
  param: (value: unknown) => string;
  seen: { title: string; holder: string };
}

/**
 * What is asked for, with what its words name. There is little of that beside the bookings: it is found
 * first, and the database plans by how much it is.
 */
export interface Searched extends LedgerExportQuery {
  named: {
    places: number[];
    people: number[];
    /** Those of which a title holds the words, of single dates included; null where they are too many. */
    meetings: string[] | null;
  };
}

/** What of a booking is looked at, which decides what has to be read beside its reservation. */
interface Needs {
  /** Its place's kind, site or name. */
  place: boolean;
  /** What it is for. */
  event: boolean;
  /** Its holder's name. */
  holder: boolean;
  /** How far the reader sees what it is for, or who has it. */
  seen: boolean;
}

/**
 * The bookings that a query asks for, as far as the reader may ask for them: what is hidden from them
 * matches no text, sorts as if it were empty, and is put together with all that is hidden.
 */
export function matching(
  actor: PersonActor,
  query: Searched,
  looked: readonly (LedgerColumn | LedgerGroup)[],
  now: number,
): Statement {
  const values: unknown[] = [];
  const param = (value: unknown) => `$${values.push(value)}`;
  const looksAfter = actor.me.role !== 'staff';
  const needs = needsOf(query, looked, looksAfter);
  const me = needs.seen || query.whose === 'mine' ? param(actor.me.id) : '';
  // Read for those bookings alone of which nothing else lets the reader see who has them.
  const eventId = needs.event
    ? 'occurrence.event_id'
    : '(select event_id from occurrence where occurrence.id = r.occurrence_id)';
  const about = {
    level: 'shared.level',
    visibility: 'occurrence.visibility',
    takesPart: `${eventId} in (select event_id from ours)`,
  };
  const seen = { title: seesTitleSql(about), holder: seesHolderSql(about, looksAfter) };
  const before = needs.seen
    ? [
        // Not read for itself: where few rows are thought of, each would go through all of it.
        `shared as not materialized (${levelsSql(me)})`,
        `ours as materialized (
           select event_id from attendee where person_id = any(${param(actor.principals)}))`,
      ]
    : [];
  const span = spanOf(actor, query, now, param);
  const where = span.map((part) => `r.starts_at ${part}`);
  // A booking begins when its date does, unless it was given back before that was moved: read out of
  // one index each, the two meet several times faster than by going to each date.
  if (needs.event && query.state !== 'released') {
    where.push(...span.map((part) => `occurrence.starts_at ${part}`));
  }
  where.push(query.state ? `r.state = ${param(query.state)}` : `r.state <> 'released'`);
  if (query.whose === 'mine') where.push(`r.holder_id = ${me}`);
  if (query.place !== undefined) where.push(`r.resource_id = ${param(query.place)}`);
  if (query.kind) where.push(`resource.kind = ${param(query.kind)}`);
  if (query.site !== undefined) where.push(`resource.site_id = ${param(query.site)}`);
  if (query.q) {
    const { places, people, meetings } = query.named;
    const [ofPlaces, ofPeople] = [
      places.length > 0 && `r.resource_id = any(${param(places)}::int[])`,
      people.length > 0 && `r.holder_id = any(${param(people)}::int[])`,
    ];
    const either = (...conditions: (string | false)[]) =>
      conditions.filter((one) => one !== false).join(' or ') || 'false';
    where.push(
      either(
        ofPlaces,
        `occurrence.title ilike ${param(holding(query.q))} and (${seen.title})`,
        ofPeople && `${ofPeople} and (${seen.holder})`,
      ),
    );
    // What can be found by it alone needs no look at the meetings of the others.
    if (meetings) {
      const ofMeetings =
        meetings.length > 0 && `occurrence.event_id = any(${param(meetings)}::uuid[])`;
      where.push(either(ofPlaces, ofMeetings, ofPeople));
    }
  }
  return { with: before.join(',\n'), from: fromOf(needs), where, values, param, seen };
}

function needsOf(
  query: Searched,
  looked: readonly (LedgerColumn | LedgerGroup)[],
  looksAfter: boolean,
): Needs {
  const text = query.q !== '';
  const holder = looked.includes('holder');
  return {
    place:
      query.kind !== undefined ||
      query.site !== undefined ||
      looked.some((one) => ['place', 'kind', 'site', 'floor'].includes(one)),
    event: text || looked.includes('title'),
    holder,
    seen: text || looked.includes('title') || (holder && !looksAfter),
  };
}

const fromOf = ({ place, event, holder, seen }: Needs): string =>
  [
    'reservation r',
    ...(place
      ? [
          'join resource on resource.subject_id = r.resource_id',
          'join subject place on place.id = r.resource_id',
          'join site on site.id = resource.site_id',
        ]
      : []),
    ...(event ? ['join effective_occurrence occurrence on occurrence.id = r.occurrence_id'] : []),
    ...(seen ? ['left join shared on shared.person_id = r.holder_id'] : []),
    ...(holder ? ['left join subject holder on holder.id = r.holder_id'] : []),
  ].join('\n');

/** When bookings begin that are asked for, on the reader's clock: comparisons that all hold of it. */
function spanOf(
  { me }: PersonActor,
  { from, to, when }: Pick<LedgerExportQuery, 'from' | 'to' | 'when'>,
  now: number,
  param: (value: unknown) => string,
): string[] {
  const today = dateAt(now, me.zone);
  const at = (date: string) => param(new Date(startOfDay(date, me.zone)));
  return [
    ...(from === undefined ? [] : [`>= ${at(from)}`]),
    ...(to === undefined ? [] : [`< ${at(addDays(to, 1))}`]),
    ...(when === 'coming' ? [`>= ${at(today)}`] : []),
    ...(when === 'past' ? [`< ${at(today)}`] : []),
  ];
}

/** By what a column is sorted, and of which type that is. */
export function sortOf(column: LedgerColumn, { seen }: Statement): { sql: string; type: string } {
  const text = (sql: string) => ({ sql, type: 'text' });
  switch (column) {
    case 'start':
      return { sql: 'r.starts_at', type: 'timestamptz' };
    case 'length':
      return { sql: 'r.minutes', type: 'int' };
    case 'place':
      return text('lower(place.name)');
    case 'kind':
      return text('resource.kind');
    case 'site':
      return text('lower(site.name)');
    case 'floor':
      return text(`lower(site.name || ' ' || resource.floor)`);
    case 'title':
      return text(`case when ${seen.title} then lower(occurrence.title) else '' end`);
    case 'holder':
      return text(`case when ${seen.holder} then coalesce(lower(holder.name), '') else '' end`);
    case 'state':
      return text('r.state');
  }
}

/** By what rows are put together: the key of a group, and what it is called. */
export function groupOf(
  group: LedgerGroup,
  statement: Statement,
  zone: string,
): { key: string; label: string } {
  const { seen } = statement;
  const same = (sql: string) => ({ key: sql, label: sql });
  // Asked for alone where it is needed: a parameter that nothing names has no type.
  const local = () => `(r.starts_at at time zone ${statement.param(zone)}::text)`;
  switch (group) {
    case 'day':
      return same(`${local()}::date`);
    case 'week':
      return same(`date_trunc('week', ${local()})::date`);
    case 'length':
      return same('r.minutes');
    case 'place':
      return { key: 'r.resource_id::text', label: 'place.name' };
    case 'kind':
      return same('resource.kind');
    case 'site':
      return { key: 'resource.site_id::text', label: 'site.name' };
    case 'floor':
      return {
        key: `resource.site_id || ':' || resource.floor`,
        label: `concat_ws(', ', site.name, nullif('floor ' || resource.floor, 'floor '))`,
      };
    case 'title':
      return {
        key: `case when ${seen.title} then 't' || occurrence.title else '-' end`,
        label: `case when ${seen.title} then occurrence.title end`,
      };
    case 'holder':
      return {
        key: `case when ${seen.holder} then coalesce(r.holder_id::text, '-') else '-' end`,
        label: `case when ${seen.holder} then holder.name end`,
      };
    case 'state':
      return same('r.state');
  }
}

/**
 * The condition that a booking is of a group, written so that an index leads to it where one can; null
 * for a key that no group has.
 */
export function inGroup(
  group: LedgerGroup,
  key: string,
  statement: Statement,
  zone: string,
): string | null {
  const { param } = statement;
  if (group === 'place') {
    return /^\d{1,9}$/.test(key) ? `r.resource_id = ${param(Number(key))}` : null;
  }
  if (group === 'day' || group === 'week') {
    if (!isDate(key)) return null;
    const from = param(new Date(startOfDay(key, zone)));
    const to = param(new Date(startOfDay(addDays(key, group === 'day' ? 1 : 7), zone)));
    return `r.starts_at >= ${from} and r.starts_at < ${to}`;
  }
  return `(${groupOf(group, statement, zone).key})::text = ${param(key)}`;
}
