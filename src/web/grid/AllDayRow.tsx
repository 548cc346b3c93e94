import type { PointerEvent } from 'react';
import { formatDay } from '../../core/time/format.ts';
import { HOUR } from '../../core/time/interval.ts';
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

const BAR_PX = 20;
const MOST_LANES = 4;

/** The names of the days, and below them what takes whole days, as bars across. */
export function AllDayRow({
  scale,
  lanes,
  columns,
  holidays,
  onOpen,
  onPickDay,
  press,
  pickUp,
}: {
  scale: Scale;
  lanes: readonly ColumnLane[];
  columns: React.CSSProperties;
  holidays: ReadonlyMap<string, string>;
  onOpen: (item: GridItem) => void;
  onPickDay: (date: string) => void;
  press: (event: PointerEvent, grip: Grip, item: GridItem | null) => void;
  pickUp: (item: GridItem) => void;
}) {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  const bars = lanes.map((lane) => layOutBars(lane.items.filter(isBar), scale.days));
  const rows = Math.min(MOST_LANES, Math.max(0, ...bars.flat().map((bar) => bar.lane + 1)));
  return (
    <div data-head className="sticky top-0 z-[25] border-b border-edge bg-paper">
      <div className="grid" style={columns}>
        <div />
        {scale.days.map((day) => {
          const hours = (day.end - day.start) / HOUR;
          const holiday = holidays.get(day.date);
          return (
            <div
              key={day.date}
              className="min-w-0 border-l border-edge px-1.5"
              style={{ gridColumn: `span ${lanes.length}` }}
            >
              <h2
                className={`truncate py-1 text-[13px] ${day.date === today ? 'text-alpenglow' : ''}`}
              >
                {formatDay(day.start, me.zone)}
                {day.date === today && ', today'}
              </h2>
              {holiday && (
                <span className="block truncate text-[11px] text-ink-2" title={holiday}>
                  {holiday}
                </span>
              )}
              {day.change && (
                <span className="block text-[11px] text-alpenglow">
                  clocks change: {hours} hours
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
    </div>
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
