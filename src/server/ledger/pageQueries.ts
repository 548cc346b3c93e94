import { type ResourceKind } from '../../contract/resourceKind.ts';
import type { LedgerGroup } from '../../contract/ledger.ts';

import type { BookingRow } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import { EACH_TIME } from '../db/pool.ts';
import type { Database } from '../db/transaction.ts';
import { narrowToGroup, sortOf } from './columns.ts';
import { columns, countedBy } from './counted.ts';
import {
  allOf,
  bookingsOf,
  conditionsSql,
  matching,
  namedBy,
  type About,
  type Searched,
  type Statement,
} from './matchingQueries.ts';

/** A booking as it stands in the ledger, before it is known who looks at it. */
export interface LedgerEntry extends BookingRow {
  id: string;
  place: string;
  kind: ResourceKind;
  site: string;
  floor: string;
  holderId: number | null;
  others: number;
  /** Whether those who are asked see who else is. */
  inviteesList: boolean;
  inviteesChange: boolean;
  version: number;
  /** By what it is sorted, to read on from. */
  sortedBy: string | number;
  /** When it begins. Epoch milliseconds. */
  start: number;
}

/** Where reading goes on: what the last row was sorted by, when it begins, and its id. */
export type Cursor = readonly [value: string | number, start: number, id: string];

interface Part {
  group?: LedgerGroup | undefined;
  in?: string | undefined;
  after: Cursor | null;
  /** How many rows. */
  limit: number;
}

interface Page {
  rows: LedgerEntry[];
  /** How many there are in all; null where that is found out by itself. */
  total: number | null;
}

/** The statement with what narrows it to a group; null where there can be nothing in it. */
function within(
  actor: PersonActor,
  query: Searched,
  { group, in: key }: Pick<Part, 'group' | 'in'>,
  looked: Parameters<typeof matching>[2],
  now: number,
): Statement | null {
  const isPart = group !== undefined && key !== undefined;
  const statement = matching(actor, query, isPart ? [...looked, group] : looked, now);
  return !isPart || narrowToGroup(group, key, statement, actor.me.zone) ? statement : null;
}

/**
 * Rows in the order asked for, those alike in the order of time. How many is written out: with a
 * parameter there the database plans for a tenth of them all, and sorts what an index has in order.
 */
export async function readPage(
  db: Database,
  actor: PersonActor,
  query: Searched,
  part: Part,
  now: number,
): Promise<Page> {
  const statement = within(actor, query, part, [query.sort], now);
  if (!statement) return { rows: [], total: 0 };
  const { about, param, values } = statement;
  const way = query.order === 'up' ? 'asc' : 'desc';
  const written = [
    ...statement.with,
    ...(about ? aboutPage(statement, about, query, part) : plainPage(statement, query, part)),
  ];
  const { rows } = await db.query<LedgerEntry & { total: number | null }>(
    `${EACH_TIME}with ${written.join(',\n')}
     select ${about ? '(select coalesce(sum(bookings), 0)::int from about)' : 'null::int'} as total, shown.*
     from (select) once
     left join (
       select r.id, page.value as "sortedBy", occurrence.event_id as "eventId",
              occurrence.recurrence_at as occurrence, r.resource_id as "resourceId", r.unit,
              r.starts_at as start, coalesce(r.left_at, r.ends_at) as "end", r.state,
              occurrence.title, occurrence.visibility, occurrence.organizer_id as "organizerId",
              holder.name as organizer, r.holder_id as "holderId", place.name as place,
              resource.kind, site.name as site, resource.floor,
              coalesce(r.holder_id = ${param(actor.me.id)}, false) as mine,
              event.invitees_change as "inviteesChange", event.invitees_list as "inviteesList",
              event.version, asked.others, asked.ours as "takesPart"
       from page
       join reservation r on r.id = page.id
       join resource on resource.subject_id = r.resource_id
       join subject place on place.id = r.resource_id
       join site on site.id = resource.site_id
       join effective_occurrence occurrence on occurrence.id = r.occurrence_id
       join event on event.id = occurrence.event_id
       left join subject holder on holder.id = r.holder_id
       cross join lateral (
         select count(*) filter (where attendee.role <> 'organizer') as others,
                coalesce(bool_or(attendee.person_id = any(${param(actor.principals)})), false) as ours
         from attendee where attendee.event_id = occurrence.event_id) asked
     ) shown on true
     order by ${isOfMeetings(query) ? `shown."sortedBy" = '', ` : ''}
              shown."sortedBy" ${way}, shown.start ${way}, shown.id ${way}`,
    values,
  );
  return { rows: rows.filter((one) => one.id !== null), total: rows[0]!.total };
}

