import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { Entry } from '../twins/itipStore.ts';

/** What somebody invited got: letters in their order, and the files of their guest's pages in the end. */
export interface Life {
  letters: string[];
  files: string[];
}

const script = fileURLToPath(new URL('./attendeesCalendar.py', import.meta.url));

/**
 * What is in a calendar elsewhere after each life, kept by programs that know nothing of Marmot; in order of start and
 * UID.
 * @throws Error when they cannot be run, or do not understand a letter
 */
export function keptElsewhere(lives: readonly Life[]): { letters: Entry[]; files: Entry[] }[] {
  const run = spawnSync('/usr/bin/python3', [script], {
    input: JSON.stringify(lives),
    encoding: 'utf8',
    maxBuffer: 256 * 1024 * 1024,
  });
  if (run.status !== 0) throw new Error(`the letters were not taken: ${run.stderr}`);
  return JSON.parse(run.stdout) as { letters: Entry[]; files: Entry[] }[];
}
