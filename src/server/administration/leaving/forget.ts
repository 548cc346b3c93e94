import { Refusal } from '../../../core/refusal.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import { commitThings } from '../../facts/index.ts';
import type { Platform } from '../../platform.ts';
import { lockChosen } from '../people.ts';
import { askToForget, lockHome } from '../peopleQueries.ts';
import { readAllComing } from './holdings.ts';

/**
 * Lets somebody who left be forgotten, behind the answer. It is not taken back.
 * @throws Refusal where they have not left, were changed meanwhile, or still have something to come
 */
export async function forget(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
  version: number,
): Promise<void> {
  await lockHome(tx);
  const [person] = await lockChosen(tx, [{ id, version }], ({ account }) => account === 'ended');
  if ((await readAllComing(tx, id, platform.clock.now())).length > 0)
    throw new Refusal(
      'has-coming',
      `${person!.name} still has something to come. Hand it over or end it first.`,
    );
  askToForget(tx, id, platform.clock.now());
  await commitThings(tx, platform, actor, [
    {
      fact: {
        ...{ thing: 'person', thingId: id, kind: 'person-forgotten' },
        details: { name: person!.name },
      },
    },
  ]);
}
