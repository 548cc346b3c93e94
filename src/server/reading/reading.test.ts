import { expect, it } from 'vitest';
import { reader } from './index.ts';

const endless = new URL('../../../tests/support/endless.worker.ts', import.meta.url);

it('what takes for ever is given up, and the next is read', async () => {
  const read = reader<string, string>(endless, 'The letter');
  const refused = { code: 'too-hard-to-read', message: 'The letter takes too much to be read.' };
  await expect(read('time')).rejects.toMatchObject(refused);
  expect(await read('nothing')).toBe('read');
  await expect(read('memory')).rejects.toMatchObject(refused);
  expect(await read('nothing')).toBe('read');
});

it('of one kind one is read at a time, and others have a worker of their own', async () => {
  const slow = reader<string, string>(endless, 'One');
  const other = reader<string, string>(endless, 'Another');
  const ended: string[] = [];
  await Promise.all([
    slow('time').catch(() => ended.push('slow')),
    slow('nothing').then(() => ended.push('behind it')),
    other('nothing').then(() => ended.push('other')),
  ]);
  // When another worker has started is the machine's to say; who waits for whom is not.
  expect(ended.filter((one) => one !== 'other')).toEqual(['slow', 'behind it']);
  expect(ended).toContain('other');
});
