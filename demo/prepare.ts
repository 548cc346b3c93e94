/**
 * Brings the tables up to date. With --demo an empty database gets the demonstration; without, it stays
 * empty, and the server prints a link for its first administrator.
 */
import { pino } from 'pino';
import { readConfig } from '../src/server/config.ts';
import { untilAvailable } from '../src/server/db/pool.ts';
import { migrate } from '../src/server/db/migrate.ts';
import { webCalendars } from '../src/server/published/index.ts';
import { createPlatform } from '../src/server/server.ts';
import { loadDemonstration } from './data/index.ts';
import { partnerCalendars } from './stand-ins/partnerCalendars/calendars.ts';

const fresh = process.argv.includes('--fresh');
const wanted = fresh || process.argv.includes('--demo');
const say = (text: string) => process.stdout.write(`  ${text}\n`);
const config = readConfig(process.env);
const log = pino({ level: 'warn' });
const platform = createPlatform(config, log, partnerCalendars(config.clock, webCalendars));
const { pool } = platform;

/** A database that is starting is waited for, but not for ever. */
const WAIT_MS = 60_000;

try {
  await untilAvailable(pool, log, WAIT_MS);
  if (fresh) await eraseDemonstration();
  const run = await migrate(config.databaseUrl);
  if (run.length > 0) say(`tables brought up to date: ${run.join(', ')}`);
  const { rowCount } = await pool.query('select 1 from organization limit 1');
  if (rowCount === 0 && wanted) await load();
  else say(rowCount === 0 ? 'the database is empty' : 'the database holds data already');
} catch (error) {
  process.stderr.write(`  ${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 1;
} finally {
  await pool.end();
}

async function load() {
  say('loading the Tern Rock demonstration …');
  const counts = await loadDemonstration(platform);
  say(`${counts.people} people, ${counts.resources} resources, ${counts.events} events`);
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
