import { useState, type PointerEvent } from 'react';
import { Button } from '../design/controls.tsx';
import { formatDay } from '../../core/time/format.ts';
import { DAY, HOUR } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { initialsOf } from '../design/Initials.tsx';
import { useMe, useNow } from '../client/index.ts';
import { layOutBars, type Bar } from './bars.ts';
import type { ColumnLane } from './DayColumn.tsx';
import type { Scale } from './dayScale.ts';
import type { Grip } from './drag.ts';
import { nameOf, isBar, type GridItem } from './gridItems.ts';
import { lookOf, markStyle } from './itemLook.ts';
import { useCategoryMap } from './useCategoryMap.ts';
import type { DayOff } from '../time/index.ts';

const BAR_PX = 20;
const MOST_LANES = 4;
/** Beams below the names of the days: thin, what they are called stands in the line of names. */
const BEAM_PX = 6;
/** More of a day than this are told when they are asked for. */
const MOST_NAMED = 2;

/** The names of the days, and below them what takes whole days, as bars across. */
export function AllDayRow({
  scale,
  lanes,
  layers,
  columns,
  holidays,
  onOpen,
  onPickDay,
  press,
  pickUp,
}: {
  scale: Scale;
  lanes: readonly ColumnLane[];
  /** Those whose time stands in thin lanes at each day's side. */
  layers: readonly ColumnLane[];
  columns: React.CSSProperties;
  holidays: ReadonlyMap<string, DayOff>;
  onOpen: (item: GridItem) => void;
  onPickDay: (date: string) => void;
  press: (event: PointerEvent, grip: Grip, item: GridItem | null) => void;
  pickUp: (item: GridItem) => void;
}) {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  const bars = lanes.map((lane) => layOutBars(lane.items.filter(isBar), scale.days));
  const rows = Math.min(MOST_LANES, Math.max(0, ...bars.flat().map((bar) => bar.lane + 1)));
  const [isOpen, setOpen] = useState(false);
  // One lane's whole days stand in the line of names, as long as there are few.
  const isThin = lanes.length === 1 && !isOpen;
  const beams = bars[0] ?? [];
  return (
    <div data-head className="sticky top-0 z-[25] border-b border-edge bg-paper">
      <div
        className="grid"
        style={columns}
        {...(isThin && { role: 'group', 'aria-label': 'Whole days' })}
      >
        <div />
        {scale.days.map((day) => {
          const hours = (day.end - day.start) / HOUR;
          const holiday = holidays.get(day.date);
          return (
            <div
              key={day.date}
              className="@container/day relative flex min-w-0 items-baseline gap-x-2 border-l border-edge px-1.5"
              style={{ gridColumn: `span ${lanes.length}` }}
            >
              {isThin && (
                <NewAllDay
                  day={day}
                  index={scale.days.indexOf(day)}
                  zone={me.zone}
                  onPick={onPickDay}
                />
              )}
              <h2
                className={`pointer-events-none relative shrink-0 py-0.5 text-[13px] ${day.date === today ? 'text-alpenglow' : ''}`}
              >
                <DayName name={formatDay(day.start, me.zone)} />
                {day.date === today && ', today'}
              </h2>
              {isThin && (
                <Names
                  beams={beams.filter((bar) => named(bar, scale.days.indexOf(day)))}
                  onOpen={onOpen}
                  press={press}
                  pickUp={pickUp}
                  onMore={() => setOpen(true)}
                />
              )}
              {holiday && (
                <span
                  className="pointer-events-none relative min-w-0 truncate text-[11px] text-ink-2"
                  title={holiday.words}
                >
                  {holiday.words}
                </span>
              )}
              {day.change && (
                <span className="pointer-events-none relative shrink-0 text-[11px] text-alpenglow">
                  clocks change: {hours} hours
                </span>
              )}
              {layers.length > 0 && (
                <span
                  className="pointer-events-none relative ml-auto shrink-0 text-[11px] font-semibold text-ink-2"
                  aria-hidden="true"
                >
                  {layers.length > LANES_NAMED
                    ? `${layers.length} layers`
                    : layers.map((lane) => initialsOf(lane.name)).join(' ')}
                </span>
              )}
            </div>
          );
        })}
      </div>
      {lanes.length > 1 && (
        <div className="grid text-[11px]" style={columns}>
          <div />
          {scale.days.flatMap((day) =>
            lanes.map((lane, at) => (
              <span
                key={`${day.date} ${lane.key}`}
                className={`flex min-w-0 items-center gap-1 px-1 ${at === 0 ? 'border-l border-edge' : ''}`}
                title={lane.unknown ?? lane.name}
              >
                <i
                  className={`size-2 shrink-0 rounded-full ${lane.colour ? 'mark-plain' : 'bg-ink'}`}
                  style={lane.colour ? markStyle(lane.colour) : undefined}
                />
                <span className="truncate">
                  {lanes.length > 3 && scale.days.length > 4
                    ? initialsOf(lane.name)
                    : lane.name.split(' ')[0]}
                </span>
              </span>
            )),
          )}
        </div>
      )}
      {isThin && (
        <div
          aria-hidden="true"
          className="pointer-events-none grid pb-0.5"
          style={{ ...columns, minHeight: BEAM_PX, gridAutoRows: BEAM_PX }}
        >
          {beams
            .filter((bar) => bar.lane < MOST_LANES)
            .map((bar) => (
              <Beam key={bar.item.key} bar={bar} />
            ))}
        </div>
      )}
      {!isThin && (
        <div
          className="relative grid"
          style={{ ...columns, minHeight: Math.max(16, rows * BAR_PX + 6) }}
          role="group"
          aria-label="Whole days"
        >
          <span className="pr-2 pt-0.5 text-right text-[11px] text-ink-2">all day</span>
          {scale.days.map((day, index) => (
            <button
              key={day.date}
              type="button"
              tabIndex={-1}
              aria-label={`New event for all of ${formatDay(day.start, me.zone)}`}
              onClick={() => onPickDay(day.date)}
              className="relative cursor-pointer border-l border-edge hover:bg-gentian-wash/60"
              style={{ gridColumn: `span ${lanes.length}` }}
            >
              <i
                data-ghost-days={index}
                className="absolute inset-0.5 z-20 hidden rounded-sm border-2 border-gentian bg-gentian/15"
              />
            </button>
          ))}
          {bars.flatMap((list, at) =>
            list
              .filter((bar) => bar.lane < MOST_LANES)
              .map((bar) => (
                <DayBar
                  key={`${lanes[at]!.key} ${bar.item.key}`}
                  bar={bar}
                  // With a column for each lane a bar stands in its own lane, day by day.
                  column={2 + bar.from * lanes.length + at}
                  span={lanes.length > 1 ? 1 : bar.to - bar.from + 1}
                  onOpen={onOpen}
                  press={press}
                  pickUp={pickUp}
                />
              )),
          )}
        </div>
      )}
      {isOpen && (
        <Button
          look="quiet"
          className="mb-0.5 ml-14 px-1.5 py-0 text-xs"
          onClick={() => setOpen(false)}
        >
          Fewer
        </Button>
      )}
    </div>
  );
}

