import { createHash } from 'node:crypto';
import type { CalendarPart } from '../../core/icalendar/part.ts';
import type { Clock } from '../../core/icalendar/zones.ts';
import { addressKey } from '../../core/mailAddress.ts';
import { Refusal } from '../../core/refusal.ts';
import { inPart, sqlState, transaction, type Transaction } from '../db/transaction.ts';
import {
  meetingAnswered,
  receiveAnswer,
  receiveRequest,
  type AnswerSender,
  type Checked,
} from '../events/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { findContacts } from '../people/index.ts';
import { guestKey, meetingOfAttendee, readAnswerAddress } from '../participants/index.ts';
import type { Platform } from '../platform.ts';
import { reader } from '../reading/index.ts';
import { authenticOf } from './authentication.ts';
import { unreadLetter, type ReadLetter } from './letter.ts';
import { MOST_MAIL_BYTES } from './limits.ts';
import {
  claimMail,
  markBounced,
  readCancelled,
  settleMail,
  type IncomingMail,
  type Outcome,
} from './queries.ts';

type Asked = { source: Uint8Array } | { calendar: string; clock: Clock };

const inWorker = reader<Asked, ReadLetter | CalendarPart>(
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

/** Reads a calendar part by somebody's clock. @throws Refusal where it takes too much */
export const readCalendarPart = async (
  calendar: string,
  clock: Clock = { zone: 'UTC' },
): Promise<CalendarPart> => (await inWorker({ calendar, clock })) as CalendarPart;

/** What was said of a mail. */
export type Taken = Pick<IncomingMail, 'state' | 'reason'>;

/**
 * Takes a mail that came back, for one whom it came to: counts the answer it carries, where the road on which it
 * came proves whose it is; takes the invitation; puts aside what is doubtful, with the reason; notes bounces and
 * automatic answers at whom they are from. One that comes twice to the same address is taken once, and keeping it
 * and counting it are one thing.
 * @param recipient the address that it came to
 * @param by whoever of here hands it over themselves, and vouches for what names no sender
 */
export async function receiveMail(
  platform: Platform,
  letter: ReadLetter,
  recipient: string,
  by: { email: string } | null = null,
): Promise<Taken> {
  const to = addressKey(recipient || (by?.email ?? ''));
  const { part, zone } = await readFor(platform, letter, to);
  return transaction(platform.pool, async (tx) => {
    const now = platform.clock.now();
    const id = await claimMail(
      tx,
      {
        messageId: letter.messageId,
        recipient: to,
        digest: digestOf(letter),
        sender: letter.from ?? '',
        subject: letter.subject,
        words: letter.words,
        calendar: letter.calendar,
      },
      now,
    );
    if (id === null) return { state: 'counted', reason: '' };
    const road = await roadOf(tx, platform, { letter, to, zone, isHandedOver: by !== null });
    const outcome = await judge(tx, platform, { ...letter, part }, road);
    if (outcome.state === 'bounced' && road.attendeeId !== null)
      await markBounced(tx, road.attendeeId, outcome.reason, now);
    await settleMail(tx, id, outcome);
    if (outcome.eventId) announce(tx, [subjectOf('meeting', outcome.eventId)]);
    if (outcome.personId) announce(tx, [subjectOf('notifications', outcome.personId)]);
    return { state: outcome.state, reason: outcome.reason };
  });
}

/**
 * Takes a mail as `receiveMail` does; what this program fails at, and would fail at again however often it were
 * handed over, is put aside with that as the reason, so that nothing is lost and nobody tries for ever.
 * @throws Error where it could be taken at another time, or cannot even be kept
 */
export async function takeMail(
  platform: Platform,
  letter: ReadLetter,
  recipient: string,
): Promise<Taken> {
  try {
    return await receiveMail(platform, letter, recipient);
  } catch (error) {
    if (!isForGood(error)) throw error;
    platform.log.error({ error, messageId: letter.messageId }, 'a mail could not be understood');
    const unread = 'Something in it could not be understood here. Read it, and count it by hand.';
    return receiveMail(platform, { ...letter, part: null, bounce: null, unread }, recipient);
  }
}

/** Whether what failed would fail again: a fault of this program, or a value that the database does not keep. */
const isForGood = (error: unknown): boolean =>
  /^2[23]/.test(sqlState(error) ?? '') ||
  [TypeError, RangeError, ReferenceError, SyntaxError].some((kind) => error instanceof kind);

/**
 * The calendar part of a letter as it is read by the clock of whom it came to, where that makes a difference: before
 * anything is held in the database, which is not to wait for a reader that has much to do.
 */
async function readFor(
  { pool }: Platform,
  { part, calendar }: ReadLetter,
  to: string,
): Promise<{ part: CalendarPart | null; zone: string }> {
  const asItIs = { part, zone: 'UTC' };
  if (part?.kind !== 'request' || !part.messages.some((one) => one.isByReader)) return asItIs;
  const [receiver] = await findContacts(pool, { emails: [to] });
  if (!receiver) return asItIs;
  const { zone } = receiver;
  return { part: await readCalendarPart(calendar!, { zone }), zone };
}

/** What a letter is beside its Message-ID, which anybody can write who has read it. */
const digestOf = ({ from, calendar, words }: ReadLetter): string =>
  createHash('sha256')
    .update(JSON.stringify([from, calendar, words]))
    .digest('hex');

/** On which road a letter came, and what that says of it. */
interface Road {
  to: string;
  /** By whose clock its calendar part was read. */
  zone: string;
  from: string;
  /** Whoever of here hands it over vouches for what names no sender. */
  isVouchedFor: boolean;
  /** Whose letter it answers, where it came to that letter's address. */
  attendeeId: number | null;
  eventId: string | null;
  /** Whose own address it came to. */
  personId: number | null;
  checked: Checked;
}

async function roadOf(
  tx: Transaction,
  { pool, mailServer }: Platform,
  {
    letter,
    to,
    zone,
    isHandedOver,
  }: { letter: ReadLetter; to: string; zone: string; isHandedOver: boolean },
): Promise<Road> {
  const attendeeId = readAnswerAddress(await guestKey(pool), to);
  const eventId = attendeeId === null ? null : await meetingOfAttendee(tx, attendeeId);
  const [reader] = attendeeId === null ? await findContacts(tx, { emails: [to] }) : [];
  const from = letter.from ?? '';
  return {
    to,
    zone,
    from,
    isVouchedFor: letter.from === null && isHandedOver,
    attendeeId: eventId === null ? null : attendeeId,
    eventId,
    personId: reader?.id ?? null,
    checked:
      mailServer === null
        ? { by: null }
        : { by: mailServer, found: authenticOf(letter.authentication, mailServer, from) },
  };
}

async function judge(
  tx: Transaction,
  platform: Platform,
  letter: ReadLetter,
  road: Road,
): Promise<Outcome> {
  const { part } = letter;
  const { attendeeId, eventId } = road;
  const about = { eventId, attendeeId, personId: null };
  const said = (state: IncomingMail['state'], reason: string) => ({
    ...NOTHING,
    ...about,
    state,
    reason,
  });
  if (letter.unread !== null) return aside(tx, letter, road, letter.unread);
  if (letter.bounce !== null) return said('bounced', letter.bounce);
  // Programs that answer with a calendar part say that they are programs, and are counted.
  if (letter.isAutomatic && (part === null || part.kind === 'unreadable'))
    return said('automatic', letter.words.slice(0, 300));
  if (part === null)
    return aside(
      tx,
      letter,
      road,
      attendeeId === null
        ? 'It has no calendar part, and did not come to the address of a letter, so nothing says what it is about.'
        : 'It answers in words, without a calendar part. Read it, and count it by hand.',
    );
  try {
    return await inPart(tx, () => counted(tx, platform, { letter, part }, road));
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return aside(tx, letter, road, error.message);
  }
}

const NOTHING = { why: '', sends: null, cancels: null, wantsClock: false };

/** What becomes of a mail whose message is taken. @throws Refusal saying why it is not */
async function counted(
  tx: Transaction,
  platform: Platform,
  { letter, part }: { letter: ReadLetter; part: CalendarPart },
  road: Road,
): Promise<Outcome> {
  const tells = part.kind === 'request' || (part.kind === 'unreadable' && part.as === 'request');
  const { from, to, checked, attendeeId, personId } = road;
  if (tells && attendeeId === null) {
    const request = await receiveRequest(
      tx,
      platform,
      readingOf(tx, letter.calendar!, { read: { part, zone: road.zone } }),
      { from: road.isVouchedFor ? null : from, to, checked },
    );
    return { ...NOTHING, ...request, state: 'counted', personId: null };
  }
  if (attendeeId === null && personId === null)
    throw new Refusal('unknown-receiver', `Nobody here reads ${to}.`);
  const sender: AnswerSender =
    attendeeId !== null
      ? { how: 'letter', attendeeId, from }
      : { how: 'own', personId: personId!, from, checked };
  const answer = await receiveAnswer(tx, platform, part, sender);
  const { sends } = answer;
  return {
    ...NOTHING,
    ...answer,
    // The answer is counted; whom they send is still to be asked.
    state: sends === null ? 'counted' : 'aside',
    reason:
      sends === null
        ? ''
        : `They do not come and send ${sends} in their place, who is not asked yet.`,
    personId: null,
  };
}

/**
 * How a letter's calendar part is read, and what came before it.
 * @param read it as it was read already, by some clock; which holds for others where nothing in it is by theirs
 */
export const readingOf = (
  tx: Transaction,
  calendar: string,
  { read, instead }: { read?: { part: CalendarPart; zone: string }; instead?: string | undefined },
) => ({
  read: async (clock: Clock): Promise<CalendarPart> =>
    read?.part.kind === 'request' &&
    (read.zone === clock.zone || !read.part.messages.some((one) => one.isByReader))
      ? read.part
      : readCalendarPart(calendar, clock),
  instead,
  cancelledBefore: async (uid: string, personId: number): Promise<CalendarPart[]> => {
    const parts: CalendarPart[] = [];
    for (const one of await readCancelled(tx, uid, personId))
      parts.push(await readCalendarPart(one));
    return parts;
  },
});

/** Puts a mail aside where whoever can count it finds it: at the meeting that it names, or with its receiver. */
async function aside(
  tx: Transaction,
  { part }: ReadLetter,
  { eventId, attendeeId, personId }: Road,
  reason: string,
): Promise<Outcome> {
  const named = eventId === null && part !== null ? await meetingAnswered(tx, part) : null;
  return {
    ...NOTHING,
    state: 'aside',
    reason,
    eventId: eventId ?? named?.eventId ?? null,
    attendeeId: attendeeId ?? named?.attendeeId ?? null,
    personId: eventId === null && named === null ? personId : null,
    wantsClock: part?.kind === 'unreadable' && part.wantsClock,
  };
}
