/**
 * npm run restore -- /srv/marmot.dump: a backup into the empty database that MARMOT_DATABASE_URL names.
 * All of it or nothing; a database with tables in it is left alone.
 */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { ask, readBack, restore } from './lib/dump.mjs';
import { ensurePostgres } from './lib/programs.mjs';
import { Advice, giveUp, step } from './lib/report.mjs';

try {
  const [given, ...more] = process.argv.slice(2);
  const url = process.env.MARMOT_DATABASE_URL;
  if (!given || more.length > 0 || !url)
    throw new Advice(
      'A backup, and the empty database that it goes into, have to be named.',
      'MARMOT_DATABASE_URL=postgres://… npm run restore -- /srv/marmot.dump',
    );
  const file = path.resolve(given);
  if (!existsSync(file)) throw new Advice(`There is no ${file}.`);
  const bin = await ensurePostgres(() => undefined);
  await step(`Reading ${file}`, async (say) => say(`${await readBack(bin, file)} entries`));
  await step('Restoring', async (say) => {
    await restore(bin, url, file);
    const counts = await ask(
      bin,
      url,
      `select (select count(*) from person) || ' people, ' || (select count(*) from event) || ' events'`,
    );
    say(counts);
  });
} catch (error) {
  giveUp(error);
}
