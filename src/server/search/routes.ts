import Router from '@koa/router';
import { searchQuery, type Found } from '../../contract/search.ts';
import { read, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { findSubjects, readVocabulary } from './queries.ts';

const MOST_OF_A_KIND = 6;

/** GET /api/search?q=: people, teams and resources by a part of their name; /names: all of them. */
export function searchRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/search' });
  router.get('/', async (ctx) => {
    requireActor(ctx);
    const { q } = read(searchQuery, { ...ctx.query });
    const found: Found[] = q ? await findSubjects(platform.pool, q, MOST_OF_A_KIND) : [];
    ctx.body = { found };
  });
  router.get('/names', async (ctx) => {
    requireActor(ctx);
    ctx.body = await readVocabulary(platform.pool);
  });
  return router;
}
