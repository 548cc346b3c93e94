import { expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';
import { deleteJob, leaseJobs, postpone, renewLeases } from './queries.ts';

const server = useServer({ works: false });

it('a job is marked by whoever has its lease, and by nobody whose lease ran out', async () => {
  const { pool } = server.running.platform;
  await server.sql(`insert into job (kind, key) values ('test', 'one')`);
  const [slow] = await leaseJobs(pool, 'test', 1, 15_000);
  expect(await leaseJobs(pool, 'test', 1, 15_000)).toEqual([]);
  await server.sql(`update job set leased_until = now() - interval '1 second' where kind = 'test'`);
  const [next] = await leaseJobs(pool, 'test', 1, 15_000);
  expect(next).toMatchObject({ id: slow!.id, key: 'one' });
  expect(next!.lease).not.toBe(slow!.lease);
  // The slow one comes back: it neither makes the lease longer nor marks what is another's by now.
  await server.sql(`update job set leased_until = now() + interval '1 second' where kind = 'test'`);
  await renewLeases(pool, [slow!.lease], 60_000);
  const [row] = await server.sql<{ soon: boolean }>(
    `select leased_until < now() + interval '5 seconds' as soon from job where kind = 'test'`,
  );
  expect(row!.soon).toBe(true);
  expect(await deleteJob(pool, slow!)).toBe(false);
  expect(await postpone(pool, slow!, 60, { tries: 1, failure: 'x' })).toBe(false);
  expect(await postpone(pool, next!, 0, { tries: 1, failure: 'x' })).toBe(true);
  const [last] = await leaseJobs(pool, 'test', 1, 15_000);
  expect(await deleteJob(pool, last!)).toBe(true);
  expect(await server.sql(`select 1 from job where kind = 'test'`)).toEqual([]);
});
