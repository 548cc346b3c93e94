import { useMemo } from 'react';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { useMe, useNow, usePreferences } from '../client/index.ts';
import {
  dayScale,
  instantAt,
  topOf,
  type Day,
  type Scale,
  SNAP_MINUTES,
  type Held,
  nameOf,
  type GridItem,
  type Lane,
  lookOf,
  markStyle,
  useCategoryMap,
} from '../grid/index.ts';
import type { DayOff } from '../time/index.ts';

/** A row for each calendar over some days: who is taken when, side by side in time. */
export function RowsView({
  dates,
  lanes,
  wholeDay,
  holidays,
  onPick,
  onOpen,
}: {
  dates: string[];
  lanes: readonly Lane[];
  wholeDay: boolean;
  holidays: ReadonlyMap<string, DayOff>;
  onPick: (held: Held) => void;
  onOpen: (item: GridItem) => void;
}) {
  const me = useMe();
  const now = useNow();
  const preferences = usePreferences();
  const scale = useMemo(() => dayScale(dates, me.zone), [dates, me.zone]);
  const from = wholeDay ? 0 : preferences.shownFrom;
  const to = wholeDay ? scale.height : preferences.shownTo;
  const today = dateAt(now, me.zone);
  const columns = { gridTemplateColumns: `9rem repeat(${dates.length}, minmax(0, 1fr))` };
  const ticks = [0.25, 0.5, 0.75].map(
    (share) => Math.round((from + (to - from) * share) / 60) * 60,
  );
  return (
    <div className="min-h-0 flex-1 overflow-auto border-t border-edge bg-sheet">
      <div className="min-w-[640px]">
        <div className="sticky top-0 z-10 grid border-b border-edge bg-paper" style={columns}>
          <span />
          {scale.days.map((day) => (
            <div key={day.date} className="min-w-0 border-l border-edge px-1.5 py-1">
              <h2 className={`truncate text-[13px] ${day.date === today ? 'text-alpenglow' : ''}`}>
                {formatDay(day.start, me.zone)}
                {day.date === today && ', today'}
              </h2>
              <span className="block truncate text-[11px] text-ink-2">
                {holidays.get(day.date)?.words ?? (day.change ? 'clocks change' : '\u00a0')}
              </span>
              {dates.length <= 7 && (
                <span className="relative block h-3.5 text-[10px] text-ink-2" aria-hidden="true">
                  {ticks.map((tick) => (
                    <i
                      key={tick}
                      className="absolute -translate-x-1/2 not-italic"
                      style={{ left: `${((tick - from) / (to - from)) * 100}%` }}
                    >
                      {formatTime(scale.days[0]!.start + tick * MINUTE, me.zone, '24').slice(0, 2)}
                    </i>
                  ))}
                </span>
              )}
            </div>
          ))}
        </div>
        {lanes.map((lane) => (
          <section
            key={lane.key}
            aria-label={lane.name}
            className="grid min-h-14 border-b border-edge"
            style={columns}
          >
            <h3 className="flex items-center gap-2 px-3 text-[13px]">
              <i
                className={`size-2.5 shrink-0 rounded-full ${lane.colour ? 'mark-plain' : 'bg-ink'}`}
                style={lane.colour ? markStyle(lane.colour) : undefined}
              />
              <span className="min-w-0 truncate">{lane.name}</span>
            </h3>
            {scale.days.map((day) => (
              <RowCell
                key={day.date}
                scale={scale}
                day={day}
                lane={lane}
                from={from}
                to={to}
                ticks={ticks}
                now={now}
                onPick={onPick}
                onOpen={onOpen}
              />
            ))}
          </section>
        ))}
      </div>
    </div>
  );
}

function RowCell({
  scale,
  day,
  lane,
  from,
  to,
  ticks,
  now,
  onPick,
  onOpen,
}: {
  scale: Scale;
  day: Day;
  lane: Lane;
  from: number;
  to: number;
  ticks: number[];
  now: number;
  onPick: (held: Held) => void;
  onOpen: (item: GridItem) => void;
}) {
  const me = useMe();
  const categories = useCategoryMap();
  const place = (minutes: number) =>
    Math.min(100, Math.max(0, ((minutes - from) / (to - from)) * 100));
  const items = lane.items.filter((item) => item.start < day.end && item.end > day.start);
  return (
    <div
      className={`relative border-l border-edge ${lane.unknown ? 'unknown' : ''}`}
      title={lane.unknown ?? undefined}
      onClick={(event) => {
        if (event.target !== event.currentTarget) return;
        const { left, width } = event.currentTarget.getBoundingClientRect();
        const minutes = from + ((event.clientX - left) / width) * (to - from);
        const start = instantAt(scale, day, Math.floor(minutes / SNAP_MINUTES) * SNAP_MINUTES);
        onPick({ start, end: start, allDay: false });
      }}
    >
      {lane.unknown && (
        <span className="pointer-events-none absolute inset-1 text-[11px] text-ink-2">
          no information
        </span>
      )}
      {ticks.map((tick) => (
        <i
          key={tick}
          className="pointer-events-none absolute inset-y-0 border-l border-edge/50"
          style={{ left: `${place(tick)}%` }}
        />
      ))}
      {items.map((item, k) => {
        const next = items[k + 1];
        const left = item.allDay ? 0 : place(topOf(scale, day, item.start));
        const right = item.allDay ? 100 : place(topOf(scale, day, item.end));
        if (right <= left) return null;
        // A short one is named beside it, where there is room until the next.
        const room = (next ? place(topOf(scale, day, next.start)) : 100) - right;
        const inside = right - left > 14;
        const look = lookOf(item, categories);
        const title = nameOf(item);
        return (
          <button
            key={item.key}
            type="button"
            data-item={item.key}
            onClick={() => item.eventId && onOpen(item)}
            title={[`${title}, ${formatSpan(item, me.zone, me.clock)}`, item.reason]
              .filter(Boolean)
              .join(', ')}
            className={`item absolute inset-y-1 rounded-sm ${inside ? 'overflow-hidden' : ''} pl-[7px] text-left text-[11px] leading-tight hover:z-10 ${look.fill}`}
            style={{ left: `${left}%`, width: `max(8px, calc(${right - left}% - 1px))` }}
          >
            <span
              className={`absolute inset-y-0 left-0 w-[5px] ${look.mark}`}
              style={look.markStyle}
            />
            {!inside && room > 12 && (
              <span
                data-written
                className="absolute inset-y-0 left-full z-[1] line-clamp-3 px-1 font-semibold break-words whitespace-normal"
                style={{ width: `${Math.min(room, 30) * (100 / (right - left))}%` }}
              >
                {title}
              </span>
            )}
            {inside && (
              <span
                data-written
                className="line-clamp-3 w-fit rounded-sm bg-sheet/90 px-0.5 font-semibold break-words"
              >
                {title}
              </span>
            )}
          </button>
        );
      })}
      {now >= day.start && now < day.end && (
        <i
          className="now-line pointer-events-none absolute inset-y-0 border-l-2 border-alpenglow"
          style={{ left: `${place(topOf(scale, day, now))}%` }}
        />
      )}
    </div>
  );
}
