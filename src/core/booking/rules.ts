import { clip, DAY, gaps, merge, MINUTE, type Interval } from '../time/interval.ts';
import { addDays, dateAt, startOfDay } from '../time/wall.ts';
import { workingIntervals, type Shift, type WorkingHours } from '../time/workingHours.ts';
import { offsetAt, zoneTable } from '../time/zoneTable.ts';
import { brokenTerms, weeksOf, type BookingTerms, type BrokenTerm } from './terms.ts';

/**
 * What bookings of a place are bound by; null is no bound. They hold for a booking's own time, without
 * the time that is kept free before and after it.
 */
export interface PlaceRules {
  /** When it is open, on its own clock, Monday first; null where it is always. */
  open: WorkingHours | null;
  shortestMinutes: number | null;
  longestMinutes: number | null;
  /** Bookings begin at, and last, whole multiples of it, counted from midnight on its clock. */
  stepMinutes: number | null;
  /** A booking is made at least so long before it begins. */
  noticeMinutes: number | null;
  /** A booking begins at most so many days after the one on which it is made, on its clock. */
  horizonDays: number | null;
  /** The teams whose members may book it; null where everybody may. */
  teams: readonly number[] | null;
  /** So long somebody may have it within a week from Monday to Sunday, on its clock. */
  weeklyMinutes: number | null;
  /** True where a steward agrees to each booking before it stands; till then its time is held. */
  approval: true | null;
  /** So long after its beginning a booking waits for somebody to check in; then it is given to others. */
  graceMinutes: number | null;
  /** What an hour costs, in the money of its site; null where nothing is charged. */
  hourlyPrice: Price | null;
  /** Whose it is, where it is somebody's. */
  assigned?: Assignment;
}

/** A place that is somebody's, and the days on which others may have it. */
export interface Assignment {
  ownerId: number;
  owner: string;
  /** `YYYY-MM-DD` on the place's clock, in order. */
  freeDays: readonly string[];
}

/** An amount of money: hundredths of a currency's unit, and its code (ISO 4217). */
export interface Price {
  hundredths: number;
  currency: string;
}

export const NO_RULES: PlaceRules = {
  open: null,
  shortestMinutes: null,
  longestMinutes: null,
  stepMinutes: null,
  noticeMinutes: null,
  horizonDays: null,
  teams: null,
  weeklyMinutes: null,
  approval: null,
  graceMinutes: null,
  hourlyPrice: null,
};

/** Rules as they are kept: those that bind. */
export type KeptRules = Partial<PlaceRules>;

/** Kept rules with all that do not bind. */
export const allRules = (kept: KeptRules): PlaceRules => ({ ...NO_RULES, ...kept });

/** Whoever is to have a place, as far as its rules ask. */
export interface Booker {
  /** Left out, or null, for nobody of this installation. */
  id?: number | null;
  /** Whether they look after places: no rule binds them. */
  isSteward: boolean;
  teams: readonly number[];
  /** What they have of the place in other bookings, their own times. */
  has: readonly Interval[];
}

/** A rule that a booking would break, with what it says. */
export type BrokenRule =
  | BrokenTerm
  | { rule: 'closed'; date: string; hours: readonly Shift[] }
  | { rule: 'too-late'; notice: number }
  | { rule: 'too-early'; days: number; last: string }
  | { rule: 'not-for-you' }
  | { rule: 'somebodys'; owner: string; date: string };

/**
 * Which of a place's rules a booking would break, each once; none where it breaks none.
 * @param span the booking's own time, half-open
 * @param zone the place's clock
 * @param now epoch milliseconds
 */
export function brokenRules(
  rules: PlaceRules,
  span: Interval,
  booker: Booker,
  { zone, now }: { zone: string; now: number },
): BrokenRule[] {
  if (booker.isSteward) return [];
  const broken: BrokenRule[] = [];
  const closed = rules.open && firstClosedDay(rules.open, span, zone);
  if (closed) broken.push({ rule: 'closed', ...closed });
  const terms = termsOfRules(rules, span, booker, zone);
  if (terms) broken.push(...brokenTerms(terms, span));
  if (rules.noticeMinutes !== null && span.start < now + rules.noticeMinutes * MINUTE)
    broken.push({ rule: 'too-late', notice: rules.noticeMinutes });
  if (rules.horizonDays !== null) {
    const last = addDays(dateAt(now, zone), rules.horizonDays);
    // All of it lies within the days for which it can be booked.
    if (dateAt(span.end - 1, zone) > last)
      broken.push({ rule: 'too-early', days: rules.horizonDays, last });
  }
  if (rules.teams !== null && !rules.teams.some((team) => booker.teams.includes(team)))
    broken.push({ rule: 'not-for-you' });
  const { assigned } = rules;
  if (assigned && assigned.ownerId !== (booker.id ?? null)) {
    const date = daysOf(span, zone).find((day) => !assigned.freeDays.includes(day));
    if (date) broken.push({ rule: 'somebodys', owner: assigned.owner, date });
  }
  return broken;
}

