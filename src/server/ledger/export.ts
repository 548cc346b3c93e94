import { createHash } from 'node:crypto';
import type { CalendarName } from './queries.ts';
import { csvLine } from '../http/index.ts';
import type { LedgerRow } from '../../contract/ledger.ts';
import { BOOKINGS_CALENDAR, bookingComponent } from '../../core/icalendar/bookings.ts';
import { STATE_WORDS } from '../../core/booking/presence.ts';
import { resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';

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

/** Reads the names of the bookings of a part. */
type ReadNames = (ids: readonly string[]) => Promise<Map<string, CalendarName>>;

/**
 * Bookings as iCalendar (RFC 5545), one VEVENT for each date of a meeting that the reader sees, by the UID
 * of its letters, with all its places; any other booking, and what was given back, is one by itself, by a
 * name that stays the same and tells nothing.
 * @param now epoch milliseconds
 */
export async function* icalendarOf(
  parts: AsyncIterable<readonly LedgerRow[]>,
  readNames: ReadNames,
  now: number,
): AsyncGenerator<string> {
  const written = new Set<string>();
  yield BOOKINGS_CALENDAR.first;
  for await (const rows of parts) {
    const names = await readNames(rows.map((row) => row.id));
    yield rows
      .map((row) => {
        // Gone since its part was read.
        const name = names.get(row.id);
        if (!name) return '';
        const known = isMeetings(row) ? meetingsName(name, row) : ownName(name, row);
        const once = `${known.uid} ${known.recurrenceId}`;
        if (written.has(once)) return '';
        written.add(once);
        const { start, end, holder, state } = row;
        const status = state === 'held' || state === 'in-use' ? 'CONFIRMED' : STATUS[state];
        const title = row.title ?? `${row.place} taken`;
        return bookingComponent({ ...known, start, end, title, holder, status }, now);
      })
      .join('');
  }
  yield BOOKINGS_CALENDAR.last;
}

/** Whether it is a booking of a meeting whose people and places the reader sees. */
const isMeetings = (row: LedgerRow) =>
  row.eventId !== null && (row.mine || row.others !== null) && row.state !== 'released';

const meetingsName = (
  { uid, sequence, zone, allDay, places }: CalendarName,
  { occurrence }: LedgerRow,
) => ({
  uid: String(uid),
  sequence: Number(sequence),
  recurrenceId: occurrence && (allDay ? occurrence.slice(0, 10) : instantOf(occurrence, zone)),
  place: places.join('; '),
});

const instantOf = (wall: string, zone: string) => resolveWallTime(wall, zone).instant;

const ownName = (
  { eventId, occurrence, placeId, unit }: CalendarName,
  { place, site }: LedgerRow,
) => ({
  uid: `booking-${createHash('sha256')
    .update(JSON.stringify([eventId, occurrence, placeId, unit]))
    .digest('hex')
    .slice(0, 32)}@marmot`,
  sequence: 0,
  recurrenceId: null,
  place: `${place}, ${site}`,
});
