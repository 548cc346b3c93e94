import { createRequire } from 'node:module';
import { runningRoutes } from '../../contract/running.ts';
import { implement } from '../http/index.ts';
import { readFailedLetters, readLettersWaiting, retryLetters } from '../mail/index.ts';
import { readRunning } from './queries.ts';

const { version } = createRequire(import.meta.url)('../../../package.json') as { version: string };
const startedAt = Date.now() - Math.round(performance.now());

export const runningApi = implement(runningRoutes, (platform) => {
  const { pool, live, mailServerUrl } = platform;
  return {
    'GET /api/administration/running': async () => {
      const [known, letters] = await Promise.all([readRunning(pool), readLettersWaiting(pool)]);
      return {
        ...{ version, node: process.version, startedAt, ...known, streams: live.size },
        letters: { ...letters, server: mailServerUrl && new URL(mailServerUrl).host },
      };
    },
    'GET /api/administration/letters': async () => ({ letters: await readFailedLetters(pool) }),
    'POST /api/administration/letters/retry': async (tx, { body }) => ({
      retried: await retryLetters(tx, body.ids),
    }),
  };
});
