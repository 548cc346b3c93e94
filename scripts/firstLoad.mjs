/** Fails when opening Today would load more script than promised. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { projectDir } from './lib/run.mjs';

const MOST_KILOBYTES = 220;
const ENTRY = 'index.html';
const VIEW = 'today/TodayView.tsx';

const dist = path.join(projectDir, 'dist/web');
const manifest = JSON.parse(readFileSync(path.join(dist, '.vite/manifest.json'), 'utf8'));

/** A chunk and everything it imports before it runs. */
function gather(key, files = new Set()) {
  const chunk = manifest[key];
  if (!chunk) throw new Error(`the build has no ${key}`);
  if (files.has(chunk.file)) return files;
  files.add(chunk.file);
  for (const other of chunk.imports ?? []) gather(other, files);
  return files;
}

const files = gather(VIEW, gather(ENTRY));
const bytes = [...files]
  .filter((file) => file.endsWith('.js'))
  .reduce((sum, file) => sum + gzipSync(readFileSync(path.join(dist, file))).length, 0);
const kilobytes = bytes / 1000;
console.log(
  `  Today loads ${kilobytes.toFixed(1)} kB of gzipped script; ${MOST_KILOBYTES} are allowed`,
);
if (kilobytes > MOST_KILOBYTES) process.exitCode = 1;
