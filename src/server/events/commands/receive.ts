import { randomUUID } from 'node:crypto';
import type { CalendarPart } from '../../../core/icalendar/part.ts';
import type { RequestMessage } from '../../../core/icalendar/request.ts';
import type { Clock } from '../../../core/icalendar/zones.ts';
import { addressKey } from '../../../core/mailAddress.ts';
import { asSingleDates, leftOut, withItsDates } from '../../../core/meetings/receiveSeries.ts';
import { decideReceive } from '../../../core/meetings/receive.ts';
import { notKnown, refuseForeign, type HostedMessage } from '../../../core/meetings/hosted.ts';
import type { Meeting } from '../../../core/meetings/meeting.ts';
import { Refusal } from '../../../core/refusal.ts';
import type { Transaction } from '../../db/transaction.ts';
import { askForInvitation } from '../../letters/index.ts';
import { findContacts } from '../../people/index.ts';
import type { Platform } from '../../platform.ts';
import { commit } from '../commit.ts';
import { MOST_SINGLE_DATES_AT_ONCE } from '../limits.ts';
import { cleanHtml } from '../richText.ts';
import {
  findByUid,
  findDatesOf,
  lockMeetings,
  lockUids,
  type StoredMeeting,
} from '../store/read.ts';
import { believeSender, isBelievedSender } from '../store/senders.ts';
import { refuseUnchecked, whyChecked, type Checked } from './reply.ts';

/** By whom a message came, and to whom. */
interface Carried {
  /** The address that it is from; null where somebody here vouches for it. */
  from: string | null;
  to: string;
  /** What the server that receives mail found of it. */
  checked: Checked;
}

/** What is asked of a letter that came before, and of the calendar part of this one. */
interface Reading {
  /** Reads the calendar part by somebody's clock. */
  read: (clock: Clock) => Promise<CalendarPart>;
  /** By which clock its times are where nobody knows the name that it gives, as somebody here said. */
  instead?: string | undefined;
  /** Messages that cancelled a meeting to somebody before its invitation came. */
  cancelledBefore: (uid: string, personId: number) => Promise<CalendarPart[]>;
}

/** What became of a message, and whom it was handed over for. */
export interface ReceivedRequest {
  /** Null where it is about a meeting that is not known here, and is to be remembered. */
  eventId: string | null;
  attendeeId: number | null;
  /** Why it was believed, and what of it was not kept: sentences. */
  why: string;
  /** What is said of it beside that it is counted; mostly nothing. */
  reason: string;
  /** The UID of a meeting that it cancels, whose invitation has not come. */
  cancels: string | null;
}

/** What a message is that says nothing of note. */
const PLAIN = { reason: '', cancels: null };

const BEFORE_IT_CAME =
  'It cancels a meeting whose invitation has not come. Should it still come, it is cancelled.';

/**
 * Takes what somebody elsewhere sends of meetings that they organize: they stand in the calendars of those of
 * here whom they invite, who answer them as any other.
 * @throws Refusal saying why it is not kept
 */
