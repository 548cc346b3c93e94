import { bin, run } from './run.mjs';

/** The checks that read the code without running it; each is one pass or one failure. */
const CHECKS = [
  ['format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['lint', bin('eslint'), ['.', '--max-warnings', '0']],
  ['types', bin('tsc'), ['-p', '.']],
  ['arrows', bin('depcruise'), ['src', 'demo', 'tests', 'bench', '--output-type', 'err']],
  ['unused code', bin('knip'), ['--no-progress']],
  ['size of the first load', process.execPath, ['scripts/firstLoad.mjs']],
];

/** Runs every check, two at a time, and shows what the failing ones print. */
export async function runChecks() {
  const waiting = [...CHECKS];
  const counts = { passed: 0, failed: 0, faults: [] };
  const work = async () => {
    for (let check = waiting.shift(); check; check = waiting.shift()) {
      const [name, command, args] = check;
      const { code, output } = await run(command, args, { quiet: true });
      if (code === 0) counts.passed++;
      else {
        counts.failed++;
        counts.faults.push(`${name}\n${output}`);
      }
      process.stdout.write(`  ${code === 0 ? 'passed' : 'FAILED'}: ${name}\n`);
      if (code !== 0 || name.startsWith('size')) process.stdout.write(output);
    }
  };
  await Promise.all([work(), work()]);
  return counts;
}
