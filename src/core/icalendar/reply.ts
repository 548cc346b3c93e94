import ICAL from 'ical.js';
import type { Interval } from '../time/interval.ts';
import type { Reply } from './message.ts';
import { calendarText, plainCharacters, readCalendars } from './text.ts';

const utc = (instant: number) => ICAL.Time.fromJSDate(new Date(instant), true);

/**
 * Answers a REQUEST as one of its attendees would (RFC 5546 section 3.2.3): the same UID, SEQUENCE
 * and times, and the one attendee with the answer.
 * @throws Error when the text is no calendar with an event
 */
export function composeReply(
  request: string,
  answer: {
    email: string;
    reply: Reply;
    comment: string;
    stamp: number;
    /** Another time that is asked for, which makes it a COUNTER (section 3.2.7). */
    instead?: Interval | undefined;
  },
): string {
  const [asked] = readCalendars(request);
  const event = asked?.getFirstSubcomponent('vevent');
  if (!asked || !event) throw new Error('The invitation holds no event.');
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('prodid', '-//Marmot//Mailroom 0.1//EN');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('method', answer.instead ? 'COUNTER' : 'REPLY');
  for (const zone of asked.getAllSubcomponents('vtimezone'))
    calendar.addSubcomponent(new ICAL.Component(structuredClone(zone.jCal)));
  const reply = new ICAL.Component('vevent');
  for (const name of [
    'uid',
    'sequence',
    'recurrence-id',
    'dtstart',
    'dtend',
    'summary',
    'organizer',
  ]) {
    const property = event.getFirstProperty(name);
    if (property) reply.addProperty(new ICAL.Property(structuredClone(property.jCal)));
  }
  if (answer.instead) {
    for (const name of ['dtstart', 'dtend']) reply.removeAllProperties(name);
    reply.addPropertyWithValue('dtstart', utc(answer.instead.start));
    reply.addPropertyWithValue('dtend', utc(answer.instead.end));
  }
  reply.addPropertyWithValue('dtstamp', ICAL.Time.fromJSDate(new Date(answer.stamp), true));
  const attendee = reply.addPropertyWithValue('attendee', `mailto:${answer.email}`);
  attendee.setParameter('partstat', answer.reply.toUpperCase());
  if (answer.comment) reply.addPropertyWithValue('comment', plainCharacters(answer.comment));
  calendar.addSubcomponent(reply);
  return calendarText(calendar);
}
