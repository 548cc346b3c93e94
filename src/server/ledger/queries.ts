import { EACH_TIME } from '../db/pool.ts';
import { MOST_GROUPS, type LedgerGroup, type LedgerGroupRow } from '../../contract/ledger.ts';
import type { ResourceKind } from '../../contract/places.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { BookingRow } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import { holding } from '../db/like.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { groupOf, inGroup, matching, sortOf, type Searched, type Statement } from './matching.ts';

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
  /** How many there are in all; null where that is found out by itself. */
  total: number | null;
}

/** Where reading goes on: what the last row was sorted by, and its id. */
export type Cursor = readonly [value: string | number, id: string];

interface Part {
  group?: LedgerGroup | undefined;
  in?: string | undefined;
  after: Cursor | null;
  /** How many rows. */
  limit: number;
  /** Whether it is asked as well how many there are. */
  counts: boolean;
}

const begin = (...parts: string[]) => {
  const written = parts.filter(Boolean);
  return written.length > 0 ? `with ${written.join(',\n')}` : '';
};
const all = (where: readonly string[]) => where.map((one) => `(${one})`).join('\n and ');

/** So many meetings of a title are listed; of more it is asked booking by booking. */
const MOST_MEETINGS = 2_000;
/** The index of titles knows words by three letters in a row. */
const FINDABLE = /[\p{L}\p{N}]{3}/u;

/**
 * The places, people and meetings that words name; who of them is seen is the statement's to say.
 * @param most how many meetings are listed
 */
