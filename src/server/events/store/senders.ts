import type { Transaction } from '../../db/transaction.ts';

/**
 * Whether somebody is known to write for an organizer elsewhere to somebody of here; that they did so again
 * is noted.
 */
export async function isBelievedSender(
  tx: Transaction,
  personId: number,
  organizer: string,
  sender: string,
  now: number,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `update believed_sender set used_at = $4
     where person_id = $1 and organizer = $2 and sender = $3`,
    [personId, organizer, sender, new Date(now)],
  );
  return rowCount === 1;
}

/** Remembers that somebody writes for an organizer elsewhere to somebody of here. */
export async function believeSender(
  tx: Transaction,
  personId: number,
  organizer: string,
  sender: string,
  now: number,
): Promise<void> {
  await tx.query(
    `insert into believed_sender (person_id, organizer, sender, used_at) values ($1, $2, $3, $4)
     on conflict (person_id, organizer, sender) do update set used_at = excluded.used_at`,
    [personId, organizer, sender, new Date(now)],
  );
}
