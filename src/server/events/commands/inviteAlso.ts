import type { Invitee } from '../../../contract/eventParts.ts';
import { organizerHere } from '../../../core/meetings/meeting.ts';
import { decideInviteAlso } from '../../../core/meetings/invite.ts';
import { Refusal } from '../../../core/refusal.ts';
import { mayChange } from '../../../core/availability/busy.ts';
import { takesPart } from '../../access/index.ts';
import type { PersonActor } from '../../actions/index.ts';
import { peopleOf } from '../../../core/meetings/meeting.ts';
import type { Transaction } from '../../db/transaction.ts';
import { lookUpInvited } from '../../participants/index.ts';
import type { Platform } from '../../platform.ts';
import { levelOn, lockVisibleMeeting } from '../read/visible.ts';
import { carryOut, type Done } from './carryOut.ts';

/**
 * Asks more people to a meeting: its organizer, and whoever is invited where they may.
 * @throws Refusal when the actor may not, or nobody new is named
 */
export async function inviteAlso(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  { attendees, message }: { attendees: Invitee[]; message: string },
): Promise<Done> {
  const before = await lockVisibleMeeting(tx, actor, id);
  const { level } = await levelOn(tx, actor, before);
  const organizer = before.participants.find((one) => one.role === 'organizer')!;
  const mayAsk = before.rights.invite && takesPart(actor, peopleOf(before));
  if (!mayChange(level) && !mayAsk)
    throw new Refusal('not-organizer', `Only ${organizer.name} can ask others as well.`);
  const host = { id: organizerHere(before), email: organizer.email };
  const invited = await lookUpInvited(tx, host, attendees);
  const decision = decideInviteAlso(before, { invited, message }, platform.clock.now());
  return carryOut(tx, platform, actor, before, decision);
}
