import { invalid } from '../refusal.ts';
import { MINUTE } from '../time/interval.ts';
import type { WallTime } from '../time/wall.ts';
import { decideCancel } from './cancel.ts';
import type { Known } from './change.ts';
import { numbered, type Decision } from './decision.ts';
import { isSeries, occurrenceOf, type Meeting } from './meeting.ts';
import { decideNewPlaces } from './places.ts';

/** What is done to several bookings at once. */
export type BookingsChange =
  { kind: 'give-back' } | { kind: 'place'; placeId: number } | { kind: 'shift'; minutes: number };

/** One booking: a date of the meeting, and a place it has then. */
export interface BookedDate {
  /** Null for what happens once. */
  occurrence: WallTime | null;
  placeId: number;
}

/** What came of a meeting's bookings. */
export interface BookingsDecision extends Pick<Decision, 'changes' | 'facts'> {
  after: Meeting;
  /** How many are given back whole, that the meeting goes on without, and that are elsewhere or later. */
  cancelled: number;
  without: number;
  moved: number;
}

/**
 * Gives bookings of a meeting back, puts them into another place, or moves them in time. What is nothing
 * but somebody's booking of the place is cancelled when it is given back; what others take part in goes
 * on without the place, at its time.
 * @param dates each once
 * @param nameOf the names of the places
 * @throws Refusal naming the first that is no booking of it, is over, or that others take part in and
 *   would be at another time
 */
export function decideBookings(
  before: Meeting,
  dates: readonly BookedDate[],
  change: BookingsChange,
  message: string,
  nameOf: (placeId: number) => string,
  known: Known,
): BookingsDecision {
  for (const date of dates) refuseWhatIsNone(before, date, known.now);
  const isGivenBack = change.kind === 'give-back';
  const cancelled = isGivenBack ? dates.filter((date) => isNothingElse(before, date)) : [];
  const kept = dates.filter((date) => !cancelled.includes(date));
  let after = before;
  const facts: Decision['facts'] = [];
  for (const { occurrence } of cancelled) {
    const part = isSeries(after)
      ? { scope: 'one' as const, occurrence: occurrence! }
      : { scope: 'all' as const };
    const decision = decideCancel(after, { ...part, tell: 'nobody', message }, known);
    after = decision?.changes.at(-1)?.after ?? after;
    facts.push(...(decision?.facts ?? []));
  }
  for (const placeId of new Set(kept.map((one) => one.placeId))) {
    const moves = kept
      .filter((one) => one.placeId === placeId)
      .map(({ occurrence }) => {
        const { start, end } = occurrenceOf(after, isSeries(after) ? occurrence : null);
        const by = change.kind === 'shift' ? change.minutes * MINUTE : 0;
        const to = { 'give-back': null, shift: placeId, place: placeOf(change) }[change.kind];
        const from = { id: placeId, name: nameOf(placeId) };
        return { from, occurrence, placeId: to, start: start + by, end: end + by };
      });
    const decision = decideNewPlaces(after, message, moves, nameOf, known.now);
    after = decision.changes.at(-1)!.after!;
    facts.push(...decision.facts);
  }
  const final = { ...after, ...numbersOf(numbered(before, after)) };
  return {
    changes: [{ before, after: final }],
    facts,
    after: final,
    cancelled: cancelled.length,
    without: isGivenBack ? kept.length : 0,
    moved: isGivenBack ? 0 : kept.length,
  };
}

const placeOf = (change: BookingsChange) => (change.kind === 'place' ? change.placeId : null);

const numbersOf = ({ version, sequence }: Meeting) => ({ version, sequence });

/** Whether a date is nobody's but its organizer's, and has that place alone. */
function isNothingElse(meeting: Meeting, { occurrence, placeId }: BookedDate): boolean {
  const { resources } = occurrenceOf(meeting, isSeries(meeting) ? occurrence : null);
  return meeting.participants.length === 1 && resources.every((id) => id === placeId);
}

function refuseWhatIsNone(
  meeting: Meeting,
  { occurrence, placeId }: BookedDate,
  now: number,
): void {
  const isNamed = isSeries(meeting) === (occurrence !== null);
  const date = isNamed && meeting.status !== 'cancelled' ? occurrenceOf(meeting, occurrence) : null;
  if (!date?.resources.includes(placeId)) {
    throw invalid([{ field: 'bookings', message: 'must be bookings as they stand now' }]);
  }
  if (date.end <= now) {
    throw invalid([{ field: 'bookings', message: 'must not be over already' }]);
  }
}
