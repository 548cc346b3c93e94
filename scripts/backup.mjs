/**
 * npm run backup: all of the database in one file, read back before it counts.
 *
 *   npm run backup                      into .marmot/backups, by the moment
 *   npm run backup -- /srv/marmot.dump  into that file
 *   npm run backup -- --keep=14         and removes all but the latest 14 of .marmot/backups
 *
 * MARMOT_DATABASE_URL names a database of your own.
 */
import { rmSync } from 'node:fs';
import path from 'node:path';
import { ask, backupDir, database, dump, outdated } from './lib/dump.mjs';
import { Advice, giveUp, step } from './lib/report.mjs';

let source;
try {
  const words = process.argv.slice(2);
  const keep = words.find((word) => word.startsWith('--keep='));
  const files = words.filter((word) => !word.startsWith('--'));
  if (files.length > 1 || words.some((word) => word.startsWith('--') && word !== keep))
    throw new Advice('That is not understood.', 'npm run backup -- /srv/marmot.dump');
  const most = keep === undefined ? null : Number(keep.slice('--keep='.length));
  if (most !== null && !(Number.isInteger(most) && most >= 1))
    throw new Advice(
      '--keep must be a number of backups, at least 1.',
      'npm run backup -- --keep=14',
    );
  const moment = new Date().toISOString().replace(/[-:]|\.\d+/g, '');
  const file = path.resolve(files[0] ?? path.join(backupDir, `marmot-${moment}.dump`));
  source = await database();
  const { bin, url } = source;
  const { bytes } = await step(`Writing ${file}`, async (say) => {
    const written = await dump(bin, url, file);
    say(`${(written.bytes / 1e6).toFixed(1)} MB, read back: ${written.entries} entries`);
    return written;
  });
  // The page of its health says when the last one was.
  const said = JSON.stringify({ at: Date.now(), bytes, file }).replaceAll("'", "''");
  await ask(
    bin,
    url,
    `insert into setting (key, value) values ('last-backup', '${said}'::jsonb)
     on conflict (key) do update set value = excluded.value`,
  );
  if (most !== null && files.length === 0) for (const old of outdated(backupDir, most)) rmSync(old);
  await source.end();
} catch (error) {
  await source?.end();
  giveUp(error);
}
