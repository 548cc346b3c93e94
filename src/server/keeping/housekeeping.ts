import { forgetLinks } from '../accounts/index.ts';
import { forgetFiles } from '../attachments/index.ts';
import { forgetKeys } from '../http/index.ts';
import type { JobDefinition } from '../jobs/index.ts';
import { forgetSessions } from '../session/index.ts';
import { forgetOld } from './queries.ts';

/** Every hour: forgets what nobody asks for any more, so that no table grows for ever. */
export const housekeepingJob: JobDefinition = {
  kind: 'housekeeping',
  atOnce: 1,
  timeLimitMs: 10 * 60_000,
  pausesMinutes: [5],
  everyMinutes: 60,
  async work({ pool, clock, keepDays }, _, signal) {
    await forgetKeys(pool);
    await forgetSessions(pool, clock.now());
    await forgetLinks(pool, clock.now());
    await forgetFiles(pool);
    await forgetOld(pool, keepDays, clock.now(), signal);
  },
};
