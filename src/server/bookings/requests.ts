import { allRules } from '../../core/booking/rules.ts';
import type { DecideRequest, PlaceRequestsResponse } from '../../contract/bookings.ts';
import { decidedBy } from '../../core/booking/presence.ts';
import { priceOf } from '../../core/booking/ruleWords.ts';
import { Refusal } from '../../core/refusal.ts';
import { titleIn, titlesSeen } from '../access/index.ts';
import { requireKeeper, requireSteward } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { giveUpPlace, lockMeeting, noteOf } from '../events/index.ts';
import type { Platform } from '../platform.ts';
import { agree, holdResources, readRequested } from '../reservations/index.ts';
import { readRequests } from './queries.ts';
import { MOST_REQUESTS } from './limits.ts';

/** What waits for a steward to agree. */
export async function placeRequests(
  db: Database,
  actor: PersonActor,
  now: number,
): Promise<PlaceRequestsResponse> {
  requireSteward(actor);
  const { requests, total } = await readRequests(db, now, actor.me.keeps, MOST_REQUESTS);
  const seen = await titlesSeen(
    db,
    actor,
    requests.map((one) => one.eventId),
  );
  return {
    total,
    requests: requests.map(({ rules, ...one }) => ({
      ...one,
      title: titleIn(seen, one),
      decidedBy: decidedBy(one, one.askedAt),
      price: priceOf(allRules(rules), one),
    })),
  };
}

/**
 * A steward agrees to what a meeting asked for of a place, on each of its dates to come, or does not:
 * then it is others'. Whoever asked is told.
 * @throws Refusal when there is nothing to decide, what is asked for is another than was read, or its time has
 *   passed
 */
export async function decide(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { eventId, placeId, version, agreed, message = '' }: DecideRequest,
): Promise<{ dates: number }> {
  requireKeeper(actor, [{ id: placeId }]);
  const meeting = await lockMeeting(tx, eventId);
  const resources = await holdResources(tx, [placeId], () => 'placeId');
  const isOpen = meeting && (await readRequested(tx, eventId)).includes(placeId);
  if (!isOpen) {
    throw new Refusal(
      'no-such-booking',
      'There is nothing to decide here any more: it was decided, moved or taken back meanwhile.',
      { fields: [{ field: 'eventId', message: 'must be something that waits for an answer' }] },
    );
  }
  if (meeting.version !== version) {
    throw new Refusal(
      'stale',
      'What is asked for was changed meanwhile. Look at it again; nothing was decided.',
      { fields: [{ field: 'version', message: 'must be that of what you have read' }] },
    );
  }
  const { name } = resources.get(placeId)!;
  if (!agreed) {
    await giveUpPlace(tx, platform, actor, meeting, {
      resourceId: placeId,
      place: name,
      occurrence: null,
      kind: 'place-refused',
      message,
    });
    return { dates: 0 };
  }
  const dates = await agree(tx, eventId, placeId, platform.clock.now());
  if (dates === 0) {
    throw new Refusal(
      'too-late',
      `The time for which ${name} was asked has begun. It can be booked again for another time.`,
    );
  }
  const details = { place: name, resource: placeId, dates };
  await noteOf(tx, platform, actor, meeting, 'place-agreed', details, { message });
  return { dates };
}
