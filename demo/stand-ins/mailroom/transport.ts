import type { MailTransport } from '../../../src/server/mail/transport.ts';

/** Keeps every mail in the database instead of sending it anywhere. */
export const mailroomTransport: MailTransport = {
  async deliver({ mailId, from, to, subject, source }, tx) {
    await tx.query(
      `insert into mailroom_message (mail_id, sender, recipient, subject, source, received_at)
       select id, $2, $3, $4, $5, created_at from mail where id = $1
       on conflict (mail_id) do nothing`,
      [mailId, from, to, subject, source],
    );
  },
};
