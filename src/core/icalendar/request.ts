import {
  fieldOf,
  PROPERTY_FIELD_NAMES,
  type FieldOfMeeting,
  type MeetingFields,
  type PropertyFields,
} from '../meetings/fields.ts';
import ICAL from 'ical.js';
import { formatDayNear, formatTime, zoneCity } from '../time/format.ts';
import { isReadableZone, type WallTime } from '../time/wall.ts';
import type { CalendarAddress, Reply } from './message.ts';
import { plainCharacters, plainLine, readCalendars } from './text.ts';
import {
  instantOf,
  namedDateOf,
  timeIn,
  timeOf,
  timesOf,
  valuesOf,
  wallTimeOf,
  type NamedDate,
  type ReadTime,
} from './times.ts';
import { zoneLike } from './zoneLike.ts';
import { settleZones, type Clock } from './zones.ts';

const METHODS = ['REQUEST', 'CANCEL', 'ADD', 'PUBLISH'] as const;
const MOST_EVENTS = 400;
/** Meetings that one letter tells of. */
const MOST_MEETINGS = 20;
/** Of a large gathering; who of them is kept is decided where it is known who is of here. */
const MOST_ATTENDEES = 5000;
const MOST_DATES_NAMED = 6;
const MOST_CONFERENCES = 5;
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
  /** Whether all later dates are meant, too (RANGE=THISANDFUTURE). */
  andLater: boolean;
  cancelled: boolean;
}

/** What somebody elsewhere sends to those they invite, or tells of (RFC 5546 sections 3.2.1 to 3.2.5). */
export interface RequestMessage {
  method: 'REQUEST' | 'CANCEL' | 'ADD' | 'PUBLISH';
  uid: string;
  sequence: number;
  /** DTSTAMP, epoch milliseconds. */
  stamp: number;
  /** Null where it does not say, which only what is published may do. */
  organizer: CalendarAddress | null;
  attendees: (CalendarAddress & { role: 'required' | 'optional'; reply: Reply })[];
  comment: string;
  /** The whole first, where there is one, then single dates of it. */
  events: AskedEvent[];
  /** What of it is not kept, and what it does not say itself: a sentence each. */
  remarks: string[];
  /** Whether it has times, or whole days, that are by the clock of whoever reads it. */
  isByReader: boolean;
}

/**
 * Reads what somebody elsewhere sends to those they invite: a message for each meeting that it is about.
 * @param clock by which its times are read where it does not say by which
 * @throws UnknownClock where nobody knows by which clock its times are
 * @throws Error with a sentence when it is none of that, or asks for more than is kept
 */
export function parseRequests(text: string, clock: Clock): RequestMessage[] {
  const [calendar] = readCalendars(text);
  const given = String(calendar?.getFirstPropertyValue('method') ?? '').toUpperCase();
  const method = METHODS.find((one) => one === (given || 'PUBLISH'));
  if (!calendar || !method)
    throw new Error(`The calendar part is ${given || 'no message'}, not an invitation.`);
  const parts = calendar.getAllSubcomponents('vevent');
  if (parts.length === 0) throw new Error('The invitation names no event.');
  if (parts.length > MOST_EVENTS)
    throw new Error(`An invitation may tell of at most ${MOST_EVENTS} dates by themselves.`);
  const isFloating = settleZones(calendar, clock);
  const byUid = new Map<string, ICAL.Component[]>();
  for (const part of parts) {
    const uid = plainLine(String(part.getFirstPropertyValue('uid') ?? ''));
    if (!uid || uid.length > 255)
      throw new Error(
        'It does not say by which name its meeting is known (UID), and cannot be kept.',
      );
    byUid.set(uid, [...(byUid.get(uid) ?? []), part]);
  }
  if (byUid.size > MOST_MEETINGS)
    throw new Error(`A letter may tell of at most ${MOST_MEETINGS} meetings.`);
  const reading = { calendar, clock, isFloating };
  return [...byUid].map(([uid, some]) => messageOf(uid, some, method, reading));
}

interface Reading {
  calendar: ICAL.Component;
  clock: Clock;
  isFloating: boolean;
}

