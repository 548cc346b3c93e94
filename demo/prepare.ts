/** Brings the tables up to date and loads the demonstration when the database is empty. */
import { pino } from 'pino';
import { readConfig } from '../src/server/config.ts';
import { migrate } from '../src/server/db/migrate.ts';
import { createPool } from '../src/server/db/pool.ts';
import { Jobs } from '../src/server/jobs/jobs.ts';
import { LiveHub } from '../src/server/live/hub.ts';
import { webCalendars } from '../src/server/published/source.ts';
import { loadDemonstration } from './data/index.ts';
import { partnerCalendars } from './stand-ins/partnerCalendars/calendars.ts';

const fresh = process.argv.includes('--fresh');
const say = (text: string) => process.stdout.write(`  ${text}\n`);
const config = readConfig(process.env);
const log = pino({ level: 'warn' });
const pool = createPool(config.databaseUrl, 2);

try {
  if (fresh) await eraseDemonstration();
  const run = await migrate(config.databaseUrl);
  if (run.length > 0) say(`tables brought up to date: ${run.join(', ')}`);
  const { rowCount } = await pool.query('select 1 from organization limit 1');
  if (rowCount === 0) await load();
  else say('the database holds data already');
} catch (error) {
  process.stderr.write(`  ${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 1;
} finally {
  await pool.end();
}

async function load() {
  say('loading the Tern Rock demonstration …');
  const jobs = new Jobs(config.databaseUrl, log);
  await jobs.start();
  try {
    const counts = await loadDemonstration({
      pool,
      jobs,
      log,
      clock: config.clock,
      live: new LiveHub(config.databaseUrl, log),
      calendars: partnerCalendars(config.clock, webCalendars),
      publicUrl: config.publicUrl,
    });
    say(`${counts.people} people, ${counts.resources} resources, ${counts.events} events`);
  } finally {
    await jobs.end();
  }
}

/** Only a database that is empty or holds the demonstration is ever erased. */
async function eraseDemonstration() {
  const { rows } = await pool.query<{ known: boolean }>(
    `select to_regclass('public.organization') is not null as known`,
  );
  if (!rows[0]?.known) return;
  const { rowCount: demonstration } = await pool.query(
    `select 1 from setting where key = 'demonstration'`,
  );
  const { rowCount: inUse } = await pool.query('select 1 from organization limit 1');
  if (inUse && !demonstration) {
    throw new Error('This database holds real data, not the demonstration; it is left as it is.');
  }
  await pool.query('drop schema if exists pgboss cascade');
  await pool.query('drop schema public cascade; create schema public');
  say('the old demonstration is gone');
}
