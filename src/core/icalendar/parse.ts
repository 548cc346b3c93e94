import ICAL from 'ical.js';
import type { Reply } from './message.ts';
import { plainCharacters, plainLine, readCalendars } from './text.ts';
import { instantOf, namedDateOf, timeOf, type NamedDate } from './times.ts';

/** An answer as it came back by mail. */
export interface ReplyMessage {
  uid: string;
  sequence: number;
  /** When the answer was made, epoch milliseconds (DTSTAMP); null when it does not say. */
  stamp: number | null;
  /** The address that answers, lower case. */
  email: string;
  reply: Exclude<Reply, 'needs-action'>;
  comment: string;
  /**
   * The one occurrence that is answered, by its place in the rule (RECURRENCE-ID, whatever zone it is
   * given in); null for all of it.
   */
  occurrence: NamedDate | null;
  /** Who answered in their stead, a mail address (SENT-BY); null where they did themselves. */
  sentBy: string | null;
}

/** Another time that came back by mail (RFC 5546 section 3.2.7). */
export interface CounterMessage extends Omit<ReplyMessage, 'reply'> {
  /** Epoch milliseconds. */
  start: number;
  end: number;
}

/** What somebody who is invited sends back. */
export type AnswerMessage =
  | { method: 'REPLY'; answers: ReplyMessage[] }
  | { method: 'COUNTER'; counter: CounterMessage }
  /** They lost the invitation, and ask for it once more (section 3.2.6). */
  | { method: 'REFRESH'; refresh: Omit<ReplyMessage, 'reply'> };

const REPLIES: Record<string, ReplyMessage['reply']> = {
  ACCEPTED: 'accepted',
  TENTATIVE: 'tentative',
  DECLINED: 'declined',
  // They do not come themselves; whom they send is said in the comment.
  DELEGATED: 'declined',
};

/** More answers in one letter are none that a person gave. */
const MOST_ANSWERS = 200;
const LONGEST_COMMENT = 2000;

/**
 * Reads an iTIP REPLY (RFC 5546 section 3.2.3): an answer for each event in it, such as one to a
 * series and others to single occurrences.
 * @throws Error with a sentence when the text is no calendar, no REPLY, or answers for nobody
 */
export function parseReply(text: string): ReplyMessage[] {
  const [calendar] = readCalendars(text);
  const method = String(calendar?.getFirstPropertyValue('method') ?? '').toUpperCase();
  if (!calendar || method !== 'REPLY')
    throw new Error(`The calendar part is ${method || 'no message'}, not a REPLY.`);
  const events = calendar.getAllSubcomponents('vevent');
  if (events.length === 0) throw new Error('The REPLY names no event.');
  if (events.length > MOST_ANSWERS)
    throw new Error(`A REPLY may answer for at most ${MOST_ANSWERS} occurrences.`);
  return events.map((event) => answerOf(event, calendar));
}

/**
 * Reads what somebody who is invited sends back: a REPLY, a COUNTER that asks for another time, or a
 * REFRESH that asks for the invitation once more.
 * @throws Error with a sentence when it is neither, or asks for no time
 */
export function parseAnswer(text: string): AnswerMessage {
  const [calendar] = readCalendars(text);
  const method = String(calendar?.getFirstPropertyValue('method') ?? '').toUpperCase();
  if (calendar && method === 'REFRESH') {
    const [event] = calendar.getAllSubcomponents('vevent');
    if (!event) throw new Error('The REFRESH names no event.');
    return { method: 'REFRESH', refresh: senderOf(event, calendar) };
  }
  if (!calendar || method !== 'COUNTER') return { method: 'REPLY', answers: parseReply(text) };
  const events = calendar.getAllSubcomponents('vevent');
  if (events.length !== 1) throw new Error('A COUNTER asks for another time of exactly one event.');
  const [event] = events;
  const start = timeOf(event!, 'dtstart', calendar);
  const end = timeOf(event!, 'dtend', calendar);
  if (!start || !end || start.isDate) throw new Error('The COUNTER names no other time.');
  return {
    method: 'COUNTER',
    counter: {
      ...senderOf(event!, calendar),
      start: instantOf(start, 'UTC'),
      end: instantOf(end, 'UTC'),
    },
  };
}

function answerOf(event: ICAL.Component, calendar: ICAL.Component): ReplyMessage {
  const { attendee, ...sender } = attendeeOf(event, calendar);
  const status = String(attendee.getFirstParameter('partstat')).toUpperCase();
  const reply = REPLIES[status];
  if (!reply) throw new Error(`The answer ${status} is not accepted, tentative or declined.`);
  const delegate =
    status === 'DELEGATED' ? addressIn(attendee.getFirstParameter('delegated-to')) : null;
  return {
    ...sender,
    reply,
    comment: [delegate && `Sends ${delegate} instead.`, sender.comment].filter(Boolean).join(' '),
  };
}

/** A mail address without `mailto:`; null where there is none. */
const addressIn = (value: unknown): string | null =>
  typeof value === 'string' && value.includes('@')
    ? plainLine(value.replace(/^"?mailto:/i, '').replace(/"$/, '')).slice(0, 254)
    : null;

const senderOf = (event: ICAL.Component, calendar: ICAL.Component) => {
  const { attendee: _, ...sender } = attendeeOf(event, calendar);
  return sender;
};

/** Which event is answered, by whom, and what they say. */
function attendeeOf(
  event: ICAL.Component,
  calendar: ICAL.Component,
): Omit<ReplyMessage, 'reply'> & { attendee: ICAL.Property } {
  const uid = event.getFirstPropertyValue('uid');
  if (!uid) throw new Error('The message names no event.');
  const attendees = event.getAllProperties('attendee');
  if (attendees.length !== 1) throw new Error('A message answers for exactly one attendee.');
  const attendee = attendees[0]!;
  const stamp = timeOf(event, 'dtstamp', calendar);
  const occurrence = timeOf(event, 'recurrence-id', calendar);
  const sequence = Number(event.getFirstPropertyValue('sequence') ?? 0);
  return {
    attendee,
    uid: String(uid),
    sequence: Number.isSafeInteger(sequence) ? sequence : 0,
    stamp: stamp && instantOf(stamp, 'UTC'),
    email: String(attendee.getFirstValue())
      .replace(/^mailto:/i, '')
      .toLowerCase(),
    sentBy: addressIn(attendee.getFirstParameter('sent-by')),
    comment: plainCharacters(String(event.getFirstPropertyValue('comment') ?? '')).slice(
      0,
      LONGEST_COMMENT,
    ),
    occurrence: occurrence && namedDateOf(occurrence),
  };
}
