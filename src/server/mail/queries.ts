import type { Method } from '../../core/icalendar/message.ts';
import type { Database, Transaction } from '../db/transaction.ts';

export interface OutgoingMail {
  eventId: string | null;
  from: { name: string; email: string };
  to: { name: string; email: string };
  subject: string;
  text: string;
  html: string;
  calendar: { method: Method; content: string } | null;
}

export async function insertMail(
  tx: Transaction,
  mail: OutgoingMail,
  now: number,
): Promise<string> {
  const { rows } = await tx.query<{ id: string }>(
    `insert into mail (event_id, sender_name, sender_email, recipient_name, recipient_email,
                       subject, body_text, body_html, calendar, method, created_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) returning id`,
    [
      mail.eventId,
      mail.from.name,
      mail.from.email,
      mail.to.name,
      mail.to.email,
      mail.subject,
      mail.text,
      mail.html,
      mail.calendar?.content ?? null,
      mail.calendar?.method ?? null,
      new Date(now),
    ],
  );
  return rows[0]!.id;
}

interface MailRow {
  id: string;
  event_id: string | null;
  sender_name: string;
  sender_email: string;
  recipient_name: string;
  recipient_email: string;
  subject: string;
  body_text: string;
  body_html: string;
  calendar: string | null;
  method: Method | null;
}

/** A mail that has not been sent, held against other processes; null when it has been. */
export async function lockUnsentMail(
  tx: Transaction,
  id: string,
): Promise<(OutgoingMail & { id: string }) | null> {
  const { rows } = await tx.query<MailRow>(
    'select * from mail where id = $1 and sent_at is null for update',
    [id],
  );
  const row = rows[0];
  if (!row) return null;
  return {
    id: row.id,
    eventId: row.event_id,
    from: { name: row.sender_name, email: row.sender_email },
    to: { name: row.recipient_name, email: row.recipient_email },
    subject: row.subject,
    text: row.body_text,
    html: row.body_html,
    calendar: row.calendar && row.method ? { method: row.method, content: row.calendar } : null,
  };
}

/** Mails that wait in the outbox, the oldest first. */
export async function readUnsent(db: Database): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    'select id from mail where sent_at is null order by created_at, id',
  );
  return rows.map((row) => row.id);
}

export async function markSent(db: Database, id: string, now: number): Promise<void> {
  await db.query('update mail set sent_at = $2 where id = $1', [id, new Date(now)]);
}
