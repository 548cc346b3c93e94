import { csvLine } from '../http/index.ts';
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

/**
 * Bookings as CSV (RFC 4180), times on the reader's clock.
 * @param zone the reader's
 */
export async function* csvOf(
  parts: AsyncIterable<readonly LedgerRow[]>,
  zone: string,
): AsyncGenerator<string> {
  yield csvLine(HEADINGS);
  for await (const rows of parts) {
    yield rows
      .map((row) =>
        csvLine([
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