/** How many there are, counted up to a bound. */
export async function countRows(
  db: Database,
  actor: PersonActor,
  query: Searched,
  part: Pick<Part, 'group' | 'in'>,
  most: number,
  now: number,
): Promise<number> {
  const statement = within(actor, query, part, [], now);
  if (!statement) return 0;
  const { about } = statement;
  const text = about
    ? `with ${[...statement.with, countedBy(statement, about.by)].join(',\n')}
       select least(coalesce(sum(r.bookings), 0), ${most + 1})::int as total
       from met r ${about.from} where ${allOf(about.where)}`
    : `select count(*) as total from (
         select 1 from ${bookingsOf(statement)} limit ${most + 1}) found`;
  const { rows } = await db.query<{ total: number }>(EACH_TIME + text, statement.values);
  return rows[0]!.total;
}

/** How many are read to find those that are asked for, counted up to a bound. */
export async function countRead(
  db: Database,
  actor: PersonActor,
  query: Searched,
  most: number,
  now: number,
): Promise<number> {
  const statement = matching(actor, { ...query, q: '' }, [], now);
  const { rows } = await db.query<{ read: number }>(
    `${EACH_TIME}select count(*)::int as read from (
       select 1 from ${bookingsOf(statement, '', namedBy(query, statement.param))}
       limit ${most + 1}) found`,
    statement.values,
  );
  return rows[0]!.read;
}

/** What a page is put in order by, and what comes after the last row that was read. */
function orderOf(statement: Statement, query: Searched, { after, limit }: Part) {
  const sort = sortOf(query.sort, statement);
  const [way, than] = query.order === 'up' ? ['asc', '>'] : ['desc', '<'];
  const given =
    after && statement.param(sort.type === 'timestamptz' ? new Date(Number(after[0])) : after[0]);
  const from =
    after &&
    `${statement.param(new Date(after[1]))}::timestamptz, ${statement.param(after[2])}::bigint`;
  return {
    value: sort.sql,
    way,
    than,
    /** What the last row was sorted by. */
    last: given && `${given}::${sort.type}`,
    /** The condition that a row comes after the last one, its value being that. */
    beyond: (value: string) =>
      given === null
        ? []
        : [`(${value}, r.starts_at, r.id) ${than} (${given}::${sort.type}, ${from!})`],
    /** The same of a row that is sorted by the same as the last one. */
    later: from && `(r.starts_at, r.id) ${than} (${from})`,
    by: (...first: string[]) =>
      `order by ${[...first, `r.starts_at ${way}`, `r.id ${way}`].join(', ')} limit ${limit}`,
  };
}

/** The ways to sort that follow from a booking's place. */
const BY_PLACE: readonly string[] = ['place', 'kind', 'site', 'floor'];

