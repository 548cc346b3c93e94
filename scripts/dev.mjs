/** npm run dev: the server restarted on change, and Vite in front of it with the /design page. */
import { spawn } from 'node:child_process';
import { ensureDatabase, startCluster } from './lib/cluster.mjs';
import { ensurePackages } from './lib/packages.mjs';
import { ensurePostgres } from './lib/programs.mjs';
import { Advice, giveUp, step } from './lib/report.mjs';
import { bin, projectDir, run, stop, typescript } from './lib/run.mjs';

let cluster;
const children = [];
const end = async () => {
  await Promise.all(children.map((child) => stop(child)));
  await cluster?.end();
  process.exit(0);
};
process.on('SIGINT', end);
process.on('SIGTERM', end);

try {
  const postgres = await step('PostgreSQL', ensurePostgres);
  cluster = await startCluster({ name: 'cluster', bin: postgres, usualPort: 54320 });
  await ensureDatabase(cluster, 'marmot');
  await step('npm packages', ensurePackages);
  const env = {
    ...process.env,
    MARMOT_DATABASE_URL: process.env.MARMOT_DATABASE_URL ?? cluster.url('marmot'),
    MARMOT_PUBLIC_URL: 'http://localhost:4271',
    MARMOT_CHECK_ANSWERS: 'yes',
  };
  const prepared = await run(process.execPath, [...typescript('demo/prepare.ts'), '--demo'], {
    env,
  });
  if (prepared.code !== 0) throw new Advice('the database could not be prepared.');
  const options = { cwd: projectDir, env, stdio: 'inherit', detached: true };
  children.push(spawn(bin('tsx'), ['watch', 'src/server/main.ts'], options));
  children.push(spawn(bin('vite'), [], options));
} catch (error) {
  giveUp(error);
}
