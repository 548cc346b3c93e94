import type { WallTime } from '../../../core/time/wall.ts';
import {
  decideDeclineProposal,
  decidePropose,
  type ProposalRef,
} from '../../../core/meetings/propose.ts';
import { notInvited } from '../../../core/meetings/reply.ts';
import type { Interval } from '../../../core/time/interval.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { lockChangeableMeeting, lockVisibleMeeting } from '../read/visible.ts';
import { carryOut, type Done } from './carryOut.ts';

/**
 * Keeps which other times I ask for, in place of those I asked for before.
 * @throws Refusal when I am not invited, or naming a time that cannot be
 */
export async function proposeTo(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  asked: { occurrence?: WallTime | undefined; times: Interval[]; note: string },
): Promise<Done> {
  const meeting = await lockVisibleMeeting(tx, actor, id);
  const participant = meeting.participants.find((one) => one.personId === actor.me.id);
  if (!participant) throw notInvited();
  const command = { ...asked, occurrence: asked.occurrence ?? null };
  const decision = decidePropose(meeting, participant.id, command, platform.clock.now());
  return carryOut(tx, platform, actor, meeting, decision);
}

/** Says no to a time that somebody asked for, and tells them. */
export async function declineProposal(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  {
    message,
    ...asked
  }: Omit<ProposalRef, 'occurrence'> & { occurrence?: WallTime | undefined; message: string },
): Promise<Done> {
  const meeting = await lockChangeableMeeting(tx, actor, id, null, 'organizer');
  const meant = { ...asked, occurrence: asked.occurrence ?? null };
  return carryOut(tx, platform, actor, meeting, decideDeclineProposal(meeting, meant, message));
}
