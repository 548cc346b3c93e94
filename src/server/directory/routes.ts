import { directoryRoutes } from '../../contract/directory.ts';
import { implement } from '../http/index.ts';
import { readToken } from './queries.ts';
import { PREFIX } from './scim.ts';
import { endToken, makeToken } from './token.ts';

export const directoryApi = implement(directoryRoutes, (platform) => ({
  'GET /api/administration/directory': async () => ({
    address: platform.publicUrl + PREFIX,
    ...((await readToken(platform.pool)) ?? { madeAt: null, usedAt: null }),
  }),
  'POST /api/administration/directory': async ({ actor }) => ({
    token: await makeToken(platform, actor),
  }),
  'DELETE /api/administration/directory': (tx, { actor }) => endToken(tx, platform, actor),
}));
