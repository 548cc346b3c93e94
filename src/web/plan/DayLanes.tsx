import type { HTMLAttributes, ReactNode } from 'react';
import { formatTime } from '../../core/time/format.ts';
import { gaps, type Interval } from '../../core/time/interval.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import type { Member, Plan } from './usePlan.ts';

const PATTERN = { busy: 'rock', tentative: 'rock-tentative', away: 'rock-away' } as const;
const WORDS = { busy: 'taken', tentative: 'tentative', away: 'away' } as const;

/** One lane a member: their time that day, shaded outside their own hours in their own zone. */
export function DayLanes({
  plan,
  window,
  labelClass,
  handlers,
  children,
}: {
  plan: Plan;
  window: Interval;
  labelClass: string;
  handlers: HTMLAttributes<HTMLElement>;
  children: ReactNode;
}) {
  return (
    <div className="relative pb-2">
      {plan.members.map((member) => (
        <div key={member.id} className={`flex ${member.setAside ? 'opacity-45' : ''}`}>
          <span className={`${labelClass} truncate text-xs leading-5 text-ink-2`}>
            {member.kind === 'person' ? member.name.split(' ')[0] : member.name}
          </span>
          <Lane member={member} plan={plan} window={window} />
        </div>
      ))}
      <div className="pointer-events-none absolute inset-0 flex">
        <span className={labelClass} />
        <div className="pointer-events-auto relative mr-3 mb-2 flex-1 touch-pan-y" {...handlers}>
          {children}
        </div>
      </div>
    </div>
  );
}

function Lane({ member, plan, window }: { member: Member; plan: Plan; window: Interval }) {
  const length = window.end - window.start;
  const box = ({ start, end }: Interval) => {
    const from = Math.max(start, window.start);
    return {
      left: `${((from - window.start) / length) * 100}%`,
      width: `${((Math.min(end, window.end) - from) / length) * 100}%`,
    };
  };
  const closed = member.hours
    ? gaps(workingIntervals(member.hours, zoneTable(member.zone, window), window), window)
    : [];
  const busy = member.busy.filter((span) => span.start < window.end && span.end > window.start);
  const clock = plan.me.clock;
  const spoken =
    member.knowledge === 'none'
      ? 'nothing is shared'
      : busy
          .map(
            (span) =>
              `${WORDS[span.occupancy]} ${formatTime(span.start, plan.me.zone, clock)} to ${formatTime(span.end, plan.me.zone, clock)}`,
          )
          .join(', ') || 'nothing on';
  return (
    <div
      className="relative mr-3 h-5 flex-1 border-b border-edge/60"
      role="img"
      aria-label={`${member.name}: ${spoken}`}
    >
      {closed.map((span) => (
        <i key={span.start} className="absolute inset-y-0 bg-closed" style={box(span)} />
      ))}
      {member.knowledge === 'none' && <i className="unknown absolute inset-0" />}
      {busy.map((span) => (
        <i
          key={`${span.start}${span.occupancy}`}
          className={`absolute inset-y-[2px] rounded-[2px] ${PATTERN[span.occupancy]}`}
          style={box(span)}
        />
      ))}
    </div>
  );
}
