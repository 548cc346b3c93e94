import { useMemo } from 'react';
import { expandSeries, firstOccurrence } from '../../core/recurrence/expand.ts';
import {
  plainRule,
  RuleError,
  ruleText,
  WEEKDAYS,
  weekdayName,
  type Frequency,
  type Rule,
  type Weekday,
} from '../../core/recurrence/rule.ts';
import { nthWord, ordinal, ruleSentence } from '../../core/recurrence/sentence.ts';
import { nthWeekday } from '../../core/recurrence/shift.ts';
import { formatDay } from '../../core/time/format.ts';
import { DAY } from '../../core/time/interval.ts';
import {
  addDays,
  addMonths,
  resolveWallTime,
  weekdayOf,
  type WallTime,
} from '../../core/time/wall.ts';
import { usePreferences } from '../app/session.ts';
import { Choice, TextInput } from '../design/controls.tsx';
import { DayField } from './DayField.tsx';
import { useHolidays } from './useCalendar.ts';

/** How an event repeats, as its form holds it. */
export interface Repeating {
  /** Null for an event that happens once. */
  rule: Rule | null;
  except: WallTime[];
}

const UNITS: [Frequency, string, string][] = [
  ['DAILY', 'day', 'days'],
  ['WEEKLY', 'week', 'weeks'],
  ['MONTHLY', 'month', 'months'],
  ['YEARLY', 'year', 'years'],
];
const DAY_LETTERS: Record<Weekday, [string, string]> = {
  MO: ['Mo', 'Monday'],
  TU: ['Tu', 'Tuesday'],
  WE: ['We', 'Wednesday'],
  TH: ['Th', 'Thursday'],
  FR: ['Fr', 'Friday'],
  SA: ['Sa', 'Saturday'],
  SU: ['Su', 'Sunday'],
};
const PREVIEW = 12;
const PREVIEW_DAYS = 366 * 4;

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

/** How an event repeats: how often, on what, until when; in a sentence, and as its next dates. */
export function RecurrenceEditor({
  value,
  startsAt,
  zone,
  cancelled = [],
  onChange,
}: {
  value: Repeating;
  startsAt: WallTime;
  zone: string;
  /** Dates that were cancelled by themselves. */
  cancelled?: readonly WallTime[];
  onChange: (value: Repeating) => void;
}) {
  const date = startsAt.slice(0, 10);
  const { rule, except } = value;
  const setRule = (next: Rule) => onChange({ rule: next, except });
  return (
    <fieldset className="grid gap-3">
      <legend className="mb-1 font-semibold">Repeats</legend>
      <div className="flex flex-wrap items-center gap-2">
        <Choice
          aria-label="Repeats"
          className="w-auto"
          value={rule?.frequency ?? ''}
          onChange={(event) => {
            const frequency = event.target.value as Frequency | '';
            onChange(
              frequency
                ? { rule: { ...usualRule(frequency, date), ...endOf(rule) }, except }
                : { rule: null, except: [] },
            );
          }}
        >
          <option value="">Happens once</option>
          {UNITS.map(([frequency, , many]) => (
            <option key={frequency} value={frequency}>
              Every so many {many}
            </option>
          ))}
        </Choice>
        {rule && (
          <label className="flex items-center gap-2">
            every
            <TextInput
              type="number"
              min={1}
              max={999}
              className="w-16"
              aria-label="Interval"
              value={rule.interval}
              onChange={(event) =>
                setRule({
                  ...rule,
                  interval: Math.max(1, Math.min(999, Number(event.target.value) || 1)),
                })
              }
            />
            {
              UNITS.find(([frequency]) => frequency === rule.frequency)![
                rule.interval === 1 ? 1 : 2
              ]
            }
          </label>
        )}
      </div>
      {rule && (
        <>
          <OnWhat rule={rule} date={date} setRule={setRule} />
          <Until rule={rule} date={date} setRule={setRule} />
          <Preview
            value={{ rule, except }}
            startsAt={startsAt}
            zone={zone}
            cancelled={cancelled}
            onChange={onChange}
          />
        </>
      )}
    </fieldset>
  );
}

const endOf = (rule: Rule | null): Partial<Rule> =>
  rule ? { count: rule.count, until: rule.until } : {};

