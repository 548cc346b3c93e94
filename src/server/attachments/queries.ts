import type { Database, Transaction } from '../db/transaction.ts';

export async function insertAttachment(
  tx: Transaction,
  file: { eventId: string; name: string; type: string; content: Buffer; by: number; now: number },
): Promise<void> {
  await tx.query(
    `with stored as (
       insert into stored_file (type, size, content) values ($1, $2, $3) returning id
     )
     insert into attachment (event_id, file_id, name, added_by, added_at)
     select $4, stored.id, $5, $6, $7 from stored`,
    [
      file.type,
      file.content.length,
      file.content,
      file.eventId,
      file.name,
      file.by,
      new Date(file.now),
    ],
  );
}

export interface StoredAttachment {
  name: string;
  type: string;
  content: Buffer;
}

export async function readAttachment(
  db: Database,
  eventId: string,
  id: string,
): Promise<StoredAttachment | null> {
  const { rows } = await db.query<StoredAttachment>(
    `select attachment.name, stored_file.type, stored_file.content
     from attachment join stored_file on stored_file.id = attachment.file_id
     where attachment.id = $2 and attachment.event_id = $1`,
    [eventId, id],
  );
  return rows[0] ?? null;
}

/** Takes an attachment away; the file itself goes at night, once no event has it. */
export async function deleteAttachment(
  tx: Transaction,
  eventId: string,
  id: string,
): Promise<boolean> {
  const { rowCount } = await tx.query('delete from attachment where id = $2 and event_id = $1', [
    eventId,
    id,
  ]);
  return rowCount === 1;
}

export async function countAttachments(db: Database, eventId: string): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    'select count(*) from attachment where event_id = $1',
    [eventId],
  );
  return rows[0]!.count;
}

/** Forgets files that no event has any more. */
export async function forgetFiles(db: Database): Promise<void> {
  await db.query(
    `delete from stored_file where not exists (
       select 1 from attachment where attachment.file_id = stored_file.id)`,
  );
}
