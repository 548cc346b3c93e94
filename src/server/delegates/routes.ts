import { delegatesRoutes } from '../../contract/delegates.ts';
import { implement } from '../http/index.ts';
import { removeDelegate, setDelegate, whoActsFor } from './service.ts';

export const delegatesApi = implement(delegatesRoutes, (platform) => ({
  'GET /api/delegates': ({ actor }) => whoActsFor(platform.pool, actor.me.id),
  'PUT /api/delegates/:id': (tx, { actor, params, body }) =>
    setDelegate(tx, platform, actor.me, params.id, body),
  'DELETE /api/delegates/:id': (tx, { actor, params }) => removeDelegate(tx, actor.me, params.id),
}));