export async function receiveRequest(
  tx: Transaction,
  platform: Platform,
  { read, instead, cancelledBefore }: Reading,
  carried: Carried,
): Promise<ReceivedRequest> {
  const [receiver] = await findContacts(tx, { emails: [carried.to] });
  if (!receiver) throw new Refusal('unknown-receiver', `Nobody here reads ${carried.to}.`);
  const clockOf = (zone: string): Clock => ({ zone, instead });
  const part = await read(clockOf(receiver.zone));
  const messages = requestsIn(part).map((one) => hosted(one, carried.from));
  const contacts = await findContacts(tx, {
    emails: messages.flatMap((one) => [
      one.organizer.email,
      ...one.attendees.map(({ email }) => email),
    ]),
  });
  const people = new Map(contacts.map((one) => [addressKey(one.email), one]));
  people.set(addressKey(receiver.email), receiver);
  let received: ReceivedRequest | null = null;
  for (const message of messages) {
    await refuseForged(tx, message, carried, receiver.id, platform.clock.now());
    // Partners write from their own calendars.
    if (people.get(message.organizer.email)?.isHome)
      throw new Refusal(
        'not-theirs',
        'It says that somebody of here organizes it, and came from outside.',
      );
    received = await takeOne(message);
  }
  return received!;

  async function takeOne(message: HostedMessage): Promise<ReceivedRequest> {
    // Two of those invited may have it at the same moment.
    const single = asSingleDates(message);
    lockUids(tx, [message.uid, ...single.map((one) => one.uid)]);
    const known = await findByUid(tx, [message.uid, ...single.map((one) => one.uid)]);
    const isWhole = single.length < message.events.length;
    const parts = isWhole || known.has(message.uid) ? [message] : single;
    if (parts.length > MOST_SINGLE_DATES_AT_ONCE)
      throw new Refusal(
        'too-many',
        `It names more than ${MOST_SINGLE_DATES_AT_ONCE} dates of a series whose invitation has not come.`,
      );
    const held = await lockMeetings(tx, [...known.values()]);
    let last: ReceivedRequest | null = null;
    for (const one of parts) {
      const id = known.get(one.uid);
      last = await takeOf(one, (id === undefined ? null : held.get(id)) ?? null);
    }
    return last!;
  }

  async function takeOf(
    given: HostedMessage,
    before: StoredMeeting | null,
  ): Promise<ReceivedRequest> {
    const message = await byItsClock(given, before);
    const why = [
      reasonOf(carried, message),
      ...message.remarks,
      ...leftOut(message, { people }),
    ].join(' ');
    const attendeeOf = (meeting: Pick<Meeting, 'participants'> | null) =>
      meeting?.participants.find((one) => one.personId === receiver!.id)?.id ?? null;
    const isAsked = message.attendees.some((one) => one.email === addressKey(carried.to));
    if (message.method === 'CANCEL') {
      if (!before)
        return {
          eventId: null,
          attendeeId: null,
          why,
          reason: BEFORE_IT_CAME,
          cancels: uidOf(message),
        };
      if (attendeeOf(before) === null) throw notAsked(receiver!.name);
    } else if (message.method !== 'PUBLISH' && !isAsked) throw notAsked(receiver!.name);
    if (message.method === 'ADD') {
      await askForAll(tx, platform, before, message, receiver!);
      const reason = 'Its organizer is asked for the whole invitation once more.';
      return { eventId: before!.id, attendeeId: attendeeOf(before), why, reason, cancels: null };
    }
    if (message.method === 'PUBLISH' && carried.from !== null && attendeeOf(before) === null)
      throw new Refusal(
        'published',
        'It tells of a meeting and asks for no answer. Take it, if you want it in your calendar.',
      );
    const gone = before ? [] : await cancelledBefore(uidOf(message), receiver!.id);
    const cancelling = gone.flatMap((one) =>
      one.kind === 'request' ? one.messages.filter((other) => isAbout(other, message)) : [],
    );
    if (cancelling.some((one) => one.events.some((event) => event.occurrence === null)))
      return {
        ...PLAIN,
        eventId: null,
        attendeeId: null,
        why,
        reason: 'It was cancelled before it came.',
      };
    const content =
      message.method === 'PUBLISH'
        ? { ...message, attendees: [taking(before, receiver!)] }
        : message;
    const decided = decideReceive(before, content, {
      now: platform.clock.now(),
      newId: randomUUID(),
      people,
      receiverId: receiver!.id,
      asHtml,
    });
    // It came for somebody else of here before, or once more.
    if (!decided) return { ...PLAIN, eventId: before!.id, attendeeId: attendeeOf(before), why };
    const dates = before ? [] : await lockMeetings(tx, await findDatesOf(tx, message.uid));
    const decision = before ? decided : withItsDates(decided, [...dates.values()]);
    const expandedUntil = before ? new Map([[before.id, before.expandedUntil]]) : new Map();
    const { meetings } = await commit(tx, platform, { kind: 'system' }, decision, {
      expandedUntil,
    });
    const meeting = meetings.get(decision.answer.id)!;
    for (const one of cancelling)
      await takeOne({ ...one, organizer: message.organizer, remarks: [] });
    return { ...PLAIN, eventId: meeting.id, attendeeId: attendeeOf(meeting), why };
  }

  /** A message whose times are by its reader's clock, by the one by which the meeting stands here already. */
  async function byItsClock(
    message: HostedMessage,
    before: StoredMeeting | null,
  ): Promise<HostedMessage> {
    if (!before || !message.isByReader || before.timing.zone === receiver!.zone) return message;
    const again = requestsIn(await read(clockOf(before.timing.zone)));
    const same = again
      .map((one) => hosted(one, carried.from))
      .flatMap((one) => [one, ...asSingleDates(one)])
      .find((one) => one.uid === message.uid);
    return same ?? message;
  }
}

