import Papa from 'papaparse';
import type { LedgerRow } from '../../contract/ledger.ts';
import { BOOKINGS_CALENDAR, bookingComponent } from '../../core/icalendar/bookings.ts';
import { STATE_WORDS } from '../../core/booking/presence.ts';
import { wallTimeAt } from '../../core/time/wall.ts';

const HEADINGS = [
  'start',
  'end',
  'zone',
  'place',
  'kind',
  'site',
  'floor',
  'title',
  'booked by',
  'state',
  'others',
];

/** What a program for tables would read as a formula is text; its first character says so. */
const asText = (value: string): string => (/^[=+\-@\t\r]/.test(value) ? `'${value}` : value);

const line = (cells: readonly (string | number)[]): string =>
  `${Papa.unparse([cells.map((one) => (typeof one === 'string' ? asText(one) : one))])}\r\n`;

/**
 * Bookings as CSV (RFC 4180), times on the reader's clock.
 * @param zone the reader's
 */
export async function* csvOf(
  parts: AsyncIterable<readonly LedgerRow[]>,
  zone: string,
): AsyncGenerator<string> {
  yield line(HEADINGS);
  for await (const rows of parts) {
    yield rows
      .map((row) =>
        line([
          wallTimeAt(row.start, zone).replace('T', ' '),
          wallTimeAt(row.end, zone).replace('T', ' '),
          zone,
          row.place,
          row.kind,
          row.site,
          row.floor,
          row.title ?? '',
          row.holder ?? '',
          STATE_WORDS[row.state],
          row.others ?? '',
        ]),
      )
      .join('');
  }
}

const STATUS = { requested: 'TENTATIVE', waiting: 'TENTATIVE', released: 'CANCELLED' } as const;

/**
 * Bookings as iCalendar (RFC 5545), one VEVENT each.
 * @param now epoch milliseconds
 */
export async function* icalendarOf(
  parts: AsyncIterable<readonly LedgerRow[]>,
  now: number,
): AsyncGenerator<string> {
  yield BOOKINGS_CALENDAR.first;
  for await (const rows of parts) {
    yield rows
      .map((row) => {
        const { id, start, end, holder, state } = row;
        const status = state === 'held' || state === 'in-use' ? 'CONFIRMED' : STATUS[state];
        const place = `${row.place}, ${row.site}`;
        return bookingComponent(
          { id, start, end, title: row.title ?? `${row.place} taken`, place, holder, status },
          now,
        );
      })
      .join('');
  }
  yield BOOKINGS_CALENDAR.last;
}
