import { useQuery } from '@tanstack/react-query';
import type { CalendarItem } from '../../contract/events.ts';
import { formatDay } from '../../core/time/format.ts';
import { HOUR } from '../../core/time/interval.ts';
import { addDays, startOfDay } from '../../core/time/wall.ts';
import { readApi } from '../app/api.ts';
import { useMe } from '../app/session.ts';

const WEEKS_BACK = 6;
const WEEKS = 20;
const FULL_WEEK_HOURS = 30;

/** A band of weeks, each with a bar of how full it is; choosing one goes there. */
export function SeasonStrip({
  monday,
  thisMonday,
  onChoose,
}: {
  monday: string;
  thisMonday: string;
  onChoose: (monday: string) => void;
}) {
  const me = useMe();
  // Anchored to this week as long as the chosen one is in sight, so that the band does not jump.
  const anchor =
    monday >= addDays(thisMonday, -7 * WEEKS_BACK) &&
    monday < addDays(thisMonday, 7 * (WEEKS - WEEKS_BACK))
      ? thisMonday
      : monday;
  const weeks = Array.from({ length: WEEKS }, (_, k) => addDays(anchor, 7 * (k - WEEKS_BACK)));
  const from = startOfDay(weeks[0]!, me.zone);
  const to = startOfDay(addDays(weeks[WEEKS - 1]!, 7), me.zone);
  const query = useQuery({
    queryKey: ['calendar', 'season', from, to],
    queryFn: () => readApi<{ items: CalendarItem[] }>(`/events?from=${from}&to=${to}`),
  });
  const starts = weeks.map((week) => startOfDay(week, me.zone));
  const hours = starts.map((start, k) => {
    const end = starts[k + 1] ?? to;
    return (query.data?.items ?? [])
      .filter(
        (item) =>
          item.start >= start && item.start < end && !item.allDay && item.occupancy !== 'free',
      )
      .reduce((sum, item) => sum + (item.end - item.start) / HOUR, 0);
  });
  return (
    <nav
      aria-label="Weeks"
      className="flex h-14 items-stretch gap-px overflow-x-auto border-b border-edge px-4 md:px-6"
    >
      {weeks.map((week, k) => {
        const chosen = week === monday;
        const share = Math.min(1, hours[k]! / FULL_WEEK_HOURS);
        return (
          <button
            key={week}
            type="button"
            onClick={() => onChoose(week)}
            aria-current={chosen ? 'date' : undefined}
            aria-label={`Week of ${formatDay(starts[k]!, me.zone)}, ${Math.round(hours[k]!)} hours planned${week === thisMonday ? ', this week' : ''}`}
            className={`relative flex min-w-12 flex-1 flex-col justify-end text-[11px] ${chosen ? 'bg-gentian-wash' : 'hover:bg-sheet'}`}
          >
            <span className="mx-1 block bg-rock" style={{ height: `${share * 26}px` }} />
            <span
              className={`truncate border-t-2 py-0.5 text-center ${week === thisMonday ? 'border-alpenglow font-semibold' : chosen ? 'border-gentian font-semibold' : 'border-edge text-ink-2'}`}
            >
              {formatDay(starts[k]!, me.zone).slice(4)}
            </span>
          </button>
        );
      })}
    </nav>
  );
}
