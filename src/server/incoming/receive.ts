import { createHash } from 'node:crypto';
import PostalMime, { type Email } from 'postal-mime';
import { plainCharacters, plainLine } from '../../core/icalendar/text.ts';
import { Refusal } from '../../core/refusal.ts';
import { transaction } from '../db/transaction.ts';
import { meetingAnswered, receiveAnswer, receiveRequest } from '../events/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { findContacts } from '../people/index.ts';
import { guestKey, meetingOfAttendee, readAnswerAddress } from '../participants/index.ts';
import type { Platform } from '../platform.ts';
import { isKnown, keepMail, markBounced, type IncomingMail } from './queries.ts';

/** A mail that answers a letter needs no more. Bytes. */
export const MOST_BYTES = 2 * 1024 * 1024;
const MOST_WORDS = 4_000;
/** How deep parts may lie in parts, and how long the headers may be. */
export const LIMITS = { maxNestingDepth: 12, maxHeadersSize: 256 * 1024 };

/** What becomes of a mail, and what is said of it. */
type Outcome = Pick<IncomingMail, 'state' | 'reason'> & {
  from: { eventId: string; attendeeId: number } | null;
};

/**
 * Takes a mail that came back: counts the answer it carries, where the address it came to proves whose
 * it is; puts aside what is doubtful, with the reason; notes bounces and automatic answers at whom they
 * are from. One that comes twice is taken once.
 * @param recipient the address that it came to
 * @param by whoever of here hands it over themselves, and vouches for what names no sender
 * @throws Error when it is no mail, or too large
 */
export async function receiveMail(
  platform: Platform,
  source: Uint8Array,
  recipient: string,
  by: { email: string } | null = null,
): Promise<Pick<IncomingMail, 'state' | 'reason'>> {
  if (source.byteLength > MOST_BYTES) throw new Error('A mail may be at most 2 MB large.');
  const mail = await PostalMime.parse(asMail(source), LIMITS);
  const messageId = plainLine(mail.messageId ?? '').slice(0, 500) || hashOf(source);
  if (await isKnown(platform.pool, messageId)) return { state: 'counted', reason: '' };
  const attendeeId = readAnswerAddress(await guestKey(platform.pool), recipient);
  const eventId = attendeeId === null ? null : await meetingOfAttendee(platform.pool, attendeeId);
  const calendar = calendarIn(mail);
  const carried = {
    from: mail.from?.address?.toLowerCase() ?? (by ? null : ''),
    to: recipient || (by?.email ?? ''),
  };
  const outcome = await judge(
    platform,
    mail,
    calendar,
    eventId === null ? null : attendeeId,
    carried,
  );
  const proven = eventId !== null && attendeeId !== null ? { eventId, attendeeId } : null;
  const named = proven || calendar === null ? null : await meetingAnswered(platform.pool, calendar);
  const about = outcome.from ?? proven ?? named;
  const [reader] =
    outcome.state === 'aside' && about === null
      ? await findContacts(platform.pool, { emails: [carried.to] })
      : [];
  const now = platform.clock.now();
  await transaction(platform.pool, async (tx) => {
    if (outcome.state === 'bounced' && attendeeId !== null)
      await markBounced(tx, attendeeId, outcome.reason, now);
    await keepMail(
      tx,
      {
        messageId,
        sender: plainLine(mail.from?.address ?? '').slice(0, 254),
        subject: plainLine(mail.subject ?? '').slice(0, 500),
        words: wordsOf(mail),
        calendar,
        state: outcome.state,
        reason: outcome.reason,
        eventId: about?.eventId ?? null,
        attendeeId: about?.attendeeId ?? null,
        personId: reader?.id ?? null,
      },
      now,
    );
    if (about) announce(tx, [subjectOf('meeting', about.eventId)]);
    if (reader) announce(tx, [subjectOf('notifications', reader.id)]);
  });
  return { state: outcome.state, reason: outcome.reason };
}

/** A calendar file by itself is taken as a mail of nothing else. */
function asMail(source: Uint8Array): Uint8Array {
  const begin = Buffer.from(source.buffer, source.byteOffset, Math.min(source.byteLength, 64));
  if (!/^\uFEFF?BEGIN:VCALENDAR/i.test(begin.toString('utf8'))) return source;
  return Buffer.concat([
    Buffer.from('MIME-Version: 1.0\r\nContent-Type: text/calendar; charset=utf-8\r\n\r\n'),
    source,
  ]);
}

