import { createWriteStream } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { expect, it } from 'vitest';
import { Problem } from '../http/index.ts';
import { receive } from './upload.ts';
import { MOST_FILE_BYTES } from './limits.ts';

const refusalOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => (error instanceof Problem ? [error.status, error.code] : error),
  );

it('a disk that is full is said to be so, and nothing is left behind', async () => {
  let asked = '';
  const full = (name: string) => {
    asked = name;
    return createWriteStream('/dev/full');
  };
  const refused = await refusalOf(receive(Readable.from([Buffer.alloc(100_000)]), full));
  expect(refused).toEqual([507, 'no-room']);
  await expect(stat(asked)).rejects.toThrow('ENOENT');
});

it('what comes is kept until it is forgotten, and what is too large is not', async () => {
  const kept = await receive(Readable.from([Buffer.from('tide '), Buffer.from('tables')]));
  expect(kept.size).toBe(11);
  expect(await readFile(kept.path, 'utf8')).toBe('tide tables');
  await kept.forget();
  await expect(stat(kept.path)).rejects.toThrow('ENOENT');
  const large = Readable.from([Buffer.alloc(MOST_FILE_BYTES), Buffer.alloc(1)]);
  expect(await refusalOf(receive(large))).toEqual([413, 'too-large']);
});
