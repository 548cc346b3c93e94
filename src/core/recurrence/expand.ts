import { RRuleTemporal } from 'rrule-temporal';
import { Temporal } from 'temporal-polyfill';
import { DAY, MINUTE, type Interval } from '../time/interval.ts';
import { resolveWallTime, wallTimeAt, type WallTime } from '../time/wall.ts';
import { offsetAt, toInstant, zoneTable, type ZoneTable } from '../time/zoneTable.ts';
import { parseRule, RuleError, ruleText, weekdayName, type Rule, type RuleDay } from './rule.ts';

export interface Series {
  /** Wall time of the first occurrence. */
  startsAt: WallTime;
  zone: string;
  /** Exact minutes; of whole days 1440 for each day, however long the clock makes it. */
  lengthMinutes: number;
  allDay?: boolean;
  /** An RFC 5545 RRULE value without the property name, such as `FREQ=WEEKLY;BYDAY=TU`. */
  rule: string;
  /** Wall times of occurrences that are left out (EXDATE). */
  except?: readonly WallTime[];
}

export interface SeriesOccurrence extends Interval {
  /** The wall time that names this occurrence for good (RECURRENCE-ID). */
  recurrenceId: WallTime;
}

/** No rule of ours needs longer to come round: 29 February on a given weekday, past the year 2100. */
const LONGEST_WAIT_YEARS = 80;
const MOST_PERIODS = 40_000;

/**
 * The wall times that a rule names from its start on, in order, before any zone is thought of and
 * without its end. A generator, since it may have none.
 * @param to the last wall time wanted
 */
function wallTimes(rule: Rule, startsAt: WallTime, to: WallTime, from = startsAt): WallTime[] {
  if (asksForFarDays(rule)) {
    return chosenOfPeriods(rule, startsAt, to).filter((wall) => wall >= from && wall <= to);
  }
  return plainWallTimes(rule, startsAt, to, from);
}

/**
 * Whether a rule numbers weekdays in a way that rrule-temporal gets wrong: the 53rd, for which it
 * names a day of the year beside when there is none, and numbered ones beside plain ones.
 */
function asksForFarDays({ byDay }: Rule): boolean {
  const numbered = byDay.filter(({ nth }) => nth !== null);
  const mixed = numbered.length > 0 && numbered.length < byDay.length;
  return mixed || numbered.some(({ nth }) => Math.abs(nth!) > 52);
}

/** Names all those weekdays of whole years, then keeps the ones that are numbered so. */
function chosenOfPeriods(rule: Rule, startsAt: WallTime, to: WallTime): WallTime[] {
  const monthly = rule.frequency === 'MONTHLY';
  const first = `${startsAt.slice(0, monthly ? 7 : 4)}${monthly ? '' : '-01'}-01${startsAt.slice(10)}`;
  const byDay = rule.byDay.map((day) => ({ ...day, nth: null }));
  const inMonth = monthly || rule.byMonth.length > 0;
  const named = plainWallTimes(
    { ...rule, byDay, bySetPos: [] },
    first,
    `${to.slice(0, 4)}-12-31T23:59`,
    first,
  ).filter((wall) => rule.byDay.some((day) => isNumbered(day, wall.slice(0, 10), inMonth)));
  if (rule.bySetPos.length === 0) return named;
  const periods = new Map<string, WallTime[]>();
  for (const wall of named) {
    const period = wall.slice(0, monthly ? 7 : 4);
    periods.set(period, [...(periods.get(period) ?? []), wall]);
  }
  return [...periods.values()].flatMap((walls) =>
    walls.filter((_, k) => rule.bySetPos.some((at) => at === k + 1 || at === k - walls.length)),
  );
}

/** Whether a date is that weekday of its month or year, counted from either end. */
function isNumbered({ weekday, nth }: RuleDay, date: string, inMonth: boolean): boolean {
  const day = Temporal.PlainDate.from(date);
  if (weekdayName(day.dayOfWeek) !== weekday) return false;
  const [at, days] = inMonth ? [day.day, day.daysInMonth] : [day.dayOfYear, day.daysInYear];
  return nth === null || nth === Math.ceil(at / 7) || nth === -Math.ceil((days - at + 1) / 7);
}

/**
 * Every day that is one of certain days of its month is every month on those days, which is thirty times
 * fewer to look at: a rule that hardly ever falls would be searched for day by day through 80 years.
 */
const byMonths = (rule: Rule): Rule =>
  rule.frequency === 'DAILY' &&
  rule.interval === 1 &&
  rule.byMonthDay.length > 0 &&
  rule.bySetPos.length === 0
    ? { ...rule, frequency: 'MONTHLY' }
    : rule;

