import { archiveRoutes } from '../../contract/archive.ts';
import { implement } from '../http/index.ts';
import { archiveOf } from './service.ts';

export const archiveApi = implement(archiveRoutes, ({ pool }) => ({
  'GET /api/account/archive': ({ actor, now, ctx }) => {
    ctx.attachment(`marmot-${new Date(now).toISOString().slice(0, 10)}.zip`);
    ctx.set('Cache-Control', 'private, no-store');
    ctx.type = 'application/zip';
    ctx.body = archiveOf(pool, actor.me, now);
    return Promise.resolve();
  },
}));