export async function readNamedBy(
  db: Database,
  words: string,
  most = MOST_MEETINGS,
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

/** The statement with what narrows it to a group; null where there can be nothing in it. */
function within(
  actor: PersonActor,
  query: Searched,
  part: Pick<Part, 'group' | 'in'>,
  looked: Parameters<typeof matching>[2],
  now: number,
): Statement | null {
  const { group, in: key } = part;
  const isPart = group !== undefined && key !== undefined;
  const statement = matching(actor, query, isPart ? [...looked, group] : looked, now);
  if (!isPart) return statement;
  const condition = inGroup(group, key, statement, actor.me.zone);
  if (condition === null) return null;
  statement.where.push(condition);
  return statement;
}

/**
 * Rows in the order asked for. How many is written out: with a parameter there the database plans for a
 * tenth of them all, and sorts what an index has in order. Where it is
 * asked how many there are, what has words is read through once for that and for the rows.
 */
export async function readRows(
  db: Database,
  actor: PersonActor,
  query: Searched,
  part: Part,
  now: number,
): Promise<LedgerEntry[]> {
  const statement = within(actor, query, part, [query.sort], now);
  if (!statement) return [];
  const { param, values } = statement;
  const sort = sortOf(query.sort, statement);
  const [way, than] = query.order === 'up' ? ['asc', '>'] : ['desc', '<'];
  const beyond = (value: string, id: string) => {
    if (!part.after) return [];
    const given = sort.type === 'timestamptz' ? new Date(Number(part.after[0])) : part.after[0];
    return [
      `(${value}, ${id}) ${than} (${param(given)}::${sort.type}, ${param(part.after[1])}::bigint)`,
    ];
  };
  const matched = (where: readonly string[]) =>
    `select r.id, ${sort.sql} as value from ${statement.from} where ${all(where)}`;
  const inOrder = (value: string, id: string) =>
    `order by ${value} ${way}, ${id} ${way} limit ${part.limit}`;
  const page =
    query.q === '' || !part.counts
      ? `page as materialized (
           select id, value, null::int as total
           from (${matched([...statement.where, ...beyond(sort.sql, 'r.id')])}
                 ${inOrder(sort.sql, 'r.id')}) found)`
      : `matched as materialized (${matched(statement.where)}),
         page as materialized (
           select id, value, (select count(*)::int from matched) as total
           from matched where ${all(['true', ...beyond('value', 'id')])} ${inOrder('value', 'id')})`;
  const { rows } = await db.query<LedgerEntry>(
    `${EACH_TIME}${begin(statement.with, page)}
     select r.id, page.value as "sortedBy", page.total, occurrence.event_id as "eventId",
            occurrence.recurrence_at as occurrence, r.resource_id as "resourceId", r.unit,
            r.starts_at as start, coalesce(r.left_at, r.ends_at) as "end", r.state,
            occurrence.title, occurrence.visibility, occurrence.organizer_id as "organizerId",
            holder.name as organizer, r.holder_id as "holderId", place.name as place, resource.kind,
            site.name as site, resource.floor, coalesce(r.holder_id = ${param(actor.me.id)}, false) as mine,
            event.invitees_change as "inviteesChange", event.invitees_list as "inviteesList", event.version,
            asked.others, asked.ours as "takesPart"
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
     order by page.value ${way}, page.id ${way}`,
    values,
  );
  return rows;
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
  const { rows } = await db.query<{ total: number }>(
    `${EACH_TIME}${begin(statement.with)}
     select count(*) as total from (
       select 1 from ${statement.from} where ${all(statement.where)} limit ${most + 1}) found`,
    statement.values,
  );
  return rows[0]!.total;
}

/** What bookings are counted by first, for which an index is enough, before they are put together. */
interface Follows {
  from: (statement: Statement) => string[];
  /** What is read beside that to name the groups. */
  tables: string;
}
const FROM_PLACE: Follows = {
  from: () => ['r.resource_id'],
  tables: `
       join resource on resource.subject_id = r.resource_id
       join subject place on place.id = r.resource_id
       join site on site.id = resource.site_id`,
};
const FROM_START: Follows = { from: () => ['r.starts_at'], tables: '' };
/** The groups that follow from something of which there is little beside the bookings. */
const FOLLOWS: Partial<Record<LedgerGroup, Follows>> = {
  place: FROM_PLACE,
  kind: FROM_PLACE,
  site: FROM_PLACE,
  floor: FROM_PLACE,
  day: FROM_START,
  week: FROM_START,
  holder: {
    from: ({ seen }) => ['r.holder_id', `(${seen.holder}) as sees_holder`],
    tables: 'left join subject holder on holder.id = r.holder_id',
  },
};

/** Bookings put together, the largest groups first. */
export async function readGroups(
  db: Database,
  actor: PersonActor,
  query: Searched,
  group: LedgerGroup,
  now: number,
): Promise<LedgerGroupRow[]> {
  const follows = FOLLOWS[group];
  const isByPlace = follows === FROM_PLACE;
  const statement = matching(actor, query, isByPlace ? [] : [group], now);
  const counted = follows?.from(statement) ?? [];
  // What was counted by is all that is left of the bookings.
  if (follows) statement.seen.holder = 'r.sees_holder';
  const { key, label } = groupOf(group, statement, actor.me.zone);
  const matched = `from ${statement.from} where ${all(statement.where)}`;
  const text = follows
    ? `${begin(
        statement.with,
        `r as materialized (
           select ${counted.join(', ')}, count(*) as bookings, sum(r.minutes) as minutes ${matched}
           group by ${counted.map((_, k) => k + 1).join(', ')})`,
      )}
       select (${key})::text as key, (${label})::text as label, sum(r.bookings)::int as bookings,
              sum(r.minutes)::float8 as minutes
       from r ${follows.tables}
       group by 1, 2`
    : `${begin(statement.with)}
       select key::text, label::text, count(*)::int as bookings, sum(minutes)::float8 as minutes
       from (select ${key} as key, ${label} as label, r.minutes ${matched}) found
       group by found.key, found.label`;
  const { rows } = await db.query<LedgerGroupRow>(
    `${EACH_TIME}${text} order by bookings desc, key limit ${MOST_GROUPS}`,
    statement.values,
  );
  return rows;
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
