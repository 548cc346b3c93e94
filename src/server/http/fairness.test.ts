import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { PassThrough } from 'node:stream';
import { setTimeout as pause } from 'node:timers/promises';
import Koa from 'koa';
import { expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';

import { fairShare } from './fairness.ts';

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
  const streams: PassThrough[] = [];
  const app = new Koa();
  app.silent = true;
  const share = fairShare();
  app.use((ctx, next) => share(ctx.path === '/endless' ? 'stream' : 'few')(ctx, next));
  app.use((ctx) => {
    if (ctx.path === '/plain') return void (ctx.body = 'plain');
    const stream = new PassThrough();
    stream.write('first');
    streams.push(stream);
    ctx.body = stream;
  });
  const listening = app.listen(0, '127.0.0.1');
  await once(listening, 'listening');
  const base = `http://127.0.0.1:${(listening.address() as AddressInfo).port}`;
  const opened = async (path = '/') => {
    const leave = new AbortController();
    const answer = await fetch(base + path, { signal: leave.signal });
    return { answer, leave: () => leave.abort() };
  };
  try {
    const [one, two] = await Promise.all([opened(), opened()]);
    let begun = 0;
    const waiting = [opened(), opened()].map((next) => next.then((each) => (begun++, each)));
    while (streams.length < 4) await pause(5);
    // Whoever leaves while they wait takes no place with them.
    const gone = new AbortController();
    const impatient = fetch(base, { signal: gone.signal }).catch(() => 'gone');
    while (streams.length < 5) await pause(5);
    gone.abort();
    expect(await impatient).toBe('gone');
    // Neither other requests wait for them, nor streams that end with their readers.
    expect(await (await fetch(`${base}/plain`)).text()).toBe('plain');
    (await opened('/endless')).leave();
    expect(begun).toBe(0);
    // One has all of it, the other has left.
    streams[0]!.end();
    await one.answer.text();
    const next = await Promise.race(waiting);
    expect(begun).toBe(1);
    two.leave();
    await Promise.all(waiting);
    next.leave();
    const last = await opened();
    for (const stream of streams) stream.end();
    expect(await last.answer.text()).toBe('first');
  } finally {
    for (const stream of streams) stream.destroy();
    listening.closeAllConnections();
    listening.close();
  }
});
