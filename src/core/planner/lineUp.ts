import type { BusyInterval } from '../availability/busy.ts';
import { keepsTerms, type BookingTerms } from '../booking/terms.ts';
import { DAY, gaps, MINUTE, overlaps, type Interval } from '../time/interval.ts';
import { overBreaks } from './hours.ts';
import { NO_SPANS, overlapsAny, spansOf, unionOf, type Spans } from '../time/spans.ts';
import {
  daysOffOf,
  workingIntervals,
  type Holiday,
  type WorkingHours,
} from '../time/workingHours.ts';
import { zoneTables, type ZoneTable } from '../time/zoneTable.ts';
import type { Wishes } from './wishes.ts';

/** A person or resource that a meeting needs, with what is known of its time. */
export interface LineUpMember {
  /** A subject's id; outside addresses, which have none, have a negative number of their own. */
  id: number;
  name: string;
  kind: 'person' | 'resource';
  role: 'required' | 'optional';
  /** Left out of the computing for a moment, without being removed. */
  setAside: boolean;
  zone: string;
  /** Null for what has no hours of its own, such as a room that is always open. */
  hours: WorkingHours | null;
  /** Days on which nobody of its site works. */
  holidays?: readonly Holiday[];
  /** The site at which a person works or a resource stands; null where there is none. */
  siteId?: number | null;
  floor?: string;
  /** True for rooms, which make a site need no other one. */
  isRoom?: boolean;
  busy: readonly BusyInterval[];
  /** Of a resource of several units: where a meeting would have to change them; see `changeovers`. */
  changeovers?: readonly Interval[];
  /** Of a resource: what its rules ask of the asker's bookings besides when it is taken and barred. */
  terms?: BookingTerms | null;
  /** `none`: nothing is shared, which never counts as free. */
  knowledge: 'known' | 'none';
}

/** A member with its time laid out for the window. */
export interface PreparedMember extends LineUpMember {
  /** What excludes a time under the wishes. */
  taken: Spans;
  /** The same with its changeovers, sorted by start, for `BlockedCounter`. */
  blocks: Spans;
  /** Time of which nothing is known, where the wishes ignore that. */
  doubtful: Spans;
  /** What ends its undisturbed time: what is taken, and time of which nothing is known. */
  loud: Spans;
  /** Outside its working hours, within the window; empty for members without hours. */
  closed: Spans;
  /** Outside its working hours even when stretched as the wishes allow. */
  absurd: Spans;
  /** Its working hours, beyond the window on both sides, sorted; null for members without hours. */
  open: readonly Interval[] | null;
  /** The same with the breaks of split days in them. */
  days: readonly Interval[];
  /** Equal for members with the same hours in the same zone, who share the work. */
  hoursKey: string;
}

type Laying = Pick<Wishes, 'window' | 'stretchMinutes' | 'tentativeIsFree'> &
  Partial<Pick<Wishes, 'stretches' | 'unknown'>>;

/**
 * Lays each member's time out for the window. Members with the same hours in the same zone share
 * the work, and busy times that were laid out before are not laid out again. Time of which nothing
 * is known is taken, unless the wishes ignore it.
 */
export function prepareLineUp(members: readonly LineUpMember[], wishes: Laying): PreparedMember[] {
  const hoursOf = sharedHours(zoneTables(wishes.window), wishes);
  return members.map((member): PreparedMember => {
    const { taken, doubtful } = takenTime(member, wishes);
    const { open, days, closed, absurd, hoursKey } = hoursOf(member);
    // Written out: spreading three objects into one costs more than all that follows.
    return {
      id: member.id,
      name: member.name,
      kind: member.kind,
      role: member.role,
      setAside: member.setAside,
      zone: member.zone,
      hours: member.hours,
      holidays: member.holidays ?? [],
      siteId: member.siteId ?? null,
      floor: member.floor ?? '',
      isRoom: member.isRoom ?? false,
      busy: member.busy,
      changeovers: member.changeovers ?? [],
      terms: member.terms ?? null,
      knowledge: member.knowledge,
      taken,
      blocks: withChangeovers(taken, member.changeovers),
      doubtful,
      loud: doubtful.length > 0 ? unionOf(taken, doubtful) : taken,
      open,
      days,
      closed,
      absurd,
      hoursKey,
    };
  });
}

/** Whether a member cannot have a meeting: for what it has, for its units or for its terms. */
export const isTaken = (
  { taken, changeovers = [], terms }: Pick<PreparedMember, 'taken' | 'changeovers' | 'terms'>,
  meeting: Interval,
): boolean =>
  overlapsAny(taken, meeting) ||
  changeovers.some((one) => overlaps(one, meeting)) ||
  !keepsTerms(terms, meeting);

const withChangeovers = (taken: Spans, changeovers: readonly Interval[] = []): Spans =>
  inOrder(taken, Float64Array.from(changeovers.flatMap(({ start, end }) => [start, end])));

