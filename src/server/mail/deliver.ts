import { setTimeout as pause } from 'node:timers/promises';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import { transaction } from '../db/transaction.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { JobDefinition } from '../jobs/index.ts';
import { answerAddress, guestKey } from '../participants/index.ts';
import type { Platform } from '../platform.ts';
import {
  earlierLetter,
  insertMails,
  LETTER_JOB,
  markFailed,
  markSent,
  readUnsent,
  type OutgoingMail,
} from './queries.ts';
import { MailRefused, type MailTransport } from './transport.ts';
import { DELIVERY_MS, LOOK_AGAIN_MS, MOST_MAILS_AT_ONCE, MOST_WAITED_MS } from './limits.ts';

/**
 * Tries of a letter after the first, in minutes from one to the next: soon at first, then ever more
 * slowly. Together they are more than 48 hours, as RFC 5321 section 4.5.4.1 asks for at least.
 */
export const LETTER_PAUSES_MINUTES = [
  1, 2, 5, 10, 20, 40, 60, 120, 180, 240, 240, 300, 360, 360, 480, 480, 720,
];

/**
 * Delivers a mail of the outbox. Nothing is held in the database meanwhile: however slow the mail
 * server is, it slows nothing else. What a mail server refuses for good is not tried again, and the
 * sender is told whom it did not reach.
 */
export function letterJob(transport: MailTransport): JobDefinition {
  return {
    kind: LETTER_JOB,
    atOnce: MOST_MAILS_AT_ONCE,
    timeLimitMs: DELIVERY_MS,
    pausesMinutes: LETTER_PAUSES_MINUTES,
    async work(platform, mailId, signal) {
      const mail = await readUnsent(platform.pool, mailId);
      if (!mail) return;
      await inOrder(platform, mailId, signal);
      try {
        const source = await composeSource(
          mail,
          platform.clock.now(),
          await replyTo(platform, mail),
        );
        await transport.deliver(envelopeOf(mail, source), signal);
      } catch (error) {
        if (!(error instanceof MailRefused)) throw error;
        await giveUp(platform, mail, error.message);
        return;
      }
      await transaction(platform.pool, async (tx) => {
        await markSent(tx, mailId, platform.clock.now());
        announce(tx, ['mailroom:all']);
      });
    },
    async giveUp(platform, mailId, failure) {
      const mail = await readUnsent(platform.pool, mailId);
      if (mail) await giveUp(platform, mail, failure);
    },
  };
}

/**
 * Lets letters about the same meeting to the same receiver leave first that were written before: a calendar program
 * takes what comes last as what holds. One that is being sent just now is waited for.
 * @throws Error where one waits for its next try, or takes too long; this one is tried again then
 */
async function inOrder({ pool }: Platform, mailId: string, signal: AbortSignal): Promise<void> {
  for (let waited = 0; ; waited += LOOK_AGAIN_MS) {
    const earlier = await earlierLetter(pool, mailId);
    if (earlier === null) return;
    if (earlier === 'waiting' || waited >= MOST_WAITED_MS)
      throw new Error('an earlier letter about it to the same receiver has not left');
    await pause(LOOK_AGAIN_MS, undefined, { signal });
  }
}

/** Where an answer to a letter goes: an address of its own, or nowhere but its sender's. */
const replyTo = async (
  { pool, answerDomain }: Platform,
  { attendeeId }: OutgoingMail,
): Promise<string | null> =>
  attendeeId === null || answerDomain === null
    ? null
    : answerAddress(await guestKey(pool), attendeeId, answerDomain);

const envelopeOf = (mail: OutgoingMail & { id: string }, source: Buffer) => ({
  mailId: mail.id,
  from: mail.from.email,
  to: mail.to.email,
  subject: mail.subject,
  source,
});

/** Marks a mail as not deliverable and writes to its sender, unless it was such a letter itself. */
async function giveUp(platform: Platform, mail: OutgoingMail & { id: string }, failure: string) {
  const now = platform.clock.now();
  await transaction(platform.pool, async (tx) => {
    if (!(await markFailed(tx, mail.id, failure, now))) return;
    if (mail.attendeeId !== null) insertMails(tx, [undeliverable(mail, failure)], now);
    const about = mail.eventId === null ? [] : [subjectOf('meeting', mail.eventId)];
    announce(tx, ['mailroom:all', ...about]);
  });
  platform.log.warn({ mailId: mail.id, failure }, 'a mail could not be delivered');
}

function undeliverable(mail: OutgoingMail, failure: string): OutgoingMail {
  const { name, email } = mail.to;
  const sentences = [
    `Your letter “${mail.subject}” did not reach ${name} (${email}).`,
    `Their mail server says: ${failure}`,
    'They may not know of the meeting, or of its change. Check the address, or tell them in another way.',
  ];
  const safe = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
  return {
    eventId: mail.eventId,
    attendeeId: null,
    from: { name: 'Marmot', email: `marmot@${mail.from.email.split('@')[1]}` },
    to: mail.from,
    subject: `Not delivered to ${name}: ${mail.subject}`,
    text: sentences.join('\n\n'),
    html: `<!doctype html><html lang="en"><body>${sentences.map((one) => `<p>${safe(one)}</p>`).join('')}</body></html>`,
    calendar: null,
  };
}

function composeSource(
  mail: OutgoingMail & { id: string },
  now: number,
  answersTo: string | null,
): Promise<Buffer> {
  const domain = mail.from.email.split('@')[1] ?? 'localhost';
  return new MailComposer({
    // The same at every try, so that a receiver knows a mail that came twice.
    messageId: `<${mail.id}@${domain}>`,
    // All letters about one meeting hang together (RFC 5322 section 3.6.4), though none was the first.
    ...(mail.eventId !== null && {
      inReplyTo: `<meeting-${mail.eventId}@${domain}>`,
      references: `<meeting-${mail.eventId}@${domain}>`,
    }),
    // No machine answers it (RFC 3834 section 5).
    headers: { 'Auto-Submitted': 'auto-generated' },
    date: new Date(now),
    from: { name: mail.from.name, address: mail.from.email },
    to: { name: mail.to.name, address: mail.to.email },
    ...(answersTo && { replyTo: { name: mail.from.name, address: answersTo } }),
    subject: mail.subject,
    text: mail.text,
    html: mail.html,
    ...(mail.calendar && { icalEvent: { ...mail.calendar, filename: 'meeting.ics' } }),
  })
    .compile()
    .build();
}
