import { expect, it } from 'vitest';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { forgetKeys } from './idempotency.ts';

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
