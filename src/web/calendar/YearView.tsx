import { formatLength } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { Failure, useMe, useNow, usePreferences } from '../client/index.ts';
import { Loading } from '../design/states.tsx';
import { useFullness } from '../time/index.ts';
import { useHolidays } from '../time/index.ts';

/** A day with this much in it reaches the top of its row. */
const FULL_MINUTES = 7 * 60;
const MONTHS = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ');
const WEEKDAYS = 'Monday Tuesday Wednesday Thursday Friday Saturday Sunday'.split(' ');

/** A year as twelve ridges: how full each day is, and the way into it. */
export function YearView({
  dates,
  onDay,
  onMonth,
}: {
  dates: string[];
  onDay: (date: string) => void;
  onMonth: (date: string) => void;
}) {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  const { hours } = usePreferences();
  const { query, of } = useFullness(dates[0]!, dates.length);
  const holidays = useHolidays(dates[0]!, dates.at(-1)!);
  if (query.isPending || query.isPlaceholderData) return <Loading what="the year" />;
  if (query.isError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-4 pb-4 md:px-6">
      <div className="grid h-full min-h-[580px] grid-rows-[1rem_repeat(12,1fr)] gap-1">
        <div
          className="grid grid-cols-[5.5rem_1fr] gap-3 text-[11px] text-ink-2"
          aria-hidden="true"
        >
          <span />
          <div className="grid grid-cols-[repeat(31,1fr)] text-center">
            {Array.from({ length: 31 }, (_, k) => (
              <span key={k}>{k === 0 || (k + 1) % 5 === 0 ? k + 1 : ''}</span>
            ))}
          </div>
        </div>
        {MONTHS.map((name, month) => {
          const days = dates
            .map((date) => ({ date, ...(of(date) ?? { minutes: 0, count: 0 }) }))
            .filter(({ date }) => Number(date.slice(5, 7)) === month + 1);
          const total = days.reduce((sum, day) => sum + day.minutes, 0);
          return (
            <section
              key={name}
              aria-label={name}
              className="grid grid-cols-[5.5rem_1fr] items-end gap-3 border-b border-edge"
            >
              <h2 className="pb-1 text-[14px]">
                <button
                  type="button"
                  aria-label={`Open ${name}`}
                  className="reach font-semibold hover:text-gentian hover:underline"
                  onClick={() => days[0] && onMonth(days[0].date)}
                >
                  {name}
                </button>
                <span className="block text-[11px] font-normal text-ink-2">
                  {Math.round(total / 60)} h
                </span>
              </h2>
              <div
                className="grid h-full items-end"
                style={{ gridTemplateColumns: 'repeat(31, 1fr)' }}
              >
                {days.map((day) => {
                  const weekday = (new Date(`${day.date}T00:00Z`).getUTCDay() + 6) % 7;
                  const holiday = holidays.get(day.date);
                  const off = hours[weekday]!.length === 0 || holiday?.isWhole === true;
                  const share = Math.min(1, day.minutes / FULL_MINUTES);
                  const words = `${WEEKDAYS[weekday]} ${Number(day.date.slice(8))} ${name}${
                    holiday ? `, ${holiday.words}` : ''
                  }: ${day.count === 0 ? 'nothing' : `${formatLength(day.minutes * MINUTE)} taken, ${day.count} in all`}`;
                  return (
                    <button
                      key={day.date}
                      type="button"
                      onClick={() => onDay(day.date)}
                      title={words}
                      aria-label={words}
                      className={`relative flex h-full flex-col justify-end hover:bg-gentian-wash ${off ? 'bg-closed' : ''}`}
                    >
                      <span
                        className={share > 0.85 ? 'block bg-rock-deep' : 'block bg-rock'}
                        style={{ height: `${share * 100}%` }}
                      />
                      {day.count > 0 && share === 0 && (
                        <span className="mx-auto mb-0.5 block size-1 rounded-full bg-ink-2" />
                      )}
                      {day.date === today && (
                        <span className="absolute inset-x-0 -bottom-0.5 h-[3px] bg-alpenglow" />
                      )}
                    </button>
                  );
                })}
              </div>
            </section>
          );
        })}
      </div>
    </div>
  );
}
