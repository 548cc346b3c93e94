import type { MailroomEntry } from '../../../src/contract/mailroom.ts';
import type { Database } from '../../../src/server/db/transaction.ts';

/** The newest messages, to one address or to anyone. */
export async function readEntries(
  db: Database,
  recipient: string | null,
  limit: number,
): Promise<MailroomEntry[]> {
  const { rows } = await db.query<MailroomEntry>(
    `select id, sender, recipient, subject, received_at as "receivedAt"
     from mailroom_message
     where $1::text is null or lower(recipient) = lower($1)
     order by received_at desc, subject, recipient limit $2`,
    [recipient, limit],
  );
  return rows;
}

export async function readMessage(
  db: Database,
  id: string,
): Promise<(MailroomEntry & { source: Buffer }) | null> {
  const { rows } = await db.query<MailroomEntry & { source: Buffer }>(
    `select id, sender, recipient, subject, received_at as "receivedAt", source
     from mailroom_message where id = $1`,
    [id],
  );
  return rows[0] ?? null;
}

/** Whether somebody reads everybody's mail: in the demonstration its own people do, on purpose. */
export async function readsEverything(db: Database, personId: number): Promise<boolean> {
  const { rowCount } = await db.query(
    `select 1 from setting, person
     join organization on organization.id = person.organization_id and organization.is_home
     where key = 'demonstration' and person.subject_id = $1`,
    [personId],
  );
  return rowCount === 1;
}
