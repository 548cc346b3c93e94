import { memo, useMemo } from 'react';
import type { Ridge } from '../../core/planner/ridge.ts';
import { givenName, listNames } from '../../core/planner/words.ts';
import { formatDay, zoneCity } from '../../core/time/format.ts';
import { DAY, overlaps, type Interval } from '../../core/time/interval.ts';
import { clockChanges, zoneTable } from '../../core/time/zoneTable.ts';
import { useMe } from '../app/session.ts';
import { DayLanes } from './DayLanes.tsx';
import { dayWindow, inside, type Hours } from './days.ts';
import { LABEL, Ruler } from './Ruler.tsx';
import { placeOf, PresentTime, Selection } from './Selection.tsx';
import { Silhouette, sliceOf } from './Silhouette.tsx';
import { usePicker } from './usePicker.ts';
import type { Member } from './usePlanData.ts';

/** What a row of the board needs, the same for all days. */
export interface BoardRow {
  members: readonly Member[];
  zones: readonly string[];
  hours: Hours;
  height: number;
  minutes: number;
  choose: (span: Interval) => void;
  onHover: (instant: number | null) => void;
  /** Where a meeting that is given a new time stands now. */
  present: Interval | null;
}

/** One day: its ridge, and opened, a lane for everybody. */
export const DayRow = memo(function DayRow({
  row,
  ridge,
  date,
  open,
  chosen,
  hovered,
  onToggle,
}: {
  row: BoardRow;
  ridge: Ridge | null;
  date: string;
  open: boolean;
  /** The chosen time where it touches this day. */
  chosen: Interval | null;
  /** The moment under the pointer where it is on this day. */
  hovered: number | null;
  onToggle: (date: string) => void;
}) {
  const me = useMe();
  const { members, zones, hours, height, minutes, choose, onHover, present } = row;
  const window = useMemo(() => dayWindow(date, me.zone, hours), [date, me.zone, hours]);
  const picker = usePicker({ window, chosen, minutes, choose, onHover });
  const slice = useMemo(() => (ridge ? sliceOf(ridge, window) : null), [ridge, window]);
  const marks = useMemo(() => marksOf(date, members, me.zone), [date, members, me.zone]);
  const best = slice ? Math.max(0, ...slice.people) : 0;
  const label = formatDay(window.start, me.zone);
  const remarks = [
    ...marks.changed.map((zone) => `clock change, ${me.zoneNames[zone] ?? zoneCity(zone)}`),
    ...marks.holidays.map(({ zone, name }) => `${name}, ${me.zoneNames[zone] ?? zoneCity(zone)}`),
    ...(marks.away.length ? [`away: ${listNames(marks.away)}`] : []),
  ];
  const small = height < 24;
  const moment = hovered === null ? null : placeOf({ start: hovered, end: hovered + 1 }, window);
  const selection = picker.dragged ?? chosen;
  return (
    <div className="border-t border-edge/60 first:border-0">
      <div className="flex items-stretch">
        <button
          type="button"
          onClick={() => onToggle(date)}
          aria-expanded={open}
          title={remarks.join('; ') || undefined}
          className={`${LABEL} py-px text-left leading-[1.15] hover:text-gentian`}
          aria-label={`${label}, at most ${best} of ${slice?.totals.people ?? 0} free at once. ${remarks.map((one) => `${one}. `).join('')}${open ? 'Close' : 'Open'} its lanes`}
        >
          <span className="font-semibold">{label}</span>
          {remarks.length > 0 ? (
            <span
              className={`${small ? 'ml-1 inline' : 'block'} truncate text-[11px] ${marks.changed.length ? 'text-alpenglow' : 'text-ink-2'}`}
            >
              {small ? '•' : remarks[0]}
            </span>
          ) : (
            !small && (
              <span className="block text-[11px] text-ink-2">
                {slice ? `${best} of ${slice.totals.people}` : ''}
              </span>
            )
          )}
        </button>
        <div
          className="relative mr-3 flex-1 touch-pan-y"
          {...picker.handlers}
          data-testid={`ridge-${date}`}
        >
          {slice ? <Silhouette slice={slice} height={height} /> : <div style={{ height }} />}
          {moment && !open && (
            <i
              className="pointer-events-none absolute inset-y-0 w-px bg-ink"
              style={{ left: moment.left }}
            />
          )}
          <PresentTime span={present} window={window} />
          <Selection span={selection} window={window} />
        </div>
      </div>
      {open && (
        <>
          {remarks.length > 1 && (
            <p className={`${LABEL} w-auto py-0.5 text-[11px] text-ink-2`}>{remarks.join('; ')}</p>
          )}
          {marks.shifted && <Ruler date={date} zones={zones} hours={hours} />}
          <DayLanes
            members={members}
            window={window}
            zone={me.zone}
            clock={me.clock}
            handlers={picker.handlers}
          >
            {moment && (
              <i
                className="pointer-events-none absolute inset-y-0 w-px bg-ink"
                style={{ left: moment.left }}
              />
            )}
            <PresentTime span={present} window={window} />
            <Selection span={selection} window={window} grips />
          </DayLanes>
        </>
      )}
    </div>
  );
});

/** What is special about a day: clocks that change, public holidays, and people who are away all day. */
function marksOf(date: string, members: readonly Member[], zone: string) {
  const day = dayWindow(date, zone, [0, 24]);
  const active = members.filter((one) => !one.setAside);
  const zones = [...new Set(active.map((one) => one.zone))];
  const changed = zones.filter((one) => clockChanges(zoneTable(one, day), day).length > 0);
  const holidays = new Map<string, { zone: string; name: string }>();
  for (const member of active) {
    const holiday = member.holidays?.find((one) => one.date === date);
    if (holiday)
      holidays.set(`${member.zone}${holiday.name}`, { zone: member.zone, name: holiday.name });
  }
  const away = active.filter(
    (one) =>
      one.kind === 'person' &&
      one.busy.some(
        (span) =>
          span.occupancy === 'away' &&
          overlaps(span, day) &&
          Math.min(span.end, day.end) - Math.max(span.start, day.start) > DAY / 3,
      ),
  );
  return {
    changed,
    holidays: [...holidays.values()],
    away: away.map(givenName),
    // A day's own ruler is needed where clocks have changed on it.
    shifted: changed.length > 0,
  };
}

export const touches = (span: Interval | null, date: string, zone: string): Interval | null =>
  span && overlaps(span, dayWindow(date, zone, [0, 24])) ? span : null;

export const onDay = (instant: number | null, date: string, zone: string): number | null =>
  instant !== null && inside(instant, dayWindow(date, zone, [0, 24])) ? instant : null;