/** A page for which nothing but bookings and their places is looked at. */
function plainPage(statement: Statement, query: Searched, part: Part): string[] {
  const { value, way, beyond, by } = orderOf(statement, query, part);
  if (query.whose === 'mine' || !BY_PLACE.includes(query.sort)) {
    return [
      `page as materialized (
         select r.id, r.starts_at, ${value} as value
         from ${bookingsOf(statement, '', beyond(value))} ${by(`${value} ${way}`)})`,
    ];
  }
  // The first ones of each place, of which there are few, stand in its index.
  return [
    `page as materialized (
       select r.id, r.starts_at, ${value} as value
       from resource
       join subject place on place.id = resource.subject_id
       join site on site.id = resource.site_id
       cross join lateral (
         select r.id, r.starts_at from reservation r
         where r.resource_id = resource.subject_id and ${allOf([...conditionsSql(statement), ...beyond(value)])}
         ${by()}) r
       ${by(`${value} ${way}`)})`,
  ];
}

/** Whether rows are sorted by what is read of their meetings, and not by what stands with each. */
const isOfMeetings = ({ sort }: Searched): boolean => sort === 'title' || sort === 'holder';

/** A page for which it is looked at what bookings are about. */
function aboutPage(statement: Statement, about: About, query: Searched, part: Part): string[] {
  const { value, way, than, last, beyond, later, by } = orderOf(statement, query, part);
  // Few are read once, and what they are counted by and the page stand in what was read.
  const few = about.isFew
    ? `booked as materialized (
         select r.id, r.starts_at, r.minutes, r.state, r.resource_id, r.holder_id, ${columns(about.by)}
         from ${bookingsOf(statement, about.beside)})`
    : null;
  const own = few
    ? Object.fromEntries(Object.keys(about.by).map((name) => [name, `r.${name}`]))
    : about.by;
  const among = (beside: string, more: readonly string[]) =>
    few
      ? `booked r ${statement.places} ${beside} where ${allOf(more)}`
      : bookingsOf(statement, `${about.beside} ${beside}`, more);
  const found = [
    ...(few ? [few] : []),
    countedBy(statement, own, few ? 'booked r' : undefined),
    `about as materialized (
       select r.*, ${isOfMeetings(query) ? value : `''`} as value
       from met r ${about.from} where ${allOf(about.where)})`,
  ];
  if (!isOfMeetings(query)) {
    return [
      ...found,
      `page as materialized (
         select r.id, r.starts_at, ${value} as value
         from ${among('', [isIn('about', own), ...beyond(value)])} ${by(`${value} ${way}`)})`,
    ];
  }
  // What is hidden stands last, whichever way the words go.
  const order = `order by value = '', value ${way}`;
  const first = (where: string) =>
    `(select * from about where ${where} ${order} fetch first ${part.limit} rows with ties)`;
  const near = last
    ? `select * from about where value = ${last} union all
       ${first(`${last} <> '' and (value = '' or value ${than} ${last})`)}`
    : first('true');
  const beside = `join near on ${Object.entries(own)
    .map(([name, sql]) => `${plain(name, `near.${name}`)} = ${plain(name, sql)}`)
    .join(' and ')}`;
  return [
    ...found,
    // Those alone that can be on the page: there are as many, and each has a booking at least.
    `near as materialized (
       select *, dense_rank() over (${order}) as place_in_order from (${near}) found)`,
    `page as materialized (
       select r.id, r.starts_at, near.value
       from ${among(beside, last ? [`near.value <> ${last} or ${later!}`] : [])}
       ${by('near.place_in_order')})`,
  ];
}

/** What equals itself, also where there is none. */
const plain = (name: string, sql: string): string =>
  name === 'own_title' ? `coalesce(${sql}, '')` : `(${sql})`;

/**
 * That a booking is among what was found. Inside of a case it is looked up for each booking as it comes,
 * by the hash of all that was found: joined, all bookings would be put into a hash first, and out of the
 * order in which the first ones are enough.
 */
function isIn(found: string, by: Record<string, string>): string {
  const sqls = Object.entries(by).map(([name, sql]) => plain(name, sql));
  const names = Object.keys(by).map((name) => plain(name, `${found}.${name}`));
  return `case when (${sqls.join(', ')}) in (select ${names.join(', ')} from ${found}) then true end`;
}
