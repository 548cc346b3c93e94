import type { Told } from '../../../core/meetings/people.ts';
import { decideUndo } from '../../../core/meetings/undo.ts';
import { Refusal } from '../../../core/refusal.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { readOccurrences } from '../occurrences/queries.ts';
import { changeableMeeting, lockChangeableMeeting } from '../read/visible.ts';
import { lockMeeting } from '../store/read.ts';
import { hasRevisions, takeRevision } from '../store/revisions.ts';
import { carryOut, type Done } from './carryOut.ts';

/**
 * Takes a change of an event back, and only what that change touched: what others did since stays.
 * @param request `version` is that which was read, or null for whatever it is now; `change` names the version that the change made; without it, the latest is meant
 * @throws Refusal when there is nothing to take back, or all of it has been changed since;
 *   ResourcesTaken when somebody has taken a resource in the meantime
 */
export async function undoChange(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  request: { version: number | null; change?: number | undefined; tell: Told },
): Promise<Done> {
  const present = await lockChangeableMeeting(tx, actor, id, request.version);
  const revision = await takeRevision(tx, id, request.change ?? null);
  if (!revision) {
    throw new Refusal('nothing-to-undo', 'There is no change of this event to take back.');
  }
  // Whoever is invited and may change it does not give themselves more, or bring it back.
  if (revision.edits.some(({ path }) => path === 'status' || path === 'rights'))
    await changeableMeeting(tx, actor, id, 'organizer');
  const tail = revision.splitOff && (await lockMeeting(tx, revision.splitOff.id));
  const decision = decideUndo(
    present,
    revision,
    request,
    tail && {
      meeting: tail,
      changedSince: await hasRevisions(tx, tail.id),
      laidOut: (await readOccurrences(tx, tail.id)).map(
        (one) => one.recurrenceId ?? tail.timing.startsAt,
      ),
    },
  );
  return carryOut(tx, platform, actor, present, decision);
}
