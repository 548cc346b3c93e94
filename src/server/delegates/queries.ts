import type { Delegate, Receives } from '../../contract/delegates.ts';
import type { Database, Transaction } from '../db/transaction.ts';

export async function readDelegates(db: Database, principalId: number): Promise<Delegate[]> {
  const { rows } = await db.query<Delegate>(
    `select subject.id, subject.name, delegate.receives, delegate.since
     from delegate join subject on subject.id = delegate.delegate_id
     where delegate.principal_id = $1 order by subject.name, subject.id`,
    [principalId],
  );
  return rows;
}

/** @returns whether they did not act for that person before */
export async function putDelegate(
  tx: Transaction,
  principalId: number,
  delegateId: number,
  receives: Receives,
  now: number,
): Promise<boolean> {
  const { rows } = await tx.query<{ fresh: boolean }>(
    `insert into delegate (principal_id, delegate_id, receives, since) values ($1, $2, $3, $4)
     on conflict (principal_id, delegate_id) do update set receives = excluded.receives
     returning xmax = 0 as fresh`,
    [principalId, delegateId, receives, new Date(now)],
  );
  return rows[0]!.fresh;
}

/** @returns false when they did not act for that person */
export async function deleteDelegate(
  tx: Transaction,
  principalId: number,
  delegateId: number,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    'delete from delegate where principal_id = $1 and delegate_id = $2',
    [principalId, delegateId],
  );
  return rowCount === 1;
}