/**
 * What a place's rules ask of the length and the beginning of somebody's bookings; null where nothing.
 * @param window where the bookings lie that are judged by it, half-open
 */
export function termsOfRules(
  rules: PlaceRules,
  window: Interval,
  { isSteward, has }: Pick<Booker, 'isSteward' | 'has'>,
  zone: string,
): BookingTerms | null {
  const { shortestMinutes, longestMinutes, stepMinutes, weeklyMinutes } = rules;
  const bounds = { shortestMinutes, longestMinutes, stepMinutes, weeklyMinutes };
  if (isSteward || Object.values(bounds).every((bound) => bound === null)) return null;
  return { ...bounds, zone, weeks: weeklyMinutes === null ? [] : weeksOf(window, has, zone) };
}

/**
 * When a place's rules give it to none of somebody's bookings, however long: while it is closed or
 * somebody else's, and before and after the time for which it can be booked now. A booking that breaks
 * none of those rules overlaps nothing of it.
 * @param window what is looked at, half-open; nothing else is answered
 * @returns disjoint, sorted, within the window
 */
export function barredTime(
  rules: PlaceRules,
  window: Interval,
  { id, isSteward, teams }: Omit<Booker, 'has'>,
  { zone, now }: { zone: string; now: number },
): Interval[] {
  if (isSteward) return [];
  if (rules.teams !== null && !rules.teams.some((team) => teams.includes(team))) return [window];
  const { open, noticeMinutes, horizonDays, assigned } = rules;
  const barred: Interval[] = [];
  if (open) barred.push(...gaps(workingIntervals(open, zoneTable(zone, window), window), window));
  if (noticeMinutes !== null)
    barred.push({ start: window.start, end: now + noticeMinutes * MINUTE });
  if (horizonDays !== null) {
    const after = addDays(dateAt(now, zone), horizonDays + 1);
    barred.push({ start: startOfDay(after, zone), end: window.end });
  }
  if (assigned && assigned.ownerId !== (id ?? null)) {
    const days = daysOf(window, zone).filter((day) => assigned.freeDays.includes(day));
    const free = days.map((day) => ({
      start: startOfDay(day, zone),
      end: startOfDay(addDays(day, 1), zone),
    }));
    barred.push(...gaps(merge(free), window));
  }
  return merge(barred.flatMap((one) => clip(one, window) ?? []));
}

/** As many days as a booking is looked through; one that is longer has none that is free throughout. */
const MOST_DAYS = 400;

/** The days that a booking touches, on a clock. */
function daysOf(span: Interval, zone: string): string[] {
  const days = [dateAt(span.start, zone)];
  const last = dateAt(span.end - 1, zone);
  while (days.at(-1)! < last && days.length < MOST_DAYS) days.push(addDays(days.at(-1)!, 1));
  return days;
}

/** Local milliseconds of an instant: the wall time read as if it were UTC. */
interface LocalPiece {
  start: number;
  end: number;
}

/** A span as pieces on a clock: it runs evenly in each, and each lies within one day. */
function localPieces(span: Interval, zone: string): LocalPiece[] {
  const table = zoneTable(zone, span);
  const pieces: LocalPiece[] = [];
  const changes = table.starts.filter((at) => at > span.start && at < span.end);
  const bounds = [span.start, ...changes, span.end];
  for (let k = 0; k + 1 < bounds.length; k++) {
    const offset = offsetAt(table, bounds[k]!);
    const end = bounds[k + 1]! + offset;
    for (let start = bounds[k]! + offset; start < end;) {
      const midnight = (Math.floor(start / DAY) + 1) * DAY;
      pieces.push({ start, end: Math.min(end, midnight) });
      start = midnight;
    }
  }
  return pieces;
}

const dateOf = (local: number): string => new Date(local).toISOString().slice(0, 10);
/** 0 for Monday to 6 for Sunday; 1970-01-01 was a Thursday. */
const weekdayOf = (local: number): number => (((Math.floor(local / DAY) + 3) % 7) + 7) % 7;

/** The first day on which a span lies outside the hours, with the hours of that day. */
function firstClosedDay(
  open: WorkingHours,
  span: Interval,
  zone: string,
): { date: string; hours: readonly Shift[] } | null {
  for (const piece of localPieces(span, zone)) {
    const midnight = Math.floor(piece.start / DAY) * DAY;
    const today = open[weekdayOf(midnight)] ?? [];
    const night = (open[weekdayOf(midnight - DAY)] ?? []).map(({ start, end }) => ({
      start: start - 1440,
      end: end - 1440,
    }));
    const [from, to] = [(piece.start - midnight) / MINUTE, (piece.end - midnight) / MINUTE];
    if (!isCovered([...night, ...today], from, to)) return { date: dateOf(midnight), hours: today };
  }
  return null;
}

/** Whether shifts together cover all of a stretch of a day. Minutes. */
function isCovered(shifts: readonly Shift[], from: number, to: number): boolean {
  let covered = from;
  for (const shift of [...shifts].sort((a, b) => a.start - b.start)) {
    if (shift.start > covered) break;
    covered = Math.max(covered, shift.end);
  }
  return covered >= to;
}
