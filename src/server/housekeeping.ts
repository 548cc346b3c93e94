import { forgetFiles } from './attachments/index.ts';
import { forgetSenders } from './events/index.ts';
import { forgetKeys } from './http/index.ts';
import { forgetIncoming } from './incoming/index.ts';
import type { JobDefinition } from './jobs/index.ts';
import { forgetNotifications } from './notifications/index.ts';
import { forgetReminders } from './reminders/index.ts';
import { forgetDevices, forgetSessions } from './session/index.ts';

/** Every hour: forgets what nobody asks for any more, so that no table grows for ever. */
export const housekeepingJob: JobDefinition = {
  kind: 'housekeeping',
  atOnce: 1,
  timeLimitMs: 10 * 60_000,
  pausesMinutes: [5],
  everyMinutes: 60,
  async work(platform) {
    await forgetKeys(platform.pool);
    await forgetSessions(platform.pool, platform.clock.now());
    await forgetDevices(platform.pool, platform.clock.now());
    await forgetFiles(platform.pool);
    await forgetNotifications(platform.pool, platform.clock.now());
    await forgetIncoming(platform.pool, platform.clock.now());
    await forgetReminders(platform.pool, platform.clock.now());
    await forgetSenders(platform.pool, platform.clock.now());
  },
};
