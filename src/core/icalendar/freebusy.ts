import ICAL from 'ical.js';
import type { BusyInterval } from '../availability/busy.ts';
import { merge, type Interval } from '../time/interval.ts';
import { calendarText, plainLine, readCalendars } from './text.ts';
import { instantOf, timeIn, timeOf, valuesOf } from './times.ts';

/** Busy times as somebody publishes them (RFC 5545 section 3.6.4). */
export interface PublishedFreeBusy {
  /** What the times are of, in order, disjoint: outside it nothing is said, which is not free. */
  covers: Interval[];
  /** In the order published. */
  busy: BusyInterval[];
}

/** FBTYPE (RFC 5545 section 3.2.9); unknown types are to be treated as BUSY. */
const OCCUPANCY: Record<string, BusyInterval['occupancy'] | null> = {
  FREE: null,
  'BUSY-UNAVAILABLE': 'away',
  'BUSY-TENTATIVE': 'tentative',
};
const TYPES = { busy: 'BUSY', away: 'BUSY-UNAVAILABLE', tentative: 'BUSY-TENTATIVE' } as const;

const MOST_PERIODS = 20_000;

/**
 * Reads what a calendar publishes of somebody's time, in as many VFREEBUSY as it likes.
 * @param zone where dates and times without a zone are meant
 * @throws Error with a sentence when the text is no calendar, publishes no free/busy or does not say
 *   of which time
 */
export function parseFreeBusy(text: string, zone = 'UTC'): PublishedFreeBusy {
  const parts = readCalendars(text).flatMap((calendar) =>
    calendar.getAllSubcomponents('vfreebusy').map((part) => ({ part, calendar })),
  );
  if (parts.length === 0) throw new Error('The calendar holds no free/busy times (VFREEBUSY).');
  const covers: Interval[] = [];
  const busy: BusyInterval[] = [];
  for (const { part, calendar } of parts) {
    covers.push(coveredBy(part, calendar, zone));
    for (const span of periodsOf(part, calendar, zone)) {
      busy.push(span);
      if (busy.length > MOST_PERIODS)
        throw new Error(`The free/busy times hold more than ${MOST_PERIODS} periods.`);
    }
  }
  return { covers: merge(covers), busy };
}

function coveredBy(part: ICAL.Component, calendar: ICAL.Component, zone: string): Interval {
  const [from, to] = [timeOf(part, 'dtstart', calendar), timeOf(part, 'dtend', calendar)];
  const [start, end] = [from && instantOf(from, zone), to && instantOf(to, zone)];
  if (start === null || end === null || start >= end)
    throw new Error('The free/busy times do not say of which time they are (DTSTART and DTEND).');
  return { start, end };
}

function* periodsOf(
  part: ICAL.Component,
  calendar: ICAL.Component,
  zone: string,
): Generator<BusyInterval> {
  for (const property of part.getAllProperties('freebusy')) {
    const type = String(property.getFirstParameter('fbtype') || 'BUSY').toUpperCase();
    const occupancy = type in OCCUPANCY ? OCCUPANCY[type]! : 'busy';
    if (!occupancy) continue;
    for (const value of valuesOf(property)) {
      if (!Array.isArray(value)) continue;
      const [from, until] = value as unknown[];
      const begin = timeIn(from, property, calendar);
      if (!begin) continue;
      const start = instantOf(begin, zone);
      const end = timeIn(until, property, calendar);
      const stop = end ? instantOf(end, zone) : start + secondsOf(until) * 1000;
      if (start < stop) yield { start, end: stop, occupancy };
    }
  }
}

/** The length of a duration such as `PT1H30M`; none of anything else. */
function secondsOf(text: unknown): number {
  try {
    return ICAL.Duration.fromString(String(text)).toSeconds();
  } catch {
    return 0;
  }
}

/** Writes somebody's busy times as they would publish them, in UTC. */
export function composeFreeBusy(
  owner: { name: string; email: string; url: string },
  { covers, busy }: { covers: Interval; busy: readonly BusyInterval[] },
  stamp: number,
): string {
  const utc = (instant: number) => ICAL.Time.fromJSDate(new Date(instant), true);
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('prodid', '-//Marmot//Marmot 0.1//EN');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('method', 'PUBLISH');
  const part = new ICAL.Component('vfreebusy');
  part.addPropertyWithValue('uid', owner.url);
  part.addPropertyWithValue('dtstamp', utc(stamp));
  part
    .addPropertyWithValue('organizer', `mailto:${owner.email}`)
    .setParameter('cn', plainLine(owner.name));
  part.addPropertyWithValue('url', owner.url);
  part.addPropertyWithValue('dtstart', utc(covers.start));
  part.addPropertyWithValue('dtend', utc(covers.end));
  for (const { start, end, occupancy } of busy) {
    if (occupancy === 'unknown' || occupancy === 'barred') continue;
    const period = ICAL.Period.fromData({ start: utc(start), end: utc(end) });
    part.addPropertyWithValue('freebusy', period).setParameter('fbtype', TYPES[occupancy]);
  }
  calendar.addSubcomponent(part);
  return calendarText(calendar);
}
