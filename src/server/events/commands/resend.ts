import { decideResend } from '../../../core/meetings/resend.ts';
import { Refusal } from '../../../core/refusal.ts';
import { HOUR } from '../../../core/time/interval.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import { countFacts } from '../../facts/index.ts';
import type { Platform } from '../../platform.ts';
import { lockChangeableMeeting } from '../read/visible.ts';
import { carryOut, type Done } from './carryOut.ts';
import { MOST_RESENT_AN_HOUR } from '../limits.ts';

/**
 * Sends the invitation once more, to those named or to all.
 * @throws Refusal naming who is not invited, or when it was sent often enough within the hour
 */
export async function resend(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  { attendees, message }: { attendees: 'all' | number[]; message: string },
): Promise<Done> {
  const meeting = await lockChangeableMeeting(tx, actor, id, null, 'organizer');
  await refuseTooOften(tx, id, platform.clock.now());
  const ids = attendees === 'all' ? null : attendees;
  return carryOut(tx, platform, actor, meeting, decideResend(meeting, { ids, message }));
}

/** @throws Refusal when the invitation was sent once more often enough within the hour */
export async function refuseTooOften(tx: Transaction, id: string, now: number): Promise<void> {
  if ((await countFacts(tx, id, 'resent', now - HOUR)) < MOST_RESENT_AN_HOUR) return;
  throw new Refusal(
    'too-many-letters',
    `Within an hour an invitation goes out once more at most ${MOST_RESENT_AN_HOUR} times.`,
  );
}
