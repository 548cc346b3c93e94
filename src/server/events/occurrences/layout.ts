import {
  occurrenceOf,
  isSeries,
  planOf,
  wantedResources,
  type Meeting,
  type Participant,
} from '../../../core/meetings/meeting.ts';
import type { MeetingChange } from '../../../core/meetings/decision.ts';
import { same } from '../../../core/same.ts';
import { happenings, timingInterval } from '../../../core/recurrence/series.ts';
import { DAY } from '../../../core/time/interval.ts';
import { addMonths, dateAt, startOfDay, type WallTime } from '../../../core/time/wall.ts';
import { Refusal } from '../../../core/refusal.ts';
import { breather, type Actor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import {
  reserve,
  ResourcesTaken,
  type HeldResources,
  type Wish,
} from '../../reservations/index.ts';
import {
  claimPeople,
  insertOccurrences,
  readOccurrences,
  updateOccurrences,
  type Concerned,
  type OccurrenceSpan,
  type StoredOccurrence,
} from './queries.ts';

/** How far ahead the occurrences of series are laid out. */
const HORIZON_MONTHS = 24;

/** Earlier occurrences than this are not laid out; the contract refuses times before it. */
export const BEGINNING = Date.UTC(2000, 0, 1) - 86_400_000;

/** Occurrences that start before this are laid out. Epoch milliseconds. */
export const horizonAt = (now: number): number =>
  startOfDay(addMonths(dateAt(now, 'UTC'), HORIZON_MONTHS), 'UTC');

/** Of a series that is entered today, what ended earlier takes nobody's time any more. */
const PAST_MS = 90 * DAY;

/**
 * Claims and reservations that a series has ahead at most, and so about the rows that one action
 * writes: with many people it is laid out less far, and further as time goes on.
 */
const MOST_AHEAD = 40_000;
/** Bookings of places, dates times places, that one action lays out: what it takes to judge and write them. */
export const MOST_BOOKINGS = 12_000;
/** No rule gives more than one occurrence a day. */
const MOST_OCCURRENCES = HORIZON_MONTHS * 31;

/**
 * Up to when a meeting's occurrences are laid out; null for what happens once.
 * @param before up to when they are now
 */
export function laidOutUntil(meeting: Meeting, before: number | null, now: number): number | null {
  if (!isSeries(meeting)) return null;
  const from = Math.max(now, timingInterval(meeting.timing).start);
  const horizon = horizonAt(from);
  // Of people outside nothing is claimed.
  const people = meeting.participants.filter((one) => one.personId !== null).length;
  const most = Math.floor(MOST_AHEAD / (people + meeting.resources.length + 1));
  if (most < MOST_OCCURRENCES) {
    const ahead = happenings(planOf(meeting), { start: from, end: horizon });
    if (ahead.length > most) return ahead[most]!.start;
  }
  return Math.max(before ?? 0, horizon);
}

interface LayingOut {
  change: MeetingChange & { after: Meeting };
  /** Holds the resources that are wanted until the transaction ends. */
  hold: () => Promise<HeldResources>;
  /** Up to when; null for what happens once. */
  until: number | null;
  /** Up to when they are laid out before. */
  untilBefore: number | null;
  actor: Actor;
  now: number;
}

/**
 * Brings the occurrences of a meeting, its reservations and the claims on people's time in line with
 * what it says, by difference: what stays the same keeps its rows.
 * @returns the resources to which a steward has yet to agree, by id
 * @throws ResourcesTaken naming every occurrence to come for which a resource is taken
 */
export async function layOut(tx: Transaction, laying: LayingOut): Promise<number[]> {
  const { change, until, untilBefore, hold, actor, now } = laying;
  const { before, after } = change;
  const isCut = until !== null && untilBefore !== null && until < untilBefore;
  const timesChange = !before || isCut || differs(before, after, timesOf);
  const placesChange = timesChange || differs(before, after, placesOf);
  const occurrences = timesChange
    ? await layOutTimes(tx, change, until, now)
    : placesChange
      ? await readOccurrences(tx, after.id)
      : [];
  refuseTooMany(after, occurrences.length);
  const breathe = breather();
  const wishes = wishesOf(after, occurrences);
  await breathe();
  let asked: number[] = [];
  if (placesChange && (wishes.length > 0 || wantedAny(before))) {
    const { taken, asked: some } = await reserve(tx, {
      eventId: after.id,
      resources: await hold(),
      wishes,
      isNew: before === null,
      released: after.status === 'cancelled',
      by: { actor, holderId: after.organizerId },
      now,
    });
    asked = some;
    // What is over is left as it was when a series changes; what is entered anew is refused.
    const refused = taken.filter((wish) => wish.end > now || !before || !isSeries(after));
    if (refused.length > 0) {
      throw new ResourcesTaken(refused, {
        id: after.id,
        people: after.participants.length,
        resources: wantedResources(after),
      });
    }
  }
  if (timesChange || differs(before, after, presenceOf)) claimPeople(tx, [after.id]);
  else {
    const concerned = answeredAnew(before, after);
    if (concerned) claimPeople(tx, [after.id], concerned);
  }
  return asked;
}

/** @throws Refusal saying how many bookings it would be, and how they get fewer */
function refuseTooMany({ resources }: Meeting, dates: number): void {
  const bookings = dates * resources.length;
  if (bookings <= MOST_BOOKINGS) return;
  const n = (count: number) => count.toLocaleString('en');
  throw new Refusal(
    'too-much',
    `${n(dates)} dates of ${resources.length} places are ${n(bookings)} bookings, and at most ` +
      `${n(MOST_BOOKINGS)} are made at once. Let it end earlier, or book fewer places. Nothing was changed.`,
    {
      fields: [
        {
          field: 'resources',
          message: `may be at most ${Math.floor(MOST_BOOKINGS / dates)} for so many dates`,
        },
      ],
    },
  );
}

const differs = (before: Meeting, after: Meeting, part: (meeting: Meeting) => unknown): boolean =>
  !same(part(before), part(after));

/** What decides when it happens. */
const timesOf = ({ timing, rule, except, overrides }: Meeting) => [
  timing,
  rule,
  [...except].sort(),
  overrides
    .filter((one) => one.timing || one.cancelled)
    .map((one) => [one.recurrenceId, one.timing, one.cancelled])
    .sort(),
];

/** What decides which resources are held. */
const placesOf = ({ status, draft, resources, overrides }: Meeting) => [
  status,
  draft?.holds === false,
  [...resources].sort(),
  overrides
    .filter((one) => one.details.resources)
    .map((one) => [one.recurrenceId, one.details.resources])
    .sort(),
];

/** What decides how everybody's time is taken. */
const presenceOf = ({ status, draft, showsAs, overrides }: Meeting) => [
  status,
  draft?.holds,
  showsAs,
  overrides
    .filter((one) => one.details.showsAs)
    .map((one) => [one.recurrenceId, one.details.showsAs]),
];

/**
 * Whose answers are others, or who is asked or asked no more: theirs is the only time that is taken in
 * another way. Null where there is nobody; the dates where only single ones are answered anew.
 */
function answeredAnew(before: Meeting, after: Meeting): Concerned | null {
  const [was, is] = [before, after].map(
    ({ participants }) =>
      new Map(participants.flatMap((one) => (one.personId === null ? [] : [[one.personId, one]]))),
  ) as [Map<number, Participant>, Map<number, Participant>];
  const personIds = [...new Set([...was.keys(), ...is.keys()])];
  const dates = new Set<WallTime>();
  let isAll = false;
  const concerned = personIds.filter((id) => {
    const [one, other] = [was.get(id), is.get(id)];
    if (!one || !other || one.role !== other.role || one.reply !== other.reply) {
      isAll = true;
      return true;
    }
    const changed = datesBetween(one, other);
    for (const at of changed) dates.add(at);
    return changed.length > 0;
  });
  if (concerned.length === 0) return null;
  return { personIds: concerned, dates: isAll ? null : [...dates] };
}

/** The dates that somebody answers otherwise after a change. */
function datesBetween(one: Participant, other: Participant): WallTime[] {
  const dates = new Set([...Object.keys(one.occurrences), ...Object.keys(other.occurrences)]);
  return [...dates].filter((at) => one.occurrences[at]?.reply !== other.occurrences[at]?.reply);
}

const wantedAny = (meeting: Meeting | null) =>
  !!meeting &&
  (meeting.resources.length > 0 || meeting.overrides.some((one) => one.details.resources?.length));

/** When a meeting happens from some time on, as far as it is laid out. */
function spansOf(meeting: Meeting, since: number, until: number | null): OccurrenceSpan[] {
  if (!isSeries(meeting)) return [{ recurrenceId: null, ...timingInterval(meeting.timing) }];
  return happenings(planOf(meeting), { start: since, end: until! });
}

/** What each occurrence is to have; nothing while a draft holds nothing. */
export const wishesOf = (meeting: Meeting, occurrences: readonly StoredOccurrence[]): Wish[] =>
  wantedAny(meeting) && meeting.draft?.holds !== false
    ? occurrences.flatMap(({ id, ...span }) =>
        occurrenceOf(meeting, span.recurrenceId).resources.map((resourceId) => ({
          ...span,
          occurrenceId: id,
          resourceId,
        })),
      )
    : [];

async function layOutTimes(
  tx: Transaction,
  change: MeetingChange & { after: Meeting },
  until: number | null,
  now: number,
): Promise<StoredOccurrence[]> {
  const { before, after } = change;
  const past = now - PAST_MS;
  if (!before) return insertOccurrences(tx, after.id, spansOf(after, past, until));
  const spans = spansOf(after, BEGINNING, until);
  const stored = await readOccurrences(tx, after.id);
  const names = namesAfter(change, stored);
  const wanted = new Map(spans.map((span) => [span.recurrenceId, span]));
  const kept: StoredOccurrence[] = [];
  const changed: StoredOccurrence[] = [];
  const gone: number[] = [];
  for (const one of stored) {
    const name = names(one.recurrenceId);
    const span = name === undefined ? undefined : wanted.get(name);
    if (!span) {
      gone.push(one.id);
      continue;
    }
    wanted.delete(span.recurrenceId);
    kept.push({ id: one.id, ...span });
    const same =
      one.recurrenceId === span.recurrenceId && one.start === span.start && one.end === span.end;
    if (!same) changed.push({ id: one.id, ...span });
  }
  updateOccurrences(tx, changed, gone);
  const added = [...wanted.values()].filter((span) => !isSeries(after) || span.end > past);
  return [...kept, ...(await insertOccurrences(tx, after.id, added))];
}

/** How an occurrence is named after a change, by its name before; undefined where it is gone. */
function namesAfter(
  { before, after, renamed }: MeetingChange & { after: Meeting },
  stored: readonly StoredOccurrence[],
): (name: WallTime | null) => WallTime | null | undefined {
  const [was, is] = [before!.rule !== null, after.rule !== null];
  if (was && is) {
    if (!renamed) return (name) => name;
    const names = renamed(stored.flatMap((one) => one.recurrenceId ?? []));
    return (name) => names.get(name!);
  }
  // What happened once becomes the first of its series, and the first of a series what happens once.
  if (is) return () => after.timing.startsAt;
  if (was) return (name) => (name === before!.timing.startsAt ? null : undefined);
  return (name) => name;
}

/**
 * Adds occurrences of a series up to a new horizon, with all that can be had.
 * @param since what starts before this is laid out already
 * @returns the wishes for resources that are taken
 */
export async function extendLayout(
  tx: Transaction,
  meeting: Meeting & { rule: string },
  resources: HeldResources,
  { since, until, now }: { since: number | null; until: number; now: number },
): Promise<{ added: number; taken: Wish[] }> {
  const spans = happenings(planOf(meeting), { start: since ?? now - PAST_MS, end: until });
  if (spans.length === 0) return { added: 0, taken: [] };
  const added = await insertOccurrences(tx, meeting.id, spans);
  const { taken } = await reserve(tx, {
    eventId: meeting.id,
    resources,
    wishes: wishesOf(meeting, added),
    isNew: true,
    released: false,
    by: { actor: { kind: 'system' }, holderId: meeting.organizerId },
    now,
  });
  claimPeople(tx, [meeting.id]);
  return { added: added.length, taken };
}
