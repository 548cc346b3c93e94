import Router from '@koa/router';
import { setupRequest } from '../../contract/setup.ts';
import { readBody } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { signInAs } from '../session/index.ts';
import { setUp } from './service.ts';

/** POST /api/setup: the first administrator, by the link that was printed at the start. */
export function setupRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/setup' });
  router.post('/', async (ctx) => {
    const personId = await setUp(platform, readBody(setupRequest, ctx));
    await signInAs(ctx, platform, personId);
    ctx.status = 204;
  });
  return router;
}
