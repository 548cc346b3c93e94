import type { BusySpan } from '../../contract/availability.ts';
import { parseFreeBusy } from '../../core/icalendar/freebusy.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { transaction, type Database } from '../db/transaction.ts';
import { announce } from '../live/hub.ts';
import type { Platform } from '../platform.ts';
import { noteFailure, readAddresses, readCalendars, readTimes, replaceTimes } from './queries.ts';

/** How often what people publish is read anew. */
const REFRESH_MINUTES = 15;

/** What somebody's organization publishes of their time. */
export interface PublishedTimes {
  /** Null before it was read for the first time. */
  readAt: number | null;
  /** Whether the last try failed; what was read before still stands. */
  failing: boolean;
  /** What it is of; null before it was read. Outside it nothing is known. */
  covers: Interval | null;
  busy: BusySpan[];
}

/** Published times of those people who have any, over a window. */
export async function readPublished(
  db: Database,
  personIds: readonly number[],
  from: number,
  to: number,
): Promise<Map<number, PublishedTimes>> {
  const calendars = await readCalendars(db, personIds);
  if (calendars.length === 0) return new Map();
  const times = await readTimes(
    db,
    calendars.map((one) => one.personId),
    from,
    to,
  );
  return new Map(
    calendars.map(({ personId, readAt, failing, coversFrom, coversTo }) => [
      personId,
      {
        readAt,
        failing,
        covers: coversFrom && coversTo ? { start: coversFrom, end: coversTo } : null,
        busy: times.get(personId)!,
      },
    ]),
  );
}

/**
 * Reads anew what some people publish, or all who were not read for a quarter of an hour. One that
 * cannot be read is noted and holds up nobody else.
 */
export async function refreshPublished(
  platform: Platform,
  personIds?: readonly number[],
): Promise<{ read: number; failed: number }> {
  const { pool, calendars } = platform;
  const started = platform.clock.now();
  const due = await readAddresses(
    pool,
    personIds ? { personIds } : { triedBefore: started - REFRESH_MINUTES * MINUTE },
  );
  let failed = 0;
  for (const { personId, address } of due) {
    const read = await calendars
      .read(address)
      .then(parseFreeBusy)
      .catch((error: Error) => error);
    await transaction(pool, (tx) =>
      read instanceof Error
        ? noteFailure(tx, personId, read.message, platform.clock.now())
        : replaceTimes(tx, personId, read, platform.clock.now()),
    );
    if (read instanceof Error) {
      failed++;
      platform.log.warn({ personId, error: read.message }, 'published times could not be read');
    }
  }
  if (due.length > 0) {
    await transaction(pool, (tx) => announce(tx, ['calendar'], 'everyone'));
  }
  return { read: due.length - failed, failed };
}
