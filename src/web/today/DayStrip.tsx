import { Link } from 'react-router';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import { freePieces, longestOf } from '../../core/availability/dayShape.ts';
import { formatHours, formatLength, formatTime } from '../../core/time/format.ts';
import { clip, HOUR, MINUTE, type Interval } from '../../core/time/interval.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import { useMe, useNow, usePreferences } from '../client/index.ts';
import { itemClass, layOutDay } from '../grid/index.ts';
import { itemAddress, takesTime } from './useToday.ts';

/** Shorter pieces of free time are of no use. */
const LEAST_FREE_MS = 15 * MINUTE;
/** Lanes of things at the same time, from the strip's top. Pixels. */
const LANES = { top: 22, height: 48 };
/** An item, or a free piece, narrower than this part of the strip carries no words. */
const LEAST_FOR_WORDS = { item: 0.04, free: 0.07 };

/** When I work today, what of it is still free, and what the strip shows. */
export function useDayShape(today: Interval, items: readonly CalendarItem[]) {
  const me = useMe();
  const { hours, shownFrom, shownTo } = usePreferences();
  const now = useNow();
  const table = zoneTable(me.zone, today);
  const working = workingIntervals(hours, table, today).flatMap((one) => clip(one, today) ?? []);
  const taken = items.filter(
    (item) => takesTime(item) || (item.allDay && item.occupancy === 'away'),
  );
  const usual = {
    start: today.start + shownFrom * MINUTE,
    end: today.start + shownTo * MINUTE,
  };
  const seen = items.filter((item) => takesTime(item) && clip(item, today));
  // What lies outside the usual hours is shown as well.
  const shown = {
    start: Math.max(today.start, Math.min(usual.start, ...seen.map((item) => item.start))),
    end: Math.min(today.end, Math.max(usual.end, ...seen.map((item) => item.end))),
  };
  const left = working.flatMap((one) => clip(one, { start: now, end: today.end }) ?? []);
  const free = freePieces(taken, left, LEAST_FREE_MS);
  return { working, shown, free, longest: longestOf(free) };
}

/** Today as one line of time: what is taken, what is free, and where now is. */
export function DayStrip({
  today,
  items,
  shape,
}: {
  today: Interval;
  items: readonly CalendarItem[];
  shape: ReturnType<typeof useDayShape>;
}) {
  const me = useMe();
  const now = useNow();
  const { shown, working, free } = shape;
  const part = (from: number, to: number) => (to - from) / (shown.end - shown.start);
  const place = (one: Interval) => {
    const inside = clip(one, shown) ?? { start: shown.start, end: shown.start };
    return {
      left: `${100 * part(shown.start, inside.start)}%`,
      width: `${100 * part(inside.start, inside.end)}%`,
    };
  };
  const placed = layOutDay(
    items.filter((item) => takesTime(item)),
    today,
  );
  const firstHour = Math.ceil(shown.start / HOUR) * HOUR;
  const hours = Array.from(
    { length: Math.max(0, Math.ceil((shown.end - firstHour) / HOUR)) },
    (_, k) => firstHour + k * HOUR,
  );
  return (
    <section
      aria-label="My day"
      className="relative mb-6 hidden h-[98px] overflow-hidden rounded-sm border border-edge bg-closed sm:block"
    >
      {working.map((one) => (
        <div key={one.start} className="absolute inset-y-0 bg-sheet" style={place(one)} />
      ))}
      {hours.map((at) => (
        <div
          key={at}
          aria-hidden="true"
          className="absolute inset-y-0 border-l border-edge pl-1 text-xs text-ink-2"
          style={{ left: `${100 * part(shown.start, at)}%` }}
        >
          {formatTime(at, me.zone, me.clock).replace(/:00/, '')}
        </div>
      ))}
      <ul>
        {placed.map(({ item, column, columns }) => (
          <li key={item.occurrenceId}>
            <Link
              to={itemAddress(item, me.zone)}
              title={`${item.title}, ${formatHours(item, me.zone, me.clock, shown.start)}`}
              className={`absolute flex items-start overflow-hidden rounded-sm p-0.5 ${itemClass(item)}`}
              style={{
                ...place(item),
                top: LANES.top + (column * LANES.height) / columns,
                height: LANES.height / columns - 1,
              }}
            >
              <span
                className={
                  part(item.start, item.end) >= LEAST_FOR_WORDS.item
                    ? 'truncate rounded-sm bg-sheet px-1 text-xs font-semibold'
                    : 'sr-only'
                }
              >
                {item.title}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      <ul>
        {free.map((piece) => (
          <li
            key={piece.start}
            className="absolute top-[74px] border-t-[3px] border-lichen pt-0.5 text-center text-xs font-semibold text-lichen-ink"
            style={place(piece)}
          >
            <span
              className={
                part(piece.start, piece.end) >= LEAST_FOR_WORDS.free ? 'truncate' : 'sr-only'
              }
            >
              {formatLength(piece.end - piece.start)} free
            </span>
          </li>
        ))}
      </ul>
      {now > shown.start && now < shown.end && (
        <div
          aria-hidden="true"
          className="absolute inset-y-0 w-0.5 bg-alpenglow"
          style={{ left: `${100 * part(shown.start, now)}%` }}
        />
      )}
    </section>
  );
}
