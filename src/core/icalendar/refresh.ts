import ICAL from 'ical.js';
import { calendarText, plainLine } from './text.ts';

/**
 * Asks the organizer of a meeting elsewhere for its invitation once more (RFC 5546 section 3.2.6).
 * @param stamp when it is asked, epoch milliseconds
 */
export function composeRefresh(asked: {
  uid: string;
  organizer: string;
  attendee: { name: string; email: string };
  stamp: number;
}): string {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('prodid', '-//Marmot//Marmot 0.1//EN');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('method', 'REFRESH');
  const event = new ICAL.Component('vevent');
  event.addPropertyWithValue('uid', asked.uid);
  event.addPropertyWithValue('dtstamp', ICAL.Time.fromJSDate(new Date(asked.stamp), true));
  event.addPropertyWithValue('organizer', `mailto:${asked.organizer}`);
  event
    .addPropertyWithValue('attendee', `mailto:${asked.attendee.email}`)
    .setParameter('cn', plainLine(asked.attendee.name));
  calendar.addSubcomponent(event);
  return calendarText(calendar);
}
