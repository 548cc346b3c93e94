import { expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });

it('whoever sends many requests waits for them, and nobody else does', async () => {
  const greedy = await server.as('ines.aldabe');
  const other = await server.as('tomas.okafor');
  const { pool } = server.running.platform;
  const ids = (await server.sql<{ id: number }>('select id from subject')).map((one) => one.id);
  const from = Date.UTC(2026, 10, 1);
  const heavy = { subjects: ids, from, to: from + 60 * 86_400_000 };
  let most = 0;
  const watch = setInterval(() => {
    most = Math.max(most, pool.totalCount - pool.idleCount + pool.waitingCount);
  }, 2);
  const sent = Array.from({ length: 48 }, () => greedy.post('/api/availability/busy', heavy));
  const answers = [];
  for (let k = 0; k < 10; k++) answers.push(await other.get('/api/categories'));
  const all = await Promise.all(sent);
  clearInterval(watch);
  expect(answers.every((answer) => answer.status === 200)).toBe(true);
  expect(all.every((answer) => answer.status === 200)).toBe(true);
  // Six requests of five statements each are at the database at once, and not forty-eight of them.
  expect(most).toBeLessThanOrEqual(60);
});

it('more than can wait are told so', async () => {
  const greedy = await server.as('mika.sandoval');
  const sent = Array.from({ length: 240 }, () => greedy.get('/api/search/names'));
  const answers = await Promise.all(sent);
  const refused = answers.filter((answer) => answer.status !== 200);
  for (const answer of refused) {
    expect(answer.status).toBe(429);
    expect(answer.headers.get('retry-after')).toBe('2');
  }
  expect((await greedy.get('/api/search/names')).status).toBe(200);
});
