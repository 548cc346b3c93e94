import { type WaitRequest } from '../../contract/waiting.ts';
import { MOST_WAITED_FOR } from '../../contract/limits.ts';
import { claimedTime } from '../../core/booking/booking.ts';
import { freeUnit } from '../../core/booking/units.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { cancelEvent, readMeeting, sendDraft } from '../events/index.ts';
import type { Platform } from '../platform.ts';
import { holdResources, readClaims } from '../reservations/index.ts';
import { deleteWaiting, insertWaiting, lockWaiting, readWaited, type Waiting } from './queries.ts';

/**
 * Waits for a place that is taken.
 * @throws Refusal where it is free, over, or somebody waits for too much
 */
export async function waitFor(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  request: WaitRequest,
): Promise<{ id: number }> {
  const now = platform.clock.now();
  const { placeId, start, end } = request;
  if (start <= now) throw invalid([{ field: 'start', message: 'must be to come' }]);
  // Held, so that it does not come free between the look and the waiting.
  const place = (await holdResources(tx, [placeId], () => 'placeId')).get(placeId)!;
  if (place.isRetired)
    throw new Refusal('place-retired', `${place.name} is retired: nobody books it any more.`);
  const claimed = claimedTime({ start, end }, place);
  const claims = await readClaims(tx, [placeId], claimed);
  if (freeUnit(claims, claimed, place.units) !== null) {
    throw new Refusal('free-already', `${place.name} is free then. Book it.`, {
      fields: [{ field: 'placeId', message: 'must be a place that is taken then' }],
    });
  }
  const before = await readWaited(tx, actor.me.id);
  if (before.length >= MOST_WAITED_FOR) {
    throw new Refusal(
      'waits-for-too-much',
      `One can wait for ${MOST_WAITED_FOR} times at most. Leave another one first.`,
    );
  }
  const id = await insertWaiting(tx, actor.me.id, request, now);
  if (id === null)
    throw new Refusal('waits-already', `You wait for ${place.name} at that time already.`);
  return { id };
}

/** Takes what came free for me. @throws Refusal where it is not held for me any more */
export async function takeOffer(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
): Promise<{ eventId: string }> {
  const offer = await mine(tx, actor, id);
  const meeting = offer.eventId === null ? null : await readMeeting(tx, offer.eventId);
  if (!meeting || (offer.offeredUntil ?? 0) <= platform.clock.now()) {
    throw new Refusal('not-offered', `${offer.place} is not held for you now.`, {
      fields: [{ field: 'id', message: 'must be something that is held for you' }],
    });
  }
  const { version } = meeting;
  await sendDraft(tx, platform, actor, meeting.id, { version, message: '' });
  deleteWaiting(tx, id);
  return { eventId: meeting.id };
}

/** Waits no more; what is held by now is others'. */
export async function waitNoMore(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
): Promise<void> {
  const waiting = await mine(tx, actor, id);
  await letGo(tx, platform, actor, waiting);
}

/** Gives up what is held for somebody, who then waits no more. */
export async function letGo(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { id, eventId }: Waiting,
): Promise<void> {
  const meeting = eventId === null ? null : await readMeeting(tx, eventId);
  deleteWaiting(tx, id);
  if (!meeting || meeting.status === 'cancelled' || !meeting.draft) return;
  const { version } = meeting;
  const quietly = {
    version,
    scope: 'all' as const,
    tell: 'nobody' as const,
    message: '',
    takeBack: [],
  };
  await cancelEvent(tx, platform, actor, meeting.id, quietly);
}

async function mine(tx: Transaction, { me }: PersonActor, id: number): Promise<Waiting> {
  const waiting = await lockWaiting(tx, id);
  if (waiting?.personId === me.id) return waiting;
  throw new Refusal('no-such-wait', 'You do not wait for that any more.', {
    fields: [{ field: 'id', message: 'must be something you wait for' }],
  });
}
