import { Temporal } from 'temporal-polyfill';
import type { LineUpMember } from '../../src/core/planner/lineUp.ts';
import type { RoomCandidate, Wishes } from '../../src/core/planner/wishes.ts';
import type { Interval } from '../../src/core/time/interval.ts';
import { plainlyRefused } from './plainTerms.ts';

const MINUTE_MS = 60_000;
const TICK_MS = 5 * MINUTE_MS;

/**
 * The slow, obvious twin of the planner: every start, every member, every claim, every five
 * minutes, with working hours worked out anew from the calendar each time.
 */
export function naiveStarts(
  members: readonly LineUpMember[],
  wishes: Wishes,
  rooms: readonly RoomCandidate[] = [],
): number[] {
  const active = members.filter((member) => !member.setAside);
  if (active.length === 0) return [];
  const starts: number[] = [];
  const length = wishes.lengthMinutes * MINUTE_MS;
  for (
    let start = wishes.window.start;
    start + length <= wishes.window.end;
    start += wishes.stepMinutes * MINUTE_MS
  ) {
    if (start < wishes.notBefore) continue;
    const meeting = { start, end: start + length };
    if (naiveBlockers(members, meeting, wishes, rooms).length === 0) starts.push(start);
  }
  return starts;
}

/** Needed members, by id, and sites without a free fitting room, as `site 3`, that block a time. */
export function naiveBlockers(
  members: readonly LineUpMember[],
  meeting: Interval,
  wishes: Wishes,
  rooms: readonly RoomCandidate[] = [],
): (number | string)[] {
  const active = members.filter((member) => !member.setAside);
  const blocking = active.filter(
    (member) =>
      (member.kind === 'resource'
        ? wishes.places !== 'ignored'
        : member.role === 'required' || wishes.rule === 'everyone') &&
      !naivelyPossible(member, meeting, wishes),
  );
  return [...blocking.map((member) => member.id), ...naiveSites(active, meeting, wishes, rooms)];
}

function naiveSites(
  active: readonly LineUpMember[],
  meeting: Interval,
  wishes: Wishes,
  rooms: readonly RoomCandidate[],
): string[] {
  if (wishes.places !== 'fitting') return [];
  return [...new Set(rooms.map((room) => room.siteId))]
    .filter((site) => {
      const people = active.filter((one) => one.kind === 'person' && one.siteId === site).length;
      if (people === 0 || wishes.rooms.without.includes(site)) return false;
      if (active.some((one) => one.isRoom && one.siteId === site)) return false;
      return !rooms.some(
        (room) =>
          room.siteId === site &&
          room.seats >= people &&
          wishes.rooms.features.every((feature) => room.features.includes(feature)) &&
          room.busy.every((span) => span.end <= meeting.start || span.start >= meeting.end) &&
          !plainlyRefused(room.terms, meeting),
      );
    })
    .map((site) => `site ${site}`);
}

/** Whether a member has nothing on and stays within its hours, give or take the stretch. */
export function naivelyPossible(
  member: LineUpMember,
  meeting: Interval,
  wishes: Pick<Wishes, 'tentativeIsFree' | 'stretchMinutes' | 'stretches' | 'unknown'>,
): boolean {
  if (naivelyTaken(member, meeting, wishes)) return false;
  if (plainlyRefused(member.terms, meeting)) return false;
  if (!member.hours) return true;
  const more = wishes.stretches[member.zone] ?? { early: 0, late: 0 };
  const shifts = naiveShifts(member, meeting, {
    early: wishes.stretchMinutes + more.early,
    late: wishes.stretchMinutes + more.late,
  });
  const own = naiveShifts(member, meeting, { early: 0, late: 0 });
  for (let tick = meeting.start; tick < meeting.end; tick += TICK_MS) {
    const within = (shift: Interval) => shift.start <= tick && tick < shift.end;
    // On a day off there is no stretch, only the end of a night.
    if (isInPartOff(member, tick)) return false;
    if (!(isDayOff(member, tick) ? own : shifts).some(within)) return false;
  }
  return true;
}

const isDayOff = ({ holidays = [], zone }: LineUpMember, instant: number): boolean => {
  if (holidays.length === 0) return false;
  const date = Temporal.Instant.fromEpochMilliseconds(instant)
    .toZonedDateTimeISO(zone)
    .toPlainDate()
    .toString();
  return holidays.some((one) => one.date === date && one.part === undefined);
};

/** Whether a moment lies in the part of a day that is off. */
const isInPartOff = ({ holidays = [], zone }: LineUpMember, instant: number): boolean =>
  holidays.some(({ date, part }) => {
    if (!part) return false;
    const at = (minutes: number) =>
      Temporal.PlainDate.from(date)
        .toPlainDateTime()
        .add({ minutes })
        .toZonedDateTime(zone, { disambiguation: 'compatible' }).epochMilliseconds;
    return at(part.start) <= instant && instant < at(part.end);
  });