function OnWhat({
  rule,
  date,
  setRule,
}: {
  rule: Rule;
  date: string;
  setRule: (rule: Rule) => void;
}) {
  if (rule.frequency === 'WEEKLY') return <OnWeekdays rule={rule} date={date} setRule={setRule} />;
  if (rule.frequency === 'DAILY') {
    return (
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={rule.byDay.length > 0}
          onChange={(event) =>
            setRule({
              ...rule,
              byDay: event.target.checked
                ? WEEKDAYS.slice(0, 5).map((weekday) => ({ weekday, nth: null }))
                : [],
            })
          }
        />
        only from Monday to Friday
      </label>
    );
  }
  const choices = monthlyChoices(rule.frequency, date);
  const present = choices.findIndex(
    ([, part]) => JSON.stringify(partOf(rule)) === JSON.stringify(part),
  );
  return (
    <Choice
      aria-label="On which day"
      className="w-auto justify-self-start"
      value={present}
      onChange={(event) => {
        const choice = choices[Number(event.target.value)];
        if (choice) setRule({ ...rule, ...choice[1] });
      }}
    >
      {present < 0 && (
        <option value={-1}>{ruleSentence({ ...rule, count: null, until: null }, date)}</option>
      )}
      {choices.map(([words], k) => (
        <option key={words} value={k}>
          {words}
        </option>
      ))}
    </Choice>
  );
}

type Part = Pick<Rule, 'byDay' | 'byMonthDay' | 'byMonth' | 'bySetPos'>;
const partOf = ({ byDay, byMonthDay, byMonth, bySetPos }: Rule): Part => ({
  byDay,
  byMonthDay,
  byMonth,
  bySetPos,
});

/** The ways in which a date can be meant in its month or year. */
function monthlyChoices(frequency: Frequency, date: string): [string, Part][] {
  const day = Number(date.slice(8));
  const weekday = weekdayName(weekdayOf(date));
  const name = DAY_LETTERS[weekday][1];
  const nth = nthWeekday(date);
  const isLast = nthWeekday(date, true) === -1;
  const yearly = frequency === 'YEARLY';
  const byMonth = yearly ? [Number(date.slice(5, 7))] : [];
  const none: Part = { byDay: [], byMonthDay: [], byMonth: [], bySetPos: [] };
  const ofMonth = yearly
    ? ` of ${new Date(`${date}T00:00Z`).toLocaleString('en-GB', { month: 'long', timeZone: 'UTC' })}`
    : '';
  const weekdays = WEEKDAYS.slice(0, 5).map((one) => ({ weekday: one, nth: null }));
  const choices: [string, Part][] = [[`on the ${ordinal(day)}${ofMonth}`, none]];
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

function OnWeekdays({
  rule,
  date,
  setRule,
}: {
  rule: Rule;
  date: string;
  setRule: (rule: Rule) => void;
}) {
  const chosen = rule.byDay.map((day) => day.weekday);
  const toggle = (weekday: Weekday) => {
    const next = chosen.includes(weekday)
      ? chosen.filter((one) => one !== weekday)
      : [...chosen, weekday];
    const days = next.length ? next : [weekdayName(weekdayOf(date))];
    setRule({
      ...rule,
      byDay: WEEKDAYS.filter((one) => days.includes(one)).map((one) => ({
        weekday: one,
        nth: null,
      })),
    });
  };
  return (
    <div className="flex flex-wrap items-center gap-1" role="group" aria-label="On these days">
      <span className="mr-1">on</span>
      {WEEKDAYS.map((weekday) => {
        const on = chosen.includes(weekday);
        const [letters, name] = DAY_LETTERS[weekday];
        return (
          <button
            key={weekday}
            type="button"
            aria-pressed={on}
            aria-label={name}
            onClick={() => toggle(weekday)}
            className={`min-w-9 rounded-sm border px-1.5 py-1 font-semibold ${on ? 'border-gentian bg-gentian text-on-gentian' : 'border-edge bg-sheet hover:border-ink-2'}`}
          >
            {letters}
          </button>
        );
      })}
    </div>
  );
}

function Until({
  rule,
  date,
  setRule,
}: {
  rule: Rule;
  date: string;
  setRule: (rule: Rule) => void;
}) {
  const kind = rule.count !== null ? 'count' : rule.until !== null ? 'until' : 'never';
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Choice
        aria-label="Ends"
        className="w-auto"
        value={kind}
        onChange={(event) =>
          setRule({
            ...rule,
            count: event.target.value === 'count' ? 10 : null,
            until: event.target.value === 'until' ? addMonths(date, 3) : null,
          })
        }
      >
        <option value="never">without an end</option>
        <option value="until">until a day</option>
        <option value="count">so many times</option>
      </Choice>
      {kind === 'until' && (
        <DayField
          label="Last date on or before"
          className="w-48"
          value={rule.until!.slice(0, 10)}
          onChange={(until) => setRule({ ...rule, until })}
        />
      )}
      {kind === 'count' && (
        <label className="flex items-center gap-2">
          <TextInput
            type="number"
            min={1}
            max={5000}
            className="w-20"
            aria-label="How many times"
            value={rule.count!}
            onChange={(event) =>
              setRule({
                ...rule,
                count: Math.max(1, Math.min(5000, Number(event.target.value) || 1)),
              })
            }
          />
          times
        </label>
      )}
    </div>
  );
}

