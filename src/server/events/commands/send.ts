import type { Invitee } from '../../../contract/eventParts.ts';
import { organizerHere } from '../../../core/meetings/meeting.ts';
import { decideSend } from '../../../core/meetings/send.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import { lookUpInvited } from '../../participants/index.ts';
import type { Platform } from '../../platform.ts';
import { lockChangeableMeeting } from '../read/visible.ts';
import { carryOut, type Done } from './carryOut.ts';

/**
 * Sends a draft to those it names, and takes its time and places, all or nothing.
 * @throws Refusal when it is no draft any more; ResourcesTaken naming the dates
 */
export async function sendDraft(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  { version, message }: { version: number; message: string },
): Promise<Done> {
  const before = await lockChangeableMeeting(tx, actor, id, version, 'organizer');
  const named = (before.draft?.invited ?? []).map(({ personId, email, name, role }): Invitee =>
    personId === null ? { email, name, role } : { personId, role },
  );
  const organizer = before.participants.find((one) => one.role === 'organizer')!;
  const invited = await lookUpInvited(
    tx,
    { id: organizerHere(before), email: organizer.email },
    named,
  );
  const decision = decideSend(before, { invited, message }, platform.clock.now());
  return carryOut(tx, platform, actor, before, decision);
}
