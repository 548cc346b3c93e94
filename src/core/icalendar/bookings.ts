import ICAL from 'ical.js';
import { calendarText, plainCharacters, plainLine } from './text.ts';

/** How a booking is known again wherever it is written. */
export interface BookingName {
  /** That of the meeting's letters where the reader may have them, so that it is one entry with these. */
  uid: string;
  /** Of the meeting, where it has letters. */
  sequence: number;
  /** When the date of a series would be by its rule: an instant in epoch milliseconds, or a date of whole days. */
  recurrenceId: number | string | null;
}

/** A booking of a place, or of several at once, to be written for a calendar program. */
export interface ExportedBooking extends BookingName {
  /** Epoch milliseconds, half-open. */
  start: number;
  end: number;
  title: string;
  place: string;
  /** Who has it; null where that is not known. */
  holder: string | null;
  status: 'CONFIRMED' | 'TENTATIVE' | 'CANCELLED';
}

const FIRST = 'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Marmot//Ledger//EN\r\n';
const LAST = 'END:VCALENDAR\r\n';

/** What comes before and after the bookings of a calendar that is written a part at a time (RFC 5545). */
export const BOOKINGS_CALENDAR = { first: FIRST, last: LAST };

/**
 * One booking as a VEVENT (RFC 5545 section 3.6.1), its times in UTC; it ends with a line break.
 * @param now when it is written, epoch milliseconds
 */
export function bookingComponent(booking: ExportedBooking, now: number): string {
  const event = new ICAL.Component('vevent');
  const at = (instant: number) => ICAL.Time.fromJSDate(new Date(instant), true);
  event.addPropertyWithValue('uid', plainLine(booking.uid));
  event.addPropertyWithValue('sequence', booking.sequence);
  const { recurrenceId } = booking;
  if (recurrenceId !== null)
    event.addPropertyWithValue(
      'recurrence-id',
      typeof recurrenceId === 'number' ? at(recurrenceId) : ICAL.Time.fromDateString(recurrenceId),
    );
  event.addPropertyWithValue('dtstamp', at(now));
  event.addPropertyWithValue('dtstart', at(booking.start));
  event.addPropertyWithValue('dtend', at(booking.end));
  event.addPropertyWithValue('summary', plainLine(booking.title));
  event.addPropertyWithValue('location', plainLine(booking.place));
  event.addPropertyWithValue('status', booking.status);
  if (booking.holder)
    event.addPropertyWithValue('description', plainCharacters(`Booked by ${booking.holder}`));
  return calendarText(event);
}
