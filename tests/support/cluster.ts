import { pino } from 'pino';
import { startCluster } from '../../scripts/lib/cluster.mjs';
import { ensurePostgres } from '../../scripts/lib/programs.mjs';
import { loadDemonstration } from '../../demo/data/index.ts';
import { partnerCalendars } from '../../demo/stand-ins/partnerCalendars/calendars.ts';
import { webCalendars } from '../../src/server/published/source.ts';
import { readClock } from '../../src/server/config.ts';
import { migrate } from '../../src/server/db/migrate.ts';
import { createPool } from '../../src/server/db/pool.ts';
import { Jobs } from '../../src/server/jobs/jobs.ts';
import { LiveHub } from '../../src/server/live/hub.ts';

/** Tuesday 24 November 2026, 09:12 in Bergen: the moment at which every test happens. */
export const TEST_NOW = '2026-11-24T08:12:00Z';

const TEMPLATE = 'marmot_template';

export type TestCluster = Awaited<ReturnType<typeof startCluster>>;

/** A cluster of its own for tests: fast rather than durable. */
export async function startTestCluster(): Promise<TestCluster> {
  const bin = await ensurePostgres(() => undefined);
  return startCluster({
    name: 'test-cluster',
    bin,
    usualPort: 54_520,
    settings: {
      fsync: 'off',
      synchronous_commit: 'off',
      full_page_writes: 'off',
      max_connections: '200',
    },
  });
}

/** Makes the database that every test's database is copied from: migrated, with the demonstration. */
export async function createTemplate(cluster: TestCluster): Promise<string> {
  await cluster.psql(`drop database if exists ${TEMPLATE} with (force)`);
  await cluster.psql(`create database ${TEMPLATE}`);
  const url = cluster.url(TEMPLATE);
  await migrate(url);
  const log = pino({ level: 'warn' });
  const pool = createPool(url, 2);
  const jobs = new Jobs(url, log);
  await jobs.start();
  await loadDemonstration({
    pool,
    jobs,
    log,
    clock: readClock(TEST_NOW),
    live: new LiveHub(url, log),
    calendars: partnerCalendars(readClock(TEST_NOW), webCalendars),
    publicUrl: 'http://localhost',
  });
  await jobs.end();
  await pool.end();
  return TEMPLATE;
}
