import { memo, useMemo } from 'react';
import type { Ridge } from '../../core/planner/ridge.ts';
import { formatDay } from '../../core/time/format.ts';
import { overlaps, type Interval } from '../../core/time/interval.ts';
import { useMe } from '../client/index.ts';
import { Silhouette, sliceOf, placeOf } from '../grid/index.ts';
import { DayLanes } from './DayLanes.tsx';
import { dayWindow, inside, type Hours } from './days.ts';
import { LABEL, Ruler } from './Ruler.tsx';
import { PresentTime, Selection } from './Selection.tsx';
import { usePicker } from './usePicker.ts';
import { type Member } from '../lineUp/index.ts';

/** What a row of the board needs, the same for all days. */
export interface PlanRow {
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
  isRead,
  date,
  members,
  remarks: written,
  clockChange,
  chosen,
  hovered,
  onToggle,
}: {
  row: PlanRow;
  ridge: Ridge | null;
  /** Whether everybody's time of this day has been read; until then it is neither free nor taken. */
  isRead: boolean;
  date: string;
  /** Whose lanes are shown; null while the day is closed, so that it need not be drawn anew. */
  members: readonly Member[] | null;
  /** What is special about the day, a line each. */
  remarks: string;
  clockChange: boolean;
  /** The chosen time where it touches this day. */
  chosen: Interval | null;
  /** The moment under the pointer where it is on this day. */
  hovered: number | null;
  onToggle: (date: string) => void;
}) {
  const me = useMe();
  const { zones, hours, height, minutes, choose, onHover, present } = row;
  const window = useMemo(() => dayWindow(date, me.zone, hours), [date, me.zone, hours]);
  const picker = usePicker({ window, chosen, minutes, choose, onHover });
  const slice = useMemo(
    () => (ridge && isRead ? sliceOf(ridge, window) : null),
    [ridge, isRead, window],
  );
  const open = members !== null;
  const best = slice ? Math.max(0, ...slice.people) : 0;
  const label = formatDay(window.start, me.zone);
  const remarks = written ? written.split('\n') : [];
  const small = height <= 24;
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
          aria-label={`${label} ${remarks.length > 0 ? `${remarks.join('. ')}. ` : ''}${slice ? `${freeWords(best, slice.totals.people)}: at most ${best} of ${slice.totals.people} free at once` : 'being read …'}. ${open ? 'Close' : 'Open'} its lanes`}
        >
          <span className="font-semibold">{label}</span>{' '}
          {remarks.length > 0 ? (
            <span
              className={`${small ? 'ml-1 inline' : 'block'} truncate text-[11px] ${clockChange ? 'text-alpenglow' : 'text-ink-2'}`}
            >
              {small ? (
                <i className="inline-block size-1 rounded-full bg-current align-middle" />
              ) : (
                remarks[0]
              )}
            </span>
          ) : (
            !small && (
              <span className="block text-[11px] text-ink-2">
                {slice ? freeWords(best, slice.totals.people) : isRead ? '' : 'being read …'}
              </span>
            )
          )}
        </button>
        <div
          className="relative mr-3 flex-1 touch-pan-y"
          {...picker.handlers}
          data-testid={`ridge-${date}`}
        >
          {slice ? (
            <Silhouette slice={slice} height={height} />
          ) : (
            <div className={isRead ? '' : 'unread'} style={{ height }} />
          )}
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
      {members && (
        <>
          {remarks.length > 1 && (
            <p className={`${LABEL} w-auto py-0.5 text-[11px] text-ink-2`}>{remarks.join('; ')}</p>
          )}
          {clockChange && <Ruler date={date} zones={zones} hours={hours} />}
          <DayLanes
            members={members}
            window={window}
            zone={me.zone}
            clock={me.clock}
            handlers={picker.handlers}
          >
            {!isRead && <i className="unread pointer-events-none absolute inset-0" />}
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

/** `all 4 free`, `3 of 4 free`: the most at once. */
const freeWords = (best: number, of: number): string =>
  best === of ? (of === 1 ? 'free' : `all ${of} free`) : `${best} of ${of} free`;

export const touchesSpan = (span: Interval | null, date: string, zone: string): Interval | null =>
  span && overlaps(span, dayWindow(date, zone, [0, 24])) ? span : null;

export const onDay = (instant: number | null, date: string, zone: string): number | null =>
  instant !== null && inside(instant, dayWindow(date, zone, [0, 24])) ? instant : null;
