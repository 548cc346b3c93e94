import { memo, type PointerEvent, type ReactNode } from 'react';
import { formatOffset, formatSpan, formatTime } from '../../core/time/format.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { useMe, useNow, usePreferences } from '../client/index.ts';
import { emptyBand, hourMarks, topOf, type Day, type Scale } from './dayScale.ts';
import type { Grip } from './drag.ts';
import { nameOf, isBand, isBar, type GridItem, type Lane } from './gridItems.ts';
import { lookOf } from './itemLook.ts';
import { layOutDay, type PlacedBlock } from './layout.ts';
import { laneWidth, LayerLanes } from './LayerLanes.tsx';
import { useCategoryMap } from './useCategoryMap.ts';

export type ColumnLane = Lane;

/** An item is drawn at least this high, so that a quarter hour can be read and touched. */
const LEAST_PX = 15;

/** In less than this no word can be read; of what is drawn beside another at least this is left. */
const READABLE_PX = 64;
/** What is left at a day's side for brackets. */
const BRACKET_PX = 10;
/** From this height on there is room for the time and the place below the title. */
const TIME_PX = 38;

/** So much room answers need within what they are to: below its title, and in its width. */
const [ANSWERS_PX, ANSWERS_WIDE_PX] = [42, 100];
/** In less than this nothing stands beside a title. */
const BESIDE_TITLE_PX = 110;

/** How many lines a title may have. No rounded corners where text is cut: they cost a mask each. */
const LINES: Record<number, string> = { 1: 'truncate', 2: 'line-clamp-2', 3: 'line-clamp-3' };

type Press = (event: PointerEvent, grip: Grip | 'over', item: GridItem | null) => void;

