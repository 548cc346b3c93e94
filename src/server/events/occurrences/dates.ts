import { grouped } from '../../../core/grouped.ts';
import type { MeetingChange } from '../../../core/meetings/decision.ts';
import { isSeries, planOf, type Meeting } from '../../../core/meetings/meeting.ts';
import { happenings, timingInterval } from '../../../core/recurrence/series.ts';
import { addMonths, dateAt, startOfDay, type WallTime } from '../../../core/time/wall.ts';
import { breather } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import {
  insertOccurrences,
  readOccurrences,
  updateOccurrences,
  type OccurrenceOf,
  type OccurrenceSpan,
  type StoredOccurrence,
} from './queries.ts';
import { differs, placesOf, occurrenceTimes } from './parts.ts';
import { HORIZON_MONTHS, MOST_OCCURRENCES, MOST_ROWS_AHEAD, PAST_MS } from '../limits.ts';

/** Earlier occurrences than this are not laid out; the contract refuses times before it. */
export const BEGINNING = Date.UTC(2000, 0, 1) - 86_400_000;

/** Occurrences that start before this are laid out. Epoch milliseconds. */
export const horizonAt = (now: number): number =>
  startOfDay(addMonths(dateAt(now, 'UTC'), HORIZON_MONTHS), 'UTC');

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
  const most = Math.floor(MOST_ROWS_AHEAD / (people + meeting.resources.length + 1));
  if (most < MOST_OCCURRENCES) {
    const ahead = happenings(planOf(meeting), { start: from, end: horizon });
    if (ahead.length > most) return ahead[most]!.start;
  }
  return Math.max(before ?? 0, horizon);
}

/** A meeting that changes, and how far its dates are laid out. */
export interface Laying {
  change: MeetingChange & { after: Meeting };
  /** Up to when; null for what happens once. */
  until: number | null;
  /** Up to when they are laid out before. */
  untilBefore: number | null;
  /** Its dates, where they have just been stored. */
  made?: readonly StoredOccurrence[];
}
/** A meeting with its dates as they are now. */
export interface Dated extends Laying {
  timesChange: boolean;
  placesChange: boolean;
  occurrences: readonly StoredOccurrence[];
}

/** Brings the dates of meetings in line with what they say, by difference: those that stay keep their rows. */
export async function layOutDates(
  tx: Transaction,
  layings: readonly Laying[],
  now: number,
): Promise<Dated[]> {
  const dated = layings.map((laying): Dated => {
    const { change, until, untilBefore, made = [] } = laying;
    const { before, after } = change;
    const isCut = until !== null && untilBefore !== null && until < untilBefore;
    const timesChange = !before || isCut || differs(before, after, occurrenceTimes);
    const placesChange = timesChange || differs(before!, after, placesOf);
    return { ...laying, timesChange, placesChange, occurrences: made };
  });
  const standing = dated.filter(({ change, placesChange }) => change.before && placesChange);
  const stored = await readOccurrences(
    tx,
    standing.map(({ change }) => change.after.id),
  );
  const breathe = breather();
  const plans: DatesPlan[] = [];
  for (const one of standing) {
    const there = stored.get(one.change.after.id)!;
    plans.push(
      one.timesChange
        ? planDates(one.change, there, one.until, now)
        : { kept: there, changed: [], gone: [], added: [] },
    );
    await breathe();
  }
  updateOccurrences(
    tx,
    plans.flatMap((plan) => plan.changed),
    plans.flatMap((plan) => plan.gone),
  );
  const added = await insertOccurrences(
    tx,
    plans.flatMap((plan) => plan.added),
  );
  const addedTo = grouped(added, (one) => one.eventId);
  const laid = new Map(
    standing.map(({ change: { after } }, k) => [
      after.id,
      [...plans[k]!.kept, ...(addedTo.get(after.id) ?? [])],
    ]),
  );
  return dated.map((one) => ({
    ...one,
    occurrences: laid.get(one.change.after.id) ?? one.occurrences,
  }));
}
/** When a meeting happens from some time on, as far as it is laid out. */
function spansOf(meeting: Meeting, since: number, until: number | null): OccurrenceSpan[] {
  if (!isSeries(meeting)) return [{ recurrenceId: null, ...timingInterval(meeting.timing) }];
  return happenings(planOf(meeting), { start: since, end: until! });
}
/** The dates of a meeting that is new, before they are stored. */
export const newSpans = (meeting: Meeting, until: number | null, now: number): OccurrenceOf[] =>
  spansOf(meeting, now - PAST_MS, until).map((span) => ({ ...span, eventId: meeting.id }));

/** What becomes of the dates of a meeting that are stored. */
interface DatesPlan {
  /** Those that stay, as they are now. */
  kept: StoredOccurrence[];
  /** Those of them that have another name or time. */
  changed: StoredOccurrence[];
  gone: number[];
  added: OccurrenceOf[];
}

function planDates(
  change: Laying['change'],
  stored: readonly StoredOccurrence[],
  until: number | null,
  now: number,
): DatesPlan {
  const { after } = change;
  const names = namesAfter(change, stored);
  const wanted = new Map(spansOf(after, BEGINNING, until).map((span) => [span.recurrenceId, span]));
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
  const added = [...wanted.values()]
    .filter((span) => !isSeries(after) || span.end > now - PAST_MS)
    .map((span) => ({ ...span, eventId: after.id }));
  return { kept, changed, gone, added };
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
