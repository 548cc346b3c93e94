import { fieldOf, PROPERTY_FIELD_NAMES } from '../meetings/fields.ts';
import ICAL from 'ical.js';
import { parseRule, ruleText } from '../recurrence/rule.ts';
import { addDays, resolveWallTime, wallTimeAt, type WallTime } from '../time/wall.ts';
import type { MeetingMessage, MessageAttendee, MessageResource } from './message.ts';
import { calendarText, plainCharacters, plainLine } from './text.ts';
import { timezoneComponent } from './timezone.ts';

const PRODUCT = '-//Marmot//Marmot 0.1//EN';

const ROLE = {
  required: 'REQ-PARTICIPANT',
  optional: 'OPT-PARTICIPANT',
} as const;

const utc = (instant: number) => ICAL.Time.fromJSDate(new Date(instant), true);

/**
 * Writes a meeting as an iTIP message (RFC 5546).
 * A single meeting is given in UTC, which says the instant even where a clock repeats an hour;
 * a series is given in wall time with its VTIMEZONE, so that it keeps its local hour.
 */
export function composeMessage(message: MeetingMessage): string {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('prodid', PRODUCT);
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('calscale', 'GREGORIAN');
  calendar.addPropertyWithValue('method', message.method);
  const { zone, allDay } = originalOf(message);
  if ((message.series || message.recurrenceId) && !allDay) {
    const first = message.recurrenceId
      ? resolveWallTime(message.recurrenceId, zone).instant
      : message.start;
    calendar.addSubcomponent(timezoneComponent(zone, first, lastStart(message)));
  }
  for (const one of [message, ...(message.changed ?? [])]) {
    calendar.addSubcomponent(eventComponent(one));
  }
  return calendarText(calendar);
}

/** The series' own zone and kind of time. */
const originalOf = ({ original, zone, allDay }: MeetingMessage) => original ?? { zone, allDay };

/** The latest start that a zone has to explain; null when the series has no end that is known. */
function lastStart(message: MeetingMessage): number | null {
  const alone = (message.changed ?? []).map((one) => one.start);
  if (!message.series) return message.start;
  const { until } = parseRule(message.series.rule);
  if (until === null) return null;
  const end = until.endsWith('Z')
    ? Date.parse(until)
    : resolveWallTime(`${until}T23:59`, message.zone).instant;
  return Math.max(end, ...alone);
}

function eventComponent(message: MeetingMessage): ICAL.Component {
  const event = new ICAL.Component('vevent');
  event.addPropertyWithValue('uid', message.uid);
  event.addPropertyWithValue('sequence', message.sequence);
  event.addPropertyWithValue('dtstamp', utc(message.stamp));
  addTimes(event, message);
  if (message.recurrenceId) {
    const { zone, allDay } = originalOf(message);
    addWallTime(event, 'recurrence-id', message.recurrenceId, zone, allDay);
  }
  const addText = (name: string, text: string | undefined) => {
    if (text) event.addPropertyWithValue(name, plainCharacters(text));
  };
  for (const name of PROPERTY_FIELD_NAMES) {
    const [field, value] = [fieldOf(name), message.fields[name]];
    if (field.kind === 'line') addText(field.property!, plainLine(value as string));
    else if (field.kind === 'rich') addText(field.property!, value as string);
    else if (field.property !== 'status' && value !== field.usual)
      event.addPropertyWithValue(field.property!, String(value).toUpperCase());
  }
  addText('comment', message.comment);
  event.addPropertyWithValue('status', statusOf(message));
  event.addPropertyWithValue('transp', message.transparent ? 'TRANSPARENT' : 'OPAQUE');
  event.addPropertyWithValue('class', message.confidential ? 'PRIVATE' : 'PUBLIC');
  const organizer = event.addPropertyWithValue('organizer', `mailto:${message.organizer.email}`);
  organizer.setParameter('cn', plainLine(message.organizer.name));
  if (message.organizer.sentBy)
    organizer.setParameter('sent-by', `mailto:${message.organizer.sentBy}`);
  for (const attendee of message.attendees) addAttendee(event, attendee, message.method);
  for (const resource of message.resources) addResource(event, resource);
  return event;
}