/** One day of one lane: bare paper, what stands on it, and the line of now. */
export const DayColumn = memo(function DayColumn({
  scale,
  day,
  index,
  lane,
  layers,
  first,
  pxPerMinute,
  widthPx,
  press,
  pickUp,
  onOpen,
  onMore,
  within,
}: {
  scale: Scale;
  day: Day;
  index: number;
  lane: ColumnLane;
  /** Others whose time stands in thin lanes at its side. */
  layers: readonly Lane[];
  /** The first lane of the day, whose edge is the day's. */
  first: boolean;
  pxPerMinute: number;
  /** About how wide the column is. */
  widthPx: number;
  press: Press;
  pickUp: (item: GridItem) => void;
  onOpen: (item: GridItem) => void;
  /** What stands within something that waits for my answer. */
  within: (item: GridItem) => ReactNode;
  /** Shows all of a day, where something finds no room here. */
  onMore: (date: string) => void;
}) {
  const me = useMe();
  const now = useNow();
  const { hours } = usePreferences();
  const y = (instant: number) => topOf(scale, day, instant) * pxPerMinute;
  // Things shorter than can be drawn take the room of what is drawn.
  const least = (LEAST_PX / pxPerMinute) * MINUTE;
  const inDay = lane.items.filter(
    (item) => !isBar(item) && item.end > day.start && item.start < day.end,
  );
  const bands = layOutDay(inDay.filter(isBand), day);
  const placed = layOutDay(
    inDay
      .filter((item) => !isBand(item))
      .map((item) => ({ start: item.start, end: Math.max(item.end, item.start + least), item })),
    day,
  );
  const lanesPx = laneWidth(layers.length, widthPx);
  const bracketsPx = bands.length > 0 ? BRACKET_PX : 0;
  const ownPx = widthPx - lanesPx - bracketsPx;
  const { shown, more } = folded(placed, Math.max(2, Math.floor(ownPx / READABLE_PX)));
  const answered = new Map(
    shown.flatMap(({ item: { item }, span, columns }) => {
      const waits = item.mine?.standing === 'needs-action' && !item.faint && item.end > now;
      const isWhole = item.start >= day.start && item.end <= day.end;
      const hasRoom =
        y(item.end) - y(item.start) >= ANSWERS_PX && (ownPx * span) / columns >= ANSWERS_WIDE_PX;
      const answers = waits && isWhole && hasRoom ? within(item) : null;
      return answers ? [[item.key, answers] as const] : [];
    }),
  );
  const working = workingIntervals(hours, scale.table, day);
  const band = emptyBand(scale, day);
  return (
    <div
      className={`relative touch-pan-y bg-closed/60 ${first ? 'border-l border-edge' : 'border-l border-dashed border-edge/70'}`}
      style={{ height: scale.height * pxPerMinute }}
      data-day={index}
      onPointerDown={(event) => press(event, 'create', null)}
    >
      {working.map((span) => (
        <div
          key={span.start}
          className="pointer-events-none absolute inset-x-0 bg-sheet"
          style={{ top: y(span.start), height: y(span.end) - y(span.start) }}
        />
      ))}
      {hourMarks(scale).map(({ top }) => (
        <div
          key={top}
          className="pointer-events-none absolute inset-x-0 border-t border-edge/60"
          style={{ top: top * pxPerMinute }}
        />
      ))}
      {band && (
        <div
          className="unknown pointer-events-none absolute inset-x-0 z-[5] grid place-items-center overflow-hidden bg-closed text-[11px]"
          style={{ top: band.top * pxPerMinute, height: band.height * pxPerMinute }}
        >
          {band.why === 'skipped' && (
            <span className="rounded-sm bg-sheet px-1 text-center leading-tight">
              clocks go forward: no such hour
            </span>
          )}
        </div>
      )}
      {day.change && day.change.minutes < 0 && (
        <div
          className="pointer-events-none absolute inset-x-0 z-[5] border-t-2 border-dashed border-alpenglow text-[11px]"
          style={{ top: y(day.change.instant) }}
        >
          <span className="rounded-sm bg-sheet px-1">
            clocks go back: {formatOffset(day.change.instant, me.zone)} from here
          </span>
        </div>
      )}
      {lane.unknown && first === (lane.key === 'me') && (
        <div className="unknown pointer-events-none absolute inset-0" title={lane.unknown} />
      )}
      {bands.map(({ item, column }) => (
        <Bracket
          key={item.key}
          item={item}
          top={y(item.start)}
          height={Math.max(LEAST_PX, y(item.end) - y(item.start))}
          column={column}
          press={press}
          onOpen={onOpen}
        />
      ))}
      {shown.map(({ item: { item }, column, columns, span }) => (
        <ItemBlock
          isNarrow={(ownPx * span) / columns < BESIDE_TITLE_PX}
          hasAnswers={answered.has(item.key)}
          key={item.key}
          item={item}
          top={y(item.start)}
          height={Math.max(LEAST_PX, y(item.end) - y(item.start))}
          left={`calc((100% - ${lanesPx + bracketsPx}px) * ${column / columns} + ${bracketsPx + 2}px)`}
          width={`calc((100% - ${lanesPx + bracketsPx}px) * ${span / columns} - 4px)`}
          begins={item.start >= day.start}
          ends={item.end <= day.end}
          press={press}
          pickUp={pickUp}
          onOpen={onOpen}
        />
      ))}
      {shown.map(({ item: { item }, column, columns }) => {
        const answers = answered.get(item.key);
        return (
          answers && (
            <div
              key={item.key}
              className="absolute z-[2]"
              style={{
                top: y(item.end) - 26,
                left: `calc((100% - ${lanesPx + bracketsPx}px) * ${column / columns} + ${bracketsPx + 9}px)`,
              }}
              onPointerDown={(event) => event.stopPropagation()}
            >
              {answers}
            </div>
          )
        );
      })}
      {more.map(({ start, end, count }) => (
        <button
          key={start}
          type="button"
          onClick={() => onMore(day.date)}
          onPointerDown={(event) => event.stopPropagation()}
          aria-label={`${count} more ${formatSpan({ start, end }, me.zone, me.clock)}: show the day`}
          className="absolute z-[2] rounded-sm border border-edge bg-paper px-1 text-left text-[11px] font-semibold text-gentian hover:border-ink-2"
          style={{
            top: y(start) + 0.5,
            height: Math.max(LEAST_PX, y(end) - y(start)) - 1,
            right: lanesPx + 2,
            width: `calc((100% - ${lanesPx + bracketsPx}px) / ${Math.max(2, Math.floor(ownPx / READABLE_PX))} - 4px)`,
          }}
        >
          {count} more
        </button>
      ))}
      {layers.length > 0 && (
        <LayerLanes
          lanes={layers}
          day={day}
          y={y}
          widthPx={widthPx}
          press={press}
          onOpen={onOpen}
        />
      )}
      {now >= day.start && now < day.end && (
        <div
          className="now-line pointer-events-none absolute inset-x-0 z-20 border-t-2 border-alpenglow"
          style={{ top: y(now) }}
          data-testid={first ? 'now-line' : undefined}
        >
          {first && <span className="absolute -top-1 -left-1 size-2 rounded-full bg-alpenglow" />}
        </div>
      )}
    </div>
  );
});

/** What leaves its owner free: a bracket at the day's side, its name where it begins. */
const Bracket = memo(function Bracket({
  item,
  top,
  height,
  column,
  press,
  onOpen,
}: {
  item: GridItem;
  top: number;
  height: number;
  /** From the edge inwards, where several are at once. */
  column: number;
  press: Press;
  onOpen: (item: GridItem) => void;
}) {
  const me = useMe();
  const movable = item.mine?.standing === 'organizer';
  const free = item.mine ? 'you stay free' : 'takes no time';
  const said = `${nameOf(item)}, ${formatSpan(item, me.zone, me.clock)}, ${free}`;
  return (
    <button
      type="button"
      data-item={item.key}
      aria-label={said}
      title={said}
      onClick={() => item.eventId && onOpen(item)}
      onPointerDown={(event) => press(event, movable ? 'move' : 'over', item)}
      className={`item group/free absolute right-1 z-0 flex items-start hover:z-[3] focus-visible:z-[3] text-left text-[12px] leading-[1.3] text-ink-2 hover:text-ink ${item.faint ? 'opacity-35' : ''}`}
      style={{ top: top + 0.5, height: height - 1, left: 2 + column * 4 }}
    >
      <span className="bracket h-full w-1.5 shrink-0" />
      <span
        data-written
        className="truncate px-1 group-hover/free:bg-sheet group-focus-visible/free:bg-sheet"
      >
        {nameOf(item)}
      </span>
    </button>
  );
});

