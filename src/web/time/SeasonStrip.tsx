import { memo } from 'react';
import { counted } from '../../core/counted.ts';
import { formatDay } from '../../core/time/format.ts';
import { addDays, startOfDay, startOfWeek } from '../../core/time/wall.ts';
import { useMe, usePreferences } from '../client/index.ts';
import { useFullness } from './useFullness.ts';

const WEEKS_BACK = 6;
const WEEKS = 20;
const FULL_WEEK_HOURS = 30;

/** A band of weeks, each with a bar of how full it is; choosing one goes there. */
export const SeasonStrip = memo(function SeasonStrip({
  date,
  dates,
  today,
  onChoose,
}: {
  /** The date in view, and the dates shown with it. */
  date: string;
  dates: readonly string[];
  today: string;
  onChoose: (weekStart: string) => void;
}) {
  const me = useMe();
  const { firstWeekday } = usePreferences();
  const week = startOfWeek(date, firstWeekday);
  const thisWeek = startOfWeek(today, firstWeekday);
  // Anchored to this week as long as the chosen one is in sight, so that the band does not jump.
  const anchor =
    week >= addDays(thisWeek, -7 * WEEKS_BACK) && week < addDays(thisWeek, 7 * (WEEKS - WEEKS_BACK))
      ? thisWeek
      : week;
  const first = addDays(anchor, -7 * WEEKS_BACK);
  const weeks = Array.from({ length: WEEKS }, (_, k) => addDays(first, 7 * k));
  const { of } = useFullness(first, 7 * WEEKS);
  const hours = weeks.map((start) => {
    const days = Array.from({ length: 7 }, (_, k) => of(addDays(start, k)));
    return days.every((day) => day !== null)
      ? days.reduce((sum, day) => sum + day.minutes, 0) / 60
      : null;
  });
  const [from, to] = [dates[0]!, dates.at(-1)!];
  const stop = weeks.find((start) => start <= to && addDays(start, 6) >= from) ?? weeks[0];
  return (
    <nav
      aria-label="Weeks"
      className="no-print flex h-10 items-stretch gap-px overflow-x-auto border-b border-edge px-4 md:px-6"
    >
      {weeks.map((start, k) => {
        const chosen = start <= to && addDays(start, 6) >= from;
        const share = Math.min(1, (hours[k] ?? 0) / FULL_WEEK_HOURS);
        const name = formatDay(startOfDay(start, me.zone), me.zone);
        return (
          <button
            key={start}
            type="button"
            // One stop for all of them; arrows go from week to week.
            tabIndex={start === stop ? 0 : -1}
            onKeyDown={(event) => {
              const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
              if (step === undefined) return;
              event.preventDefault();
              event.stopPropagation();
              const to = event.currentTarget.parentElement!.children[k + step];
              if (to instanceof HTMLElement) to.focus();
            }}
            onClick={() => onChoose(start)}
            aria-current={chosen ? 'date' : undefined}
            aria-label={`Week of ${name}, ${hours[k] === null ? 'being read' : `${counted(Math.round(hours[k]!), 'hour')} planned`}${start === thisWeek ? ', this week' : ''}`}
            className={`relative flex min-w-12 flex-1 flex-col justify-end text-[11px] ${chosen ? 'bg-gentian-wash' : 'hover:bg-sheet'}`}
          >
            <span className="mx-1 block bg-rock" style={{ height: `${share * 17}px` }} />
            <span
              className={`truncate border-t-2 text-center leading-[18px] ${start === thisWeek ? 'border-alpenglow font-semibold' : chosen ? 'border-gentian font-semibold' : 'border-edge text-ink-2'}`}
            >
              {name.slice(4)}
            </span>
          </button>
        );
      })}
    </nav>
  );
});
