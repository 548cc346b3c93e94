import type { CalendarItem } from '../../contract/events.ts';
import { formatSpan, formatTime } from '../../core/time/format.ts';
import { HOUR, type Interval } from '../../core/time/interval.ts';
import { useMe } from '../app/index.ts';
import { itemClass, layOutDay } from '../grid/index.ts';

const HOUR_PX = 40;

/** One day around a proposed time: what is there already, and the proposal drawn across it. */
export function DayColumn({ items, proposed }: { items: CalendarItem[]; proposed: Interval }) {
  const me = useMe();
  const from = Math.floor((proposed.start - 3 * HOUR) / HOUR) * HOUR;
  const to = Math.ceil((proposed.end + 3 * HOUR) / HOUR) * HOUR;
  const window = { start: from, end: Math.min(to, from + 14 * HOUR) };
  const timed = items.filter((item) => !item.allDay);
  const placed = layOutDay(timed, window);
  const y = (instant: number) => ((instant - window.start) / HOUR) * HOUR_PX;
  const height = y(window.end);
  const hours = Array.from(
    { length: Math.round(height / HOUR_PX) },
    (_, k) => window.start + k * HOUR,
  );
  return (
    <div>
      {items
        .filter((item) => item.allDay)
        .map((item) => (
          <p key={item.occurrenceId} className="rock-away mb-2 rounded-sm px-2 py-1 font-semibold">
            {item.title}, all day
          </p>
        ))}
      <div className="relative border-t border-edge bg-sheet" style={{ height }}>
        {hours.map((hour) => (
          <div
            key={hour}
            className="absolute inset-x-0 border-b border-edge/60"
            style={{ top: y(hour), height: HOUR_PX }}
          >
            <span className="pl-2 text-xs text-ink-2">{formatTime(hour, me.zone, me.clock)}</span>
          </div>
        ))}
        <div className="absolute inset-y-0 right-2 left-16">
          {placed.map(({ item, column, columns }) => (
            <div
              key={item.occurrenceId}
              className={`absolute overflow-hidden rounded-sm px-2 text-xs leading-tight ${itemClass(item)}`}
              style={{
                top: y(Math.max(item.start, window.start)),
                height: Math.max(
                  16,
                  y(Math.min(item.end, window.end)) - y(Math.max(item.start, window.start)) - 2,
                ),
                left: `${(column / columns) * 100}%`,
                width: `calc(${100 / columns}% - 3px)`,
              }}
              title={`${item.title}, ${formatSpan(item, me.zone, me.clock)}`}
            >
              <span className="rounded-sm bg-sheet/85 px-1 font-semibold">{item.title}</span>
            </div>
          ))}
          <div
            className="pointer-events-none absolute -inset-x-1 rounded-sm border-2 border-gentian bg-gentian/10"
            style={{
              top: y(proposed.start),
              height: Math.max(14, y(Math.min(proposed.end, window.end)) - y(proposed.start)),
            }}
          >
            <span className="absolute right-1 bottom-0.5 rounded-sm bg-gentian px-1 text-xs font-semibold text-on-gentian">
              proposed
            </span>
          </div>
        </div>
      </div>
    </div>
  );
}
