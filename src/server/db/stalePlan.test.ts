import { expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });

it('tables that a newer server brought up to date break no request for longer than one try', async () => {
  const ines = await server.as('ines.aldabe');
  const named = {
    name: 'Reviewers',
    members: [{ id: await server.id('Mika Sandoval'), role: 'required' }],
  };
  const write = () => ines.request('PUT', '/api/line-ups', named);
  // Often enough that every connection keeps its plans.
  for (let k = 0; k < 40; k++) {
    const answers = await Promise.all([
      ines.get('/api/line-ups'),
      write(),
      ines.get('/api/categories'),
    ]);
    expect(answers.map((answer) => answer.status)).toEqual([200, 200, 200]);
  }
  await server.sql('alter table line_up alter column name type varchar(100)');
  const seen: number[] = [];
  for (let k = 0; k < 40; k++) {
    seen.push((await write()).status, (await ines.get('/api/line-ups')).status);
  }
  // A read is put off once for each connection at most, and a write not at all.
  expect(seen.filter((status) => status >= 400 && status !== 503)).toEqual([]);
  expect(seen.filter((status) => status === 503).length).toBeLessThanOrEqual(16);
  expect(seen.filter((_, k) => k % 2 === 0 && seen[k] === 503)).toEqual([]);
  expect(seen.slice(-10).every((status) => status < 300)).toBe(true);
});
