import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { CalendarItem } from '../../contract/events.ts';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import { HOUR, MINUTE, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { useMe, useNow } from '../app/session.ts';
import { itemClass } from './itemLook.ts';
import { layOutDay } from './layout.ts';

const HOUR_PX = 44;
const SNAP = 15 * MINUTE;
const FIRST_SHOWN_HOUR = 7;

/** Days beside one another against the hours; free time is bare paper that can be clicked or dragged. */
export function WeekGrid({
  dates,
  items,
  onPick,
  onOpen,
}: {
  dates: string[];
  items: CalendarItem[];
  onPick: (span: Interval) => void;
  onOpen: (item: CalendarItem) => void;
}) {
  const me = useMe();
  const scroller = useRef<HTMLDivElement>(null);
  useEffect(() => {
    scroller.current?.scrollTo({ top: FIRST_SHOWN_HOUR * HOUR_PX - 14 });
  }, []);
  const columns = { gridTemplateColumns: `3.5rem repeat(${dates.length}, minmax(0, 1fr))` };
  const days = dates.map((date) => ({
    date,
    start: startOfDay(date, me.zone),
    end: startOfDay(addDays(date, 1), me.zone),
  }));
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <DayHeads days={days} items={items} columns={columns} onOpen={onOpen} />
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-y-auto border-t border-edge bg-sheet"
        tabIndex={0}
        aria-label="Hours"
      >
        <div className="grid" style={columns}>
          <div aria-hidden="true">
            {Array.from({ length: 24 }, (_, hour) => (
              <div
                key={hour}
                className="relative text-right text-[11px] text-ink-2"
                style={{ height: HOUR_PX }}
              >
                <span className="absolute -top-2 right-2">
                  {hour > 0 && hourLabel(days[0]!.start, hour, me.zone, me.clock)}
                </span>
              </div>
            ))}
          </div>
          {days.map((day) => (
            <DayColumn key={day.date} day={day} items={items} onPick={onPick} onOpen={onOpen} />
          ))}
        </div>
      </div>
    </div>
  );
}

const hourLabel = (dayStart: number, hour: number, zone: string, clock: '24' | '12') =>
  formatTime(dayStart + hour * HOUR, zone, clock);

interface Day extends Interval {
  date: string;
}

function DayHeads({
  days,
  items,
  columns,
  onOpen,
}: {
  days: Day[];
  items: CalendarItem[];
  columns: React.CSSProperties;
  onOpen: (item: CalendarItem) => void;
}) {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  return (
    <div className="grid pr-[var(--bar,0px)]" style={columns}>
      <div />
      {days.map((day) => {
        const length = (day.end - day.start) / HOUR;
        const allDay = items.filter(
          (item) => item.allDay && item.start < day.end && item.end > day.start,
        );
        return (
          <div key={day.date} className="min-w-0 border-l border-edge px-1 pb-1">
            <h2 className={`px-1 py-1 text-[13px] ${day.date === today ? 'text-alpenglow' : ''}`}>
              {formatDay(day.start, me.zone)}
              {day.date === today && ', today'}
              {length !== 24 && (
                <span className="block text-[11px] font-normal">clocks change: {length} hours</span>
              )}
            </h2>
            {allDay.map((item) => (
              <button
                key={item.occurrenceId}
                type="button"
                onClick={() => onOpen(item)}
                className={`mb-0.5 block w-full truncate rounded-sm px-1.5 text-left text-xs ${itemClass(item)}`}
              >
                <span className="rounded-sm bg-sheet/85 px-1 font-semibold">{item.title}</span>
              </button>
            ))}
          </div>
        );
      })}
    </div>
  );
}

