import {
  fieldOf,
  PROPERTY_FIELD_NAMES,
  type FieldOfMeeting,
  type MeetingFields,
  type PropertyFields,
} from '../meetings/fields.ts';
import ICAL from 'ical.js';
import { isReadableZone, type WallTime } from '../time/wall.ts';
import type { CalendarAddress, Reply } from './message.ts';
import { plainCharacters, plainLine, readCalendars } from './text.ts';
import { instantOf, namedDateOf, timeOf, timesOf, wallTimeOf, type NamedDate } from './times.ts';
import { zoneLike } from './zoneLike.ts';

const MOST_EVENTS = 400;
const MOST_ATTENDEES = 500;
const MOST_DATES = 500;
const LONGEST_MINUTES = 62 * 1440;
/** So much of what a text may be long is read of it as plain text. */
const PLAIN_SHARE = 0.75;

/** When something of somebody else's happens, in the zone in which they wrote it. */
export interface AskedSpan {
  startsAt: WallTime;
  zone: string;
  lengthMinutes: number;
  allDay: boolean;
}

/** A meeting of somebody elsewhere, or one date of it, as their message says it. */
export interface AskedEvent extends AskedSpan {
  /** What it says of itself; texts are plain. */
  fields: PropertyFields & Pick<MeetingFields, 'showsAs' | 'visibility'>;
  rule: string | null;
  except: WallTime[];
  /** The one date that it is about, by its place in the rule. */
  occurrence: NamedDate | null;
  cancelled: boolean;
}

/** What somebody elsewhere sends to those they invite (RFC 5546 section 3.2). */
export interface RequestMessage {
  method: 'REQUEST' | 'CANCEL' | 'ADD';
  uid: string;
  sequence: number;
  /** DTSTAMP, epoch milliseconds. */
  stamp: number;
  organizer: CalendarAddress;
  attendees: (CalendarAddress & { role: 'required' | 'optional'; reply: Reply })[];
  comment: string;
  /** The whole first, where there is one, then single dates of it. */
  events: AskedEvent[];
}

/**
 * Reads what somebody elsewhere sends to those they invite.
 * @throws Error with a sentence when it is none of that, or asks for more than is kept
 */
export function parseRequest(text: string): RequestMessage {
  const [calendar] = readCalendars(text);
  const method = String(calendar?.getFirstPropertyValue('method') ?? '').toUpperCase();
  if (!calendar || (method !== 'REQUEST' && method !== 'CANCEL' && method !== 'ADD'))
    throw new Error(`The calendar part is ${method || 'no message'}, not an invitation.`);
  const parts = calendar.getAllSubcomponents('vevent');
  if (parts.length === 0) throw new Error('The invitation names no event.');
  if (parts.length > MOST_EVENTS)
    throw new Error(`An invitation may tell of at most ${MOST_EVENTS} dates by themselves.`);
  const whole = parts.find((one) => !one.getFirstProperty('recurrence-id'));
  const leading = whole ?? parts[0]!;
  const uid = plainLine(String(leading.getFirstPropertyValue('uid') ?? ''));
  if (!uid || uid.length > 255) throw new Error('The invitation has no UID that can be kept.');
  if (parts.some((one) => String(one.getFirstPropertyValue('uid')) !== uid))
    throw new Error('The invitation is to more than one meeting.');
  const organizer = addressOf(leading.getFirstProperty('organizer'));
  if (!organizer) throw new Error('The invitation does not say who organizes it.');
  const stamp = timeOf(leading, 'dtstamp', calendar);
  const sequence = Number(leading.getFirstPropertyValue('sequence') ?? 0);
  const ordered = whole ? [whole, ...parts.filter((one) => one !== whole)] : parts;
  return {
    method,
    uid,
    sequence: Number.isSafeInteger(sequence) && sequence >= 0 ? Math.min(sequence, 2 ** 31 - 1) : 0,
    stamp: stamp ? instantOf(stamp, 'UTC') : 0,
    organizer,
    attendees: attendeesOf(leading),
    comment: textOf(leading, 'comment', 2000),
    events: ordered.map((one) => eventOf(one, calendar, method === 'CANCEL')),
  };
}

const wordOf = (event: ICAL.Component, name: string): string =>
  String(event.getFirstPropertyValue(name) ?? '').toUpperCase();

/** The fields that have a property of their own, each as far as it can be kept. */
const propertiesOf = (event: ICAL.Component): PropertyFields =>
  Object.fromEntries(
    PROPERTY_FIELD_NAMES.map((name) => [name, propertyOf(event, fieldOf(name))]),
  ) as PropertyFields;

function propertyOf(event: ICAL.Component, field: FieldOfMeeting): string | number {
  const property = field.property!;
  switch (field.kind) {
    case 'line':
      return plainLine(textOf(event, property, field.longest));
    case 'rich':
      // Kept as HTML, which is longer.
      return textOf(event, property, Math.floor(field.longest * PLAIN_SHARE));
    case 'choice': {
      const given = wordOf(event, property).toLowerCase();
      return field.among.includes(given) ? given : field.usual;
    }
    case 'number': {
      const given = Number(event.getFirstPropertyValue(property) ?? NaN);
      const isOne = Number.isInteger(given) && given >= field.least && given <= field.most;
      return isOne ? given : field.usual;
    }
  }
}

const textOf = (event: ICAL.Component, name: string, most: number): string =>
  plainCharacters(String(event.getFirstPropertyValue(name) ?? ''))
    .trim()
    .slice(0, most);