/** STATUS: cancelled, or what is said of how certain it is. */
const statusOf = ({ method, fields }: MeetingMessage): string =>
  method === 'CANCEL' ? 'CANCELLED' : fields.certainty.toUpperCase();

function addTimes(event: ICAL.Component, message: MeetingMessage) {
  if (message.allDay) {
    const day = (instant: number) =>
      ICAL.Time.fromDateString(wallTimeAt(instant, message.zone).slice(0, 10));
    event.addPropertyWithValue('dtstart', day(message.start));
    event.addPropertyWithValue('dtend', day(message.end));
  } else if (message.series) {
    addWallTime(event, 'dtstart', message.series.startsAt, message.zone);
    addWallTime(event, 'dtend', wallEnd(message), message.zone);
  } else {
    event.addPropertyWithValue('dtstart', utc(message.start));
    event.addPropertyWithValue('dtend', utc(message.end));
  }
  if (!message.series) return;
  event.addPropertyWithValue('rrule', ICAL.Recur.fromString(standardRule(message)));
  for (const wall of message.series.except)
    addWallTime(event, 'exdate', wall, message.zone, message.allDay);
}

/** The rule with its last day as RFC 5545 section 3.3.10 wants it: in UTC where the start has a time. */
function standardRule({ series, zone, allDay }: MeetingMessage): string {
  const rule = parseRule(series!.rule);
  if (allDay || rule.until === null || rule.until.endsWith('Z')) return series!.rule;
  const dayAfter = resolveWallTime(`${addDays(rule.until, 1)}T00:00`, zone).instant;
  const until = new Date(dayAfter - 60_000).toISOString();
  return ruleText({ ...rule, until: `${until.slice(0, 16)}Z` });
}

const wallEnd = ({ series, start, end, zone }: MeetingMessage): WallTime =>
  wallTimeAt(resolveWallTime(series!.startsAt, zone).instant + (end - start), zone);

function addWallTime(
  event: ICAL.Component,
  name: string,
  wall: WallTime,
  zone: string,
  allDay = false,
) {
  if (allDay) {
    event.addPropertyWithValue(name, ICAL.Time.fromDateString(wall.slice(0, 10)));
    return;
  }
  const property = event.addPropertyWithValue(name, ICAL.Time.fromDateTimeString(`${wall}:00`));
  property.setParameter('tzid', zone);
}

function addAttendee(
  event: ICAL.Component,
  attendee: MessageAttendee,
  method: MeetingMessage['method'],
) {
  const property = event.addPropertyWithValue('attendee', `mailto:${attendee.email}`);
  property.setParameter('cn', plainLine(attendee.name));
  property.setParameter('cutype', 'INDIVIDUAL');
  property.setParameter('role', ROLE[attendee.role]);
  property.setParameter('partstat', attendee.reply.toUpperCase());
  if (attendee.sentBy) property.setParameter('sent-by', `mailto:${attendee.sentBy}`);
  if (method === 'REQUEST' && attendee.reply === 'needs-action')
    property.setParameter('rsvp', 'TRUE');
}

/** A reserved place or thing: nobody is asked, it has accepted (RFC 5545 section 3.2.3). */
function addResource(event: ICAL.Component, resource: MessageResource) {
  const property = event.addPropertyWithValue('attendee', resource.uri);
  property.setParameter('cn', plainLine(resource.name));
  property.setParameter('cutype', resource.isRoom ? 'ROOM' : 'RESOURCE');
  property.setParameter('role', 'NON-PARTICIPANT');
  property.setParameter('partstat', 'ACCEPTED');
}
