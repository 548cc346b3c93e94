import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import { transaction, type Transaction } from '../db/transaction.ts';
import { announce } from '../live/hub.ts';
import type { Platform } from '../platform.ts';
import { insertMail, lockUnsentMail, markSent, readUnsent, type OutgoingMail } from './queries.ts';
import type { MailTransport } from './transport.ts';

export type { OutgoingMail } from './queries.ts';

/** Puts a mail into the outbox: it goes out if the transaction commits, and only then. */
export async function postMail(
  tx: Transaction,
  platform: Platform,
  mail: OutgoingMail,
): Promise<void> {
  const id = await insertMail(tx, mail, platform.clock.now());
  await platform.jobs.promiseMail(tx, id);
}

/** Sends a mail of the outbox once; does nothing when it has been sent. */
export async function deliverMail(
  platform: Platform,
  transport: MailTransport,
  mailId: string,
): Promise<void> {
  await transaction(platform.pool, async (tx) => {
    const mail = await lockUnsentMail(tx, mailId);
    if (!mail) return;
    await transport.deliver(
      {
        mailId,
        from: mail.from.email,
        to: mail.to.email,
        subject: mail.subject,
        source: await composeSource(mail, platform.clock.now()),
      },
      tx,
    );
    await markSent(tx, mailId, platform.clock.now());
    await announce(tx, ['mailroom'], 'everyone');
  });
}

/**
 * Sends what a server that was killed left in the outbox. Its jobs are still marked as being worked
 * on, and would otherwise wait until they expire. What cannot be sent now is left to its job.
 */
export async function sendLeftovers(platform: Platform, transport: MailTransport): Promise<void> {
  for (const id of await readUnsent(platform.pool)) {
    try {
      await deliverMail(platform, transport, id);
    } catch (error) {
      platform.log.warn({ error, mailId: id }, 'a mail could not be sent yet');
    }
  }
}

function composeSource(mail: OutgoingMail & { id: string }, now: number): Promise<Buffer> {
  const domain = mail.from.email.split('@')[1] ?? 'localhost';
  return new MailComposer({
    messageId: `<${mail.id}@${domain}>`,
    date: new Date(now),
    from: { name: mail.from.name, address: mail.from.email },
    to: { name: mail.to.name, address: mail.to.email },
    subject: mail.subject,
    text: mail.text,
    html: mail.html,
    ...(mail.calendar && { icalEvent: { ...mail.calendar, filename: 'meeting.ics' } }),
  })
    .compile()
    .build();
}