async function judge(
  platform: Platform,
  mail: Email,
  calendar: string | null,
  attendeeId: number | null,
  carried: { from: string | null; to: string },
): Promise<Outcome> {
  const aside = (reason: string): Outcome => ({ state: 'aside', reason, from: null });
  if (isBounce(mail)) return { state: 'bounced', reason: bounceReason(mail), from: null };
  // Programs that answer with a calendar part say that they are programs, and are counted.
  if (isAutomatic(mail) && !isAnswer(calendar) && !isRequest(calendar))
    return { state: 'automatic', reason: wordsOf(mail).slice(0, 300), from: null };
  if (attendeeId === null && isRequest(calendar)) {
    try {
      const { asked, ...from } = await receiveRequest(platform, calendar, carried);
      const reason = asked ? 'Its organizer is asked for the whole invitation once more.' : '';
      return { state: 'counted', reason, from };
    } catch (error) {
      if (error instanceof Refusal) return aside(error.message);
      throw error;
    }
  }
  if (attendeeId === null)
    return aside('It did not come to the address of a letter, so nothing proves whose it is.');
  if (calendar === null)
    return aside('It answers in words, without a calendar part. Read it, and count it by hand.');
  try {
    const from = await receiveAnswer(platform, calendar, { attendeeId });
    return { state: 'counted', reason: '', from };
  } catch (error) {
    if (error instanceof Refusal) return aside(error.message);
    throw error;
  }
}

const headerOf = ({ headers }: Email, name: string): string =>
  headers.find((one) => one.key === name)?.value ?? '';

/** A report of a mail server that a letter did not arrive (RFC 3464), or a mail without a sender. */
const isBounce = (mail: Email): boolean =>
  /multipart\/report.*delivery-status/is.test(headerOf(mail, 'content-type')) ||
  /^(mailer-daemon|postmaster)@/i.test(mail.from?.address ?? '');

/** Whether a calendar part is an answer, and not what an automatic mail quotes. */
const isAnswer = (calendar: string | null): boolean =>
  calendar !== null && /^METHOD:(REPLY|COUNTER)\s*$/im.test(calendar);

/** Whether a calendar part tells of a meeting that is organized elsewhere. */
const isRequest = (calendar: string | null): calendar is string =>
  calendar !== null && /^METHOD:(REQUEST|CANCEL|ADD)\s*$/im.test(calendar);

/** What no person wrote (RFC 3834 section 5), or a list. */
const isAutomatic = (mail: Email): boolean => {
  const submitted = headerOf(mail, 'auto-submitted').trim().toLowerCase();
  return (
    (submitted !== '' && !submitted.startsWith('no')) ||
    headerOf(mail, 'x-autoreply') !== '' ||
    /^(auto_reply|bulk|junk|list)$/i.test(headerOf(mail, 'precedence').trim())
  );
};

function bounceReason(mail: Email): string {
  const report = mail.attachments.find((one) => one.mimeType === 'message/delivery-status');
  const text = `${report ? contentOf(report.content) : ''}\n${mail.text ?? ''}`;
  const said = /^Diagnostic-Code:\s*(?:smtp;)?\s*(.+)$/im.exec(text)?.[1] ?? mail.subject ?? '';
  return plainLine(said).slice(0, 300) || 'It could not be delivered.';
}

const contentOf = (content: ArrayBuffer | Uint8Array | string): string =>
  typeof content === 'string' ? content : new TextDecoder().decode(content);

function calendarIn(mail: Email): string | null {
  const part = mail.attachments.find((one) => one.mimeType === 'text/calendar');
  return part ? contentOf(part.content).slice(0, MOST_BYTES) : null;
}

/** What is written in it, without what it quotes. */
function wordsOf(mail: Email): string {
  const lines = plainCharacters(mail.text ?? '').split('\n');
  const own = lines.filter((line) => !line.startsWith('>'));
  return own.join('\n').trim().slice(0, MOST_WORDS);
}

const hashOf = (source: Uint8Array): string =>
  `sha256:${createHash('sha256').update(source).digest('hex')}`;
