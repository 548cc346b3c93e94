import type { z } from 'zod';
import { type ChangesUndone, type logPage } from '../../contract/changes.ts';
import { MOST_LOGGED } from '../../contract/limits.ts';
import type { ThingKind } from '../../core/facts.ts';
import { listClauses } from '../../core/listClauses.ts';
import { Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import {
  deleteThingRevisions,
  lockThingRevisions,
  readThingFacts,
  type ThingHistory,
} from '../facts/index.ts';
import type { Platform } from '../platform.ts';

const historyOf = ({ histories }: Platform, thing: ThingKind): ThingHistory =>
  histories.find((one) => one.thing === thing)!;

/** What was done to a place, the latest first. @throws Refusal unless the actor looks after places */
export async function readLog(
  db: Database,
  platform: Platform,
  actor: PersonActor,
  { place, after }: { place: number; after?: number | undefined },
): Promise<z.output<typeof logPage>> {
  const facts = await readThingFacts(db, 'place', place, {
    before: after ?? null,
    most: MOST_LOGGED + 1,
  });
  const shown = facts.slice(0, MOST_LOGGED);
  const words = await historyOf(platform, 'place').say(db, actor, shown);
  return {
    entries: shown.map(({ id, at, actor: by, actedFor, change }, k) => ({
      ...{ id, at, actor: by, actedFor, change },
      what: words[k]!,
    })),
    more: facts.length > MOST_LOGGED,
  };
}

/**
 * Takes changes back, the latest first: as far as nobody has changed since what they touched.
 * @param ids by which they are taken back; what is taken back already is no error
 * @throws Refusal where all of it has been changed since, or it cannot be as it was: nothing is done then
 */
export async function undoChanges(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  ids: readonly number[],
): Promise<ChangesUndone> {
  const revisions = await lockThingRevisions(tx, ids);
  const answer: ChangesUndone = {
    undone: 0,
    gone: ids.length - revisions.length,
    left: [],
    bookings: { undone: 0, partly: 0, left: 0 },
  };
  for (const history of platform.histories) {
    const own = revisions.filter(({ thing }) => thing === history.thing);
    if (own.length === 0) continue;
    const { done, left, meetings } = await history.takeBack(tx, platform, actor, own);
    deleteThingRevisions(tx, done);
    answer.undone += done.length;
    answer.left.push(...left);
    answer.bookings.undone += meetings.undone;
    answer.bookings.partly += meetings.partly;
    answer.bookings.left += meetings.left;
  }
  if (answer.undone > 0) return answer;
  if (answer.left.length === 0)
    throw new Refusal('nothing-to-undo', 'It is taken back already, or too long ago.');
  throw new Refusal('changed-since', `It stays as it is: ${listClauses(answer.left)}.`);
}
