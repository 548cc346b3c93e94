import { forgetLinks } from '../accounts/index.ts';
import { forgetFiles } from '../attachments/index.ts';
import { forgetKeys } from '../http/index.ts';
import type { JobDefinition } from '../jobs/index.ts';
import { forgetSessions } from '../session/index.ts';
import { DAY } from '../../core/time/interval.ts';
import { forgetOld, forgetPast } from './queries.ts';
import { keepDaysBy, readKeeping } from './settings.ts';

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
    const now = clock.now();
    const keeping = await readKeeping(pool, keepDays);
    await forgetOld(pool, keepDaysBy(keepDays, keeping), now, signal);
    const before = (days: number | null) => (days === null ? null : now - days * DAY);
    await forgetPast(
      pool,
      { past: before(keeping.past), comments: before(keeping.comments) },
      signal,
    );
  },
};
