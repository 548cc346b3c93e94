import { memo, type HTMLAttributes, type ReactNode } from 'react';
import type { BusyInterval } from '../../core/availability/busy.ts';
import { givenName } from '../../core/planner/words.ts';
import { type ClockStyle, formatDayNear, formatNear } from '../../core/time/format.ts';
import { gaps, type Interval } from '../../core/time/interval.ts';
import { daysOffOf, workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import { placeOf } from '../grid/index.ts';
import { LABEL } from './Ruler.tsx';
import { type Member } from '../lineUp/index.ts';

const PATTERN = {
  busy: 'rock',
  tentative: 'rock-tentative',
  away: 'rock-away',
  unknown: 'unknown',
  barred: 'bg-closed',
} as const;
const WORDS = {
  busy: 'taken',
  tentative: 'tentative',
  away: 'away',
  unknown: 'not known',
  barred: 'cannot be booked',
} as const;

/** In less than this part of the lane "away" cannot be read. */
const READABLE = 0.12;

/** One lane a member: their time that day, shaded outside their own hours in their own zone. */
export function DayLanes({
  members,
  window,
  zone,
  clock,
  handlers,
  children,
}: {
  members: readonly Member[];
  window: Interval;
  zone: string;
  clock: ClockStyle;
  handlers: HTMLAttributes<HTMLElement>;
  children: ReactNode;
}) {
  return (
    <div className="relative pb-2">
      {members.map((member) => (
        <div key={member.id} className={`flex ${member.setAside ? 'opacity-45' : ''}`}>
          <span
            className={`${LABEL} truncate text-xs leading-5 ${member.role === 'optional' ? 'text-ink-2 italic' : 'text-ink-2'}`}
          >
            {member.kind === 'person' && !member.outside ? givenName(member) : member.name}
          </span>
          <Lane member={member} window={window} zone={zone} clock={clock} />
        </div>
      ))}
      <div className="pointer-events-none absolute inset-0 flex">
        <span className={LABEL} />
        <div className="pointer-events-auto relative mr-3 mb-2 flex-1 touch-pan-y" {...handlers}>
          {children}
        </div>
      </div>
    </div>
  );
}

const Lane = memo(function Lane({
  member,
  window,
  zone,
  clock,
}: {
  member: Member;
  window: Interval;
  zone: string;
  clock: ClockStyle;
}) {
  const daysOff = daysOffOf(member.holidays ?? []);
  const closed = member.hours
    ? gaps(
        workingIntervals(member.hours, zoneTable(member.zone, window), window, { daysOff }),
        window,
      )
    : [];
  const busy = member.busy.filter((span) => span.start < window.end && span.end > window.start);
  const spoken =
    member.knowledge === 'none'
      ? 'nothing is known'
      : busy.map((span) => spanWords(span, window, zone, clock)).join(', ') || 'nothing on';
  return (
    <div
      className="relative mr-3 h-5 flex-1 border-b border-edge/60"
      role="img"
      aria-label={`${member.name}: ${spoken}`}
    >
      {closed.map((span) => (
        <i
          key={span.start}
          className="absolute inset-y-0 bg-closed"
          style={placeOf(span, window)!}
        />
      ))}
      {member.knowledge === 'none' && (
        <span className="unknown absolute inset-0 px-1.5 text-[11px] leading-[19px] text-ink-2">
          <span className="bg-sheet px-1">nothing is known</span>
        </span>
      )}
      {busy.map((span) => (
        <i
          key={`${span.start} ${span.end} ${span.occupancy}`}
          className={`absolute inset-y-[2px] overflow-hidden rounded-[2px] not-italic ${PATTERN[span.occupancy]}`}
          style={placeOf(span, window)!}
        >
          {(span.occupancy === 'away' || span.occupancy === 'unknown') &&
            share(span, window) > READABLE && (
              <span className="ml-1 bg-sheet px-1 text-[10.5px] leading-4 whitespace-nowrap">
                {WORDS[span.occupancy]}
                {span.occupancy === 'away' && span.end > window.end
                  ? ` through ${formatDayNear(span.end - 1, window.start, zone)}`
                  : ''}
              </span>
            )}
        </i>
      ))}
    </div>
  );
});

function share({ start, end }: Interval, window: Interval): number {
  const inside = Math.min(end, window.end) - Math.max(start, window.start);
  return inside / (window.end - window.start);
}

function spanWords(span: BusyInterval, window: Interval, zone: string, clock: ClockStyle): string {
  if (span.start <= window.start && span.end >= window.end)
    return `${WORDS[span.occupancy]} all day`;
  const at = (instant: number) => formatNear(instant, window.start, { zone, clock });
  return `${WORDS[span.occupancy]} ${at(span.start)} to ${at(span.end)}`;
}
