import type { Me } from '../../contract/session.ts';
import type { Transaction } from '../db/transaction.ts';
import { Problem } from '../http/problem.ts';
import type { Platform } from '../platform.ts';
import { contentOf, settle } from './change.ts';
import { writeToAttendees, type Occasion } from './letters.ts';
import type { EventRecord } from './model.ts';
import { lockOwnEvent } from './own.ts';
import { replaceOverrides } from './overrideQueries.ts';
import { deleteEvent, lockEvent, readEvent, replaceReservations, updateEvent } from './queries.ts';
import { hasRevisions, restoreReplies, takeRevision } from './revisions.ts';

/**
 * Takes the latest change of an event back: times, texts, resources, replies, and a part that it
 * split off. Whoever was told of the change is told of this, if asked.
 * @throws Problem 409 when there is nothing to take back, or the part that was split off has been
 *   changed since; ResourcesTaken when somebody has taken a resource in the meantime
 */
export async function undoChange(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  request: { version: number; tell: 'everyone' | 'nobody' },
): Promise<EventRecord> {
  const now = platform.clock.now();
  const present = await lockOwnEvent(tx, platform, me, id, request.version);
  const revision = await takeRevision(tx, id);
  if (!revision) {
    throw new Problem(409, 'nothing-to-undo', 'There is no change of this event to take back.');
  }
  if (revision.splitOff) {
    await dropSplitOff(tx, platform, revision.splitOff, request.tell);
  }
  const { record } = revision;
  await replaceReservations(
    tx,
    id,
    record.resources.map((one) => one.id),
  );
  await restoreReplies(tx, revision);
  await updateEvent(
    tx,
    { ...contentOf(record), id, status: record.status, sequence: present.sequence + 1 },
    now,
  );
  await replaceOverrides(tx, id, record.overrides);
  return settle(
    tx,
    platform,
    me,
    present,
    { tell: request.tell, message: '' },
    occasionOf(present, record),
  );
}

function occasionOf(present: EventRecord, before: EventRecord): Occasion {
  if (present.status !== before.status) {
    return before.status === 'confirmed' ? 'restored' : 'cancelled';
  }
  return 'changed';
}

async function dropSplitOff(
  tx: Transaction,
  platform: Platform,
  id: string,
  tell: 'everyone' | 'nobody',
): Promise<void> {
  await lockEvent(tx, id);
  const tail = await readEvent(tx, id, platform.clock.now());
  if (!tail) return;
  if (await hasRevisions(tx, id)) {
    throw new Problem(
      409,
      'changed-since',
      `What follows has been changed since; take that back first, or change “${tail.title}” itself.`,
    );
  }
  if (tail.status === 'confirmed' && tell === 'everyone') {
    await writeToAttendees(tx, platform, { ...tail, status: 'cancelled' }, 'cancelled', '');
  }
  await deleteEvent(tx, id);
}
