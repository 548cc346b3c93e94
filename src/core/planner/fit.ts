import { brokenTerms, type BrokenTerm } from '../booking/terms.ts';
import { DAY, MINUTE, overlaps, type Interval } from '../time/interval.ts';
import { standing } from '../time/spans.ts';
import { dateAt } from '../time/wall.ts';
import { isOffAt } from '../time/workingHours.ts';
import { toLocal, zoneTable, type ZoneTable } from '../time/zoneTable.ts';
import { outsideHours } from './hours.ts';
import { prepareLineUp, type LineUpMember, type PreparedMember } from './lineUp.ts';

export const FIT_STATES = [
  'free',
  'outside',
  'holiday',
  'tentative',
  'busy',
  'away',
  'unknown',
  'barred',
] as const;
export type FitState = (typeof FIT_STATES)[number];

/** What a proposed time means for one member of the line-up. */
export interface Fit {
  id: number;
  /** `free` within their hours; `unknown` when nothing is shared or published. */
  state: FitState;
  /** Whether they are free and their hours are left by no more than they may be. */
  couldCome: boolean;
  /** When what is in the way ends, where it is a span of time; epoch milliseconds. */
  until: number | null;
  /** The name of the public holiday, for that state. */
  holiday: string | null;
  /** What a place asks of bookings that a meeting at that time would not keep, where it is that. */
  broken?: BrokenTerm;
}

const ORDER = ['tentative', 'unknown', 'barred', 'busy', 'away'] as const;

/**
 * Answers how times fit a line-up, member by member; laid out once, so that asking is cheap.
 * Members set aside are left out.
 */
export class LineUpFit {
  private readonly prepared: readonly PreparedMember[];
  private readonly tables = new Map<string, ZoneTable>();

  constructor(
    members: readonly LineUpMember[],
    private readonly window: Interval,
    /** By how many minutes hours may be left by whoever could come. */
    stretchMinutes = 0,
  ) {
    this.prepared = prepareLineUp(
      members.filter((member) => !member.setAside),
      { window, stretchMinutes, tentativeIsFree: false },
    );
  }

  /**
   * How a time fits everyone, the gravest state of each. The time lies inside the window; it may be a
   * moment, of which nothing is asked that a place asks of bookings.
   */
  at(span: Interval): Fit[] {
    return this.prepared.map((member) => this.fit(member, span));
  }

  private fit(member: PreparedMember, span: Interval): Fit {
    const plain = { id: member.id, until: null, holiday: null, couldCome: false };
    if (member.knowledge === 'none') return { ...plain, state: 'unknown' };
    const clashes = member.busy.filter((busy) => overlaps(busy, span));
    const gravest = ORDER.findLast((state) => clashes.some((busy) => busy.occupancy === state));
    if (gravest) {
      const those = clashes.filter((busy) => busy.occupancy === gravest);
      return { ...plain, state: gravest, until: Math.max(...those.map((busy) => busy.end)) };
    }
    const change = member.changeovers?.find((one) => overlaps(one, span));
    if (change) return { ...plain, state: 'busy', until: change.end };
    const couldCome = !standing(member.absurd, span).overlaps;
    if (!outsideHours(member, span)) return { ...plain, couldCome, state: 'free' };
    const holiday = this.holidayOf(member, span.start);
    return { ...plain, couldCome, holiday, state: holiday ? 'holiday' : 'outside' };
  }

  private holidayOf(member: LineUpMember, instant: number): string | null {
    if (!member.holidays?.length) return null;
    let table = this.tables.get(member.zone);
    if (!table) this.tables.set(member.zone, (table = zoneTable(member.zone, this.window)));
    const local = toLocal(table, instant);
    const midnight = Math.floor(local / DAY) * DAY;
    const date = dateAt(midnight, 'UTC');
    const minute = (local - midnight) / MINUTE;
    return member.holidays.find((one) => one.date === date && isOffAt(one, minute))?.name ?? null;
  }
}

/** How a meeting at one time fits everyone who is not set aside, what places ask of bookings included. */
export function fitOf(members: readonly LineUpMember[], meeting: Interval): Fit[] {
  const terms = new Map(members.map((one) => [one.id, one.terms]));
  return new LineUpFit(members, meeting).at(meeting).map((fit) => {
    const asked = terms.get(fit.id);
    const [broken] = asked && fit.state === 'free' ? brokenTerms(asked, meeting) : [];
    return broken ? { ...fit, state: 'barred', broken } : fit;
  });
}
