import { pino } from 'pino';
import { startCluster } from '../../scripts/lib/cluster.mjs';
import { ensurePostgres } from '../../scripts/lib/programs.mjs';
import { loadDemonstration } from '../../demo/data/index.ts';
import { partnerCalendars } from '../../demo/stand-ins/partnerCalendars/calendars.ts';
import { webCalendars } from '../../src/server/published/index.ts';
import { readConfig } from '../../src/server/config.ts';
import { migrate } from '../../src/server/db/migrate.ts';
import { createPlatform } from '../../src/server/server.ts';

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
  const config = readConfig({ MARMOT_DATABASE_URL: url, MARMOT_NOW: TEST_NOW });
  const calendars = partnerCalendars(config.clock, webCalendars);
  const platform = createPlatform(config, pino({ level: 'warn' }), calendars);
  await loadDemonstration(platform, false);
  await platform.pool.end();
  return TEMPLATE;
}
