import { MINUTE, type Interval } from '../time/interval.ts';

/** What is held of a place: asked of a steward, held, in use, or given up. */
export const RESERVATION_STATES = ['requested', 'held', 'in-use', 'released'] as const;

/** What each of them is called wherever people read it. */
export const STATE_WORDS: Record<(typeof RESERVATION_STATES)[number], string> = {
  requested: 'asked for',
  held: 'booked',
  'in-use': 'in use',
  released: 'given back',
};
export type ReservationState = (typeof RESERVATION_STATES)[number];

/** A reservation as far as somebody's being there is concerned. */
export interface Presence {
  state: ReservationState;
  /** Since when somebody is there. Epoch milliseconds. */
  usedAt: number | null;
  /** When they left before its end. */
  leftAt: number | null;
}

/** Somebody may check in so long before it begins. */
const EARLIEST = 15 * MINUTE;
/** So long before it is given to others its holder is told, if its grace time allows. */
const WARNING = 5 * MINUTE;
/** A request that nobody decides within so long is over, and at its beginning at the latest. */
const DECIDED_WITHIN = 48 * 60 * MINUTE;

/** From when somebody can check in to a booking. */
export const checkInFrom = (span: Interval): number => span.start - EARLIEST;

/** When a booking to which nobody came is given to others, at the latest at its end. */
export const givenUpAt = (span: Interval, graceMinutes: number): number =>
  Math.min(span.start + graceMinutes * MINUTE, span.end);

/** When its holder is told that it will be, which is never before it begins. */
export const warnedAt = (span: Interval, graceMinutes: number): number =>
  Math.max(span.start, givenUpAt(span, graceMinutes) - WARNING);

/** Until when a steward can agree to a booking that was asked for. */
export const decidedBy = (span: Interval, askedAt: number): number =>
  Math.min(span.start, askedAt + DECIDED_WITHIN);

/** Why somebody cannot check in, or out, at a moment; null where they can. */
export type NotNow =
  'too-early' | 'over' | 'not-agreed' | 'there-already' | 'left-already' | 'not-there';

/**
 * Whether somebody can check in to what is reserved. Whoever left can come back as long as it lasts.
 * @param span the booking's own time, half-open
 */
export function cannotCheckIn(held: Presence, span: Interval, now: number): NotNow | null {
  if (held.state === 'requested') return 'not-agreed';
  if (held.state === 'released' || now >= span.end) return 'over';
  if (now < checkInFrom(span)) return 'too-early';
  return held.usedAt !== null && held.leftAt === null ? 'there-already' : null;
}

/** Whether somebody who is there can leave: the rest of the time is then others'. */
export function cannotCheckOut(held: Presence, span: Interval, now: number): NotNow | null {
  if (held.state === 'released' || now >= span.end) return 'over';
  if (held.usedAt === null) return 'not-there';
  return held.leftAt === null ? null : 'left-already';
}

/**
 * The time that a reservation takes of its place, without what is kept free around it: less than its
 * own where somebody has left. A reservation that was moved since is taken as a whole.
 */
export const timeKept = (span: Interval, leftAt: number | null): Interval =>
  leftAt !== null && leftAt > span.start && leftAt < span.end ? { ...span, end: leftAt } : span;

/**
 * What a reservation is once it is brought in line with what is wished of it.
 * @param before as it is; null where it is new
 * @param isPart whether its time stays as it was, or is a part of that
 * @param isLater whether it begins at another time
 * @param agreed whether nobody has to agree to it
 */
export function stateAfter(
  before: Presence | null,
  { isPart, isLater, agreed }: { isPart: boolean; isLater: boolean; agreed: boolean },
): ReservationState {
  const asked = agreed ? 'held' : 'requested';
  if (!before || before.state === 'released') return asked;
  if (before.state === 'in-use') return isLater ? asked : 'in-use';
  return isPart && !agreed ? before.state : asked;
}
