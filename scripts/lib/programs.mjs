import { spawnSync } from 'node:child_process';
import { accessSync, constants, existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { Advice } from './report.mjs';
import { run } from './run.mjs';

const isRoot = process.getuid?.() === 0;

function onPath(program) {
  for (const folder of (process.env.PATH ?? '').split(path.delimiter)) {
    const file = path.join(folder, program);
    try {
      accessSync(file, constants.X_OK);
      return file;
    } catch {
      // Not in this folder; the next may have it.
    }
  }
  return undefined;
}

/** The folder that holds initdb, postgres and psql, the newest version first. */
function findPostgres() {
  const home = '/usr/lib/postgresql';
  const versions = existsSync(home) ? readdirSync(home).map(Number).filter(Number.isFinite) : [];
  for (const version of versions.sort((a, b) => b - a)) {
    const folder = path.join(home, String(version), 'bin');
    if (existsSync(path.join(folder, 'initdb')) && existsSync(path.join(folder, 'postgres')))
      return folder;
  }
  const initdb = onPath('initdb');
  return initdb && onPath('postgres') ? path.dirname(initdb) : undefined;
}

async function aptInstall(packages) {
  if (!isRoot || !onPath('apt-get')) {
    throw new Advice(
      `this machine lacks ${packages.join(' and ')}.`,
      `sudo apt-get update && sudo apt-get install -y ${packages.join(' ')}`,
    );
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const install = () =>
    run('apt-get', ['install', '-y', '--no-install-recommends', ...packages], { env, quiet: true });
  await run('apt-get', ['update'], { env, quiet: true });
  const result = await install();
  if (result.code !== 0) {
    throw new Advice(
      `apt-get could not install ${packages.join(' ')}:\n${result.output.slice(-2000)}`,
      'install the packages by hand and start again',
    );
  }
}

/**
 * Makes sure PostgreSQL's programs are on the machine.
 * @returns {Promise<string>} the folder of initdb, postgres and psql
 */
export async function ensurePostgres(say) {
  let folder = findPostgres();
  if (!folder) {
    await aptInstall(['postgresql', 'postgresql-contrib']);
    folder = findPostgres();
  }
  if (!folder)
    throw new Advice('PostgreSQL was installed, but initdb is nowhere to be found.', undefined);
  say(folder);
  return folder;
}

/** Without its windows it shows the same pages with half the work. */
const HEADLESS = 'chromium-headless-shell';

/** The path of Debian's Chromium, where the machine has it. */
export const findChromium = () => onPath(HEADLESS) ?? onPath('chromium');

/**
 * Makes sure Debian's Chromium is on the machine, for the browser tests.
 * @returns {Promise<string>} the program's path
 */
export async function ensureChromium(say) {
  try {
    if (!onPath(HEADLESS)) await aptInstall([HEADLESS]);
  } catch (error) {
    if (!onPath('chromium')) throw error;
  }
  const program = findChromium();
  if (!program) throw new Advice('Chromium was installed, but cannot be found.', undefined);
  say(program);
  return program;
}

/**
 * Makes sure that calendars can be read by a parser that is not Marmot's own, for the tests.
 * @returns {Promise<string>} the program's path
 */
export async function ensureCalendarReader(say) {
  const python = '/usr/bin/python3';
  const reads = () => spawnSync(python, ['-c', 'import icalendar']).status === 0;
  if (!reads()) await aptInstall(['python3-icalendar']);
  if (!reads()) throw new Advice('python3-icalendar was installed, but cannot be used.', undefined);
  say(python);
  return python;
}

/**
 * Makes sure that there is a mail server as Debian ships it, for the long form of the load tests.
 * @returns {Promise<string>} the program's path
 */
export async function ensurePostfix(say) {
  const program = '/usr/sbin/postfix';
  if (!isRoot) {
    say('is started as root alone; letters through it are not tried');
    return program;
  }
  if (!existsSync(program)) await aptInstall(['postfix']);
  say(program);
  return program;
}

/** Node 20.19 is what Vite and the rest of the tools ask for. */
export function requireNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 19)) return;
  throw new Advice(`Node ${process.versions.node} is too old.`, 'install Node 20.19 or newer');
}
