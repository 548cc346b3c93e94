import type { LedgerColumn, LedgerExportQuery, LedgerGroup } from '../../contract/ledger.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { levelsSql, may, seesHolderSql, seesTitleSql } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import { holding } from '../db/like.ts';

/** A statement that is put together: every value is a parameter, every word of SQL written here. */
export interface Statement {
  /** What stands before the select. */
  with: string[];
  /** What is read of their places beside the bookings. */
  places: string;
  /** When they begin. */
  span: Span;
  /** What else holds of them. */
  where: string[];
  /** Null where nothing of their meetings is looked at. */
  about: About | null;
  values: unknown[];
  /** Takes a value in. @returns the parameter that holds it */
  param: (value: unknown) => string;
  /** What the reader sees, where what bookings are about is read. */
  seen: { title: string; holder: string };
}

/**
 * What bookings are for and whose they are. It is read once for all bookings that have it in common, and
 * not for each of the thousand dates of a series: these are counted first, and what they were counted by
 * stands as `r` beside `from` then.
 */
export interface About {
  /** What bookings have in common, each by its name there. */
  by: Record<string, string>;
  /** What follows from that. */
  with: Record<string, string>;
  /** What is read beside the bookings for it. */
  beside: string;
  /** Whether they are few, since it is known which meetings the words name. */
  isFew: boolean;
  from: string;
  where: string[];
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

/**
 * Titles that single dates have of their own, by the ids of these: of those alone of which bookings are
 * asked for, as far as it is said when or whose they are.
 */
function ownTitles(
  { span, param }: Pick<Statement, 'span' | 'param'>,
  actor: PersonActor,
  query: Searched,
) {
  const conditions = [
    'own.title is not null',
    // A booking begins when its date does, unless it was given back before that was moved.
    ...(query.state === 'released' ? [] : startsIn('occurrence.starts_at', span, param)),
    ...(query.whose === 'mine'
      ? [`own.event_id in (select id from event where organizer_id = ${param(actor.me.id)})`]
      : []),
  ];
  return `own as materialized (
    select occurrence.id, own.title
    from occurrence_override own
    join occurrence on occurrence.event_id = own.event_id
      and occurrence.recurrence_at = own.recurrence_at
    where ${allOf(conditions)})`;
}

/** That something begins in a span. */
const startsIn = (column: string, { start, end }: Span, param: Statement['param']): string[] => [
  ...(start === null ? [] : [`${column} >= ${param(new Date(start))}`]),
  ...(end === null ? [] : [`${column} < ${param(new Date(end))}`]),
];

/** What is read of a booking's place. */
export const PLACES = `
  join resource on resource.subject_id = r.resource_id
  join subject place on place.id = r.resource_id
  join site on site.id = resource.site_id`;

/** What a meeting is for, of the bookings that have it and their date's own title in common. */
export const TITLE = 'coalesce(r.own_title, event.title)';

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
  const where = [query.state ? `r.state = ${param(query.state)}` : `r.state <> 'released'`];
  if (query.whose === 'mine') where.push(`r.holder_id = ${param(actor.me.id)}`);
  if (query.place !== undefined) where.push(`r.resource_id = ${param(query.place)}`);
  if (query.kind) where.push(`resource.kind = ${param(query.kind)}`);
  if (query.site !== undefined) where.push(`resource.site_id = ${param(query.site)}`);
  const isByPlace =
    query.kind !== undefined ||
    query.site !== undefined ||
    looked.some((one) => ['place', 'kind', 'site', 'floor'].includes(one));
  const statement = {
    with: [],
    places: isByPlace ? PLACES : '',
    span: spanOf(actor, query, now),
    where,
    about: null,
    values,
    param,
    seen: { title: 'false', holder: 'false' },
  };
  const isByTitle = query.q !== '' || looked.includes('title');
  if (!isByTitle && !looked.includes('holder')) return statement;
  where.push(...namedBy(query, param));
  return { ...statement, ...aboutThem(statement, actor, query, isByTitle) };
}

