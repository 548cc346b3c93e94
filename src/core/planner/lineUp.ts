import type { BusyInterval } from '../availability/busy.ts';
import { DAY, gaps, sorted, type Interval } from '../time/interval.ts';
import { workingIntervals, type WorkingHours } from '../time/workingHours.ts';
import { zoneTables, type ZoneTable } from '../time/zoneTable.ts';

/** A person or resource that a meeting needs, with what is known of its time. */
export interface LineUpMember {
  id: number;
  name: string;
  kind: 'person' | 'resource';
  role: 'required' | 'optional';
  /** Left out of the computing for a moment, without being removed. */
  setAside: boolean;
  zone: string;
  /** Null for what has no hours of its own, such as a room that is always open. */
  hours: WorkingHours | null;
  busy: readonly BusyInterval[];
  /** `none`: nothing is shared, which never counts as free. */
  knowledge: 'known' | 'none';
}

/** What is asked of the planner. */
export interface Wishes {
  /** Starts and ends of meetings lie inside it; it begins on a quarter hour. */
  window: Interval;
  /** No opening starts before this instant. */
  notBefore: number;
  lengthMinutes: number;
  /** Distance between possible starts, minutes. */
  stepMinutes: number;
  /** Whose conflicts exclude a time: the required members, or all of them. */
  rule: 'required' | 'everyone';
  /** Minutes by which a meeting may lie before or after somebody's working hours. */
  stretchMinutes: number;
  /** Whether tentative time may be used. */
  tentativeIsFree: boolean;
  /** Zone whose days the openings are spread over, and whose clock is preferred to show round times. */
  zone: string;
  /** The most openings to return. */
  limit: number;
}

/** A member with its time laid out for the window. */
export interface PreparedMember extends LineUpMember {
  /** Sorted by start. */
  taken: readonly Interval[];
  /** Outside its working hours, sorted; empty for members without hours. */
  closed: readonly Interval[];
  /** Outside its working hours even when stretched as the wishes allow. */
  absurd: readonly Interval[];
  /** Its working hours, a day beyond the window on both sides, sorted; null for members without hours. */
  open: readonly Interval[] | null;
}

/**
 * Lays each member's time out for the window. Members with the same hours in the same zone share
 * the work. A member of whom nothing is known is taken for the whole window.
 */
export function prepareLineUp(
  members: readonly LineUpMember[],
  wishes: Pick<Wishes, 'window' | 'stretchMinutes' | 'tentativeIsFree'>,
): PreparedMember[] {
  const { window, stretchMinutes, tentativeIsFree } = wishes;
  const layOut = sharedHours(zoneTables(window), window, stretchMinutes);
  return members.map((member) => {
    const busy = tentativeIsFree
      ? member.busy.filter((span) => span.occupancy !== 'tentative')
      : member.busy;
    const taken = member.knowledge === 'none' ? [window] : sorted(busy);
    return { ...member, taken, ...layOut(member) };
  });
}

const ALWAYS_OPEN = { open: null, closed: [], absurd: [] };

function sharedHours(
  tables: (zone: string) => ZoneTable,
  window: Interval,
  stretchMinutes: number,
) {
  const known = new Map<string, Pick<PreparedMember, 'open' | 'closed' | 'absurd'>>();
  return ({ hours, zone }: LineUpMember) => {
    if (!hours) return ALWAYS_OPEN;
    const key = `${zone}|${JSON.stringify(hours)}`;
    let found = known.get(key);
    if (!found) {
      // A day more on both sides tells whether a time is before or after somebody's work.
      const around = { start: window.start - DAY, end: window.end + DAY };
      const open = workingIntervals(hours, tables(zone), around);
      const stretched = workingIntervals(hours, tables(zone), window, stretchMinutes);
      found = { open, closed: gaps(open, window), absurd: gaps(stretched, window) };
      known.set(key, found);
    }
    return found;
  };
}

/** The members that count now. */
export const activeMembers = <T extends LineUpMember>(members: readonly T[]): T[] =>
  members.filter((member) => !member.setAside);

/** Whether a conflict of this member excludes a time under the rule. */
export const isNeeded = (member: LineUpMember, rule: Wishes['rule']): boolean =>
  rule === 'everyone' || member.role === 'required';
