import { wantedResources } from '../../../core/meetings/meeting.ts';
import type { Transaction } from '../../db/transaction.ts';
import { holdResources, type HeldResources } from '../../reservations/index.ts';
import { lockMeetings } from '../store/read.ts';

/**
 * Holds several meetings and all places that they and a new one want, before any of them is changed: meetings
 * first, then places, each in the order of their ids. It is everybody's order, so that of two who change the
 * same ones together neither waits for the other in a circle.
 * @param placeIds of what is new
 * @param fieldOf which field named a place, where it may be none
 * @throws Refusal naming the first id that is no place's
 */
export async function holdTogether(
  tx: Transaction,
  meetingIds: readonly string[],
  placeIds: readonly number[] = [],
  fieldOf: (placeId: number) => string = () => 'resources',
): Promise<HeldResources> {
  const meetings = await lockMeetings(tx, [...new Set(meetingIds)].sort());
  const wanted = [...placeIds, ...[...meetings.values()].flatMap(wantedResources)];
  return holdResources(tx, wanted, (k) => fieldOf(wanted[k]!));
}
