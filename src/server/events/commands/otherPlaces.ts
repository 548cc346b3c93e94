import { decideNewPlaces, type PlaceInstead } from '../../../core/meetings/places.ts';
import type { Actor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import type { HeldResources } from '../../reservations/index.ts';
import type { StoredMeeting } from '../store/read.ts';
import type { ChangeOf } from '../../facts/index.ts';
import { carryOutTogether } from './carryOut.ts';

/**
 * Gives dates of meetings other places than those that go out of use, whoever may change them: for
 * whoever looks after these.
 * @param dates by the id of their meeting, all of which are held
 * @param held all of these places, held
 * @returns by what each meeting's change is taken back
 * @throws ResourcesTaken where one of the others is taken
 */
export async function giveOtherPlaces(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  meetings: ReadonlyMap<string, StoredMeeting>,
  dates: ReadonlyMap<string, readonly PlaceInstead[]>,
  held: HeldResources,
  message: string,
): Promise<ChangeOf[]> {
  const now = platform.clock.now();
  const nameOf = (id: number) => held.get(id)!.name;
  const decided = [...dates].map(([id, some]) =>
    decideNewPlaces(meetings.get(id)!, message, some, nameOf, now),
  );
  await carryOutTogether(tx, platform, actor, meetings, decided, { held, areUndoneApart: true });
  return decided.flatMap(({ changes }) =>
    changes.flatMap(({ after }) => (after ? [{ id: after.id, version: after.version }] : [])),
  );
}
