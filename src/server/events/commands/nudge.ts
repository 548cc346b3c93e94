import { decideNudge } from '../../../core/meetings/nudge.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { lockChangeableMeeting } from '../read/visible.ts';
import { carryOut, type Done } from './carryOut.ts';

/**
 * Reminds those who have not answered, each at most once a day.
 * @throws Refusal naming who cannot be reminded, or that nobody is left
 */
export async function nudge(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  { attendees, message }: { attendees: 'all' | number[]; message: string },
): Promise<Done> {
  const before = await lockChangeableMeeting(tx, actor, id, null, 'organizer');
  const decision = decideNudge(
    before,
    { ids: attendees === 'all' ? null : attendees, message },
    platform.clock.now(),
  );
  return carryOut(tx, platform, actor, before, decision);
}
