import { closuresRoutes } from '../../contract/closures.ts';
import { implement } from '../http/index.ts';
import { listElsewhere, listOutOfUse } from './returning.ts';
import { closeSite, previewSiteClosure } from './site.ts';
import { closePlace, previewClosure, reopenPlace } from './service.ts';

export const closuresApi = implement(closuresRoutes, (platform) => ({
  'GET /api/places/:id/closures/preview': ({ actor, params, query }) =>
    previewClosure(platform.pool, actor, params.id, query),
  'POST /api/places/:id/closures': (tx, { actor, params, body }) =>
    closePlace(tx, platform, actor, params.id, body),
  'GET /api/sites/:id/closure/preview': ({ actor, params, query }) =>
    previewSiteClosure(platform.pool, actor, params.id, query),
  'POST /api/sites/:id/closure': (tx, { actor, params, body }) =>
    closeSite(tx, platform, actor, params.id, body),
  'GET /api/closures': ({ actor, now }) => listOutOfUse(platform.pool, actor, now),
  'GET /api/places/:id/closures/:closure/elsewhere': ({ actor, params, now }) =>
    listElsewhere(platform.pool, actor, params.id, params.closure, now),
  'DELETE /api/places/:id/closures/:closure': async (tx, { actor, params }) => ({
    closed: false,
    change: await reopenPlace(tx, platform, actor, params.id, params.closure),
  }),
}));
