import { Refusal } from '../../core/refusal.ts';
import type { CalendarPart } from '../../core/icalendar/part.ts';
import { transaction } from '../db/transaction.ts';
import { meetingAnswered, receiveAnswer, receiveRequest } from '../events/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { findContacts } from '../people/index.ts';
import { guestKey, meetingOfAttendee, readAnswerAddress } from '../participants/index.ts';
import type { Platform } from '../platform.ts';
import { reader } from '../reading/index.ts';
import { isAuthentic } from './authentication.ts';
import { unreadLetter, type ReadLetter } from './letter.ts';
import { MOST_MAIL_BYTES } from './limits.ts';
import { isKnown, keepMail, markBounced, type IncomingMail } from './queries.ts';

/** What becomes of a mail, and what is said of it. */
type Outcome = Pick<IncomingMail, 'state' | 'reason'> & {
  from: { eventId: string; attendeeId: number } | null;
};

const inWorker = reader<{ source: Uint8Array } | { calendar: string }, ReadLetter | CalendarPart>(
  new URL('./letter.worker.ts', import.meta.url),
  'The letter',
);

/**
 * Reads a mail that came in, or a calendar file by itself.
 * @throws Error when it is too large; what takes too much to be read is a letter that was not read
 */
export async function readMail(source: Uint8Array): Promise<ReadLetter> {
  if (source.byteLength > MOST_MAIL_BYTES) throw new Error('A mail may be at most 2 MB large.');
  try {
    return (await inWorker({ source })) as ReadLetter;
  } catch (error) {
    if (error instanceof Refusal) return unreadLetter(source, error.message);
    throw error;
  }
}

/** Reads the calendar part of a mail that was put aside. @throws Refusal where it takes too much */
export const readCalendarPart = async (calendar: string): Promise<CalendarPart> =>
  (await inWorker({ calendar })) as CalendarPart;

/**
 * Takes a mail that came back: counts the answer it carries, where the address it came to proves whose
 * it is; puts aside what is doubtful, with the reason; notes bounces and automatic answers at whom they
 * are from. One that comes twice is taken once.
 * @param recipient the address that it came to
 * @param by whoever of here hands it over themselves, and vouches for what names no sender
 */
export async function receiveMail(
  platform: Platform,
  letter: ReadLetter,
  recipient: string,
  by: { email: string } | null = null,
): Promise<Pick<IncomingMail, 'state' | 'reason'>> {
  if (await isKnown(platform.pool, letter.messageId)) return { state: 'counted', reason: '' };
  const attendeeId = readAnswerAddress(await guestKey(platform.pool), recipient);
  const eventId = attendeeId === null ? null : await meetingOfAttendee(platform.pool, attendeeId);
  const carried = {
    from: letter.from ?? (by ? null : ''),
    to: recipient || (by?.email ?? ''),
  };
  const outcome = await judge(platform, letter, eventId === null ? null : attendeeId, carried);
  const proven = eventId !== null && attendeeId !== null ? { eventId, attendeeId } : null;
  const named =
    proven || letter.part === null ? null : await meetingAnswered(platform.pool, letter.part);
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
        messageId: letter.messageId,
        sender: letter.from ?? '',
        subject: letter.subject,
        words: letter.words,
        calendar: letter.calendar,
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

async function judge(
  platform: Platform,
  letter: ReadLetter,
  attendeeId: number | null,
  carried: { from: string | null; to: string },
): Promise<Outcome> {
  const aside = (reason: string): Outcome => ({ state: 'aside', reason, from: null });
  const { part } = letter;
  if (letter.unread !== null) return aside(letter.unread);
  if (letter.bounce !== null) return { state: 'bounced', reason: letter.bounce, from: null };
  // Programs that answer with a calendar part say that they are programs, and are counted.
  if (letter.isAutomatic && (part === null || part.kind === 'unreadable'))
    return { state: 'automatic', reason: letter.words.slice(0, 300), from: null };
  const tells = part?.kind === 'request' || (part?.kind === 'unreadable' && part.as === 'request');
  if (attendeeId === null && tells) {
    if (isDoubtful(platform, letter, carried.from))
      return aside(
        `${platform.mailServer} did not find it to be from ${carried.from || 'whom it names'}.`,
      );
    return counted(async () => {
      const { asked, ...from } = await receiveRequest(platform, part, carried);
      const reason = asked ? 'Its organizer is asked for the whole invitation once more.' : '';
      return { state: 'counted', reason, from };
    });
  }
  if (attendeeId === null)
    return aside('It did not come to the address of a letter, so nothing proves whose it is.');
  if (part === null)
    return aside('It answers in words, without a calendar part. Read it, and count it by hand.');
  return counted(async () => {
    const from = await receiveAnswer(platform, part, { attendeeId });
    return { state: 'counted', reason: '', from };
  });
}

/** What becomes of a mail whose message is taken; one that is refused is put aside with the reason. */
async function counted(take: () => Promise<Outcome>): Promise<Outcome> {
  try {
    return await take();
  } catch (error) {
    if (error instanceof Refusal) return { state: 'aside', reason: error.message, from: null };
    throw error;
  }
}

/** Whether the server that receives mail is asked about senders, and did not find this one to be true. */
const isDoubtful = (
  { mailServer }: Platform,
  { authentication }: ReadLetter,
  from: string | null,
): boolean =>
  mailServer !== null && from !== null && !isAuthentic(authentication, mailServer, from);
