import { DAY, HOUR, MINUTE, firstEndingAfter, type Interval } from '../time/interval.ts';
import { toLocal, type ZoneTable } from '../time/zoneTable.ts';
import type { PreparedMember } from './lineUp.ts';

/** Part of a meeting that lies outside a person's own working hours. */
export interface OutsideHours {
  id: number;
  minutes: number;
  side: 'early' | 'late';
}

/**
 * How much of a meeting lies outside disjoint, sorted working hours, and on which side: late where
 * it starts within them, early where it ends within them, else the side of the nearer shift.
 * @returns null when no minute does
 */
export function outsideOf(
  open: readonly Interval[],
  meeting: Interval,
): Omit<OutsideHours, 'id'> | null {
  const at = firstEndingAfter(open, meeting.start);
  let inside = 0;
  let endsInside = false;
  let k = at;
  for (; k < open.length && open[k]!.start < meeting.end; k++) {
    const shift = open[k]!;
    inside += Math.min(shift.end, meeting.end) - Math.max(shift.start, meeting.start);
    if (meeting.end <= shift.end) endsInside = true;
  }
  const minutes = (meeting.end - meeting.start - inside) / MINUTE;
  if (minutes <= 0) return null;
  if (at < open.length && open[at]!.start <= meeting.start) return { minutes, side: 'late' };
  if (endsInside) return { minutes, side: 'early' };
  const toNext = k < open.length ? open[k]!.start - meeting.end : Number.POSITIVE_INFINITY;
  const since = at > 0 ? meeting.start - open[at - 1]!.end : Number.POSITIVE_INFINITY;
  return { minutes, side: toNext < since ? 'early' : 'late' };
}

/** `outsideOf` for a member; null for those without hours. */
export function outsideHours(
  member: Pick<PreparedMember, 'id' | 'open'>,
  meeting: Interval,
): OutsideHours | null {
  const outside = member.open && outsideOf(member.open, meeting);
  return outside && { id: member.id, ...outside };
}

/** Minutes of a meeting between 12:00 and 13:00 on a zone's clock. */
export function middayMinutes(meeting: Interval, table: ZoneTable): number {
  const start = toLocal(table, meeting.start);
  const end = start + meeting.end - meeting.start;
  let minutes = 0;
  for (let noon = Math.floor(start / DAY) * DAY + 12 * HOUR; noon < end; noon += DAY) {
    minutes += Math.max(0, Math.min(end, noon + HOUR) - Math.max(start, noon)) / MINUTE;
  }
  return minutes;
}
