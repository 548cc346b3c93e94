import { givenUpAt, warnedAt } from '../../core/booking/presence.ts';
import { DAY, MINUTE } from '../../core/time/interval.ts';
import { transaction } from '../db/transaction.ts';
import { giveUpPlace, lockMeeting, noteOf } from '../events/index.ts';
import { oneByOne, type JobDefinition } from '../jobs/index.ts';
import type { Platform } from '../platform.ts';
import {
  holdResources,
  markWarned,
  readRequested,
  readReservation,
} from '../reservations/index.ts';
import { insertNoShow, readAwaited, readExpired, type Awaited } from './queries.ts';
import { DECIDED_WITHIN_MS, MOST_BOOKINGS_A_LOOK } from './limits.ts';

/** Every quarter of a minute: warns those to whose places nobody came, and gives up what is over. */
export const bookingsJob: JobDefinition = {
  kind: 'bookings',
  atOnce: 1,
  timeLimitMs: 5 * MINUTE,
  pausesMinutes: [],
  everyMinutes: 1 / 4,
  work: async (platform, _, signal) => {
    await watchBookings(platform, signal);
  },
};

/** What one look at the clock came to. */
export interface Watched {
  warned: number;
  givenUp: number;
  expired: number;
}

/**
 * Deals with what has come due: requests that nobody decided, holders to be warned that nobody came,
 * and places that are given to others. One that fails is noted and holds up no other. Nobody loses a
 * place of which they were not told before, however long no server looked.
 */
export async function watchBookings(platform: Platform, signal?: AbortSignal): Promise<Watched> {
  const now = platform.clock.now();
  const done: Watched = { warned: 0, givenUp: 0, expired: 0 };
  const each = <T>(all: readonly T[], work: (one: T) => Promise<keyof Watched | null>) =>
    oneByOne(
      all,
      async (one) => {
        const what = await work(one);
        if (what) done[what]++;
      },
      {
        signal,
        failed: (error, booking) =>
          platform.log.error({ error, booking }, 'a booking could not be dealt with'),
      },
    );
  const expired = await readExpired(
    platform.pool,
    now - DECIDED_WITHIN_MS,
    now,
    MOST_BOOKINGS_A_LOOK,
  );
  await each(expired, async ({ eventId, placeId, place, occurrence, since }) => {
    // Of a series that nobody answered all is over; of one that has begun, the date that has.
    const at = since <= now - DECIDED_WITHIN_MS ? null : occurrence;
    return expire(platform, eventId, { placeId, place, occurrence: at });
  });
  const awaited = await readAwaited(
    platform.pool,
    { start: now - DAY, end: now },
    MOST_BOOKINGS_A_LOOK,
  );
  await each(awaited, (one) => (isGivenUp(one, now) ? giveUp(platform, one) : warn(platform, one)));
  return done;
}

/** From when on somebody can be waited for: what was booked after its beginning, from then on. */
const waitedFor = ({ start, end, since }: Awaited) => ({ start: Math.max(start, since), end });

/** Whether it is given to others now: its grace time is over, and its holder was told early enough. */
function isGivenUp(one: Awaited, now: number): boolean {
  const span = waitedFor(one);
  const until = givenUpAt(span, one.graceMinutes);
  const notice = until - warnedAt(span, one.graceMinutes);
  return one.warnedAt !== null && now >= Math.max(until, one.warnedAt + notice);
}

async function expire(
  platform: Platform,
  eventId: string,
  { placeId, place, occurrence }: { placeId: number; place: string; occurrence: string | null },
): Promise<'expired' | null> {
  return transaction(platform.pool, async (tx) => {
    const meeting = await lockMeeting(tx, eventId);
    // Another date of it may have taken it along, or somebody decided meanwhile.
    if (!meeting || !(await readRequested(tx, eventId)).includes(placeId)) return null;
    await giveUpPlace(tx, platform, { kind: 'system' }, meeting, {
      resourceId: placeId,
      place,
      occurrence,
      kind: 'place-expired',
      message: '',
    });
    return 'expired';
  });
}

async function warn(platform: Platform, one: Awaited): Promise<'warned' | null> {
  const now = platform.clock.now();
  if (one.warnedAt !== null || now < warnedAt(waitedFor(one), one.graceMinutes)) return null;
  return transaction(platform.pool, async (tx) => {
    const meeting = await lockMeeting(tx, one.eventId);
    if (!meeting || !(await markWarned(tx, [one.id], now)).has(one.id)) return null;
    const span = waitedFor(one);
    const details = {
      place: one.place,
      resource: one.placeId,
      until: Math.max(
        givenUpAt(span, one.graceMinutes),
        now + givenUpAt(span, one.graceMinutes) - warnedAt(span, one.graceMinutes),
      ),
    };
    const { occurrence } = one;
    await noteOf(tx, platform, { kind: 'system' }, meeting, 'no-show-soon', details, {
      occurrence,
    });
    return 'warned';
  });
}

async function giveUp(platform: Platform, one: Awaited): Promise<'givenUp' | null> {
  return transaction(platform.pool, async (tx) => {
    const meeting = await lockMeeting(tx, one.eventId);
    if (!meeting) return null;
    const resources = await holdResources(tx, [one.placeId]);
    const held = await readReservation(tx, one.eventId, one.occurrence, one.placeId);
    // Somebody may have come, or it was moved, in the last moment.
    if (held?.state !== 'held' || held.start !== one.start) return null;
    insertNoShow(tx, one, platform.clock.now());
    await giveUpPlace(tx, platform, { kind: 'system' }, meeting, {
      resourceId: one.placeId,
      place: resources.get(one.placeId)!.name,
      occurrence: one.occurrence,
      kind: 'no-show',
      message: '',
    });
    return 'givenUp';
  });
}