function addressOf(property: ICAL.Property | null): CalendarAddress | null {
  const email = plainLine(String(property?.getFirstValue() ?? ''))
    .replace(/^mailto:/i, '')
    .toLowerCase();
  if (!/^[^\s@<>]+@[^\s@<>]+$/.test(email) || email.length > 254) return null;
  const sentBy = property!.getFirstParameter('sent-by');
  const cn = property!.getFirstParameter('cn');
  return {
    email,
    name: plainLine(typeof cn === 'string' ? cn : '').slice(0, 120) || email,
    ...(typeof sentBy === 'string' && {
      sentBy: sentBy
        .replace(/^"?mailto:/i, '')
        .replace(/"$/, '')
        .toLowerCase(),
    }),
  };
}

const REPLIES: Record<string, Reply> = {
  ACCEPTED: 'accepted',
  TENTATIVE: 'tentative',
  DECLINED: 'declined',
  DELEGATED: 'declined',
};

function attendeesOf(event: ICAL.Component): RequestMessage['attendees'] {
  const properties = event
    .getAllProperties('attendee')
    .filter((one) => !/^(ROOM|RESOURCE)$/i.test(String(one.getFirstParameter('cutype') ?? '')));
  if (properties.length > MOST_ATTENDEES)
    throw new Error(`An invitation may name at most ${MOST_ATTENDEES} people.`);
  const seen = new Set<string>();
  return properties.flatMap((property) => {
    const address = addressOf(property);
    if (!address || seen.has(address.email)) return [];
    seen.add(address.email);
    const role = String(property.getFirstParameter('role') ?? '').toUpperCase();
    const said = String(property.getFirstParameter('partstat') ?? '').toUpperCase();
    return [
      {
        name: address.name,
        email: address.email,
        role: role === 'OPT-PARTICIPANT' ? ('optional' as const) : ('required' as const),
        reply: REPLIES[said] ?? 'needs-action',
      },
    ];
  });
}

function eventOf(event: ICAL.Component, calendar: ICAL.Component, cancelled: boolean): AskedEvent {
  const start = timeOf(event, 'dtstart', calendar);
  const occurrence = timeOf(event, 'recurrence-id', calendar);
  // A cancellation of one date may say no more than which (RFC 5546 section 3.2.5).
  const begin = start ?? occurrence;
  if (!begin) throw new Error('The invitation does not say when it is.');
  const allDay = begin.isDate;
  // One date of a series has no rule of its own (RFC 5545 section 3.8.4.4).
  const rrule = occurrence ? null : event.getFirstPropertyValue('rrule');
  const named = begin.tzid !== null && isReadableZone(begin.tzid) ? begin.tzid : null;
  const isFixed = allDay || begin.tzid === null || named !== null;
  // The dates of a series need a zone whose clock is known for ever.
  const alike = rrule && !isFixed ? zoneLike(calendar, begin.tzid!, instantOf(begin, 'UTC')) : null;
  if (rrule && !isFixed && alike === null)
    throw new Error(
      `It repeats by a clock that is no known zone’s (${plainLine(begin.tzid!).slice(0, 60)}), which cannot be kept.`,
    );
  const zone = named ?? alike ?? 'UTC';
  const startsAt = wallTimeOf(begin, zone);
  if (startsAt < '2000' || startsAt >= '2100')
    throw new Error('The meeting must lie between the years 2000 and 2099.');
  const status = wordOf(event, 'status');
  const said = propertiesOf(event);
  const showsAs = wordOf(event, 'transp') === 'TRANSPARENT' ? 'free' : 'busy';
  const visibility = /^(PRIVATE|CONFIDENTIAL)$/.test(wordOf(event, 'class'))
    ? 'private'
    : 'default';
  return {
    startsAt,
    zone,
    allDay,
    lengthMinutes: minutesOf(event, calendar, begin, allDay),
    fields: { ...said, title: said.title || 'Without a title', showsAs, visibility },
    rule: rrule ? String(rrule) : null,
    except: rrule ? exceptionsOf(event, calendar, zone) : [],
    occurrence: occurrence && namedDateOf(occurrence),
    cancelled: cancelled || status === 'CANCELLED',
  };
}

/**
 * What a series leaves out, in its wall time: of a date its midnight. In order.
 * @throws Error where there are too many
 */
function exceptionsOf(event: ICAL.Component, calendar: ICAL.Component, zone: string): WallTime[] {
  const exceptions: WallTime[] = [];
  for (const property of event.getAllProperties('exdate')) {
    const times = timesOf(property, calendar);
    if (exceptions.length + times.length > MOST_DATES)
      throw new Error(`An invitation may leave out at most ${MOST_DATES} dates.`);
    for (const time of times) exceptions.push(wallTimeOf(time, zone));
  }
  return exceptions.sort();
}

/** How long it lasts: until DTEND, for a DURATION, for a day, or for no time at all. Minutes. */
function minutesOf(
  event: ICAL.Component,
  calendar: ICAL.Component,
  start: NonNullable<ReturnType<typeof timeOf>>,
  allDay: boolean,
): number {
  const end = timeOf(event, 'dtend', calendar);
  const duration = event.getFirstPropertyValue('duration');
  const minutes = end
    ? (instantOf(end, 'UTC') - instantOf(start, 'UTC')) / 60_000
    : duration instanceof ICAL.Duration
      ? duration.toSeconds() / 60
      : 0;
  const kept = allDay ? Math.max(1440, Math.round(minutes / 1440) * 1440) : Math.round(minutes);
  if (minutes < 0) throw new Error('The meeting ends before it begins.');
  if (kept > LONGEST_MINUTES) throw new Error('A meeting may last at most 62 days.');
  // What lasts no time at all is a moment in a calendar.
  return Math.max(kept, 1);
}
