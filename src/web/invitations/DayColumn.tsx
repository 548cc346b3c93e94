import type { CalendarItem } from '../../contract/eventDetail.ts';
import { formatHours, formatSpan, formatTime } from '../../core/time/format.ts';
import { HOUR, type Interval } from '../../core/time/interval.ts';
import { useMe } from '../client/index.ts';
import { itemClass, layOutDay } from '../grid/index.ts';

const HOUR_PX = 40;

/**
 * One day around a proposed time: what is there already, and beside it the proposal, so that both can
 * be read where they are at the same time.
 */
export function InvitationDay({
  items,
  proposed,
  title,
}: {
  items: CalendarItem[];
  proposed: Interval;
  title: string;
}) {
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
      <div className="grid grid-cols-[4rem_1fr_40%] pb-1 text-xs text-ink-2">
        <span />
        <span>what you have</span>
        <span>what is proposed</span>
      </div>
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
        <div
          aria-hidden="true"
          className="absolute inset-x-0 border-y border-dashed border-gentian bg-gentian/5"
          style={{ top: y(proposed.start), height: y(proposed.end) - y(proposed.start) }}
        />
        <div className="absolute inset-y-0 right-[42%] left-16">
          {placed.map(({ item, column, columns, span }) => (
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
                width: `calc(${(span / columns) * 100}% - 3px)`,
              }}
              title={`${item.title}, ${formatSpan(item, me.zone, me.clock)}`}
            >
              <span className="rounded-sm bg-sheet/85 px-1 font-semibold">{item.title}</span>
            </div>
          ))}
        </div>
        <div className="absolute inset-y-0 right-2 left-[60%]">
          <div
            className="absolute inset-x-0 overflow-hidden rounded-sm border-2 border-gentian bg-sheet px-2 py-0.5 text-xs leading-tight"
            style={{
              top: y(proposed.start),
              height: Math.max(20, y(Math.min(proposed.end, window.end)) - y(proposed.start)),
            }}
          >
            <b className="font-semibold">{title}</b>
            <span className="block text-gentian">{formatHours(proposed, me.zone, me.clock)}</span>
          </div>
        </div>
      </div>
    </div>
  );
}
