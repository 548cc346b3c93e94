import { firstOccurrence } from '../../../core/recurrence/expand.ts';
import {
  plainRule,
  RuleError,
  WEEKDAYS,
  weekdayName,
  type Frequency,
  type Rule,
  type Weekday,
} from '../../../core/recurrence/rule.ts';
import { nthWord, ordinal } from '../../../core/recurrence/sentence.ts';
import { nthWeekday } from '../../../core/recurrence/shift.ts';
import { weekdayOf, type WallTime } from '../../../core/time/wall.ts';

/** How an event repeats, as its form holds it. */
export interface Repeating {
  /** Null for an event that happens once. */
  rule: Rule | null;
  except: WallTime[];
}

/** What a part of the editor is given: the rule, the date that it starts on, and a way to change it. */
export interface RulePart {
  rule: Rule;
  date: string;
  setRule: (rule: Rule) => void;
}

export const DAY_LETTERS: Record<Weekday, [string, string]> = {
  MO: ['Mo', 'Monday'],
  TU: ['Tu', 'Tuesday'],
  WE: ['We', 'Wednesday'],
  TH: ['Th', 'Thursday'],
  FR: ['Fr', 'Friday'],
  SA: ['Sa', 'Saturday'],
  SU: ['Su', 'Sunday'],
};

/** A rule that repeats every so often from a date on, as people first mean it. */
export function usualRule(frequency: Frequency, date: string): Rule {
  const rule = plainRule(frequency);
  return frequency === 'WEEKLY'
    ? { ...rule, byDay: [{ weekday: weekdayName(weekdayOf(date)), nth: null }] }
    : rule;
}

/** What keeps a repeating event from being saved, in words; null when nothing does. */
export function repeatingProblem({ rule }: Repeating, startsAt: WallTime): string | null {
  if (!rule) return null;
  try {
    firstOccurrence(rule, startsAt);
    return null;
  } catch (error) {
    return error instanceof RuleError ? error.message : 'cannot be read';
  }
}

/** The parts of a rule that say on which day of a month or year. */
export type DayPart = Pick<Rule, 'byDay' | 'byMonthDay' | 'byMonth' | 'bySetPos'>;
export const partOf = ({ byDay, byMonthDay, byMonth, bySetPos }: Rule): DayPart => ({
  byDay,
  byMonthDay,
  byMonth,
  bySetPos,
});

/** The ways in which a date can be meant in its month or year. */
export function monthlyChoices(frequency: Frequency, date: string): [string, DayPart][] {
  const day = Number(date.slice(8));
  const weekday = weekdayName(weekdayOf(date));
  const name = DAY_LETTERS[weekday][1];
  const nth = nthWeekday(date);
  const isLast = nthWeekday(date, true) === -1;
  const yearly = frequency === 'YEARLY';
  const byMonth = yearly ? [Number(date.slice(5, 7))] : [];
  const none: DayPart = { byDay: [], byMonthDay: [], byMonth: [], bySetPos: [] };
  const ofMonth = yearly
    ? ` of ${new Date(`${date}T00:00Z`).toLocaleString('en-GB', { month: 'long', timeZone: 'UTC' })}`
    : '';
  const weekdays = WEEKDAYS.slice(0, 5).map((one) => ({ weekday: one, nth: null }));
  const choices: [string, DayPart][] = [[`on the ${ordinal(day)}${ofMonth}`, none]];
  if (nth > 0)
    choices.push([
      `on the ${nthWord(nth)} ${name}${ofMonth}`,
      { ...none, byMonth, byDay: [{ weekday, nth }] },
    ]);
  if (isLast)
    choices.push([
      `on the last ${name}${ofMonth}`,
      { ...none, byMonth, byDay: [{ weekday, nth: -1 }] },
    ]);
  choices.push([`on the last day${ofMonth}`, { ...none, byMonth, byMonthDay: [-1] }]);
  choices.push([
    `on the first day from Monday to Friday${ofMonth}`,
    { ...none, byMonth, byDay: weekdays, bySetPos: [1] },
  ]);
  choices.push([
    `on the last day from Monday to Friday${ofMonth}`,
    { ...none, byMonth, byDay: weekdays, bySetPos: [-1] },
  ]);
  return choices;
}