/** Layers are named at each day up to so many. */
const LANES_NAMED = 3;

/** Whether a bar is named on a day: where it begins, or on the first day that is shown. */
const named = (bar: Bar<GridItem>, index: number): boolean => bar.from === index;

/** All of a day that is free for something new. */
const NewAllDay = ({
  day,
  index,
  zone,
  onPick,
}: {
  day: Scale['days'][number];
  index: number;
  zone: string;
  onPick: (date: string) => void;
}) => (
  <button
    type="button"
    tabIndex={-1}
    aria-label={`New event for all of ${formatDay(day.start, zone)}`}
    onClick={() => onPick(day.date)}
    className="absolute inset-0 cursor-pointer hover:bg-gentian-wash/60"
  >
    <i
      data-ghost-days={index}
      className="absolute inset-0.5 z-20 hidden rounded-sm border-2 border-gentian bg-gentian/15"
    />
  </button>
);

/** What takes all of the days from here on, by name. */
function Names({
  beams,
  onOpen,
  press,
  pickUp,
  onMore,
}: {
  beams: readonly Bar<GridItem>[];
  onOpen: (item: GridItem) => void;
  press: (event: PointerEvent, grip: Grip, item: GridItem | null) => void;
  pickUp: (item: GridItem) => void;
  onMore: () => void;
}) {
  const me = useMe();
  const shown = beams.length > MOST_NAMED ? beams.slice(0, MOST_NAMED - 1) : beams;
  const rest = beams.length - shown.length;
  return (
    <>
      {shown.map(({ item, before }) => {
        const movable = item.mine?.standing === 'organizer';
        const last = formatDay(item.end - 1, me.zone);
        const isLong = item.end - item.start > DAY;
        return (
          <button
            key={item.key}
            type="button"
            data-item={item.key}
            onClick={() => item.eventId && onOpen(item)}
            onPointerDown={(event) => movable && press(event, 'move', item)}
            onKeyDown={(event) => {
              if (event.key !== ' ' || !movable) return;
              event.preventDefault();
              event.stopPropagation();
              pickUp(item);
            }}
            title={[`${nameOf(item)}, all day${isLong ? `, to ${last}` : ''}`, item.reason]
              .filter(Boolean)
              .join(', ')}
            className="item relative min-h-6 min-w-0 touch-pan-y truncate rounded-sm text-left text-[12px] hover:underline"
          >
            <span data-written>
              {before && '← '}
              {nameOf(item)}
            </span>
            {isLong && <span className="text-ink-2">, to {last.split(' ')[0]}</span>}
          </button>
        );
      })}
      {rest > 0 && (
        <button
          type="button"
          onClick={onMore}
          className="relative min-h-6 shrink-0 text-[12px] font-semibold text-gentian hover:underline"
        >
          {rest} more
        </button>
      )}
    </>
  );
}

