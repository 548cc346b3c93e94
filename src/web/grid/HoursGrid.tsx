import {
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import { DAY, HOUR, MINUTE, type Interval } from '../../core/time/interval.ts';
import { dateAt, daysBetween, resolveWallTime } from '../../core/time/wall.ts';
import { useMe, useNow, usePreferences, useStable } from '../client/index.ts';
import { usePrinted } from '../design/usePrinted.ts';
import { AllDayRow } from './AllDayRow.tsx';
import { DayColumn, type ColumnLane } from './DayColumn.tsx';
import { dayScale, hourMarks, partOf, topOf, type Day, type Scale } from './dayScale.ts';
import { nudged, SNAP_MINUTES, toggledAllDay, type Held } from './drag.ts';
import { isBar, overlaid, type GridItem, type Lane } from './gridItems.ts';
import { useConflicts } from './useConflicts.ts';
import { useGridDrag, type DragStatement } from './useGridDrag.ts';
import type { DayOff } from '../time/index.ts';

const LEAST_HOUR_PX = 42;
/** About as high as the names of the days and the row of whole days are. */
const HEAD_PX = 30;
const MOST_HOUR_PX = 80;

export interface GridHandlers {
  /** A span of free time was chosen; `end` equals `start` where no length was. */
  onPick: (held: Held, over?: GridItem | null) => void;
  onOpen: (item: GridItem) => void;
  onMove: (item: GridItem, held: Held) => void;
}

/** Days beside one another against the hours; free time is bare paper that can be taken hold of. */
export function HoursGrid({
  dates,
  lanes,
  beside,
  wholeDay,
  holidays,
  onPick,
  onOpen,
  onMove,
  onMore,
  follows = false,
  within,
  foot,
}: GridHandlers & {
  /** Shows all of a day. */
  onMore: (date: string) => void;
  /** Whether what the arrows go to is opened at once, in the place of what is open. */
  follows?: boolean;
  /** What stands within something of mine that waits for my answer, where there is room. */
  within?: (item: GridItem) => ReactNode;
  /** What is said below of what has the focus; null for nothing. */
  foot?: (item: GridItem | null) => ReactNode;
  dates: string[];
  lanes: readonly Lane[];
  /** Each lane in a column of its own, instead of all over one another. */
  beside: boolean;
  wholeDay: boolean;
  holidays: ReadonlyMap<string, DayOff>;
}) {
  const me = useMe();
  const now = useNow();
  const preferences = usePreferences();
  const root = useRef<HTMLDivElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const whole = useMemo(() => dayScale(dates, me.zone), [dates, me.zone]);
  const onScreen = useHourPx(scroller, wholeDay, whole.height);
  const { widthPx, ready } = onScreen;
  const mine = lanes[0]!.items;
  const paper = usePaperScale(whole, mine, wholeDay);
  const scale = paper ?? whole;
  const hourPx = paper ? Math.min(MOST_HOUR_PX, (PAPER_PX / paper.height) * 60) : onScreen.hourPx;
  const pxPerMinute = hourPx / 60;
  const window = { start: scale.days[0]!.start, end: scale.days.at(-1)!.end };
  const conflicts = useConflicts(window, mine, lanes);
  const [keyHeld, setKeyHeld] = useState<{ item: GridItem | null; held: Held } | null>(null);
  const [spoken, setSpoken] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const chosenItem = chosen
    ? (lanes.flatMap((lane) => lane.items).find((item) => item.key === chosen) ?? null)
    : null;

  const columnLanes: ColumnLane[] = useMemo(
    () => (beside ? lanes.map((lane) => ({ ...lane })) : lanes.slice(0, 1)),
    [beside, lanes],
  );
  const layers = useMemo(() => (beside ? [] : lanes.slice(1)), [beside, lanes]);

  const state = (item: GridItem | null, held: Held): DragStatement => ({
    text: held.allDay ? wholeDaysText(held, me.zone) : formatSpan(held, me.zone, me.clock),
    conflict: held.allDay ? '' : conflicts.conflict(item, held),
  });
  const drop = (item: GridItem | null, held: Held, over: GridItem | null = null) =>
    item ? onMove(item, held) : onPick(held, over);
  const drag = useGridDrag({
    root,
    scroller,
    scale,
    pxPerMinute,
    zone: me.zone,
    state,
    onGrip: conflicts.ask,
    onDrop: drop,
  });

  useLayoutEffect(() => {
    if (!ready || wholeDay) return;
    scroller.current?.scrollTo({ top: preferences.shownFrom * (hourPx / 60) - 9 });
    // Only when the days or the heights change, not while somebody scrolls.
  }, [ready, wholeDay, hourPx, preferences.shownFrom, dates]);

  const holdByKeys = (item: GridItem | null, held: Held) => {
    setKeyHeld({ item, held });
    drag.show(item, held);
    const { text, conflict } = state(item, held);
    setSpoken(`${text}. ${conflict}`);
    reveal(scroller.current, scale, held, pxPerMinute);
  };
  const letGo = () => {
    setKeyHeld(null);
    drag.hide();
  };
  const pickUp = (item: GridItem) => {
    conflicts.ask(item);
    holdByKeys(item, { start: item.start, end: item.end, allDay: item.allDay });
  };

  const keys = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const onItem = (event.target as HTMLElement).closest<HTMLElement>('[data-item]');
    if (!keyHeld) {
      if (!event.key.startsWith('Arrow')) return;
      if (onItem) {
        const next = neighbour(scale.days, mine, onItem.dataset.item!, event.key);
        const there =
          next && root.current?.querySelector<HTMLElement>(`[data-item="${CSS.escape(next.key)}"]`);
        event.preventDefault();
        event.stopPropagation();
        there?.focus();
        if (there && follows) onOpen(next);
        return;
      }
      event.preventDefault();
      event.stopPropagation();
      return holdByKeys(null, firstCursor(scale.days, now, preferences.shownFrom));
    }
    const { item, held } = keyHeld;
    const next = byKey(event, held, me.zone);
    if (next === 'leave') letGo();
    else if (next === 'drop') {
      letGo();
      drop(item, held);
    } else if (next) holdByKeys(item, next);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const inBlock = (item: GridItem): ReactNode => within?.(item) ?? null;
  const stable = useStable({ press: drag.press, pickUp, onOpen, onMore, within: inBlock });
  const columnCount = scale.days.length * columnLanes.length;
  const columns = { gridTemplateColumns: `3.5rem repeat(${columnCount}, minmax(0, 1fr))` };
  return (
    <div
      ref={root}
      className="group/grid relative flex min-h-0 flex-1 flex-col"
      onKeyDown={keys}
      onFocus={({ target }) => {
        if (target.closest('[data-foot]')) return;
        setChosen(target.closest<HTMLElement>('[data-item]')?.dataset.item ?? null);
      }}
      data-grid="hours"
    >
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-y-auto border-t border-edge bg-sheet focus-visible:outline-offset-[-2px]"
        tabIndex={0}
        role="region"
        aria-label="Hours"
        aria-description="Arrows choose a free time, Shift with arrows makes it longer, Enter makes an event there. On an event, Space picks it up to be moved."
      >
        <AllDayRow
          scale={scale}
          lanes={beside ? columnLanes : [{ ...lanes[0]!, items: overlaid(lanes) }]}
          layers={layers}
          columns={columns}
          holidays={holidays}
          onOpen={stable.onOpen}
          onPickDay={(date) =>
            onPick({
              start: resolveWallTime(`${date}T00:00`, me.zone).instant,
              end: resolveWallTime(`${date}T00:00`, me.zone).instant + DAY,
              allDay: true,
            })
          }
          press={stable.press}
          pickUp={stable.pickUp}
        />
        <div className="grid" style={columns}>
          <HourLabels scale={scale} hourPx={hourPx} dayStart={scale.days[0]!.start} />
          {scale.days.flatMap((day, index) =>
            columnLanes.map((lane, at) => (
              <DayColumn
                key={`${day.date} ${lane.key}`}
                scale={scale}
                day={day}
                index={index}
                lane={lane}
                layers={layers}
                first={at === 0}
                pxPerMinute={pxPerMinute}
                widthPx={(widthPx - 56) / columnCount}
                press={stable.press}
                pickUp={stable.pickUp}
                onOpen={stable.onOpen}
                onMore={stable.onMore}
                within={stable.within}
              />
            )),
          )}
        </div>
      </div>
      <div data-shield className="absolute inset-0 z-40 hidden cursor-grabbing" />
      {/* Last and by itself, so that what moves in it is all that is drawn anew. */}
      <div
        data-overlay
        className="pointer-events-none absolute inset-x-0 bottom-0 z-20 hidden overflow-hidden will-change-transform"
      >
        {scale.days.map((day, index) => (
          <div
            key={day.date}
            data-ghost={index}
            className="absolute top-0 left-0 hidden rounded-sm border-2 border-gentian bg-gentian/15 will-change-transform"
          />
        ))}
      </div>
      <div
        data-statement
        className="pointer-events-none absolute top-0 left-0 z-30 hidden w-max will-change-transform max-w-[260px] rounded-sm bg-ink px-2.5 py-1.5 text-xs text-paper"
      >
        <b className="block font-semibold" />
        <span className="block" />
      </div>
      {foot?.(chosenItem)}
      <p className="sr-only" role="status">
        {keyHeld ? spoken : ''}
      </p>
    </div>
  );
}

/** Pixels for an hour, so that the hours one wants to see fill the height there is. */
function useHourPx(
  scroller: React.RefObject<HTMLDivElement | null>,
  wholeDay: boolean,
  height: number,
) {
  const { shownFrom, shownTo } = usePreferences();
  const [available, setAvailable] = useState(0);
  const [widthPx, setWidthPx] = useState(innerWidth);
  // Before the first paint, so that the hours do not move after it.
  useLayoutEffect(() => {
    setAvailable(scroller.current!.clientHeight);
    setWidthPx(scroller.current!.clientWidth);
    const observer = new ResizeObserver(([entry]) => {
      setAvailable(entry!.contentRect.height);
      setWidthPx(entry!.contentRect.width);
    });
    observer.observe(scroller.current!);
    return () => observer.disconnect();
  }, [scroller]);
  const shown = wholeDay ? height : shownTo - shownFrom;
  const fitting = (Math.max(0, available - HEAD_PX) / shown) * 60;
  const hourPx = wholeDay
    ? Math.max(14, fitting)
    : Math.min(MOST_HOUR_PX, Math.max(LEAST_HOUR_PX, fitting));
  return { hourPx, widthPx, ready: available > 0 };
}

/** About what is left for the hours on a sheet of A4 across, below what is above them. */
const PAPER_PX = 540;

/**
 * The hours that go on paper: those one wants to see, and where else I have something; null on the
 * screen.
 */
function usePaperScale(whole: Scale, mine: readonly GridItem[], wholeDay: boolean): Scale | null {
  const { shownFrom, shownTo } = usePreferences();
  const isPrinted = usePrinted();
  return useMemo(() => {
    if (!isPrinted) return null;
    if (wholeDay) return whole;
    const edges = mine
      .filter((item) => !isBar(item))
      .flatMap(({ start, end }) =>
        whole.days
          .filter((day) => end > day.start && start < day.end)
          .flatMap((day) => [topOf(whole, day, start), topOf(whole, day, end)]),
      );
    const from = Math.floor(Math.min(shownFrom, ...edges) / 60) * 60;
    return partOf(whole, from, Math.ceil(Math.max(shownTo, ...edges) / 60) * 60);
  }, [isPrinted, wholeDay, whole, mine, shownFrom, shownTo]);
}

function HourLabels({
  scale,
  hourPx,
  dayStart,
}: {
  scale: ReturnType<typeof dayScale>;
  hourPx: number;
  dayStart: number;
}) {
  const me = useMe();
  const thin = hourPx < 24;
  // Any day without a change will do to write an hour as the reader likes it.
  const plain = scale.days.find((day) => !day.change)?.start ?? dayStart;
  return (
    <div
      aria-hidden="true"
      data-labels
      className="sticky left-0 z-[15] bg-sheet"
      style={{ height: (scale.height / 60) * hourPx }}
    >
      {hourMarks(scale).map(({ top, hour, again }) => (
        <span
          key={top}
          className="absolute right-2 -translate-y-1/2 text-[11px] whitespace-nowrap text-ink-2"
          style={{ top: (top / 60) * hourPx }}
        >
          {(top > 0 || scale.from > 0) &&
            (!thin || hour % 3 === 0) &&
            formatTime(plain + hour * HOUR, me.zone, me.clock)}
          {again && <b className="block text-alpenglow">again</b>}
        </span>
      ))}
    </div>
  );
}

function wholeDaysText(held: Held, zone: string): string {
  const days = daysBetween(dateAt(held.start, zone), dateAt(held.end, zone));
  const first = formatDay(held.start, zone);
  return days <= 1
    ? `${first}, all day`
    : `${first} – ${formatDay(held.end - MINUTE, zone)}, all day`;
}

/** Where the cursor for a new event begins: at the next hour, if that is shown. */
function firstCursor(days: readonly Interval[], now: number, shownFrom: number): Held {
  const today = days.find((day) => now >= day.start && now < day.end);
  const day = today ?? days[0]!;
  const nine = day.start + Math.max(shownFrom, 9 * 60) * MINUTE;
  const start = today ? Math.ceil(now / HOUR) * HOUR : nine;
  return { start, end: start + 2 * SNAP_MINUTES * MINUTE, allDay: false };
}

/** What of mine an arrow goes to from something of mine: in time on its day, or about as late on another. */
function neighbour(
  days: readonly Day[],
  mine: readonly GridItem[],
  key: string,
  arrow: string,
): GridItem | null {
  const placed = mine
    .filter((item) => !isBar(item))
    .flatMap((item) => {
      const day = days.findIndex(({ start, end }) => item.start >= start && item.start < end);
      return day < 0 ? [] : [{ item, day, at: item.start - days[day]!.start }];
    })
    .sort((a, b) => a.item.start - b.item.start || a.item.end - b.item.end);
  const from = placed.findIndex(({ item }) => item.key === key);
  const here = placed[from];
  if (!here) return null;
  const step = arrow === 'ArrowUp' || arrow === 'ArrowLeft' ? -1 : 1;
  if (arrow === 'ArrowUp' || arrow === 'ArrowDown') return placed[from + step]?.item ?? null;
  const beyond = placed.filter(({ day }) => Math.sign(day - here.day) === step);
  const next = step > 0 ? beyond[0]?.day : beyond.at(-1)?.day;
  const nearest = beyond
    .filter(({ day }) => day === next)
    .sort((a, b) => Math.abs(a.at - here.at) - Math.abs(b.at - here.at));
  return nearest[0]?.item ?? null;
}

/** What a key makes of the span that is held. */
function byKey(event: KeyboardEvent, held: Held, zone: string): Held | 'leave' | 'drop' | null {
  const step = event.key === 'ArrowUp' ? -SNAP_MINUTES : SNAP_MINUTES;
  switch (event.key) {
    case 'ArrowUp':
    case 'ArrowDown':
      return nudged(held, event.shiftKey ? { endMinutes: step } : { minutes: step }, zone);
    case 'ArrowLeft':
      return nudged(held, event.shiftKey && held.allDay ? { endMinutes: -1 } : { days: -1 }, zone);
    case 'ArrowRight':
      return nudged(held, event.shiftKey && held.allDay ? { endMinutes: 1 } : { days: 1 }, zone);
    case 'a':
      return toggledAllDay(held, zone);
    case 'Enter':
    case ' ':
      return 'drop';
    case 'Escape':
      return 'leave';
    default:
      return null;
  }
}

function reveal(
  box: HTMLElement | null,
  scale: ReturnType<typeof dayScale>,
  held: Held,
  pxPerMinute: number,
) {
  if (!box || held.allDay) return;
  const day = scale.days.find((one) => held.start >= one.start && held.start < one.end);
  if (!day) return;
  const top = ((held.start - day.start) / MINUTE) * pxPerMinute;
  if (top < box.scrollTop || top > box.scrollTop + box.clientHeight - 60) {
    box.scrollTop = Math.max(0, top - box.clientHeight / 3);
  }
}
