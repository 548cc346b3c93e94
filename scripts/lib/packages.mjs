import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { Advice } from './report.mjs';
import { bin, projectDir, run, stateDir } from './run.mjs';

const hashOf = (...parts) => {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(part);
  return hash.digest('hex');
};

const readStamp = (file) => (existsSync(file) ? readFileSync(file, 'utf8') : '');

/** Installs the npm packages of the lock file, unless they already stand as it says. */
export async function ensurePackages(say) {
  const lock = readFileSync(path.join(projectDir, 'package-lock.json'));
  const stamp = path.join(projectDir, 'node_modules', '.marmot-lock');
  const wanted = hashOf(lock, process.version);
  if (readStamp(stamp) === wanted) return say('as the lock file says');
  const result = await run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund'], {
    quiet: true,
  });
  if (result.code !== 0) {
    throw new Advice(
      `npm ci failed:\n${result.output.slice(0, 2000)}`,
      'check that the npm registry can be reached, then start again',
    );
  }
  writeFileSync(stamp, wanted);
  say('installed from the lock file');
}

function filesBelow(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => path.join(entry.parentPath ?? entry.path, entry.name))
    .sort();
}

/** Builds the interface into dist/web, unless nothing it is made of has changed. */
export async function ensureBuild(say) {
  const sources = ['src/web', 'src/core', 'src/contract']
    .flatMap((folder) => filesBelow(path.join(projectDir, folder)))
    .concat(['vite.config.ts', 'package-lock.json'].map((file) => path.join(projectDir, file)));
  const wanted = hashOf(...sources.flatMap((file) => [file, readFileSync(file)]));
  const stamp = path.join(stateDir, 'build-stamp');
  const built = existsSync(path.join(projectDir, 'dist/web/index.html'));
  if (built && readStamp(stamp) === wanted) return say('unchanged since the last build');
  // Whoever starts it, a test for example, the interface is built to be used.
  const env = { ...process.env, NODE_ENV: 'production' };
  const result = await run(bin('vite'), ['build', '--logLevel', 'warn'], { quiet: true, env });
  if (result.code !== 0) {
    throw new Advice(`the interface does not build:\n${result.output.slice(-4000)}`, undefined);
  }
  mkdirSync(stateDir, { recursive: true });
  writeFileSync(stamp, wanted);
  say('built');
}
