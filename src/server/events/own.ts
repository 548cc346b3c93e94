import type { Me } from '../../contract/session.ts';
import type { Transaction } from '../db/transaction.ts';
import { Problem } from '../http/problem.ts';
import { announce } from '../live/hub.ts';
import type { Platform } from '../platform.ts';
import { peopleOf, type EventRecord } from './model.ts';
import { detailFor, ownEvent } from './present.ts';
import { insertLog, lockEvent } from './queries.ts';

/**
 * Holds an event that the asker may change, as it was when they read it.
 * @throws Problem 409 with the present state when `version` is not the present one
 */
export async function lockOwnEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  version: number,
): Promise<EventRecord> {
  await lockEvent(tx, id);
  const event = await ownEvent(tx, me, id, platform.clock.now());
  if (event.version !== version) {
    throw new Problem(409, 'stale', 'This event was changed meanwhile; look at it again.', {
      fields: [{ field: 'version', message: `must be ${event.version}, the present version` }],
      current: await detailFor(tx, event, me),
    });
  }
  return event;
}

/** @throws Problem 409 when the event is cancelled */
export function refuseCancelled(event: EventRecord): void {
  if (event.status === 'cancelled') {
    throw new Problem(409, 'cancelled', 'This event is cancelled; restore it before changing it.');
  }
}

/** Notes an action in the log and tells everyone concerned that something changed. */
export async function recordAction(
  tx: Transaction,
  platform: Platform,
  me: Me,
  event: EventRecord,
  action: string,
  details: Record<string, unknown>,
): Promise<void> {
  await insertLog(tx, {
    at: platform.clock.now(),
    actorId: me.id,
    action: `event.${action}`,
    eventId: event.id,
    details: { ...details, version: event.version },
  });
  await announce(tx, ['calendar', 'invitations', 'replies'], peopleOf(event));
  const places = event.resources.length + event.furtherResources.length > 0;
  if (places || action === 'change') await announce(tx, ['places'], 'everyone');
}
