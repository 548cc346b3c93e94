import { incomingRoutes } from '../../contract/incoming.ts';
import { changeableMeeting } from '../events/index.ts';
import { implement } from '../http/index.ts';
import { countAside, leaveAside } from './aside.ts';
import { readAside, readAsideOf } from './queries.ts';

export const incomingApi = implement(incomingRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/incoming': async ({ actor }) => ({ mails: await readAsideOf(pool, actor.me.id) }),
    'GET /api/replies/:id/aside': async ({ actor, params }) => {
      await changeableMeeting(pool, actor, params.id, 'organizer');
      return { mails: await readAside(pool, params.id) };
    },
    'POST /api/incoming/:id/count': (tx, { actor, params }) =>
      countAside(tx, platform, actor, params.id),
    'POST /api/incoming/:id/leave': (tx, { actor, params }) => leaveAside(tx, actor, params.id),
  };
});
