import { addressKey } from '../../../core/mailAddress.ts';
import { randomUUID } from 'node:crypto';
import type { CalendarPart } from '../../../core/icalendar/part.ts';
import type { RequestMessage } from '../../../core/icalendar/request.ts';
import type { Meeting } from '../../../core/meetings/meeting.ts';
import { decideReceive, notKnown, refuseForeign } from '../../../core/meetings/receive.ts';
import { Refusal } from '../../../core/refusal.ts';
import { transaction, type Transaction } from '../../db/transaction.ts';
import { askForInvitation } from '../../letters/index.ts';
import { findContacts } from '../../people/index.ts';
import type { Platform } from '../../platform.ts';
import { commit } from '../commit.ts';
import { cleanHtml } from '../richText.ts';
import { findByUid, lockMeeting, lockUid } from '../store/read.ts';
import { believeSender, isBelievedSender } from '../store/senders.ts';

/** By whom a message came, and to whom. */
interface Carried {
  /** The address that it is from; null where somebody here vouches for it. */
  from: string | null;
  to: string;
}

/** The meeting that a message was about, and whom it was handed over for. */
interface ReceivedRequest {
  eventId: string;
  attendeeId: number;
  /** Whether its organizer was asked for the whole invitation instead of keeping what it says. */
  asked: boolean;
}

/**
 * Takes what somebody elsewhere sends of a meeting that they organize: it stands in the calendars of
 * those of here whom it invites, who answer it as any other.
 * @param calendar the text/calendar part as it was read, a REQUEST, a CANCEL or an ADD
 * @param within the transaction that it is a part of; else it has its own
 * @throws Refusal saying why it is not kept
 */
export async function receiveRequest(
  platform: Platform,
  calendar: CalendarPart,
  { from, to }: Carried,
  within?: Transaction,
): Promise<ReceivedRequest> {
  const message = requestIn(calendar);
  const take = async (tx: Transaction): Promise<ReceivedRequest> => {
    const contacts = await findContacts(tx, {
      emails: [to, message.organizer.email, ...message.attendees.map((one) => one.email)],
    });
    const people = new Map(contacts.map((one) => [addressKey(one.email), one]));
    const receiver = people.get(addressKey(to));
    if (!receiver) throw new Refusal('unknown-receiver', `Nobody here reads ${to}.`);
    await refuseForged(tx, message, from, receiver.id, platform.clock.now());
    if (people.has(message.organizer.email))
      throw new Refusal(
        'not-theirs',
        'It says that somebody of here organizes it, and came from outside.',
      );
    if (!message.attendees.some((one) => one.email === addressKey(to)))
      throw new Refusal('not-invited', `${receiver.name} is not among those whom it invites.`);
    // Two of those invited may have it at the same moment.
    lockUid(tx, message.uid);
    const id = (await findByUid(tx, [message.uid])).get(message.uid);
    const before = id === undefined ? null : await lockMeeting(tx, id);
    if (message.method === 'ADD') return askForAll(tx, platform, before, message, receiver);
    const decision = decideReceive(before, message, {
      now: platform.clock.now(),
      newId: randomUUID(),
      people,
      asHtml,
    });
    const expandedUntil = before ? new Map([[before.id, before.expandedUntil]]) : new Map();
    const { meetings } = await commit(tx, platform, { kind: 'system' }, decision, {
      expandedUntil,
    });
    const meeting = meetings.get(decision.answer.id)!;
    const attendee = meeting.participants.find((one) => one.personId === receiver.id)!;
    return { eventId: meeting.id, attendeeId: attendee.id, asked: false };
  };
  return within ? take(within) : transaction(platform.pool, take);
}

/**
 * Dates that are added to a series are had by asking for all of it (RFC 5546 section 3.2.4): what a
 * rule does not name is not kept, and what was missed before comes with it.
 */
async function askForAll(
  tx: Transaction,
  platform: Platform,
  before: Meeting | null,
  message: RequestMessage,
  receiver: { id: number; name: string; email: string },
): Promise<ReceivedRequest> {
  if (!before) throw notKnown();
  refuseForeign(before, message);
  const attendee = before.participants.find((one) => one.personId === receiver.id);
  if (!attendee) throw notKnown();
  await askForInvitation(tx, platform, before, receiver);
  return { eventId: before.id, attendeeId: attendee.id, asked: true };
}

function requestIn(calendar: CalendarPart): RequestMessage {
  if (calendar.kind === 'request') return calendar.message;
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
 * @throws Refusal where it is neither
 */
async function refuseForged(
  tx: Transaction,
  { organizer }: RequestMessage,
  from: string | null,
  receiverId: number,
  now: number,
): Promise<void> {
  const { email, sentBy } = organizer;
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