function messageOf(
  uid: string,
  parts: readonly ICAL.Component[],
  method: RequestMessage['method'],
  reading: Reading,
): RequestMessage {
  const whole = parts.find((one) => !one.getFirstProperty('recurrence-id'));
  const leading = whole ?? parts[0]!;
  const organizer = addressOf(leading.getFirstProperty('organizer'));
  if (!organizer && method !== 'PUBLISH')
    throw new Error('The invitation does not say who organizes it.');
  const stamp = timeOf(leading, 'dtstamp', reading.calendar);
  const sequence = Number(leading.getFirstPropertyValue('sequence') ?? 0);
  // A program may say the whole twice; the first counts.
  const dates = parts.filter((one) => one.getFirstProperty('recurrence-id'));
  const events = [...(whole ? [whole] : []), ...dates].map((one) => eventOf(one, method, reading));
  return {
    method,
    uid,
    sequence: Number.isSafeInteger(sequence) && sequence >= 0 ? Math.min(sequence, 2 ** 31 - 1) : 0,
    stamp: stamp ? instantOf(stamp, 'UTC') : 0,
    organizer,
    attendees: attendeesOf(leading),
    comment: textOf(leading, 'comment', 2000),
    events,
    remarks: remarksOf(whole, events, method, reading),
    isByReader: reading.isFloating || events.some((one) => one.allDay),
  };
}

/** What of a message is not kept, or not said by it: a sentence each. */
function remarksOf(
  whole: ICAL.Component | undefined,
  events: readonly AskedEvent[],
  method: RequestMessage['method'],
  { calendar, clock, isFloating }: Reading,
): string[] {
  if (method === 'CANCEL') return [];
  const remarks: string[] = [];
  if (isFloating)
    remarks.push(
      `It says no time zone; its times were read by the clock of ${zoneCity(clock.zone ?? 'UTC')}.`,
    );
  const more = (whole?.getAllProperties('rdate') ?? []).flatMap((one) => rdatesOf(one, calendar));
  if (more.length > 0) {
    const { zone, startsAt } = events[0]!;
    const named = more
      .slice(0, MOST_DATES_NAMED)
      .map((one) => dateWords(wallTimeOf(one, zone), one.isDate, startsAt));
    const rest = more.length - named.length;
    remarks.push(
      `It happens on single dates besides, which are not kept here: ${named.join(', ')}${rest > 0 ? ` and ${rest} more` : ''} (${zoneCity(zone)} time).`,
    );
  }
  if (events.some((one) => one.andLater && !one.cancelled))
    remarks.push(
      'It says other things of one date and of all after it; only that date is kept so. Its later dates stand as they were.',
    );
  return remarks;
}

/** A date by the clock of its own zone, beside another: `Fri 4 Jun 10:00`. */
export const dateWords = (wall: WallTime, isDay: boolean, beside: WallTime): string => {
  const [at, near] = [wall, beside].map((one) => Date.parse(`${one}Z`)) as [number, number];
  const day = formatDayNear(at, near, 'UTC');
  return isDay ? day : `${day} ${formatTime(at, 'UTC')}`;
};

/** The dates of an RDATE; of a period, its beginning. */
const rdatesOf = (property: ICAL.Property, calendar: ICAL.Component): ReadTime[] =>
  valuesOf(property).flatMap(
    (value) => timeIn(Array.isArray(value) ? value[0] : value, property, calendar) ?? [],
  );

const wordOf = (event: ICAL.Component, name: string): string =>
  String(event.getFirstPropertyValue(name) ?? '').toUpperCase();

/** The fields that have a property of their own, each as far as it can be kept. */
const propertiesOf = (event: ICAL.Component): PropertyFields =>
  Object.fromEntries(
    PROPERTY_FIELD_NAMES.map((name) => [name, propertyOf(event, fieldOf(name))]),
  ) as PropertyFields;

/** Ways into a meeting that is held online (RFC 7986 section 5.11), a line each. */
function conferencesOf(event: ICAL.Component): string[] {
  return event
    .getAllProperties('conference')
    .slice(0, MOST_CONFERENCES)
    .flatMap((property) => {
      const address = plainLine(String(property.getFirstValue() ?? '').slice(0, 1000));
      if (!/^(?:https?|tel|sips?|xmpp):/i.test(address)) return [];
      const label = property.getFirstParameter('label');
      const name = typeof label === 'string' ? plainLine(label.slice(0, 200)) : '';
      return [`${name || 'To take part from elsewhere'}: ${address}`];
    });
}

