/** Reads what the test runners wrote of a run: counts, and each failure in words. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { projectDir } from './run.mjs';

/** @typedef {{ passed: number, failed: number, faults: string[] }} Counts */

/**
 * Reads a runner's report; one that wrote none has failed as a whole.
 * @param {string} file
 * @param {(report: any) => Counts} read
 * @param {number} code the runner's exit status
 * @returns {Counts}
 */
export function readReport(file, read, code) {
  let counts;
  try {
    counts = read(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    counts = { passed: 0, failed: 1, faults: [`${path.basename(file)} could not be read`] };
  }
  if (code === 0 || counts.failed > 0) return counts;
  const fault = `${path.basename(file, '.json')} ended with ${code}, though no test failed`;
  return { ...counts, failed: 1, faults: [...counts.faults, fault] };
}

/** A file that fell before its tests ran counts as one failure, though its tests were not counted. */
export function readVitest({ testResults, numPassedTests, numFailedTests }) {
  const faults = testResults.flatMap(({ name, status, message, assertionResults }) => {
    const file = path.relative(projectDir, name);
    const failed = assertionResults.filter((one) => one.status === 'failed');
    if (failed.length === 0) return status === 'failed' ? [`${file}\n${message}`] : [];
    return failed.map((one) => `${file} › ${one.fullName}\n${one.failureMessages.join('\n')}`);
  });
  return { passed: numPassedTests, failed: Math.max(numFailedTests, faults.length), faults };
}

/** The specs of a suite and of those within it. */
const specsOf = ({ specs = [], suites = [] }) => [...specs, ...suites.flatMap(specsOf)];

export function readPlaywright({ stats, suites, errors }) {
  const tests = suites.flatMap(specsOf).flatMap(({ file, title, tests: runs }) =>
    runs
      .filter(({ status }) => status === 'unexpected' || status === 'flaky')
      .map(({ results }) => {
        const messages = results.flatMap((one) => one.errors.map((error) => error.message));
        return `${file} › ${title}\n${messages.join('\n')}`;
      }),
  );
  return {
    passed: stats.expected,
    failed: stats.unexpected + stats.flaky,
    faults: [...tests, ...errors.map(({ message }) => message)],
  };
}
