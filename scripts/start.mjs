/**
 * npm start: everything from an empty machine to a running Marmot.
 *
 *   npm start                     keeps the data there is
 *   npm start -- --fresh-demo     begins again with new demonstration data
 *
 * MARMOT_DATABASE_URL uses a database of your own, PORT another port, MARMOT_NOW a fixed clock.
 */
import { spawn } from 'node:child_process';
import { startCluster, ensureDatabase } from './lib/cluster.mjs';
import { ensureBuild, ensurePackages } from './lib/packages.mjs';
import { ensurePostgres, requireNode } from './lib/programs.mjs';
import { Advice, giveUp, step } from './lib/report.mjs';
import { projectDir, run, stop, typescript } from './lib/run.mjs';

const fresh = process.argv.includes('--fresh-demo');
const unknown = process.argv.slice(2).filter((argument) => argument !== '--fresh-demo');

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
      const started = await startCluster({ name: 'cluster', bin, usualPort: 54320 });
      await ensureDatabase(started, 'marmot');
      say(started.note);
      return started;
    });
    url = cluster.url('marmot');
  }
  await step('npm packages', ensurePackages);
  const env = { ...process.env, MARMOT_DATABASE_URL: url };
  await step('Tables and demonstration data', async () => {
    const args = [...typescript('demo/prepare.ts'), ...(fresh ? ['--fresh'] : [])];
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
  server = spawn(process.execPath, typescript('src/server/main.ts'), {
    cwd: projectDir,
    env,
    stdio: 'inherit',
    detached: true,
  });
  server.on('exit', (code) => end(code ?? 1));
} catch (error) {
  await stop(server);
  await cluster?.end();
  giveUp(error);
}
