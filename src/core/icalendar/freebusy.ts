import ICAL from 'ical.js';
import type { BusyInterval } from '../availability/busy.ts';
import type { Interval } from '../time/interval.ts';

/** Busy times as somebody publishes them (RFC 5545 section 3.6.4). */
export interface PublishedFreeBusy {
  /** What the times are of: outside it nothing is said, which is not free. */
  covers: Interval;
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
 * Reads the first VFREEBUSY of a calendar.
 * @throws Error with a sentence when the text is no calendar, publishes no free/busy or does not say
 *   of which time
 */
export function parseFreeBusy(text: string): PublishedFreeBusy {
  const parsed = readCalendar(text);
  const part = parsed.getFirstSubcomponent('vfreebusy');
  if (!part) throw new Error('The calendar holds no free/busy times (VFREEBUSY).');
  const start = instantOf(part.getFirstPropertyValue('dtstart'));
  const end = instantOf(part.getFirstPropertyValue('dtend'));
  if (start === null || end === null || start >= end)
    throw new Error('The free/busy times do not say of which time they are (DTSTART and DTEND).');
  const busy: BusyInterval[] = [];
  for (const property of part.getAllProperties('freebusy')) {
    const type = String(property.getFirstParameter('fbtype') || 'BUSY').toUpperCase();
    const occupancy = type in OCCUPANCY ? OCCUPANCY[type]! : 'busy';
    if (!occupancy) continue;
    for (const value of property.getValues()) {
      const span = spanOf(value);
      if (span) busy.push({ ...span, occupancy });
      if (busy.length > MOST_PERIODS)
        throw new Error(`The free/busy times hold more than ${MOST_PERIODS} periods.`);
    }
  }
  return { covers: { start, end }, busy };
}

function readCalendar(text: string): ICAL.Component {
  try {
    return new ICAL.Component(ICAL.parse(text) as unknown[]);
  } catch {
    throw new Error('What is published there is no iCalendar text.');
  }
}

const instantOf = (value: unknown): number | null =>
  value instanceof ICAL.Time ? value.toJSDate().getTime() : null;

function spanOf(value: unknown): Interval | null {
  if (!(value instanceof ICAL.Period)) return null;
  const start = value.start.toJSDate().getTime();
  const end = value.getEnd().toJSDate().getTime();
  return start < end ? { start, end } : null;
}

/** Writes somebody's busy times as they would publish them, in UTC. */
export function composeFreeBusy(
  owner: { name: string; email: string; url: string },
  { covers, busy }: PublishedFreeBusy,
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
  part.addPropertyWithValue('organizer', `mailto:${owner.email}`).setParameter('cn', owner.name);
  part.addPropertyWithValue('url', owner.url);
  part.addPropertyWithValue('dtstart', utc(covers.start));
  part.addPropertyWithValue('dtend', utc(covers.end));
  for (const { start, end, occupancy } of busy) {
    if (occupancy === 'unknown') continue;
    const period = ICAL.Period.fromData({ start: utc(start), end: utc(end) });
    part.addPropertyWithValue('freebusy', period).setParameter('fbtype', TYPES[occupancy]);
  }
  calendar.addSubcomponent(part);
  return calendar.toString();
}
