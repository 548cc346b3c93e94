import type { Delegate, Receives } from '../../contract/delegates.ts';
import { isPresent } from '../people/index.ts';
import { MOST_DELEGATES } from './limits.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** Who coordinates a team of somebody's, by name. */
export async function readCoordinators(
  db: Database,
  personId: number,
): Promise<{ id: number; name: string }[]> {
  const { rows } = await db.query<{ id: number; name: string }>(
    `select subject.id, subject.name from coordinated
     join subject on subject.id = coordinator_id
     join person on person.subject_id = coordinator_id and ${isPresent('person')}
     where coordinated.person_id = $1 order by subject.name, subject.id limit ${MOST_DELEGATES}`,
    [personId],
  );
  return rows;
}

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

/** Who acted for whom, and since when. */
export interface Delegation {
  principalId: number;
  delegateId: number;
  receives: Receives;
  since: number;
}

/** Ends all that somebody does for others, and others for them. @returns what there was */
export async function dropDelegations(tx: Transaction, personId: number): Promise<Delegation[]> {
  const { rows } = await tx.query<Delegation>(
    `delete from delegate where principal_id = $1 or delegate_id = $1
     returning principal_id as "principalId", delegate_id as "delegateId", receives, since`,
    [personId],
  );
  return rows;
}

/** Lets people act for each other again, where they do not by now and both are here. */
export function putDelegations(tx: Transaction, rows: readonly Delegation[]): void {
  if (rows.length === 0) return;
  tx.send(
    `insert into delegate (principal_id, delegate_id, receives, since)
     select "principalId", "delegateId", receives, to_timestamp(since / 1000)
     from jsonb_to_recordset($1) as back ("principalId" int, "delegateId" int, receives text, since float8)
     where not exists (select from person where subject_id in ("principalId", "delegateId")
                         and account in ('ended', 'removed'))
     on conflict do nothing`,
    [JSON.stringify(rows)],
  );
}
