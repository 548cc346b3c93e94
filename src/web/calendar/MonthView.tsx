import { memo, useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import { dateAt } from '../../core/time/wall.ts';
import { useMe, useNow, usePreferences, useStable } from '../client/index.ts';
import {
  layOutBars,
  dayScale,
  type Day,
  nudged,
  type Held,
  nameOf,
  isBar,
  overlaid,
  type GridItem,
  type Lane,
  lookOf,
  markStyle,
  useCategoryMap,
  useMonthDrag,
} from '../grid/index.ts';
import { usePrinted } from '../design/usePrinted.ts';
import type { DayOff } from '../time/index.ts';

const LINE_PX = 19;
const HEAD_PX = 24;
const LEAST_ROW_PX = 92;

/** A month in weeks: each day with what is in it, bars across days, and a way to see all of a week. */
export function MonthView({
  dates,
  month,
  lanes,
  holidays,
  onPick,
  onOpen,
  onMove,
  onDay,
}: {
  dates: string[];
  /** `YYYY-MM`; days of other months step back. */
  month: string;
  lanes: readonly Lane[];
  holidays: ReadonlyMap<string, DayOff>;
  onPick: (date: string) => void;
  onOpen: (item: GridItem) => void;
  onMove: (item: GridItem, held: Held) => void;
  onDay: (date: string) => void;
}) {
  const me = useMe();
  const root = useRef<HTMLDivElement>(null);
  const scale = useMemo(() => dayScale(dates, me.zone), [dates, me.zone]);
  const items = useMemo(() => overlaid(lanes), [lanes]);
  const weeks = useMemo(() => {
    const count = dates.length / 7;
    return Array.from({ length: count }, (_, k) => {
      const days = scale.days.slice(k * 7, k * 7 + 7);
      const [start, end] = [days[0]!.start, days[6]!.end];
      return { days, items: items.filter((item) => item.start < end && item.end > start) };
    });
  }, [dates, scale, items]);
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const [rowPx, setRowPx] = useState(LEAST_ROW_PX);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) =>
      setRowPx(Math.max(LEAST_ROW_PX, Math.floor((entry!.contentRect.height - 30) / weeks.length))),
    );
    observer.observe(root.current!);
    return () => observer.disconnect();
  }, [weeks.length]);

  const drag = useMonthDrag({
    root,
    zone: me.zone,
    say: (item, days) => {
      const held = nudged(
        { start: item.start, end: item.end, allDay: item.allDay },
        { days },
        me.zone,
      );
      return item.allDay ? formatDay(held.start, me.zone) : formatSpan(held, me.zone, me.clock);
    },
    onDrop: (item, days) =>
      onMove(
        item,
        nudged({ start: item.start, end: item.end, allDay: item.allDay }, { days }, me.zone),
      ),
  });

  const toggle = (key: string) =>
    setOpen((before) => {
      const after = new Set(before);
      if (!after.delete(key)) after.add(key);
      return after;
    });
  const stable = useStable({
    toggle,
    onPick,
    onOpen,
    onDay,
    press: drag.press,
    pickUp: drag.pickUp,
  });
  const isPrinted = usePrinted();
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        ref={root}
        className="relative min-h-0 flex-1 overflow-y-scroll border-t border-edge bg-sheet"
      >
        <div className="sticky top-0 z-20 grid grid-cols-7 border-b border-edge bg-paper">
          {scale.days.slice(0, 7).map((day) => (
            <h2 key={day.date} className="truncate px-2 py-1 text-[13px]">
              {formatDay(day.start, me.zone).slice(0, 3)}
            </h2>
          ))}
        </div>
        {weeks.map((week) => {
          const key = week.days[0]!.date;
          return (
            <WeekRow
              key={key}
              days={week.days}
              items={week.items}
              month={month}
              rowPx={rowPx}
              open={isPrinted || open.has(key)}
              holidays={holidays}
              {...stable}
            />
          );
        })}
        <div
          data-statement
          className="pointer-events-none fixed top-0 left-0 z-30 hidden will-change-transform rounded-sm bg-ink px-2.5 py-1.5 text-xs font-semibold text-paper"
          role="status"
        />
      </div>
    </div>
  );
}

