import { Temporal } from 'temporal-polyfill';
import type { LineUpMember, Wishes } from '../../src/core/planner/lineUp.ts';
import type { Interval } from '../../src/core/time/interval.ts';

/**
 * The slow, obvious twin of the planner: every start, every member, every claim, every five
 * minutes, with working hours worked out anew from the calendar each time.
 */
export function naiveStarts(members: readonly LineUpMember[], wishes: Wishes): number[] {
  const active = members.filter((member) => !member.setAside);
  if (active.length === 0) return [];
  const needed = active.filter(
    (member) =>
      member.kind === 'resource' || member.role === 'required' || wishes.rule === 'everyone',
  );
  const starts: number[] = [];
  const length = wishes.lengthMinutes * 60_000;
  for (
    let start = wishes.window.start;
    start + length <= wishes.window.end;
    start += wishes.stepMinutes * 60_000
  ) {
    if (start < wishes.notBefore) continue;
    const meeting = { start, end: start + length };
    if (needed.every((member) => naivelyPossible(member, meeting, wishes))) starts.push(start);
  }
  return starts;
}

/** Whether a member has nothing on and stays within its hours, give or take the stretch. */
export function naivelyPossible(
  member: LineUpMember,
  meeting: Interval,
  wishes: Pick<Wishes, 'tentativeIsFree' | 'stretchMinutes'>,
): boolean {
  if (member.knowledge === 'none') return false;
  for (const busy of member.busy) {
    if (busy.occupancy === 'tentative' && wishes.tentativeIsFree) continue;
    if (busy.start < meeting.end && meeting.start < busy.end) return false;
  }
  if (!member.hours) return true;
  const shifts = shiftsAround(member, meeting, wishes.stretchMinutes * 60_000);
  for (let tick = meeting.start; tick < meeting.end; tick += 5 * 60_000) {
    if (!shifts.some((shift) => shift.start <= tick && tick < shift.end)) return false;
  }
  return true;
}

function shiftsAround(member: LineUpMember, meeting: Interval, widen: number): Interval[] {
  const day = Temporal.Instant.fromEpochMilliseconds(meeting.start)
    .toZonedDateTimeISO(member.zone)
    .toPlainDate();
  const shifts: Interval[] = [];
  for (const days of [-2, -1, 0, 1, 2]) {
    const date = day.add({ days });
    for (const shift of member.hours![date.dayOfWeek - 1]!) {
      const at = (minutes: number) =>
        date
          .toPlainDateTime()
          .add({ minutes })
          .toZonedDateTime(member.zone, { disambiguation: 'compatible' }).epochMilliseconds;
      shifts.push({ start: at(shift.start) - widen, end: at(shift.end) + widen });
    }
  }
  return shifts;
}