/** What finds no room beside the others. */
interface More extends Interval {
  count: number;
}

/**
 * What of a day's collisions is drawn: where more are at once than can be read beside one another, the last
 * of the columns says how many more there are.
 */
function folded(
  placed: readonly PlacedBlock<{ start: number; end: number; item: GridItem }>[],
  most: number,
): { shown: typeof placed; more: More[] } {
  const shown: PlacedBlock<{ start: number; end: number; item: GridItem }>[] = [];
  const hidden: Interval[] = [];
  for (const one of placed) {
    if (one.columns <= most) shown.push(one);
    else if (one.column < most - 1) {
      const reachesEdge = one.column + one.span >= one.columns;
      const span = reachesEdge ? most - one.column : Math.min(one.span, most - 1 - one.column);
      shown.push({ ...one, columns: most, span });
    } else hidden.push(one.item);
  }
  const more: More[] = [];
  for (const { start, end } of hidden.sort((x, y) => x.start - y.start)) {
    const last = more.at(-1);
    if (last && start < last.end) {
      last.end = Math.max(last.end, end);
      last.count++;
    } else more.push({ start, end, count: 1 });
  }
  return { shown, more };
}

const ItemBlock = memo(function ItemBlock({
  item,
  top,
  height,
  left,
  width,
  begins,
  ends,
  isNarrow,
  hasAnswers,
  press,
  pickUp,
  onOpen,
}: {
  item: GridItem;
  top: number;
  height: number;
  left: string;
  width: string;
  isNarrow: boolean;
  /** Whether its answers stand over its lower edge. */
  hasAnswers: boolean;
  begins: boolean;
  ends: boolean;
  press: Press;
  pickUp: (item: GridItem) => void;
  onOpen: (item: GridItem) => void;
}) {
  const me = useMe();
  const look = lookOf(item, useCategoryMap());
  const movable = item.mine?.standing === 'organizer';
  const waits = item.mine?.standing === 'needs-action';
  const title = nameOf(item);
  const small = height < TIME_PX;
  const said = [`${title}, ${formatSpan(item, me.zone, me.clock)}`, item.reason]
    .filter(Boolean)
    .join(', ');
  // On rock words stand on paper of their own.
  const ground = item.mine ? '' : 'bg-sheet/90';
  return (
    <button
      type="button"
      data-item={item.key}
      onClick={() => item.eventId && onOpen(item)}
      onPointerDown={(event) => press(event, movable ? 'move' : 'over', item)}
      onKeyDown={(event) => {
        if (event.key !== ' ' || !movable) return;
        event.preventDefault();
        event.stopPropagation();
        pickUp(item);
      }}
      title={said}
      className={`item absolute z-[1] flex flex-col items-start justify-start overflow-hidden rounded-sm text-left text-xs leading-[1.25] hover:outline-2 hover:-outline-offset-1 hover:outline-ink-2 ${look.mark ? 'pl-[10px]' : 'pl-1.5'} ${look.fill} ${item.eventId ? '' : 'cursor-default'}`}
      style={{ top: top + 0.5, height: height - 1, left, width, ...look.markStyle }}
    >
      {look.mark && <span className={`absolute inset-y-0 left-0 w-[5px] ${look.mark}`} />}
      <span
        className={`flex max-w-full min-w-0 ${small ? 'items-center gap-1.5' : 'flex-col items-start pt-[2px]'}`}
        style={small ? { height: height - 3 } : undefined}
      >
        <span
          data-written
          className={`max-w-full pr-0.5 font-semibold ${ground} ${small ? 'min-w-0 truncate text-[11.5px] leading-[1.1]' : LINES[Math.min(3, Math.max(1, Math.floor((height - (hasAnswers ? 26 : 20)) / 15)))]}`}
        >
          {begins ? '' : '… '}
          {title}
        </span>{' '}
        {!hasAnswers && (!small || (waits && !isNarrow)) && (
          <span
            className={`max-w-full text-[11.5px] text-ink-2 ${small ? 'shrink-0' : 'truncate'} ${ground}`}
          >
            {waits && <b className="font-semibold text-alpenglow">answer?{small ? '' : ' '}</b>}
            {!small && formatTime(item.start, me.zone, me.clock)}
            {!small && item.place && ` ${item.place}`}
          </span>
        )}
      </span>
      {item.mine?.standing === 'needs-action' && (
        <span className="sr-only">, not answered yet</span>
      )}
      {movable && begins && height >= 24 && (
        <i
          className="absolute inset-x-0 top-0 h-1.5 cursor-ns-resize"
          onPointerDown={(event) => press(event, 'start', item)}
        />
      )}
      {movable && ends && (
        <i
          className="absolute inset-x-0 bottom-0 h-1.5 cursor-ns-resize"
          onPointerDown={(event) => press(event, 'end', item)}
        />
      )}
    </button>
  );
});
