import { decideGivingUp, type GivingUp } from '../../../core/meetings/places.ts';
import type { Actor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { carryOut, type Done } from './carryOut.ts';
import { newMeetingId } from './create.ts';
import type { StoredMeeting } from '../store/read.ts';

/**
 * Takes a place from a meeting that is held, whoever may change it: for whoever looks after the place,
 * and for the clock.
 */
export async function giveUpPlace(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  before: StoredMeeting,
  asked: GivingUp,
): Promise<Done> {
  const known = { now: platform.clock.now(), newId: newMeetingId(before.uid) };
  return carryOut(tx, platform, actor, before, decideGivingUp(before, asked, known));
}