function naivelyTaken(
  member: LineUpMember,
  meeting: Interval,
  wishes: Pick<Wishes, 'tentativeIsFree' | 'unknown'>,
): boolean {
  if (member.knowledge === 'none') return wishes.unknown === 'busy';
  for (const busy of member.busy) {
    if (busy.occupancy === 'tentative' && wishes.tentativeIsFree) continue;
    if (busy.occupancy === 'unknown' && wishes.unknown === 'ignored') continue;
    if (busy.start < meeting.end && meeting.start < busy.end) return true;
  }
  // Whoever begins before the one unit is gone and ends after the other came would have to change.
  for (const change of member.changeovers ?? [])
    if (change.start < meeting.end && meeting.start < change.end) return true;
  return false;
}

/** Minutes of a meeting that lie outside a member's own hours, counted five at a time. */
export function naiveOutside(member: LineUpMember, meeting: Interval): number {
  if (!member.hours) return 0;
  const shifts = naiveShifts(member, meeting, { early: 0, late: 0 });
  let minutes = 0;
  for (let tick = meeting.start; tick < meeting.end; tick += TICK_MS)
    if (!shifts.some((shift) => shift.start <= tick && tick < shift.end)) minutes += 5;
  return minutes;
}

/** Whether every minute of a meeting outside their hours lies in a break of four hours at most. */
export function naivelyInBreak(member: LineUpMember, meeting: Interval): boolean {
  const works = (tick: number) => naiveOutside(member, { start: tick, end: tick + TICK_MS }) === 0;
  const longest = (4 * 60) / 5;
  for (let tick = meeting.start; tick < meeting.end; tick += TICK_MS) {
    if (works(tick)) continue;
    let gap = 1;
    for (let k = 1; k <= longest && !works(tick - k * TICK_MS); k++) gap++;
    for (let k = 1; k <= longest && !works(tick + k * TICK_MS); k++) gap++;
    if (gap > longest) return false;
  }
  return true;
}

/** Whether something of theirs ends or begins less than ten minutes before or after a meeting. */
export const naivelyPressed = (
  member: LineUpMember,
  meeting: Interval,
  wishes: Pick<Wishes, 'tentativeIsFree' | 'unknown'>,
): boolean =>
  [
    meeting.start - TICK_MS,
    meeting.start - 2 * TICK_MS + 1,
    meeting.end,
    meeting.end + TICK_MS - 1,
  ].some((tick) => naivelyTaken(member, { start: tick, end: tick + TICK_MS }, wishes));

/** Minutes of runs of two free hours or more within their hours that are shorter with a meeting in. */
export function naiveBroken(
  member: LineUpMember,
  meeting: Interval,
  wishes: Pick<Wishes, 'window' | 'tentativeIsFree' | 'unknown'>,
): number {
  const free = (tick: number) =>
    tick >= wishes.window.start &&
    tick < wishes.window.end &&
    // Time of which nothing is known is no quiet time, be it in the way or not.
    !naivelyTaken(member, { start: tick, end: tick + TICK_MS }, { ...wishes, unknown: 'busy' }) &&
    naiveOutside(member, { start: tick, end: tick + TICK_MS }) === 0;
  for (let tick = meeting.start; tick < meeting.end; tick += TICK_MS) if (!free(tick)) return 0;
  let before = 0;
  while (free(meeting.start - (before + 1) * TICK_MS)) before++;
  let after = 0;
  while (free(meeting.end + after * TICK_MS)) after++;
  const whole = (before + after) * 5 + (meeting.end - meeting.start) / MINUTE_MS;
  if (whole < 120) return 0;
  return [before * 5, after * 5].filter((part) => part < 120).reduce((sum, part) => sum + part, 0);
}

function naiveShifts(
  member: LineUpMember,
  meeting: Interval,
  widen: { early: number; late: number },
): Interval[] {
  const day = Temporal.Instant.fromEpochMilliseconds(meeting.start)
    .toZonedDateTimeISO(member.zone)
    .toPlainDate();
  const shifts: Interval[] = [];
  for (const days of [-2, -1, 0, 1, 2]) {
    const date = day.add({ days });
    if (member.holidays?.some((one) => one.date === date.toString() && one.part === undefined))
      continue;
    for (const shift of member.hours![date.dayOfWeek - 1]!) {
      const at = (minutes: number) =>
        date
          .toPlainDateTime()
          .add({ minutes })
          .toZonedDateTime(member.zone, { disambiguation: 'compatible' }).epochMilliseconds;
      shifts.push({
        start: at(shift.start) - widen.early * MINUTE_MS,
        end: at(shift.end) + widen.late * MINUTE_MS,
      });
    }
  }
  return shifts;
}
