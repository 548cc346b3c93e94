import type { RestoreEvent } from '../../../contract/events.ts';
import { decideRestore } from '../../../core/meetings/cancel.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { lockChangeableMeeting } from '../read/visible.ts';
import { carryOut, type Done } from './carryOut.ts';
import { newMeetingId } from './create.ts';

/**
 * Takes a cancellation back, of the event or of one occurrence, claiming people and resources anew.
 * @throws ResourcesTaken when a resource has been taken in the meantime
 */
export async function restoreEvent(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  request: RestoreEvent,
): Promise<Done> {
  const before = await lockChangeableMeeting(tx, actor, id, request.version, 'organizer');
  const known = { now: platform.clock.now(), newId: newMeetingId(before.uid) };
  return carryOut(tx, platform, actor, before, decideRestore(before, request, known));
}