const WeekRow = memo(function WeekRow({
  days,
  items,
  month,
  rowPx,
  open,
  holidays,
  toggle,
  onPick,
  onOpen,
  onDay,
  press,
  pickUp,
}: {
  days: Day[];
  items: GridItem[];
  month: string;
  rowPx: number;
  open: boolean;
  holidays: ReadonlyMap<string, DayOff>;
  toggle: (key: string) => void;
  onPick: (date: string) => void;
  onOpen: (item: GridItem) => void;
  onDay: (date: string) => void;
  press: (event: PointerEvent, item: GridItem) => void;
  pickUp: (item: GridItem, element: HTMLElement) => void;
}) {
  const me = useMe();
  const { hours } = usePreferences();
  const today = dateAt(useNow(), me.zone);
  const bars = useMemo(() => {
    // What lies within one day stands on that day, even where it runs past midnight.
    const placed = items.map((item) =>
      isBar(item) ? item : { ...item, end: Math.min(item.end, item.start + 1), whole: item },
    );
    return layOutBars(placed, days);
  }, [items, days]);
  const fitting = Math.max(1, Math.floor((rowPx - HEAD_PX) / LINE_PX));
  const most = Math.max(0, ...bars.map((bar) => bar.lane + 1));
  const lines = open ? most : Math.min(most, fitting);
  const hidden = days.map(
    (_, k) => bars.filter((bar) => bar.lane >= lines && bar.from <= k && bar.to >= k).length,
  );
  const height = open ? Math.max(rowPx, HEAD_PX + most * LINE_PX + 4) : rowPx;
  return (
    <div className="relative grid grid-cols-7 border-b border-edge" style={{ height }}>
      {days.map((day, k) => {
        const holiday = holidays.get(day.date);
        const off = hours[(new Date(`${day.date}T00:00Z`).getUTCDay() + 6) % 7]!.length === 0;
        const otherMonth = !day.date.startsWith(month);
        return (
          <div
            key={day.date}
            data-date={day.date}
            className={`min-w-0 border-l border-edge max-sm:relative ${off || holiday?.isWhole ? 'bg-closed/60' : ''} data-[over=true]:bg-gentian-wash`}
            onClick={(event) => event.target === event.currentTarget && onPick(day.date)}
          >
            <div className="flex min-w-0 items-baseline gap-1.5 px-1.5 pt-0.5">
              <button
                type="button"
                onClick={() => onDay(day.date)}
                aria-label={`Open ${formatDay(day.start, me.zone)}`}
                className={`rounded-sm px-1 font-head text-[13px] font-semibold whitespace-nowrap hover:bg-gentian-wash max-sm:after:absolute max-sm:after:inset-0 ${
                  day.date === today ? 'bg-alpenglow text-paper' : otherMonth ? 'text-ink-2' : ''
                }`}
              >
                {Number(day.date.slice(8)) === 1
                  ? formatDay(day.start, me.zone).slice(4)
                  : Number(day.date.slice(8))}
              </button>
              {holiday && <span className="truncate text-[11px] text-ink-2">{holiday.words}</span>}
              {(hidden[k]! > 0 || (open && k === 0)) && (
                <button
                  type="button"
                  onClick={() => toggle(days[0]!.date)}
                  className="ml-auto shrink-0 rounded-sm px-1 text-[11px] font-semibold text-gentian hover:underline max-sm:pointer-events-none max-sm:px-0 print:hidden"
                >
                  {open ? 'fewer' : `+${hidden[k]}`}
                  {!open && <span className="sr-only md:not-sr-only"> more</span>}
                </button>
              )}
            </div>
          </div>
        );
      })}
      {bars
        .filter((bar) => bar.lane < lines)
        .map((bar) => (
          <MonthLine
            key={bar.item.key}
            item={'whole' in bar.item ? (bar.item.whole as GridItem) : bar.item}
            bar={isBar(bar.item)}
            before={bar.before}
            after={bar.after}
            left={bar.from}
            span={bar.to - bar.from + 1}
            top={HEAD_PX + bar.lane * LINE_PX}
            onOpen={onOpen}
            press={press}
            pickUp={pickUp}
          />
        ))}
    </div>
  );
});

const MonthLine = memo(function MonthLine({
  item,
  bar,
  before,
  after,
  left,
  span,
  top,
  onOpen,
  press,
  pickUp,
}: {
  item: GridItem;
  bar: boolean;
  before: boolean;
  after: boolean;
  left: number;
  span: number;
  top: number;
  onOpen: (item: GridItem) => void;
  press: (event: PointerEvent, item: GridItem) => void;
  pickUp: (item: GridItem, element: HTMLElement) => void;
}) {
  const me = useMe();
  const look = lookOf(item, useCategoryMap());
  const movable = item.mine?.standing === 'organizer';
  const title = nameOf(item);
  return (
    <button
      type="button"
      data-item={item.key}
      onClick={() => item.eventId && onOpen(item)}
      onPointerDown={(event) => movable && press(event, item)}
      onKeyDown={(event) => {
        if (event.key !== ' ' || !movable) return;
        event.preventDefault();
        pickUp(item, event.currentTarget);
      }}
      title={[`${title}, ${formatSpan(item, me.zone, me.clock)}`, item.reason]
        .filter(Boolean)
        .join(', ')}
      className={`item absolute flex touch-pan-y items-center gap-1 rounded-sm pl-[9px] text-left text-[11.5px] leading-none hover:z-10 ${bar ? look.fill : 'hover:bg-gentian-wash'}`}
      style={{
        top,
        height: LINE_PX - 2,
        left: `calc(${(left / 7) * 100}% + 3px)`,
        width: `calc(${(span / 7) * 100}% - 6px)`,
      }}
    >
      <span
        className={`absolute left-0 w-[6px] ${bar ? 'inset-y-0' : 'inset-y-[2px] rounded-full'} ${look.mark}`}
        style={look.markStyle}
      />
      {!bar && (
        <span className="hidden shrink-0 text-ink-2 md:inline">
          {formatTime(item.start, me.zone, me.clock)}
        </span>
      )}
      <span
        data-written
        className={`truncate font-semibold ${bar ? 'bg-sheet/90 px-1 py-px' : ''}`}
      >
        {before && '← '}
        {title}
        {after && ' →'}
      </span>
      {item.also.length > 0 && (
        <i
          className="mark-plain ml-auto size-1.5 shrink-0 rounded-full"
          style={markStyle(item.also[0]!)}
        />
      )}
    </button>
  );
});
