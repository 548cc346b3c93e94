import { createHash } from 'node:crypto';
import PostalMime, { type Email } from 'postal-mime';
import { readPart, type CalendarPart } from '../../core/icalendar/part.ts';
import { plainCharacters, plainLine } from '../../core/icalendar/text.ts';
import {
  MOST_AUTHENTICATION_RESULTS,
  MOST_BOUNDARIES,
  MOST_HEADER_LINES,
  MOST_MAIL_BYTES,
  MOST_MAIL_LINES,
  MOST_MAIL_WORDS,
  MOST_RECIPIENTS,
  MOST_REPORT_CHARACTERS,
} from './limits.ts';

/** How deep parts may lie in parts, and how long the headers may be. */
export const LIMITS = { maxNestingDepth: 12, maxHeadersSize: 64 * 1024 };

/** A letter that came in, as plain values. */
export interface ReadLetter {
  /** Message-ID; where it has none, the hash of all of it. */
  messageId: string;
  /** The address that it says it is from, lower case; null where it names none. */
  from: string | null;
  subject: string;
  /** What is written in it, without what it quotes. */
  words: string;
  calendar: string | null;
  part: CalendarPart | null;
  /** The reason that a report of a mail server gives; null where it is none (RFC 3464). */
  bounce: string | null;
  /** Whether a program wrote it, and no person (RFC 3834). */
  isAutomatic: boolean;
  /** Addresses that it says it is to, those of CC among them, a few. */
  to: string[];
  /** What mail servers say they found of its sender (RFC 8601), the topmost first. */
  authentication: string[];
  /** Why it was not looked into; null where it was. */
  unread: string | null;
}

/** A letter of which no more is known than that it came. */
export const unreadLetter = (source: Uint8Array, why: string): ReadLetter => ({
  messageId: hashOf(source),
  from: null,
  subject: '',
  words: '',
  calendar: null,
  part: null,
  bounce: null,
  isAutomatic: false,
  to: [],
  authentication: [],
  unread: why,
});

/**
 * Reads a letter. One that has more lines, headers or parts than letters have is not looked into: parsers
 * take far more time for those than their length says.
 */
export async function readLetter(source: Uint8Array): Promise<ReadLetter> {
  const tooMuch = boundOf(source);
  if (tooMuch) return unreadLetter(source, tooMuch);
  let mail: Email;
  try {
    mail = await PostalMime.parse(asMail(source), LIMITS);
  } catch {
    return unreadLetter(source, 'It is no mail that can be read.');
  }
  const calendar = calendarIn(mail);
  return {
    messageId: plainLine((mail.messageId ?? '').slice(0, 1000)).slice(0, 500) || hashOf(source),
    from: mail.from?.address ? plainLine(mail.from.address.slice(0, 254)).toLowerCase() : null,
    subject: plainLine((mail.subject ?? '').slice(0, 1000)).slice(0, 500),
    words: wordsOf(mail),
    calendar,
    part: calendar === null ? null : readPart(calendar),
    bounce: isBounce(mail) ? bounceReason(mail) : null,
    isAutomatic: isAutomatic(mail),
    to: [...(mail.to ?? []), ...(mail.cc ?? [])]
      .slice(0, MOST_RECIPIENTS)
      .map((one) => (one.address ?? '').slice(0, 254)),
    authentication: mail.headers
      .filter((one) => one.key === 'authentication-results')
      .slice(0, MOST_AUTHENTICATION_RESULTS)
      .map((one) => one.value.slice(0, 4_000)),
    unread: null,
  };
}

const LF = 10;
const DASH = 45;