function Preview({
  value: { rule, except },
  startsAt,
  zone,
  cancelled,
  onChange,
}: {
  value: { rule: Rule; except: WallTime[] };
  startsAt: WallTime;
  zone: string;
  cancelled: readonly WallTime[];
  onChange: (value: Repeating) => void;
}) {
  const { hours } = usePreferences();
  const problem = repeatingProblem({ rule, except }, startsAt);
  const dates = useMemo(() => {
    if (problem) return [];
    const start = resolveWallTime(firstOccurrence(rule, startsAt), zone).instant;
    for (const days of [120, PREVIEW_DAYS, PREVIEW_DAYS * 10]) {
      const found = expandSeries(
        { startsAt: firstOccurrence(rule, startsAt), zone, lengthMinutes: 1, rule: ruleText(rule) },
        { start, end: start + days * DAY },
      );
      if (found.length >= PREVIEW || days > PREVIEW_DAYS) return found.slice(0, PREVIEW);
    }
    return [];
  }, [rule, startsAt, zone, problem]);
  const first = dates[0]?.recurrenceId.slice(0, 10) ?? startsAt.slice(0, 10);
  const last = dates.at(-1)?.recurrenceId.slice(0, 10) ?? addDays(first, 1);
  const holidays = useHolidays(first, last);
  if (problem) {
    return (
      <p role="alert" className="font-semibold text-alpenglow">
        The rule {problem}.
      </p>
    );
  }
  const toggle = (at: WallTime) =>
    onChange({
      rule,
      except: except.includes(at) ? except.filter((one) => one !== at) : [...except, at].sort(),
    });
  const later = except.filter((at) => !dates.some((one) => one.recurrenceId === at));
  return (
    <div className="rounded-sm bg-lichen-wash/50 px-3 py-2">
      <p className="font-semibold" data-testid="sentence">
        {ruleSentence(rule, dates[0]?.recurrenceId ?? startsAt)}
        {except.length > 0 &&
          `, but not on ${except.length} ${except.length === 1 ? 'date' : 'dates'}`}
      </p>
      <p className="mb-1.5 text-xs text-ink-2">
        Choose a date to leave it out, or to take it in again.
      </p>
      <ul className="flex flex-wrap gap-1" aria-label="Next dates">
        {dates.map(({ recurrenceId }) => {
          const day = recurrenceId.slice(0, 10);
          const gone = cancelled.includes(recurrenceId);
          const out = except.includes(recurrenceId) || gone;
          const off =
            holidays.get(day) ?? (hours[weekdayOf(day) - 1]!.length === 0 ? 'day off' : null);
          return (
            <li key={recurrenceId}>
              <button
                type="button"
                aria-pressed={!out}
                disabled={gone}
                onClick={() => toggle(recurrenceId)}
                className={`rounded-sm border px-1.5 py-0.5 text-xs ${out ? 'border-dashed border-edge text-ink-2 line-through' : 'border-edge bg-sheet font-semibold'}`}
              >
                {formatDay(Date.parse(`${day}T12:00Z`), 'UTC')}
                {off && <span className="ml-1 font-normal text-alpenglow no-underline">{off}</span>}
                {gone && <span className="ml-1">cancelled</span>}
              </button>
            </li>
          );
        })}
        {later.map((at) => (
          <li key={at}>
            <button
              type="button"
              aria-pressed={false}
              onClick={() => toggle(at)}
              className="rounded-sm border border-dashed border-edge px-1.5 py-0.5 text-xs text-ink-2 line-through"
            >
              {formatDay(Date.parse(`${at.slice(0, 10)}T12:00Z`), 'UTC')} {at.slice(0, 4)}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
