import { URL } from 'node:url';
import { chmodSync, renameSync, rmSync, statSync } from 'node:fs';
import { mkdirSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { startCluster } from './cluster.mjs';
import { ensurePostgres } from './programs.mjs';
import { Advice } from './report.mjs';
import { projectDir, run } from './run.mjs';

const quietly = () => undefined;

/**
 * The programs of PostgreSQL and the database that is meant: MARMOT_DATABASE_URL, or the project's own.
 * @returns {Promise<{ bin: string, url: string, end: () => Promise<void> }>} `end` stops what was started for it
 */
export async function database() {
  const bin = await ensurePostgres(quietly);
  if (process.env.MARMOT_DATABASE_URL)
    return { bin, url: process.env.MARMOT_DATABASE_URL, end: async () => undefined };
  const cluster = await startCluster({ name: 'cluster', bin, usualPort: 54320 });
  return { bin, url: cluster.url('marmot'), end: cluster.end };
}

/** The address without its password, which stands on no command line that others of the machine see. */
function withoutPassword(url) {
  const address = new URL(url);
  const password = decodeURIComponent(address.password);
  address.password = '';
  return {
    address: address.href,
    env: { ...process.env, ...(password && { PGPASSWORD: password }) },
  };
}

async function program(bin, name, args, url, remedy) {
  const { address, env } = withoutPassword(url);
  const { code, output } = await run(path.join(bin, name), [...args, '-d', address], {
    quiet: true,
    env,
  });
  if (code !== 0) throw new Advice(`${name} says: ${output.trim().slice(0, 2000)}`, remedy);
  return output;
}

/** What a statement gives, as text. */
export const ask = async (bin, url, sql) =>
  (
    await program(
      bin,
      'psql',
      ['-X', '-q', '-t', '-A', '-v', 'ON_ERROR_STOP=1', '-c', sql],
      url,
      'check MARMOT_DATABASE_URL, and that the database runs',
    )
  ).trim();

/**
 * Writes all of a database to a file that nobody else reads, and reads it back from beginning to end before it gets
 * its name: a file of that name is always a whole one.
 * @returns {Promise<{ bytes: number, entries: number }>}
 */
export async function dump(bin, url, file) {
  mkdirSync(path.dirname(file), { recursive: true });
  const unfinished = `${file}.unfinished`;
  try {
    await program(
      bin,
      'pg_dump',
      ['-Fc', '--no-owner', '--no-privileges', '-f', unfinished],
      url,
      'look whether there is room for it, and that pg_dump is no older than the database',
    );
    chmodSync(unfinished, 0o600);
    const entries = await readBack(bin, unfinished);
    renameSync(unfinished, file);
    return { bytes: statSync(file).size, entries };
  } finally {
    rmSync(unfinished, { force: true });
  }
}

/**
 * Reads a dump from beginning to end.
 * @returns {Promise<number>} how many things are in it
 */
export async function readBack(bin, file) {
  const list = await run(path.join(bin, 'pg_restore'), ['--list', file], { quiet: true });
  if (list.code !== 0)
    throw new Advice(`${file} is no backup of Marmot: ${list.output.trim().slice(0, 500)}`);
  const all = await run(path.join(bin, 'pg_restore'), ['-f', '/dev/null', file], { quiet: true });
  if (all.code !== 0)
    throw new Advice(`${file} cannot be read to its end: ${all.output.trim().slice(0, 500)}`);
  if (!/ TABLE DATA public event /.test(list.output))
    throw new Advice(`${file} is a dump, but none of Marmot: it has no events.`);
  return list.output.split('\n').filter((line) => /^\d+;/.test(line)).length;
}

/** Puts a dump into a database that is empty, all of it or nothing. */
export async function restore(bin, url, file) {
  const tables = await ask(
    bin,
    url,
    `select count(*) from information_schema.tables where table_schema = 'public'`,
  );
  if (tables !== '0')
    throw new Advice(
      `the database has ${tables} tables already. Nothing was changed.`,
      'make an empty database, and name it in MARMOT_DATABASE_URL',
    );
  await program(
    bin,
    'pg_restore',
    ['--no-owner', '--no-privileges', '--exit-on-error', '--single-transaction', file],
    url,
    'look whether the user owns the database and may create extensions',
  );
}

/** Where backups go where nothing else is said. */
export const backupDir = path.join(projectDir, '.marmot', 'backups');

/** The backups of a folder that are older than the latest so many. */
export const outdated = (folder, keep) =>
  readdirSync(folder)
    .filter((name) => /^marmot-\d{8}T\d{6}Z\.dump$/.test(name))
    .sort()
    .slice(0, -keep || undefined)
    .map((name) => path.join(folder, name));