const notAsked = (name: string) =>
  new Refusal('not-invited', `${name} is not among those whom it invites.`);

/** The UID of the series or meeting that a message is about. */
const uidOf = ({ uid, dateOf }: HostedMessage): string => dateOf?.uid ?? uid;

/** Whether a cancellation that came before is of what an invitation is to, and newer. */
const isAbout = (cancelling: RequestMessage, message: HostedMessage): boolean =>
  cancelling.method === 'CANCEL' &&
  cancelling.uid === uidOf(message) &&
  cancelling.organizer?.email === message.organizer.email &&
  cancelling.sequence >= message.sequence &&
  cancelling.stamp >= message.stamp;

/** Whoever takes what is published into their calendar comes, and asks nobody. */
const taking = (
  before: StoredMeeting | null,
  { name, email }: { name: string; email: string },
): RequestMessage['attendees'][number] => ({
  name,
  email: addressKey(email),
  role: 'required',
  reply: before ? 'needs-action' : 'accepted',
});

/** Why a message is believed, in a sentence. */
const reasonOf = ({ from, checked }: Carried, { organizer }: HostedMessage): string =>
  from === null
    ? 'Taken by hand.'
    : whyChecked(checked, from) +
      (from === organizer.email ? '' : ` They are known to write for ${organizer.email}.`);

/** A message with whoever organizes its meeting; of what is published whoever sent it, where it does not say. */
function hosted(message: RequestMessage, from: string | null): HostedMessage {
  const organizer = message.organizer ?? (from ? { name: from, email: from } : null);
  if (!organizer) throw new Refusal('whose', 'It does not say whose meeting it is.');
  return { ...message, organizer };
}

/**
 * Dates that are added to a series are had by asking for all of it (RFC 5546 section 3.2.4): what a
 * rule does not name is not kept, and what was missed before comes with it.
 */
async function askForAll(
  tx: Transaction,
  platform: Platform,
  before: StoredMeeting | null,
  message: HostedMessage,
  receiver: { id: number; name: string; email: string },
): Promise<void> {
  if (!before) throw notKnown();
  refuseForeign(before, message);
  if (!before.participants.some((one) => one.personId === receiver.id)) throw notKnown();
  await askForInvitation(tx, platform, before, receiver);
}

function requestsIn(calendar: CalendarPart): RequestMessage[] {
  if (calendar.kind === 'request') return calendar.messages;
  if (calendar.kind === 'unreadable' && calendar.wantsClock)
    throw new Refusal('unknown-clock', calendar.why);
  const why =
    calendar.kind === 'unreadable'
      ? calendar.why
      : 'The calendar part is an answer, no invitation.';
  throw new Refusal('not-an-invitation', why);
}

/**
 * A message of a meeting is its organizer's, or of somebody who sends it for them (SENT-BY) and is known to:
 * their organizer's own letters named them before, or the receiver vouched for them. Anybody can write that
 * they act for somebody.
 * @throws Refusal where it is neither, or the server that receives mail did not find it to be from whom it says
 */
async function refuseForged(
  tx: Transaction,
  { organizer }: HostedMessage,
  { from, checked }: Carried,
  receiverId: number,
  now: number,
): Promise<void> {
  const { email, sentBy } = organizer;
  if (from !== null) refuseUnchecked(checked, from);
  if (from === null || from === email) {
    if (sentBy && sentBy !== email) await believeSender(tx, receiverId, email, sentBy, now);
    return;
  }
  if (from === sentBy) {
    if (await isBelievedSender(tx, receiverId, email, from, now)) return;
    throw new Refusal(
      'not-theirs',
      `${from} writes for ${email}, and no letter of ${email} named them before. Count it by hand if you know them.`,
    );
  }
  throw new Refusal(
    'not-theirs',
    `It says that ${email} organizes the meeting, and came from ${from || 'nobody who is named'}.`,
  );
}

/** Plain text as paragraphs. */
const asHtml = (text: string): string =>
  cleanHtml(
    text
      .split(/\n{2,}/)
      .filter(Boolean)
      .map(
        (part) =>
          `<p>${part.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/\n/g, '<br />')}</p>`,
      )
      .join(''),
  );