function plainWallTimes(rule: Rule, startsAt: WallTime, to: WallTime, from: WallTime): WallTime[] {
  // UTC has no clock changes, which makes this twenty times faster than naming the zone.
  const endless = ruleText({ ...byMonths(rule), count: null, until: null });
  const utc = (wall: WallTime) => Temporal.PlainDateTime.from(wall).toZonedDateTime('UTC');
  if (to < from) return [];
  return new RRuleTemporal({
    rruleString: `RRULE:${endless}`,
    dtstart: utc(startsAt),
    tzid: 'UTC',
    maxIterations: MOST_PERIODS,
  })
    .between(utc(from), utc(to), true)
    .map((time) => new Date(time.epochMilliseconds).toISOString().slice(0, 16));
}

/** Local milliseconds of a wall time, as if it were UTC. */
const localOf = (wall: WallTime): number => Date.parse(`${wall}Z`);

/** The instant of a wall time, or null where a clock change skips it. */
function instantOf(wall: WallTime, table: ZoneTable): number | null {
  const local = localOf(wall);
  const instant = toInstant(table, local);
  return instant + offsetAt(table, instant) === local ? instant : null;
}

/**
 * Every occurrence of a series that starts inside `window`.
 * Local times that a clock change skips are left out and not counted (RFC 5545 section 3.3.10);
 * of a repeated one the earlier is meant. Whole days that begin with a skipped midnight stay.
 * @throws RuleError when the rule cannot be read
 */
export function expandSeries(series: Series, window: Interval): SeriesOccurrence[] {
  const rule = parseRule(series.rule);
  const { startsAt, zone, allDay = false } = series;
  const first = resolveWallTime(startsAt, zone).instant;
  if (window.end <= first || window.end <= window.start) return [];
  const table = zoneTable(zone, {
    start: Math.min(first, window.start),
    end: window.end + 64 * DAY,
  });
  const except = new Set(series.except);
  const last = lastInstant(rule, zone);
  // A counted rule is counted from its start.
  const from =
    rule.count === null && window.start > first
      ? latest(startsAt, wallTimeAt(window.start - DAY, zone))
      : startsAt;
  const found: SeriesOccurrence[] = [];
  let count = 0;
  for (const wall of wallTimes(rule, startsAt, wallTimeAt(window.end + DAY, zone), from)) {
    const start = allDay ? toInstant(table, localOf(wall)) : instantOf(wall, table);
    if (start === null) continue;
    count++;
    if ((rule.count !== null && count > rule.count) || start > last || start >= window.end) break;
    if (start < window.start || except.has(wall)) continue;
    found.push({ recurrenceId: wall, start, end: endOf(series, wall, start, table) });
  }
  return found;
}

const latest = (a: WallTime, b: WallTime): WallTime => (a > b ? a : b);

function endOf(series: Series, wall: WallTime, start: number, table: ZoneTable): number {
  return series.allDay
    ? toInstant(table, localOf(wall) + series.lengthMinutes * MINUTE)
    : start + series.lengthMinutes * MINUTE;
}

/** The last instant at which an occurrence may start. */
function lastInstant(rule: Rule, zone: string): number {
  if (rule.until === null) return Number.POSITIVE_INFINITY;
  if (rule.until.endsWith('Z')) return Date.parse(rule.until);
  return resolveWallTime(`${rule.until}T23:59`, zone).instant;
}

/**
 * The first wall time on or after `startsAt` that the rule names; RFC 5545 wants a series to begin
 * with one.
 * @throws RuleError when the rule names none, for as far as anybody would look, or none before its end
 */
export function firstOccurrence(rule: Rule, startsAt: WallTime): WallTime {
  for (const years of [2, LONGEST_WAIT_YEARS]) {
    const to = Temporal.PlainDateTime.from(startsAt).add({ years });
    const [first] = wallTimes(rule, startsAt, to.toString({ smallestUnit: 'minute' }));
    if (first) {
      if (rule.until !== null && rule.until < first.slice(0, rule.until.length > 10 ? 16 : 10)) {
        throw new RuleError('ends before its first date; UNTIL must not be before the start');
      }
      return first;
    }
  }
  throw new RuleError('names no date at all');
}

/** The first `count` wall times of a rule from `startsAt`, exceptions and clock changes aside. */
export function wallTimesFrom(rule: Rule, startsAt: WallTime, to: WallTime): WallTime[] {
  const until = rule.until?.slice(0, 10);
  return wallTimes(rule, startsAt, to)
    .slice(0, rule.count ?? undefined)
    .filter((wall) => until === undefined || wall.slice(0, 10) <= until);
}
