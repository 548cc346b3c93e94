import { setupRoutes } from '../../contract/setup.ts';
import { implement } from '../http/index.ts';
import { signInAs } from '../session/index.ts';
import { setUp } from './service.ts';

export const setupApi = implement(setupRoutes, (platform) => ({
  'POST /api/setup': async ({ body, ctx }) => {
    await signInAs(ctx, platform, await setUp(platform, body));
  },
}));