function DayColumn({
  day,
  items,
  onPick,
  onOpen,
}: {
  day: Day;
  items: CalendarItem[];
  onPick: (span: Interval) => void;
  onOpen: (item: CalendarItem) => void;
}) {
  const me = useMe();
  const now = useNow();
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const placed = layOutDay(
    items.filter((item) => !item.allDay),
    day,
  );
  const y = (instant: number) =>
    ((Math.min(Math.max(instant, day.start), day.end) - day.start) / HOUR) * HOUR_PX;

  const instantAt = (event: PointerEvent<HTMLDivElement>) => {
    const top = event.currentTarget.getBoundingClientRect().top;
    const raw = day.start + ((event.clientY - top) / HOUR_PX) * HOUR;
    return Math.min(Math.max(Math.floor(raw / SNAP) * SNAP, day.start), day.end - SNAP);
  };
  const picked = drag && spanOf(drag);

  return (
    <div
      className="relative touch-pan-y border-l border-edge"
      style={{ height: ((day.end - day.start) / HOUR) * HOUR_PX }}
      onPointerDown={(event) => {
        if (event.target !== event.currentTarget || event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const at = instantAt(event);
        setDrag({ from: at, to: at });
      }}
      onPointerMove={(event) => drag && setDrag({ ...drag, to: instantAt(event) })}
      onPointerUp={() => {
        if (drag)
          onPick(
            drag.from === drag.to ? { start: drag.from, end: drag.from + 2 * SNAP } : spanOf(drag),
          );
        setDrag(null);
      }}
      onPointerCancel={() => setDrag(null)}
    >
      {Array.from({ length: 23 }, (_, k) => (
        <div
          key={k}
          className="pointer-events-none absolute inset-x-0 border-t border-edge/60"
          style={{ top: (k + 1) * HOUR_PX }}
        />
      ))}
      {placed.map(({ item, column, columns }) => (
        <button
          key={item.occurrenceId}
          type="button"
          onClick={() => onOpen(item)}
          title={`${item.title}, ${formatSpan(item, me.zone, me.clock)}`}
          className={`absolute flex flex-col items-start overflow-hidden rounded-sm px-1 py-px text-left text-xs leading-[1.2] hover:z-10 hover:brightness-105 ${itemClass(item)}`}
          style={{
            top: y(item.start) + 1,
            height: Math.max(15, y(item.end) - y(item.start) - 2),
            left: `calc(${(column / columns) * 100}% + 2px)`,
            width: `calc(${100 / columns}% - 4px)`,
          }}
        >
          <span
            className={`max-w-full shrink-0 rounded-sm bg-sheet/85 px-1 font-semibold ${item.end - item.start < 45 * MINUTE ? 'truncate' : ''}`}
          >
            {item.title}
          </span>
          {item.end - item.start >= 45 * MINUTE && columns === 1 && (
            <span className="mt-px block truncate px-1 text-[11px]">
              <span className="rounded-sm bg-sheet/85 px-0.5">
                {formatTime(item.start, me.zone, me.clock)}
                {item.resources.length > 0 && ` ${item.resources.join(', ')}`}
              </span>
            </span>
          )}
          {item.standing === 'needs-action' && <span className="sr-only">, not answered yet</span>}
        </button>
      ))}
      {picked && (
        <div
          className="pointer-events-none absolute inset-x-0.5 z-20 rounded-sm border-2 border-gentian bg-gentian/10 px-1 text-xs font-semibold text-gentian"
          style={{ top: y(picked.start), height: y(picked.end) - y(picked.start) }}
        >
          {formatTime(picked.start, me.zone, me.clock)}–{formatTime(picked.end, me.zone, me.clock)}
        </div>
      )}
      {now >= day.start && now < day.end && (
        <div
          className="pointer-events-none absolute inset-x-0 z-20 border-t-2 border-alpenglow"
          style={{ top: y(now) }}
          data-testid="now-line"
        >
          <span className="absolute -top-1 -left-1 size-2 rounded-full bg-alpenglow" />
        </div>
      )}
    </div>
  );
}

const spanOf = ({ from, to }: { from: number; to: number }): Interval => ({
  start: Math.min(from, to),
  end: Math.max(from, to) + SNAP,
});
