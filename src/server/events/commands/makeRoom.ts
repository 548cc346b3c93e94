import type { NewEvent } from '../../../contract/events.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import type { HeldResources } from '../../reservations/index.ts';
import { changeEvent } from './change.ts';

/**
 * Moves events of the actor's to make room for what is made in the same transaction.
 * @param held their places, and those of what is made
 * @returns each with the version that its move made, by which it is taken back
 * @throws Refusal when one was changed meanwhile; ResourcesTaken when its places are taken then
 */
export async function makeRoom(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  moves: NewEvent['moving'],
  held: HeldResources,
): Promise<{ id: string; version: number }[]> {
  const moved: { id: string; version: number }[] = [];
  for (const { eventId, version, occurrence, times, tell, message } of moves) {
    const change = {
      version,
      scope: occurrence === undefined ? ('all' as const) : ('one' as const),
      ...(occurrence !== undefined && { occurrence }),
      times,
      dates: [],
      tell,
      message,
    };
    const { undo, meeting } = await changeEvent(tx, platform, actor, eventId, change, held);
    moved.push(undo ?? { id: eventId, version: meeting.version });
  }
  return moved;
}