/** Two lists in one by start, for `BlockedCounter`; spans that end before they begin stay as they are. */
export function inOrder(spans: Spans, more: Spans): Spans {
  if (more.length === 0) return spans;
  const both: Interval[] = [];
  for (const list of [spans, more])
    for (let k = 0; k < list.length; k += 2) both.push({ start: list[k]!, end: list[k + 1]! });
  both.sort((a, b) => a.start - b.start);
  return Float64Array.from(both.flatMap(({ start, end }) => [start, end]));
}

type LaidTime = Pick<PreparedMember, 'taken' | 'doubtful'>;

const laidBefore = new WeakMap<readonly BusyInterval[], Map<string, LaidTime>>();

function takenTime(
  { busy, knowledge }: LineUpMember,
  { window, tentativeIsFree, unknown = 'busy' }: Laying,
): LaidTime {
  if (knowledge === 'none') {
    const whole = spansOf([window]);
    return unknown === 'busy'
      ? { taken: whole, doubtful: NO_SPANS }
      : { taken: NO_SPANS, doubtful: whole };
  }
  let known = laidBefore.get(busy);
  if (!known) laidBefore.set(busy, (known = new Map()));
  const key = `${tentativeIsFree} ${unknown}`;
  let laid = known.get(key);
  if (!laid) known.set(key, (laid = layTime(busy, tentativeIsFree, unknown)));
  return laid;
}

function layTime(
  busy: readonly BusyInterval[],
  tentativeIsFree: boolean,
  unknown: Wishes['unknown'],
): LaidTime {
  const ignored = (span: BusyInterval) => unknown === 'ignored' && span.occupancy === 'unknown';
  const counts = (span: BusyInterval) =>
    !ignored(span) && !(tentativeIsFree && span.occupancy === 'tentative');
  return {
    taken: spansOf(busy.filter(counts).map(wholeMinutes)),
    doubtful: spansOf(busy.filter(ignored).map(wholeMinutes)),
  };
}

/** Published times may have seconds: a minute that is taken in part is taken. */
const wholeMinutes = (span: BusyInterval): Interval =>
  span.start % MINUTE === 0 && span.end % MINUTE === 0
    ? span
    : {
        start: Math.floor(span.start / MINUTE) * MINUTE,
        end: Math.ceil(span.end / MINUTE) * MINUTE,
      };

type LaidHours = Pick<PreparedMember, 'open' | 'days' | 'closed' | 'absurd' | 'hoursKey'>;

const ALWAYS_OPEN: LaidHours = {
  open: null,
  days: [],
  closed: NO_SPANS,
  absurd: NO_SPANS,
  hoursKey: '',
};

/** From any time to somebody's last and next shift, over a week of days off besides. */
const AROUND = 14 * DAY;

const written = new WeakMap<WorkingHours, string>();

/** Hours as a text, the same for the same hours. */
function textOf(hours: WorkingHours): string {
  let text = written.get(hours);
  if (text === undefined) written.set(hours, (text = JSON.stringify(hours)));
  return text;
}

function sharedHours(tables: (zone: string) => ZoneTable, wishes: Laying) {
  const { window, stretchMinutes, stretches = {} } = wishes;
  const known = new Map<string, LaidHours>();
  return ({ hours, zone, holidays = [], siteId }: LineUpMember): LaidHours => {
    if (!hours) return ALWAYS_OPEN;
    const off = holidays.length ? (siteId ?? JSON.stringify(holidays)) : '';
    const hoursKey = `${zone}|${textOf(hours)}|${off}`;
    let found = known.get(hoursKey);
    if (!found) {
      // What lies around the window tells whether a time is before or after somebody's work.
      const around = { start: window.start - AROUND, end: window.end + AROUND };
      const daysOff = daysOffOf(holidays);
      const more = stretches[zone];
      const open = workingIntervals(hours, tables(zone), around, { daysOff });
      const stretched = workingIntervals(hours, tables(zone), window, {
        early: stretchMinutes + (more?.early ?? 0),
        late: stretchMinutes + (more?.late ?? 0),
        daysOff,
      });
      const [closed, absurd] = [spansOf(gaps(open, window)), spansOf(gaps(stretched, window))];
      found = { open, days: overBreaks(open), closed, absurd, hoursKey };
      known.set(hoursKey, found);
    }
    return found;
  };
}

/** The members that count now. */
export const activeMembers = <T extends LineUpMember>(members: readonly T[]): T[] =>
  members.filter((member) => !member.setAside);

/** How many people other than somebody are not set aside. */
export const othersThan = (
  id: number,
  members: readonly Pick<LineUpMember, 'id' | 'kind' | 'setAside'>[],
): number =>
  members.filter((one) => one.kind === 'person' && !one.setAside && one.id !== id).length;

/** Whether a conflict of this member excludes a time under the wishes. */
export const isNeeded = (
  member: LineUpMember,
  { rule, places = 'listed' }: Pick<Wishes, 'rule'> & Partial<Pick<Wishes, 'places'>>,
): boolean =>
  member.kind === 'resource'
    ? places !== 'ignored'
    : rule === 'everyone' || member.role === 'required';
