import { expect, it } from 'vitest';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { PersonActor } from '../actions/index.ts';
import { transaction } from '../db/transaction.ts';
import { claimKey, keepAnswer } from './idempotency.ts';
import { forgetKeys } from './keyQueries.ts';

const server = useServer({ works: false });

it('a key is kept for a day and then forgotten', async () => {
  const ines = await server.as('ines.aldabe');
  const make = (key: string) =>
    ines.post('/api/events', meetingRequest(), { 'Idempotency-Key': key });
  await make('kept-for-a-day');
  await make('kept-for-longer');
  await server.sql(
    `update idempotency_key set created_at = now() - interval '25 hours' where key = 'kept-for-longer'`,
  );
  await forgetKeys(server.running.platform.pool);
  const left = await server.sql<{ key: string }>(
    `select key from idempotency_key where key like 'kept%'`,
  );
  expect(left).toEqual([{ key: 'kept-for-a-day' }]);
});

const keptAs = async (key: string) =>
  (
    await server.sql<{ bytes: number; again: { kind: string } | null; packed: boolean }>(
      `select pg_column_size(idempotency_key) as bytes, again, packed is not null as packed
       from idempotency_key where key = $1`,
      [key],
    )
  )[0]!;

it('a long answer is kept as what it is made again from, and is the same again', async () => {
  const ines = await server.as('ines.aldabe');
  const attendees = Array.from({ length: 300 }, (_, k) => ({
    email: `guest${k}@elsewhere.example`,
    role: 'optional' as const,
  }));
  const request = meetingRequest({ attendees, send: false });
  const send = () => ines.post('/api/events', request, { 'Idempotency-Key': 'long-answer' });
  const first = await send();
  expect(first.status).toBe(201);
  expect(JSON.stringify(first.body).length).toBeGreaterThan(50_000);
  const kept = await keptAs('long-answer');
  expect(kept.bytes).toBeLessThan(2_000);
  expect(kept.again).toMatchObject({ kind: 'event' });
  const again = await send();
  const inOrder = ({ body }: typeof first) => {
    const { attendees: asked, ...rest } = body as EventDetail;
    return { ...rest, asked: asked.map((one) => one.email).sort() };
  };
  expect(again.status).toBe(201);
  expect(inOrder(again)).toEqual(inOrder(first));
  const [made] = await server.sql<{ count: number }>(
    `select count(*)::int as count from event where id = $1`,
    [(first.body as { id: string }).id],
  );
  expect(made!.count).toBe(1);
});

it('what is said about a meeting is not kept once more for each word about it', async () => {
  const ines = await server.as('ines.aldabe');
  const { body: event } = await ines.post<{ id: string }>('/api/events', meetingRequest());
  await server.sql(
    `insert into comment (event_id, author_id, at, words)
     select $1, $2, now(), repeat('long words ', 100) || k from generate_series(1, 300) k`,
    [event.id, await server.id('Ines Aldabe')],
  );
  const say = () =>
    ines.post(
      `/api/events/${event.id}/comments`,
      { words: 'The last word' },
      { 'Idempotency-Key': 'said-once' },
    );
  const first = await say();
  expect(first.status).toBe(201);
  expect((await keptAs('said-once')).bytes).toBeLessThan(1_000);
  expect(await say()).toMatchObject({ status: 201, body: first.body as object });
});

it('a long answer that cannot be made again is packed', async () => {
  const { pool } = server.running.platform;
  const me = await server.id('Ines Aldabe');
  const actor = { kind: 'person', me: { id: me } } as unknown as PersonActor;
  const body = { rows: Array.from({ length: 2_000 }, (_, k) => `row ${k}`) };
  const hash = Buffer.alloc(32);
  await transaction(pool, async (tx) => {
    expect(await claimKey(tx, actor, 'packed-answer', hash)).toBeNull();
    keepAnswer(tx, me, 'packed-answer', { status: 200, body });
  });
  expect(await keptAs('packed-answer')).toMatchObject({ packed: true, again: null });
  await transaction(pool, async (tx) => {
    expect(await claimKey(tx, actor, 'packed-answer', hash)).toEqual({ status: 200, body });
  });
  // One that is too long even so is said to have been done.
  const huge = Array.from({ length: 40_000 }, () => Math.random());
  await transaction(pool, async (tx) => {
    await claimKey(tx, actor, 'huge-answer', hash);
    keepAnswer(tx, me, 'huge-answer', { status: 200, body: huge });
  });
  expect((await keptAs('huge-answer')).bytes).toBeLessThan(1_000);
  await expect(
    transaction(pool, (tx) => claimKey(tx, actor, 'huge-answer', hash)),
  ).rejects.toMatchObject({ status: 409, code: 'done-before' });
});
