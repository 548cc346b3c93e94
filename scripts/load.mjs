/**
 * npm run load: the long forms of the load and fault tests against real server processes, with a table
 * of what was measured. Ends with a failure when something was lost or took longer than it may.
 */
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureBuild, ensurePackages } from './lib/packages.mjs';
import {
  ensureCalendarReader,
  ensurePostfix,
  ensurePostgres,
  requireNode,
} from './lib/programs.mjs';
import { giveUp, step } from './lib/report.mjs';
import { bin, run, stateDir } from './lib/run.mjs';

const file = path.join(stateDir, 'reports', 'load.jsonl');

try {
  requireNode();
  await step('PostgreSQL', ensurePostgres);
  await step('A second calendar parser', ensureCalendarReader);
  await step('A mail server', ensurePostfix);
  await step('npm packages', ensurePackages);
  await step('The interface', ensureBuild);
  mkdirSync(path.dirname(file), { recursive: true });
  rmSync(file, { force: true });
  const env = { ...process.env, MARMOT_LOAD: 'long', MARMOT_LOAD_REPORT: file };
  const { code } = await run(
    bin('vitest'),
    ['run', '--no-file-parallelism', 'tests/load', 'tests/faults'],
    { env },
  );
  const rows = readFileSync(file, 'utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line));
  const width = Math.max(...rows.map(({ what }) => what.length));
  process.stdout.write('\n');
  for (const { what, measured, allowed } of rows)
    process.stdout.write(`${what.padEnd(width)}  ${measured}${allowed ? `  (${allowed})` : ''}\n`);
  process.exitCode = code;
} catch (error) {
  giveUp(error);
}
