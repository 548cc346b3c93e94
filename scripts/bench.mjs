/**
 * npm run bench: every claim of speed against a baseline measured in the same run, as JSON lines.
 * The large organisation is loaded once into a cluster of its own and kept;
 * npm run bench -- --fresh-data loads it again; npm run bench -- grid runs one of them.
 */
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { ensureDatabase, startCluster } from './lib/cluster.mjs';
import { ensureBuild, ensurePackages } from './lib/packages.mjs';
import { ensureChromium, ensurePostgres } from './lib/programs.mjs';
import { Advice, giveUp } from './lib/report.mjs';
import { projectDir, run, typescript } from './lib/run.mjs';

const quietly = () => undefined;
let cluster;
try {
  const bin = await ensurePostgres(quietly);
  await ensureChromium(quietly);
  await ensurePackages(quietly);
  await ensureBuild(quietly);
  cluster = await startCluster({
    name: 'bench-cluster',
    bin,
    usualPort: 54720,
    settings: {
      shared_buffers: '1GB',
      max_wal_size: '4GB',
      shared_preload_libraries: 'pg_stat_statements',
    },
  });
  if (process.argv.includes('--fresh-data'))
    await cluster.psql('drop database if exists marmot_scale');
  await ensureDatabase(cluster, 'marmot_scale');
  const env = { ...process.env, MARMOT_DATABASE_URL: cluster.url('marmot_scale') };
  const asked = process.argv.slice(2).find((word) => !word.startsWith('--')) ?? '';
  const benches = readdirSync(path.join(projectDir, 'bench')).filter(
    (file) => file.endsWith('.bench.ts') && file.startsWith(asked),
  );
  const failed = [];
  for (const file of benches.sort()) {
    const { code } = await run(process.execPath, typescript(`bench/${file}`), { env });
    if (code === 0) continue;
    // It is said, and the others are measured all the same.
    process.stderr.write(`bench/${file} failed.\n`);
    failed.push(file);
  }
  await cluster.end();
  if (failed.length > 0) throw new Advice(`these failed: ${failed.join(', ')}.`);
} catch (error) {
  await cluster?.end();
  giveUp(error);
}
