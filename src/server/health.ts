import { healthRoutes, type Health } from '../contract/health.ts';
import { implement } from './http/index.ts';
import { readBacklog } from './jobs/index.ts';
import type { Platform } from './platform.ts';
import { LONGEST_HEALTH_MS } from './limits.ts';

export const healthApi = implement(healthRoutes, (platform) => ({
  'GET /api/health': async ({ ctx }) => {
    const found = await healthOf(platform);
    ctx.status = found.ok ? 200 : 503;
    if (!found.ok) ctx.set('Retry-After', '2');
    return found;
  },
}));

async function healthOf({ pool, clock, log }: Platform): Promise<Health> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error('no answer in time')), LONGEST_HEALTH_MS);
  });
  try {
    const { jobs, letters } = await Promise.race([readBacklog(pool, clock.now()), late]);
    return { ok: true, database: 'answers', jobs, letters };
  } catch (error) {
    log.warn({ why: (error as Error).message }, 'the database does not answer');
    return { ok: false, database: 'away', jobs: null, letters: null };
  } finally {
    clearTimeout(timer);
  }
}
