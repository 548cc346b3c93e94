import { memo, type PointerEvent } from 'react';
import { formatOffset, formatSpan, formatTime } from '../../core/time/format.ts';
import { MINUTE, overlaps } from '../../core/time/interval.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { useMe, useNow, usePreferences } from '../client/index.ts';
import { emptyBand, hourMarks, topOf, type Day, type Scale } from './dayScale.ts';
import type { Grip } from './drag.ts';
import { nameOf, isBand, isBar, type GridItem, type Lane } from './gridItems.ts';
import { lookOf, markStyle } from './itemLook.ts';
import { layOutDay } from './layout.ts';
import { useCategoryMap } from './useCategoryMap.ts';

export type ColumnLane = Lane;

/** An item is drawn at least this high, so that a quarter hour can be read and touched. */
const LEAST_PX = 15;

/** In less than this a title cannot be read; whose time it is and how it is taken can be seen. */
const READABLE_PX = 22;
/** In less than this few words fit beside one another. */
const WIDE_PX = 62;
/** From this height on words can stand upright. */
const UPRIGHT_PX = 34;
/** How wide what takes no time is drawn. */
const BAND_PX = 15;

type Room = 'wide' | 'narrow' | 'none';
const roomOf = (px: number): Room => (px < READABLE_PX ? 'none' : px < WIDE_PX ? 'narrow' : 'wide');

/** How many lines a title may have. No rounded corners where text is cut: they cost a mask each. */
const LINES: Record<number, string> = { 1: 'truncate', 2: 'line-clamp-2', 3: 'line-clamp-3' };

type Press = (event: PointerEvent, grip: Grip | 'over', item: GridItem | null) => void;

/** One day of one lane: bare paper, what stands on it, and the line of now. */
export const DayColumn = memo(function DayColumn({
  scale,
  day,
  index,
  lane,
  first,
  pxPerMinute,
  widthPx,
  press,
  pickUp,
  onOpen,
}: {
  scale: Scale;
  day: Day;
  index: number;
  lane: ColumnLane;
  /** The first lane of the day, whose edge is the day's. */
  first: boolean;
  pxPerMinute: number;
  /** About how wide the column is. */
  widthPx: number;
  press: Press;
  pickUp: (item: GridItem) => void;
  onOpen: (item: GridItem) => void;
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
        <Band
          key={item.key}
          item={item}
          top={y(item.start)}
          height={Math.max(LEAST_PX, y(item.end) - y(item.start))}
          column={column}
          press={press}
          onOpen={onOpen}
        />
      ))}
      {placed.map(({ item: { item }, column, columns, span }) => (
        <ItemBlock
          key={item.key}
          item={item}
          top={y(item.start)}
          height={Math.max(LEAST_PX, y(item.end) - y(item.start))}
          column={column}
          columns={columns}
          span={span}
          bandsPx={
            bands.length > 0 && (columns > 1 || bands.some((band) => overlaps(band.item, item)))
              ? BAND_PX
              : 0
          }
          room={roomOf((widthPx / columns) * span)}
          begins={item.start >= day.start}
          ends={item.end <= day.end}
          press={press}
          pickUp={pickUp}
          onOpen={onOpen}
        />
      ))}
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

