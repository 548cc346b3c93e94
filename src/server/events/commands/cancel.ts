import type { Cancellation } from '../../../contract/events.ts';
import { decideCancel } from '../../../core/meetings/cancel.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import type { HeldResources } from '../../reservations/index.ts';
import { lockChangeableMeeting } from '../read/visible.ts';
import { carryOut, type Done } from './carryOut.ts';
import { newMeetingId } from './create.ts';

/** Takes an event, or a part of a series, out of every calendar and frees its resources. */
export async function cancelEvent(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  request: Cancellation,
  held?: HeldResources,
): Promise<Done> {
  const before = await lockChangeableMeeting(tx, actor, id, request.version, 'organizer');
  const known = { now: platform.clock.now(), newId: newMeetingId(before.uid) };
  return carryOut(tx, platform, actor, before, decideCancel(before, request, known), { held });
}
