import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import path from 'node:path';

/** The project's folder; every script works from here, wherever it was called. */
export const projectDir = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../..');

/** What Marmot keeps on this machine and git never sees: clusters, stamps, logs. */
export const stateDir = path.join(projectDir, '.marmot');

/**
 * Runs a command to its end.
 * @param {string} command
 * @param {string[]} args
 * @param {import('node:child_process').SpawnOptions & { quiet?: boolean }} [options]
 *   quiet collects what the command prints instead of showing it
 * @returns {Promise<{ code: number, output: string }>} never rejects for a non-zero exit
 */
export function run(command, args, options = {}) {
  const { quiet = false, ...rest } = options;
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd: projectDir,
      stdio: quiet ? ['ignore', 'pipe', 'pipe'] : ['ignore', 'inherit', 'inherit'],
      ...rest,
    });
    let output = '';
    child.stdout?.on('data', (chunk) => (output += chunk));
    child.stderr?.on('data', (chunk) => (output += chunk));
    child.on('error', reject);
    child.on('close', (code, signal) => resolve({ code: code ?? (signal ? 1 : 0), output }));
  });
}

/** The path of a program that an npm package brought along. */
export const bin = (name) => path.join(projectDir, 'node_modules', '.bin', name);

/** Arguments with which node runs one of the project's TypeScript files. */
export const typescript = (file) => ['--import', 'tsx', path.join(projectDir, file)];

/**
 * Ends a child process by its own id and waits until it is gone.
 * @param {import('node:child_process').ChildProcess | undefined} child
 * @param {NodeJS.Signals} signal
 */
export function stop(child, signal = 'SIGTERM') {
  if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    const insist = setTimeout(() => child.kill('SIGKILL'), 15_000);
    child.once('exit', () => {
      clearTimeout(insist);
      resolve();
    });
    child.kill(signal);
  });
}
