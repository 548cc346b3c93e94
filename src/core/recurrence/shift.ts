import { addDays, daysBetween, weekdayOf, type WallTime } from '../time/wall.ts';
import { wallTimesFrom } from './expand.ts';
import { RuleError, WEEKDAYS, weekdayName, type Rule, type RuleDay } from './rule.ts';

const dateOf = (wall: WallTime): string => wall.slice(0, 10);
const dayOfMonth = (date: string): number => Number(date.slice(8));
const monthOf = (date: string): number => Number(date.slice(5, 7));
const isLastOfMonth = (date: string): boolean => dayOfMonth(addDays(date, 1)) === 1;

const cannotMove = () =>
  new RuleError('names several days, which cannot all be moved; change the rule instead');

/**
 * The rule whose occurrences lie as many days later as `to` lies after `from`.
 * @throws RuleError when it names several days of the month, which cannot move together
 */
export function shiftRule(rule: Rule, from: WallTime, to: WallTime): Rule {
  const days = daysBetween(dateOf(from), dateOf(to));
  if (days === 0) return rule;
  const moved = { ...rule, until: shiftUntil(rule.until, days) };
  if (rule.frequency === 'DAILY') return moved;
  if (rule.frequency === 'WEEKLY') {
    return { ...moved, byDay: rule.byDay.map((day) => shiftWeekday(day, days)) };
  }
  if (rule.bySetPos.length > 0 || rule.byYearDay.length > 0 || rule.byWeekNo.length > 0) {
    throw cannotMove();
  }
  const date = dateOf(to);
  return {
    ...moved,
    byMonth: rule.frequency === 'YEARLY' ? shiftMonth(rule, dateOf(from), date) : rule.byMonth,
    byMonthDay: shiftMonthDay(rule.byMonthDay, date),
    byDay: shiftNth(rule, date),
  };
}

function shiftUntil(until: string | null, days: number): string | null {
  if (until === null || until.length === 10) return until && addDays(until, days);
  return `${addDays(until.slice(0, 10), days)}${until.slice(10)}`;
}

function shiftWeekday(day: RuleDay, days: number): RuleDay {
  const index = (WEEKDAYS.indexOf(day.weekday) + days + 7_000) % 7;
  return { ...day, weekday: WEEKDAYS[index]! };
}

function shiftMonth(rule: Rule, from: string, to: string): number[] {
  if (rule.byMonth.length === 0 || monthOf(from) === monthOf(to)) return rule.byMonth;
  if (rule.byMonth.length > 1) throw cannotMove();
  return [monthOf(to)];
}

function shiftMonthDay(days: readonly number[], to: string): number[] {
  if (days.length > 1) throw cannotMove();
  if (days.length === 0) return [];
  return [days[0]! < 0 && isLastOfMonth(to) ? -1 : dayOfMonth(to)];
}

function shiftNth(rule: Rule, to: string): RuleDay[] {
  const [day] = rule.byDay;
  if (!day) return [];
  const ofYear = rule.frequency === 'YEARLY' && rule.byMonth.length === 0;
  if (rule.byDay.length > 1 || day.nth === null || ofYear) throw cannotMove();
  return [{ weekday: weekdayName(weekdayOf(to)), nth: nthWeekday(to, day.nth < 0) }];
}

/** Which one of its weekday a date is in its month: 1 to 4, or -1 for the last. */
export function nthWeekday(date: string, preferLast = false): number {
  const nth = Math.ceil(dayOfMonth(date) / 7);
  const last = monthOf(addDays(date, 7)) !== monthOf(date);
  return nth > 4 || (preferLast && last) ? -1 : nth;
}

/**
 * Where a series begins after one of its occurrences went from `from` to `to`: at the new rule's
 * date nearest to the old start moved as far.
 */
export function nearestStart(
  rule: Rule,
  startsAt: WallTime,
  from: WallTime,
  to: WallTime,
): WallTime {
  const aim = `${addDays(dateOf(startsAt), daysBetween(dateOf(from), dateOf(to)))}${to.slice(10)}`;
  const endless = { ...rule, count: null, until: null, interval: 1 };
  const around = wallTimesFrom(
    endless,
    `${addDays(dateOf(aim), -10)}${to.slice(10)}`,
    `${addDays(dateOf(aim), 10)}T23:59`,
  );
  // Days and weeks move exactly; a rule that names none takes them from the start.
  const exact = rule.frequency === 'DAILY' || rule.frequency === 'WEEKLY';
  const named = rule.byDay.length + rule.byMonthDay.length > 0;
  if (exact || !named || around.includes(aim)) return aim;
  const distance = (wall: WallTime) => Math.abs(daysBetween(dateOf(aim), dateOf(wall)));
  return around.sort((a, b) => distance(a) - distance(b))[0] ?? aim;
}

/** Whether two rules come round in the same rhythm, so that their occurrences pair off one by one. */
export function sameRhythm(a: Rule, b: Rule): boolean {
  return (
    a.frequency === b.frequency &&
    a.interval === b.interval &&
    a.byDay.length === b.byDay.length &&
    a.byMonthDay.length === b.byMonthDay.length &&
    a.byMonth.length === b.byMonth.length &&
    a.bySetPos.join() === b.bySetPos.join()
  );
}
