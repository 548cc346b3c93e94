import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { runner } from 'node-pg-migrate';
import pg from 'pg';

const dir = path.join(path.dirname(fileURLToPath(import.meta.url)), 'migrations');
/** Any number, as long as nothing else in the database locks the same one. */
const LOCK = 4_270_001;

/**
 * Brings the tables up to date. Servers that start together wait for one another.
 * @returns the names of the migrations that were run
 */
export async function migrate(databaseUrl: string): Promise<string[]> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [LOCK]);
    const run = await runner({
      dbClient: client,
      dir,
      direction: 'up',
      migrationsTable: 'migration',
      noLock: true,
      log: () => undefined,
    });
    return run.map((migration) => migration.name);
  } finally {
    await client.end();
  }
}
