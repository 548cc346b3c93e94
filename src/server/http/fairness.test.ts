import { connect } from 'node:net';
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

it('whoever is not signed in waits for their own, too', async () => {
  const sent = Array.from({ length: 240 }, () => server.anonymous().get('/api/session'));
  const other = await server.as('tomas.okafor');
  expect((await other.get('/api/categories')).status).toBe(200);
  const statuses = (await Promise.all(sent)).map((answer) => answer.status);
  expect(new Set(statuses)).toEqual(new Set(statuses.includes(429) ? [200, 429] : [200]));
  expect((await server.anonymous().get('/api/session')).status).toBe(200);
});

it('an answer that is streamed keeps its place until its last byte, or until its reader is gone', async () => {
  const { cookie } = await server.as('hal.teague');
  const { hostname, port } = new URL(server.base);
  // Readers who read nothing: the answers are long enough not to fit into what the network holds.
  await server.sql(
    `insert into reservation (occurrence_id, resource_id, unit, state, since, starts_at, ends_at)
     select occurrence.id, resource.subject_id, 1, 'released', now(), starts_at, ends_at
     from occurrence cross join resource order by occurrence.id limit 40000
     on conflict do nothing`,
  );
  const readers = Array.from({ length: 3 }, () => {
    const socket = connect(Number(port), hostname);
    socket.write(
      `GET /api/ledger/bookings.csv?whose=all&state=released HTTP/1.1\r\nHost: localhost\r\nCookie: ${cookie}\r\n\r\n`,
    );
    return socket;
  });
  const begun = readers.map(
    (socket) =>
      new Promise<string>((resolve) => socket.once('data', (part) => resolve(String(part)))),
  );
  for (const socket of readers) socket.once('data', () => socket.pause());
  const first = await Promise.all(begun.slice(0, 2));
  expect(first.every((text) => text.startsWith('HTTP/1.1 200'))).toBe(true);
  // The third waits; everything else of theirs, and of others, does not.
  let isThird = false;
  const third = begun[2]!.then((text) => {
    isThird = true;
    return text;
  });
  expect((await (await server.as('hal.teague')).get('/api/categories')).status).toBe(200);
  expect(isThird).toBe(false);
  // Somebody who leaves while they wait takes no place with them.
  const impatient = connect(Number(port), hostname);
  impatient.write(
    `GET /api/ledger/bookings.csv?whose=all&state=released HTTP/1.1\r\nHost: localhost\r\nCookie: ${cookie}\r\n\r\n`,
  );
  await new Promise((resolve) => setTimeout(resolve, 300));
  impatient.destroy();
  readers[0]!.destroy();
  expect(await third).toMatch(/^HTTP\/1.1 200/);
  for (const socket of readers) socket.destroy();
  const client = await server.as('hal.teague');
  for (let k = 0; k < 3; k++)
    expect((await client.get('/api/ledger/bookings.csv?whose=all&state=released')).status).toBe(
      200,
    );
});
