import type { EventChange } from '../../../contract/events.ts';
import { organizerHere } from '../../../core/meetings/meeting.ts';
import { decideChange } from '../../../core/meetings/change.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import { lookUpInvited } from '../../participants/index.ts';
import type { Platform } from '../../platform.ts';
import type { HeldResources } from '../../reservations/index.ts';
import { cleanFields } from '../richText.ts';
import { lockChangeableMeeting } from '../read/visible.ts';
import { fieldNaming, newMeetingId } from './create.ts';
import { carryOut, type Done } from './carryOut.ts';

/**
 * Changes an event in place, or a part of a series; its resources are never free in between.
 * @param held places that are held already
 * @throws Refusal with the present state when `version` is not the present one
 */
export async function changeEvent(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  change: EventChange,
  held?: HeldResources,
): Promise<Done> {
  const before = await lockChangeableMeeting(
    tx,
    actor,
    id,
    change.version,
    change.rights && 'organizer',
  );
  const organizer = before.participants.find((one) => one.role === 'organizer')!;
  const invited =
    change.attendees &&
    (await lookUpInvited(
      tx,
      { id: organizerHere(before), email: organizer.email },
      change.attendees,
    ));
  const decision = decideChange(
    before,
    { ...change, fields: cleanFields(change), invited },
    { now: platform.clock.now(), newId: newMeetingId(before.uid) },
  );
  const fieldOf = fieldNaming(change.resources ?? []);
  return carryOut(tx, platform, actor, before, decision, { fieldOf, held });
}
