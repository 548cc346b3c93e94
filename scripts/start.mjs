/**
 * npm start: everything from an empty machine to a running Marmot.
 *
 *   npm start                     keeps the data there is
 *   npm start -- --fresh-demo     begins again with new demonstration data
 *   npm start -- --demo           gives an empty database of your own the demonstration
 *
 * MARMOT_DATABASE_URL uses a database of your own, PORT another port, MARMOT_NOW a fixed clock.
 */
import { spawn } from 'node:child_process';
import { startCluster, ensureDatabase, isUpToDate } from './lib/cluster.mjs';
import { ensureBuild, ensurePackages } from './lib/packages.mjs';
import { ensurePostgres, requireNode } from './lib/programs.mjs';
import { Advice, giveUp, step } from './lib/report.mjs';
import { projectDir, run, stop, typescript } from './lib/run.mjs';

const fresh = process.argv.includes('--fresh-demo');
const loopback = /^(localhost|127(\.\d{1,3}){3}|::1)$/.test(process.env.HOST ?? '127.0.0.1');
// By itself only what nobody but this machine can reach becomes the demonstration: its password is public.
const demo = process.argv.includes('--demo') || (!process.env.MARMOT_DATABASE_URL && loopback);
const unknown = process.argv
  .slice(2)
  .filter((argument) => !['--fresh-demo', '--demo'].includes(argument));

let cluster;
let server;
let ending;

function end(code) {
  ending ??= (async () => {
    await stop(server);
    await cluster?.end();
    process.exit(code);
  })();
  return ending;
}
/** What the server says when another try would not help: settings that cannot work. */
const WRONG_SETTINGS = 78;
const FIRST_PAUSE_MS = 250;
const LONGEST_PAUSE_MS = 30_000;
/** One that ran so long had started well, and the next one is not waited for. */
const WELL_MS = 60_000;

/** Starts the server, and again whenever it dies, after pauses that grow while it does so at once. */
function keepRunning(env, wait = FIRST_PAUSE_MS) {
  const began = Date.now();
  server = spawn(process.execPath, typescript('src/server/main.ts'), {
    cwd: projectDir,
    env,
    stdio: 'inherit',
    detached: true,
  });
  server.on('exit', (code, signal) => {
    if (ending) return;
    if (code === 0 || code === WRONG_SETTINGS) return end(code);
    const pause = Date.now() - began > WELL_MS ? FIRST_PAUSE_MS : wait;
    process.stderr.write(
      `The server ended (${signal ?? `exit code ${code}`}); it is started again in ${pause / 1000} s.\n`,
    );
    setTimeout(() => {
      if (!ending) keepRunning(env, Math.min(pause * 2, LONGEST_PAUSE_MS));
    }, pause);
  });
}
process.on('SIGINT', () => end(0));
process.on('SIGTERM', () => end(0));

try {
  if (unknown.length)
    throw new Advice(`"${unknown[0]}" is not known.`, 'npm start -- --fresh-demo');
  requireNode();
  let url = process.env.MARMOT_DATABASE_URL;
  if (!url) {
    const bin = await step('PostgreSQL', ensurePostgres);
    cluster = await step('The database cluster', async (say) => {
      const started = await startCluster({ name: 'cluster', bin, usualPort: 54320, keep: true });
      await ensureDatabase(started, 'marmot');
      say(started.note);
      return started;
    });
    url = cluster.url('marmot');
  }
  await step('npm packages', ensurePackages);
  const env = { ...process.env, MARMOT_DATABASE_URL: url };
  await step('Tables and data', async (say) => {
    if (cluster && !fresh && (await isUpToDate(cluster, 'marmot'))) return say('as they are to be');
    const args = [
      ...typescript('demo/prepare.ts'),
      ...(fresh ? ['--fresh'] : []),
      ...(demo ? ['--demo'] : []),
    ];
    const { code } = await run(process.execPath, args, { env });
    if (code !== 0) {
      throw new Advice(
        'the database could not be prepared; the lines above say why.',
        process.env.MARMOT_DATABASE_URL
          ? 'check MARMOT_DATABASE_URL: the user must own the database and may create extensions'
          : 'npm start -- --fresh-demo begins again with new data',
      );
    }
  });
  await step('The interface', ensureBuild);
  keepRunning(env);
} catch (error) {
  await stop(server);
  await cluster?.end();
  giveUp(error);
}
