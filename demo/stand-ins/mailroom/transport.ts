import type { MailTransport } from '../../../src/server/mail/index.ts';
import type { Platform } from '../../../src/server/platform.ts';

/** Keeps every mail in the database instead of sending it anywhere; one that comes twice, once. */
export const mailroomTransport = ({ pool }: Pick<Platform, 'pool'>): MailTransport => ({
  async deliver({ mailId, from, to, subject, source }) {
    await pool.query(
      `insert into mailroom_message (mail_id, sender, recipient, subject, source, received_at)
       select id, $2, $3, $4, $5, created_at from mail where id = $1
       on conflict (mail_id) do nothing`,
      [mailId, from, to, subject, source],
    );
  },
});
