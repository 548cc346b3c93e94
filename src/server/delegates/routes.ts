import { delegatesRoutes } from '../../contract/delegates.ts';
import { implement } from '../http/index.ts';
import { readDelegates } from './queries.ts';
import { removeDelegate, setDelegate } from './service.ts';

export const delegatesApi = implement(delegatesRoutes, (platform) => ({
  'GET /api/delegates': async ({ actor }) => ({
    delegates: await readDelegates(platform.pool, actor.me.id),
  }),
  'PUT /api/delegates/:id': (tx, { actor, params, body }) =>
    setDelegate(tx, platform, actor.me, params.id, body),
  'DELETE /api/delegates/:id': (tx, { actor, params }) => removeDelegate(tx, actor.me, params.id),
}));