function propertyOf(event: ICAL.Component, field: FieldOfMeeting): string | number {
  const property = field.property!;
  switch (field.kind) {
    case 'line':
      return plainLine(textOf(event, property, field.longest));
    case 'rich':
      // Kept as HTML, which is longer.
      return textWith(
        textOf(event, property, Math.floor(field.longest * PLAIN_SHARE)),
        property === 'description' ? conferencesOf(event) : [],
        Math.floor(field.longest * PLAIN_SHARE),
      );
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

/** A text with lines below it that it does not hold already; what is too long gives way to them. */
function textWith(text: string, lines: readonly string[], most: number): string {
  const more = lines.filter((line) => !text.includes(line.slice(line.indexOf(': ') + 2)));
  if (more.length === 0) return text;
  const below = more.join('\n');
  return [text.slice(0, most - below.length - 2), below].filter(Boolean).join('\n\n');
}

const textOf = (event: ICAL.Component, name: string, most: number): string =>
  plainCharacters(String(event.getFirstPropertyValue(name) ?? ''))
    .trim()
    .slice(0, most);

const PLAIN_ADDRESS = /^[^\s@<>]+@[^\s@<>]+$/;

/** The mail address of somebody: the one they are named by, or what EMAIL says beside it (RFC 7986 section 6.2). */
export function emailOf(property: ICAL.Property | null): string | null {
  const said = [property?.getFirstValue(), property?.getFirstParameter('email')];
  for (const one of said) {
    if (typeof one !== 'string') continue;
    const email = plainLine(one.slice(0, 300))
      .replace(/^mailto:/i, '')
      .toLowerCase();
    if (email.length <= 254 && PLAIN_ADDRESS.test(email)) return email;
  }
  return null;
}

function addressOf(property: ICAL.Property | null): CalendarAddress | null {
  const email = emailOf(property);
  if (email === null) return null;
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

function eventOf(
  event: ICAL.Component,
  method: RequestMessage['method'],
  { calendar, clock }: Reading,
): AskedEvent {
  const start = timeOf(event, 'dtstart', calendar);
  const occurrence = timeOf(event, 'recurrence-id', calendar);
  const isGone = method === 'CANCEL';
  // A cancellation need say no more than which meeting, or which date (RFC 5546 section 3.2.5): when that would
  // have been means nothing then.
  const begin = start ?? occurrence ?? (isGone ? timeOf(event, 'dtstamp', calendar) : null);
  if (!begin) throw new Error('The invitation does not say when it is.');
  const allDay = begin.isDate;
  // One date of a series has no rule of its own (RFC 5545 section 3.8.4.4).
  const rrule = occurrence ? null : event.getFirstPropertyValue('rrule');
  const named = begin.tzid !== null && isReadableZone(begin.tzid) ? begin.tzid : null;
  const isFixed = allDay || begin.tzid === null || named !== null;
  // The dates of a series need a zone whose clock is known for ever.
  const alike =
    rrule && !isFixed && !isGone ? zoneLike(calendar, begin.tzid!, instantOf(begin, 'UTC')) : null;
  if (rrule && !isFixed && !isGone && alike === null)
    throw new Error(
      `It repeats by a clock that is no known zone’s (${plainLine(begin.tzid!).slice(0, 60)}), which cannot be kept.`,
    );
  const zone = named ?? alike ?? (allDay ? clock.zone : null) ?? 'UTC';
  const startsAt = wallTimeOf(begin, zone);
  // A series may have begun long ago.
  if (!isGone && ((startsAt < '2000' && !rrule) || startsAt < '1900' || startsAt >= '2100'))
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
    lengthMinutes: isGone ? 1 : minutesOf(event, calendar, begin, allDay),
    fields: { ...said, title: said.title || 'Without a title', showsAs, visibility },
    rule: rrule ? String(rrule) : null,
    except: rrule ? exceptionsOf(event, calendar, zone) : [],
    occurrence: occurrence && namedDateOf(occurrence),
    andLater:
      String(event.getFirstProperty('recurrence-id')?.getFirstParameter('range') ?? '') ===
      'THISANDFUTURE',
    cancelled: isGone || status === 'CANCELLED',
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
