import { changesRoutes } from '../../contract/changes.ts';
import { implement } from '../http/index.ts';
import { readLog, undoChanges } from './service.ts';

export const changesApi = implement(changesRoutes, (platform) => ({
  'GET /api/changes': ({ actor, query }) => readLog(platform.pool, platform, actor, query),
  'POST /api/changes/undo': (tx, { actor, body }) => undoChanges(tx, platform, actor, body.changes),
}));