/** What takes no time: a thin band at the day's edge, its name upright in it. */
const Band = memo(function Band({
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
  const look = lookOf(item, useCategoryMap());
  const movable = item.mine?.standing === 'organizer';
  const said = `${nameOf(item)}, ${formatSpan(item, me.zone, me.clock)}, takes no time`;
  return (
    <button
      type="button"
      data-item={item.key}
      aria-label={said}
      title={said}
      onClick={() => item.eventId && onOpen(item)}
      onPointerDown={(event) => press(event, movable ? 'move' : 'over', item)}
      className={`item absolute z-[1] overflow-hidden rounded-sm border border-edge bg-sheet pt-1 text-left text-[10px] leading-none whitespace-nowrap text-ink-2 hover:z-[2] hover:border-ink-2 hover:text-ink ${item.faint ? 'opacity-35' : ''}`}
      style={{
        top: top + 0.5,
        height: height - 1,
        width: BAND_PX - 1,
        right: column * (BAND_PX - 4),
      }}
    >
      <span className={`absolute inset-x-0 top-0 h-1 ${look.mark}`} style={look.markStyle} />
      <span className="mt-1 [writing-mode:vertical-rl]">{nameOf(item)}</span>
    </button>
  );
});

const ItemBlock = memo(function ItemBlock({
  item,
  top,
  height,
  column,
  columns,
  span,
  bandsPx,
  room,
  begins,
  ends,
  press,
  pickUp,
  onOpen,
}: {
  item: GridItem;
  top: number;
  height: number;
  column: number;
  columns: number;
  span: number;
  /** What is left free for bands at the day’s edge. Pixels. */
  bandsPx: number;
  /** How words fit into its width. */
  room: Room;
  begins: boolean;
  ends: boolean;
  press: Press;
  pickUp: (item: GridItem) => void;
  onOpen: (item: GridItem) => void;
}) {
  const me = useMe();
  const look = lookOf(item, useCategoryMap());
  const movable = item.mine?.standing === 'organizer';
  const title = nameOf(item);
  const small = height < 30;
  const readable = room !== 'none';
  // In a narrow one the words stand upright, where it is high enough for them.
  const upright = room === 'narrow' && height >= UPRIGHT_PX;
  const said = [`${title}, ${formatSpan(item, me.zone, me.clock)}`, item.reason]
    .filter(Boolean)
    .join(', ');
  return (
    <button
      type="button"
      data-item={item.key}
      aria-label={readable ? undefined : said}
      onClick={() => item.eventId && onOpen(item)}
      onPointerDown={(event) => press(event, movable ? 'move' : 'over', item)}
      onKeyDown={(event) => {
        if (event.key !== ' ' || !movable) return;
        event.preventDefault();
        event.stopPropagation();
        pickUp(item);
      }}
      title={said}
      className={`item absolute flex flex-col items-start justify-start rounded-sm pl-[9px] text-left text-xs leading-[1.2] hover:outline-2 hover:-outline-offset-2 hover:outline-ink-2 ${look.fill} ${item.eventId ? '' : 'cursor-default'}`}
      style={{
        top: top + 0.5,
        height: height - 1,
        left: `calc((100% - ${bandsPx}px) * ${column / columns} + 2px)`,
        width: `calc((100% - ${bandsPx}px) * ${span / columns} - 4px)`,
        // A strip of one colour needs no element of its own, of which there may be hundreds.
        ...(!readable &&
          look.mark === 'mark-plain' && { ...look.markStyle, borderLeft: '4px solid var(--mark)' }),
      }}
    >
      {(readable || look.mark !== 'mark-plain') && (
        <span
          className={`absolute inset-y-0 left-0 rounded-l-sm ${readable ? 'w-[6px]' : 'w-[4px]'} ${look.mark}`}
          style={look.markStyle}
        />
      )}
      {readable && (
        <span
          className={`flex max-w-full min-w-0 ${upright ? 'pt-0.5 [writing-mode:vertical-rl]' : small ? 'items-center gap-1 text-[11px] leading-[1.1]' : 'flex-col items-start gap-px pt-px'}`}
          style={small ? { height: height - 1 } : upright ? { height: height - 3 } : undefined}
        >
          <span
            data-written
            className={
              upright
                ? 'max-h-full overflow-hidden bg-sheet/90 py-0.5 text-[11px] leading-[1.05] font-semibold break-words'
                : `max-w-full bg-sheet/90 px-1 font-semibold ${LINES[Math.min(3, Math.max(1, Math.floor((height - 18) / 15)))]}`
            }
          >
            {begins ? '' : '… '}
            {title}
          </span>
          {height >= 46 && !upright && (
            <span className="max-w-full truncate bg-sheet/90 px-1 text-[11px]">
              {formatTime(item.start, me.zone, me.clock)}
              {item.place && ` ${item.place}`}
            </span>
          )}
        </span>
      )}
      {readable && item.also.length > 0 && (
        <span className="absolute right-0.5 bottom-0.5 flex gap-px" aria-hidden="true">
          {item.also.slice(0, 5).map((colour, k) => (
            <i key={k} className="mark-plain size-1.5 rounded-full" style={markStyle(colour)} />
          ))}
        </span>
      )}
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
