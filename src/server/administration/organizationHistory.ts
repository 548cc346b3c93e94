import { requireAdministrator } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { commitThings, type ThingHistory } from '../facts/index.ts';
import type { Platform } from '../platform.ts';
import { lockHome } from './peopleQueries.ts';

/** How what was done to the organization is said; nothing of it is taken back by itself. */
export const organizationHistory: ThingHistory = {
  thing: 'organization',
  say: (_db, actor, facts) => {
    requireAdministrator(actor);
    return Promise.resolve(
      facts.map(({ details }) => (details as unknown as { what: string }).what),
    );
  },
  takeBack: () =>
    Promise.resolve({ done: [], left: [], meetings: { undone: 0, partly: 0, left: 0 } }),
};

/** Notes what was done to the organization; what is secret of it is said nowhere. */
export async function noteOrganization(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  what: string,
): Promise<void> {
  const home = await lockHome(tx);
  await commitThings(tx, platform, actor, [
    {
      fact: {
        ...{ thing: 'organization', thingId: home.id, kind: 'organization-changed' },
        details: { name: home.name, what },
      },
    },
  ]);
}
