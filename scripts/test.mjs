/**
 * npm test: sets up what the tests need, runs all of them, and ends with one line of counts.
 * The exit status is 0 only when everything passed.
 */
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { runChecks } from './lib/checks.mjs';
import { ensureBuild, ensurePackages } from './lib/packages.mjs';
import {
  ensureCalendarReader,
  ensureChromium,
  ensurePostgres,
  requireNode,
} from './lib/programs.mjs';
import { giveUp, step } from './lib/report.mjs';
import { readPlaywright, readReport, readVitest } from './lib/reports.mjs';
import { bin, run, stateDir } from './lib/run.mjs';

const total = { passed: 0, failed: 0, faults: [] };

function count(name, { passed, failed, faults }) {
  total.passed += passed;
  total.failed += failed;
  total.faults.push(...faults);
  process.stdout.write(`  ${name}: ${passed} passed, ${failed} failed\n`);
}

const MOST_FAULTS = 10;
const MOST_FAULT_LINES = 30;
const MOST_FAULT_LETTERS = 3000;

/** What failed once more, shortened, where the last lines are all that somebody has. */
function printFaults() {
  for (const fault of total.faults.slice(0, MOST_FAULTS)) {
    const plain = stripVTControlCharacters(fault).slice(0, MOST_FAULT_LETTERS).trimEnd();
    const lines = plain.split('\n').slice(0, MOST_FAULT_LINES);
    process.stdout.write(`\nFAILED ${lines.join('\n  ')}\n`);
  }
  if (total.faults.length > MOST_FAULTS)
    process.stdout.write(`\nand ${total.faults.length - MOST_FAULTS} more\n`);
}

async function vitest() {
  const file = path.join(stateDir, 'reports', 'vitest.json');
  const args = ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${file}`];
  const { code } = await run(bin('vitest'), args);
  return readReport(file, readVitest, code);
}

async function playwright() {
  const file = path.join(stateDir, 'reports', 'playwright.json');
  const env = { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: file };
  const { code } = await run(bin('playwright'), ['test', '--reporter=list,json'], { env });
  if (code !== 0) printPages();
  return readReport(file, readPlaywright, code);
}

const MOST_PAGES = 5;
const MOST_LINES = 40;
const MOST_LETTERS = 6000;

/** What the pages showed when their tests failed, and what the server said: a rare failure tells its cause. */
function printPages() {
  const folders = existsSync('test-results') ? readdirSync('test-results') : [];
  const files = folders.map((name) => path.join('test-results', name, 'error-context.md'));
  for (const file of files.filter((one) => existsSync(one)).slice(0, MOST_PAGES))
    process.stdout.write(`\n${file}\n${readFileSync(file, 'utf8').slice(0, MOST_LETTERS)}\n`);
  const log = path.join(stateDir, 'reports', 'browser-tests-server.log');
  if (!existsSync(log)) return;
  const said = readFileSync(log, 'utf8').trimEnd().split('\n').slice(-MOST_LINES);
  process.stdout.write(`\nThe server's last words meanwhile\n${said.join('\n')}\n`);
}

try {
  requireNode();
  await step('PostgreSQL', ensurePostgres);
  await step('Chromium', ensureChromium);
  await step('A second calendar parser', ensureCalendarReader);
  await step('npm packages', ensurePackages);
  await step('The interface', ensureBuild);
  rmSync(path.join(stateDir, 'reports'), { recursive: true, force: true });
  mkdirSync(path.join(stateDir, 'reports'), { recursive: true });
  count('checks', await step('Checks', runChecks));
  count('unit and server tests', await step('Unit and server tests', vitest));
  count('browser tests', await step('Browser tests', playwright));
  printFaults();
  process.stdout.write(`\n${total.passed} passed, ${total.failed} failed\n`);
  process.exitCode = total.failed ? 1 : 0;
} catch (error) {
  giveUp(error);
}