/** A whole-day's stretch, below the names of its days. */
function Beam({ bar: { item, from, to, lane } }: { bar: Bar<GridItem> }) {
  const look = lookOf(item, useCategoryMap());
  const isFree = item.occupancy === 'free';
  return (
    <i
      className={`mx-0.5 mb-0.5 rounded-sm ${isFree ? 'border border-b-0 border-ink-2' : item.mine ? look.mark || 'border border-dashed border-alpenglow' : look.fill}`}
      style={{
        gridColumn: `${2 + from} / span ${to - from + 1}`,
        gridRow: lane + 1,
        ...look.markStyle,
      }}
    />
  );
}

function DayBar({
  bar,
  column,
  span,
  onOpen,
  press,
  pickUp,
}: {
  bar: Bar<GridItem>;
  column: number;
  span: number;
  onOpen: (item: GridItem) => void;
  press: (event: PointerEvent, grip: Grip, item: GridItem | null) => void;
  pickUp: (item: GridItem) => void;
}) {
  const { item } = bar;
  const look = lookOf(item, useCategoryMap());
  const movable = item.mine?.standing === 'organizer';
  return (
    <button
      type="button"
      data-item={item.key}
      onClick={() => item.eventId && onOpen(item)}
      onPointerDown={(event) => movable && press(event, 'move', item)}
      onKeyDown={(event) => {
        if (event.key !== ' ' || !movable) return;
        event.preventDefault();
        event.stopPropagation();
        pickUp(item);
      }}
      title={[`${nameOf(item)}, all day`, item.reason].filter(Boolean).join(', ')}
      className={`item z-10 mx-0.5 touch-pan-y overflow-hidden rounded-sm pl-[9px] text-left text-xs ${look.fill}`}
      style={{
        gridColumn: `${column} / span ${span}`,
        gridRow: 1,
        marginTop: bar.lane * BAR_PX + 2,
        height: BAR_PX - 3,
        position: 'relative',
      }}
    >
      <span className={`absolute inset-y-0 left-0 w-[6px] ${look.mark}`} style={look.markStyle} />
      <span
        data-written
        className="block w-fit max-w-full truncate rounded-sm bg-sheet/90 px-1 leading-[15px] font-semibold"
      >
        {bar.before && '← '}
        {nameOf(item)}
        {bar.after && ' →'}
      </span>
    </button>
  );
}

/** `Tue 24 Nov`, of which the month stands in the title alone where it finds no room. */
function DayName({ name }: { name: string }) {
  const at = name.lastIndexOf(' ');
  return (
    <>
      {name.slice(0, at)}
      <span className="@max-[9rem]/day:hidden">{name.slice(at)}</span>
    </>
  );
}
