import type { BusySpan } from '../../contract/availability.ts';
import type { PublishedFreeBusy } from '../../core/icalendar/freebusy.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { transaction, type Database } from '../db/transaction.ts';
import type { JobDefinition } from '../jobs/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { reader } from '../reading/index.ts';
import {
  noteFailure,
  readPublishedCalendars,
  readPublishedTimes,
  replaceTimes,
  takeAddresses,
} from './queries.ts';
import {
  ADDRESSES_AT_ONCE,
  ASKED_AGAIN_MINUTES,
  MOST_ADDRESSES,
  REFRESH_MINUTES,
} from './limits.ts';

const readFreeBusy = reader<{ text: string; zone: string }, PublishedFreeBusy>(
  new URL('./freeBusy.worker.ts', import.meta.url),
  'What is published there',
);

/** What somebody's organization publishes of their time. */
export interface PublishedTimes {
  /** Null before it was read for the first time. */
  readAt: number | null;
  /** Whether the last try failed; what was read before still stands. */
  failing: boolean;
  /** What it is of, disjoint and in order; null before it was read. Outside it nothing is known. */
  covers: Interval[] | null;
  busy: BusySpan[];
}

/** Published times of those people who have any, over a window. */
export async function readPublished(
  db: Database,
  personIds: readonly number[],
  from: number,
  to: number,
): Promise<Map<number, PublishedTimes>> {
  const calendars = await readPublishedCalendars(db, personIds);
  if (calendars.length === 0) return new Map();
  const times = await readPublishedTimes(
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
        covers: coversFrom && coversFrom.map((start, k) => ({ start, end: coversTo![k]! })),
        busy: times.get(personId)!,
      },
    ]),
  );
}

/** Every quarter of an hour, on one of the servers. */
export const publishedJob: JobDefinition = {
  kind: 'published',
  atOnce: 1,
  timeLimitMs: 14 * MINUTE,
  pausesMinutes: [],
  everyMinutes: REFRESH_MINUTES,
  work: (platform) => refreshPublished(platform),
};

/**
 * Reads anew what some people publish, or all who were not read for a quarter of an hour. One that
 * cannot be read is noted and holds up nobody else, and one that was tried just now is left alone.
 */
export async function refreshPublished(
  platform: Platform,
  personIds?: readonly number[],
): Promise<{ read: number; failed: number }> {
  const { pool, clock } = platform;
  const now = clock.now();
  const pause = (personIds ? ASKED_AGAIN_MINUTES : REFRESH_MINUTES) * MINUTE;
  const due = await takeAddresses(pool, personIds ?? null, now - pause, now, MOST_ADDRESSES);
  const changed: number[] = [];
  let failed = 0;
  const work = async () => {
    for (let one = due.pop(); one; one = due.pop()) {
      if (await readOne(platform, one)) changed.push(one.personId);
      else failed++;
    }
  };
  await Promise.all(Array.from({ length: ADDRESSES_AT_ONCE }, work));
  if (changed.length > 0) {
    const subjects = changed.map((id) => subjectOf('calendar', id));
    await transaction(pool, (tx) => announce(tx, subjects));
  }
  return { read: changed.length, failed };
}

async function readOne(
  platform: Platform,
  { personId, address, zone }: { personId: number; address: string; zone: string },
): Promise<boolean> {
  const { pool, calendars, clock, log } = platform;
  const read = await calendars
    .read(address)
    .then((text) => readFreeBusy({ text, zone }))
    .catch((error: Error) => error);
  await transaction(pool, (tx) =>
    read instanceof Error
      ? noteFailure(tx, personId, read.message, clock.now())
      : replaceTimes(tx, personId, read, clock.now()),
  );
  if (!(read instanceof Error)) return true;
  log.warn({ personId, error: read.message }, 'published times could not be read');
  return false;
}