/** What bookings are about, as far as it is looked at. @param isByTitle whether more than whose they are */
function aboutThem(
  statement: Pick<Statement, 'span' | 'param'>,
  actor: PersonActor,
  query: Searched,
  isByTitle: boolean,
): Pick<Statement, 'with' | 'about' | 'seen'> {
  const { param } = statement;
  const { keeps } = actor.me;
  const looksAfter = may(actor, 'see', 'some');
  // Whoever looks after all places sees whose they are, whatever for.
  const isSeenAlike = looksAfter && keeps === null && !isByTitle;
  const isKept = !looksAfter ? 'false' : keeps ? `r.resource_id = any(${param(keeps)})` : 'true';
  const shown = {
    level: 'shared.level',
    // Of whose a booking is no more is asked than whether that is hidden.
    visibility: isByTitle
      ? 'event.visibility'
      : `case when r.event_id in (select id from hidden) then 'hidden' else 'default' end`,
    takesPart: 'r.event_id in (select event_id from ours)',
  };
  const seen = { title: seesTitleSql(shown), holder: seesHolderSql(shown, isKept) };
  const about: About = {
    by: {
      // Nobody's is one of them: what is unknown equals nothing. Those of a meeting have one holder.
      ...(isSeenAlike ? { holder_id: 'coalesce(r.holder_id, 0)' } : { event_id: 'r.event_id' }),
      ...(isByTitle && { own_title: 'own.title' }),
    },
    with: isSeenAlike ? {} : { holder_id: 'max(r.holder_id)' },
    beside: isByTitle ? 'left join own on own.id = r.occurrence_id' : '',
    isFew: query.q !== '' && query.named.meetings !== null,
    from: [
      // Looked up for each: read beside each other, all meetings there are would be gone through.
      isByTitle &&
        'cross join lateral (select * from shown_event where id = r.event_id offset 0) event',
      !isSeenAlike && 'left join shared on shared.person_id = r.holder_id',
      'left join subject holder on holder.id = r.holder_id',
    ]
      .filter(Boolean)
      .join('\n'),
    where: [],
  };
  if (query.q) about.where.push(namesIt(query, about, seen, param));
  const before = [
    ...(isSeenAlike
      ? []
      : [
          // Not read for itself: where few are thought of, each would go through all of it.
          `shared as not materialized (${levelsSql(param(actor.me.id))})`,
          `ours as materialized (
             select event_id from attendee where person_id = any(${param(actor.principals)}))`,
          ...(isByTitle
            ? []
            : [`hidden as materialized (select id from event where visibility = 'hidden')`]),
        ]),
    ...(isByTitle ? [ownTitles(statement, actor, query)] : []),
  ];
  return { with: before, about, seen };
}

const either = (...conditions: (string | null)[]) =>
  conditions.filter((one) => one !== null).join(' or ') || 'false';
const isOneOf = (
  column: string,
  ids: readonly unknown[],
  type: string,
  param: Statement['param'],
) => (ids.length > 0 ? `${column} = any(${param(ids)}::${type}[])` : null);

/** That the words of a query name where, whose or what for a booking is. */
function namesIt(
  { q, named: { places, people } }: Searched,
  about: About,
  seen: Statement['seen'],
  param: Statement['param'],
): string {
  const atPlace = isOneOf('r.resource_id', places, 'int', param);
  const ofPeople = isOneOf('r.holder_id', people, 'int', param);
  if (atPlace) about.by.at_place = atPlace;
  return either(
    atPlace && 'r.at_place',
    `${TITLE} ilike ${param(holding(q))} and (${seen.title})`,
    ofPeople && `${ofPeople} and (${seen.holder})`,
  );
}

/** What holds of each booking that the words of a query name, where it is known which meetings they name. */
export function namedBy({ q, named }: Searched, param: Statement['param']): string[] {
  const { places, people, meetings } = named;
  if (q === '' || !meetings) return [];
  return [
    either(
      isOneOf('r.resource_id', places, 'int', param),
      isOneOf('r.holder_id', people, 'int', param),
      isOneOf('r.event_id', meetings, 'uuid', param),
    ),
  ];
}

/** Half-open, in epoch milliseconds; null where it is open. */
export interface Span {
  start: number | null;
  end: number | null;
}

/** When bookings begin that are asked for, on the reader's clock. */
export function spanOf(
  { me }: PersonActor,
  { from, to, when }: Pick<LedgerExportQuery, 'from' | 'to' | 'when'>,
  now: number,
): Span {
  const today = startOfDay(dateAt(now, me.zone), me.zone);
  const starts = [
    ...(from === undefined ? [] : [startOfDay(from, me.zone)]),
    ...(when === 'coming' ? [today] : []),
  ];
  const ends = [
    ...(to === undefined ? [] : [startOfDay(addDays(to, 1), me.zone)]),
    ...(when === 'past' ? [today] : []),
  ];
  return {
    start: starts.length > 0 ? Math.max(...starts) : null,
    end: ends.length > 0 ? Math.min(...ends) : null,
  };
}

/** The bookings that a statement asks for, as `r`: what stands behind `from`. @param more what else holds */
export const bookingsOf = (
  statement: Statement,
  beside = '',
  more: readonly string[] = [],
): string =>
  `reservation r ${statement.places} ${beside}
   where ${allOf([...conditionsSql(statement), ...more])}`;

/** What holds of the bookings that a statement asks for. */
export const conditionsSql = ({ span, where, param }: Statement): string[] => [
  ...startsIn('r.starts_at', span, param),
  ...where,
];

/** That all conditions hold. */
export const allOf = (conditions: readonly string[]): string =>
  conditions.map((one) => `(${one})`).join(' and ') || 'true';