/** What a letter has too many of, as a sentence; null where it can be looked into. */
function boundOf(source: Uint8Array): string | null {
  let lines = 0;
  let headerLines = 0;
  let boundaries = 0;
  for (let at = 0; at < source.length;) {
    const found = source.indexOf(LF, at);
    const end = found < 0 ? source.length : found;
    lines++;
    // The headers end with the first empty line.
    if (headerLines === lines - 1 && end - at > 1) headerLines++;
    if (source[at] === DASH && source[at + 1] === DASH && end - at > 4) boundaries++;
    at = end + 1;
  }
  if (lines > MOST_MAIL_LINES)
    return `It has more than ${MOST_MAIL_LINES} lines, and was not read.`;
  if (headerLines > MOST_HEADER_LINES)
    return `It has more than ${MOST_HEADER_LINES} lines of headers, and was not read.`;
  if (boundaries > MOST_BOUNDARIES)
    return `It has more than ${MOST_BOUNDARIES} parts, and was not read.`;
  return null;
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

const headerOf = ({ headers }: Email, name: string): string =>
  headers
    .find((one) => one.key === name)
    ?.value.slice(0, 1000)
    .toLowerCase() ?? '';

/** A report of a mail server that a letter did not arrive (RFC 3464), or a mail without a sender. */
function isBounce(mail: Email): boolean {
  const type = headerOf(mail, 'content-type');
  const isReport = type.startsWith('multipart/report') && type.includes('delivery-status');
  return isReport || /^(?:mailer-daemon|postmaster)@/i.test(mail.from?.address ?? '');
}

/** What no person wrote (RFC 3834 section 5), or a list. */
const isAutomatic = (mail: Email): boolean => {
  const submitted = headerOf(mail, 'auto-submitted').trim();
  return (
    (submitted !== '' && !submitted.startsWith('no')) ||
    headerOf(mail, 'x-autoreply') !== '' ||
    ['auto_reply', 'bulk', 'junk', 'list'].includes(headerOf(mail, 'precedence').trim())
  );
};

const DIAGNOSTIC = 'diagnostic-code:';

function bounceReason(mail: Email): string {
  const report = mail.attachments.find((one) => one.mimeType === 'message/delivery-status');
  const text = report ? contentOf(report.content) : (mail.text ?? '');
  const said = text
    .slice(0, MOST_REPORT_CHARACTERS)
    .split('\n')
    .find((line) => line.toLowerCase().startsWith(DIAGNOSTIC));
  const code = said
    ?.slice(DIAGNOSTIC.length)
    .trim()
    .replace(/^smtp;/i, '');
  return (
    plainLine(code ?? mail.subject?.slice(0, 1000) ?? '').slice(0, 300) ||
    'It could not be delivered.'
  );
}

const contentOf = (content: ArrayBuffer | Uint8Array | string): string =>
  typeof content === 'string' ? content : new TextDecoder().decode(content);

/**
 * The calendar part of a letter: text/calendar, else a file that is one by its type or its name. Where only the
 * header says what kind of message it is (RFC 6047 section 2.4), that is put into it.
 */
function calendarIn(mail: Email): string | null {
  const part =
    mail.attachments.find((one) => one.mimeType === 'text/calendar') ??
    mail.attachments.find(
      (one) => one.mimeType === 'application/ics' || /\.ics$/i.test(one.filename ?? ''),
    );
  if (!part) return null;
  // PostgreSQL keeps no NUL, and no calendar has one (RFC 5545 section 3.1).
  const text = contentOf(part.content).slice(0, MOST_MAIL_BYTES).replaceAll('\0', '');
  const method = /^[a-z]{3,20}$/i.test(part.method ?? '') ? part.method : null;
  if (!method || /^METHOD[:;]/im.test(text)) return text;
  return text.replace(
    /^(\uFEFF?BEGIN:VCALENDAR)[ \t]*\r?\n/i,
    `$1\r\nMETHOD:${method.toUpperCase()}\r\n`,
  );
}

function wordsOf(mail: Email): string {
  // What is quoted is as long as one likes; the words are what one writes above it.
  const lines = plainCharacters((mail.text ?? '').slice(0, 20 * MOST_MAIL_WORDS)).split('\n');
  const own = lines.filter((line) => !line.startsWith('>'));
  return own.join('\n').trim().slice(0, MOST_MAIL_WORDS);
}

const hashOf = (source: Uint8Array): string =>
  `sha256:${createHash('sha256').update(source).digest('hex')}`;
