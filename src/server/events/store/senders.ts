import type { Transaction } from '../../db/transaction.ts';

/**
 * Whether somebody is known to write for somebody elsewhere to somebody of here; that they did so again
 * is noted.
 */
export async function isBelievedSender(
  tx: Transaction,
  personId: number,
  principal: string,
  sender: string,
  now: number,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `update believed_sender set used_at = $4
     where person_id = $1 and principal = $2 and sender = $3`,
    [personId, principal, sender, new Date(now)],
  );
  return rowCount === 1;
}

/** Remembers that somebody writes for somebody elsewhere to somebody of here. */
export async function believeSender(
  tx: Transaction,
  personId: number,
  principal: string,
  sender: string,
  now: number,
): Promise<void> {
  await tx.query(
    `insert into believed_sender (person_id, principal, sender, used_at) values ($1, $2, $3, $4)
     on conflict (person_id, principal, sender) do update set used_at = excluded.used_at`,
    [personId, principal, sender, new Date(now)],
  );
}
