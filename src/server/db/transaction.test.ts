import { expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';
import { transaction } from './transaction.ts';

const server = useServer({ works: false });

it('what goes on after its transaction failed writes nothing, neither by itself nor into another', async () => {
  const { pool } = server.running.platform;
  await server.sql('create table written (by text)');
  let isFailed = () => {};
  const failed = new Promise<void>((resolve) => (isFailed = resolve));
  let late: Promise<unknown> | null = null;
  const both = transaction(pool, (tx) => {
    late = failed.then(() => tx.query(`insert into written values ('late')`));
    late.catch(() => undefined);
    return Promise.all([late, Promise.reject(new Error('refused'))]);
  });
  await expect(both).rejects.toThrow('refused');
  // Somebody else has its connection now.
  await transaction(pool, async (tx) => {
    await tx.query(`insert into written values ('another')`);
    isFailed();
    await expect(late).rejects.toThrow('over');
  });
  expect(await server.sql('select by from written')).toEqual([{ by: 'another' }]);
});

it('what is sent after its end fails, and is heard of by nobody', async () => {
  const { pool } = server.running.platform;
  await server.sql('create table sent (by text)');
  let kept: { send(text: string): void } | null = null;
  await transaction(pool, (tx) => void (kept = tx));
  kept!.send(`insert into sent values ('late')`);
  expect(await server.sql('select by from sent')).toEqual([]);
});
