import { titleOfBooking } from '../../core/meetings/ownTitle.ts';
import { createEventRequest } from '../../contract/events.ts';
import { heldUntil, whoGets } from '../../core/booking/waiting.ts';
import { grouped } from '../../core/grouped.ts';
import { Refusal } from '../../core/refusal.ts';
import { formatNear, formatSpan } from '../../core/time/format.ts';
import { DAY, MINUTE } from '../../core/time/interval.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import { transaction, type Transaction } from '../db/transaction.ts';
import { createEvent, lockMeeting, noteOf } from '../events/index.ts';
import { oneByOne, type JobDefinition } from '../jobs/index.ts';
import { plainMail, type Letter } from '../letters/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { postMails } from '../mail/index.ts';
import type { Platform } from '../platform.ts';
import { readClaimsNear, readResources } from '../reservations/index.ts';
import { actorById } from '../session/index.ts';
import { deleteWaiting, keepOffer, lockWaiting, readWaiting, type Waiting } from './queries.ts';
import { letGo } from './service.ts';
import { MOST_WAITING_A_LOOK } from './limits.ts';

/** Every quarter of a minute: what came free goes to whoever waited for it. */
export const waitingJob: JobDefinition = {
  kind: 'waiting',
  atOnce: 1,
  timeLimitMs: 5 * MINUTE,
  pausesMinutes: [],
  everyMinutes: 1 / 4,
  work: async (platform, _, signal) => {
    await serveWaiting(platform, signal);
  },
};

/** What one look came to. */
export interface Served {
  offered: number;
  given: number;
  over: number;
}

/**
 * Gives what came free to those who wait for it, first come, first served; gives up what nobody took in
 * time, and forgets those whose time has begun, telling them. One that fails holds up no other.
 */
export async function serveWaiting(platform: Platform, signal?: AbortSignal): Promise<Served> {
  const now = platform.clock.now();
  const done: Served = { offered: 0, given: 0, over: 0 };
  type Work = (tx: Transaction, one: Waiting) => Promise<keyof Served | null>;
  const alone = async (one: Waiting, work: Work) => {
    const what = await transaction(platform.pool, async (tx) => {
      const held = await lockWaiting(tx, one.id);
      // Another server may have come first, or whoever waited.
      return held && held.eventId === one.eventId ? work(tx, held) : null;
    });
    if (what) done[what]++;
  };
  const each = (all: readonly Waiting[], work: Work) =>
    oneByOne(
      all,
      (one) =>
        alone(one, work).catch((error: unknown) => {
          if (!(error instanceof Refusal) || error.code === 'resource-taken') throw error;
          // What its rules do not allow by now is not waited for any longer.
          return alone(one, (tx, held) => refuse(tx, platform, held, error.message));
        }),
      {
        signal,
        failed: (error, { id }) =>
          platform.log.error({ error, waiting: id }, 'somebody who waits could not be served'),
      },
    );
  const all = await readWaiting(platform.pool, MOST_WAITING_A_LOOK);
  const isOver = (one: Waiting) => (one.offeredUntil ?? one.start) <= now;
  await each(all.filter(isOver), (tx, one) => end(tx, platform, one));
  const open = all.filter((one) => !isOver(one) && one.offeredUntil === null);
  if (open.length === 0) return done;
  const ids = [...new Set(open.map((one) => one.placeId))];
  const places = await readResources(platform.pool, ids);
  const claims = grouped(await readClaimsNear(platform.pool, open, DAY), (one) => one.resourceId);
  await each(whoGets(open, places, claims), (tx, one) => serve(tx, platform, one));
  return done;
}

/** Books it for them, or holds it until they say. */
async function serve(
  tx: Transaction,
  platform: Platform,
  one: Waiting,
): Promise<keyof Served | null> {
  const actor = await actorById(tx, one.personId);
  const place = (await readResources(tx, [one.placeId])).get(one.placeId);
  if (!actor || !place) {
    deleteWaiting(tx, one.id);
    return null;
  }
  const now = platform.clock.now();
  const until = heldUntil(one, now);
  const request = createEventRequest.parse({
    title: one.title || titleOfBooking([one.place]),
    times: {
      startsAt: wallTimeAt(one.start, place.zone),
      endsAt: wallTimeAt(one.end, place.zone),
      zone: place.zone,
    },
    resources: [one.placeId],
    ...(one.wants === 'told' && { draft: { holds: true } }),
  });
  const event = await createEvent(tx, platform, actor, request);
  // Behind the bell, as news of any place is.
  const meeting = (await lockMeeting(tx, event.id))!;
  const about = { place: one.place, resource: one.placeId };
  const system = { kind: 'system' } as const;
  if (one.wants === 'told')
    await noteOf(tx, platform, system, meeting, 'place-offered', { ...about, until });
  else await noteOf(tx, platform, system, meeting, 'place-given', about);
  if (one.wants === 'told') keepOffer(tx, one.id, event.id, until);
  else deleteWaiting(tx, one.id);
  announce(tx, [subjectOf('person', one.personId)]);
  if (one.wants === 'given') return 'given';
  const { zone, clock } = actor.me;
  write(
    tx,
    platform,
    actor,
    one,
    `${one.place} is free again. It is held for you until ${formatNear(until, now, { zone, clock })}: take it by then, or it goes to whoever waits next.`,
  );
  return 'offered';
}

/** It came free, and its rules keep it from whoever waited. */
async function refuse(
  tx: Transaction,
  platform: Platform,
  one: Waiting,
  why: string,
): Promise<'over'> {
  const actor = await actorById(tx, one.personId);
  deleteWaiting(tx, one.id);
  if (actor) write(tx, platform, actor, one, `${one.place} is free again, but not for you. ${why}`);
  announce(tx, [subjectOf('person', one.personId)]);
  return 'over';
}

/** Nobody took it in time, or its time has begun. */
async function end(tx: Transaction, platform: Platform, one: Waiting): Promise<'over'> {
  const actor = await actorById(tx, one.personId);
  if (!actor) {
    deleteWaiting(tx, one.id);
    return 'over';
  }
  await letGo(tx, platform, actor, one);
  announce(tx, [subjectOf('person', one.personId)]);
  const words =
    one.offeredUntil === null
      ? `${one.place} did not come free. You do not wait for it any more.`
      : `${one.place} was held for you, and went to whoever waits next, since you did not take it.`;
  write(tx, platform, actor, one, words);
  return 'over';
}

function write(
  tx: Transaction,
  { publicUrl, clock }: Platform,
  { me }: PersonActor,
  one: Waiting,
  words: string,
): void {
  const when = formatSpan(one, me.zone, me.clock);
  const letter: Letter = {
    subject: `${one.place}, ${when}`,
    title: one.title || one.place,
    opening: [words],
    description: '',
    facts: [['When', when]],
    link: { href: publicUrl, label: 'Open Today' },
  };
  postMails(tx, [plainMail(letter, me)], clock.now());
}
