import Router from '@koa/router';
import type { Platform } from './platform.ts';

/** GET /api/health: whether the database answers. */
export function healthRoutes(platform: Platform): Router {
  const router = new Router();
  router.get('/api/health', async (ctx) => {
    try {
      await platform.pool.query('select 1');
      ctx.body = { ok: true };
    } catch (error) {
      platform.log.error({ error }, 'the database does not answer');
      ctx.status = 503;
      ctx.body = { ok: false };
    }
  });
  return router;
}
