import { useMemo } from 'react';
import { expandSeries, firstOccurrence } from '../../../core/recurrence/expand.ts';
import { ruleText, type Rule } from '../../../core/recurrence/rule.ts';
import { ruleSentence } from '../../../core/recurrence/sentence.ts';
import { formatDay } from '../../../core/time/format.ts';
import { DAY } from '../../../core/time/interval.ts';
import { addDays, resolveWallTime, weekdayOf, type WallTime } from '../../../core/time/wall.ts';
import { usePreferences } from '../../client/index.ts';
import { useHolidays } from '../../time/index.ts';
import { repeatingProblem, type Repeating } from './repeating.ts';

const PREVIEW = 12;
const PREVIEW_DAYS = 366 * 4;

/** The rule in a sentence, and its next dates, each of which can be left out. */
export function Preview({
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
        Click a date to skip it, and again to put it back.
      </p>
      <ul className="flex flex-wrap gap-1" aria-label="Next dates">
        {dates.map(({ recurrenceId }) => {
          const day = recurrenceId.slice(0, 10);
          const gone = cancelled.includes(recurrenceId);
          const out = except.includes(recurrenceId) || gone;
          const off =
            holidays.get(day)?.words ??
            (hours[weekdayOf(day) - 1]!.length === 0 ? 'day off' : null);
          return (
            <li key={recurrenceId}>
              <button
                type="button"
                aria-pressed={!out}
                disabled={gone}
                onClick={() => toggle(recurrenceId)}
                className={`rounded-sm border min-h-6 px-1.5 py-0.5 text-xs max-sm:min-h-11 ${out ? 'border-dashed border-edge text-ink-2 line-through' : 'border-edge bg-sheet font-semibold'}`}
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
              className="rounded-sm border border-dashed border-edge min-h-6 px-1.5 py-0.5 text-xs max-sm:min-h-11 text-ink-2 line-through"
            >
              {formatDay(Date.parse(`${at.slice(0, 10)}T12:00Z`), 'UTC')} {at.slice(0, 4)}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
