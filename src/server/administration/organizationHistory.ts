import { requireAdministrator } from '../access/index.ts';
import type { ThingHistory } from '../facts/index.ts';

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
