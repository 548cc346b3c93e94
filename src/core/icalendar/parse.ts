import ICAL from 'ical.js';
import type { Reply } from './message.ts';
import { plainCharacters, plainLine, readCalendars } from './text.ts';
import { emailOf } from './request.ts';
import { instantOf, namedDateOf, timeOf, type NamedDate } from './times.ts';
import { settleZones } from './zones.ts';

/** One of those whom an answer names: who answers, what, and who did so in their stead. */
export interface AnsweredBy {
  /** The address that answers, lower case. */
  email: string;
  /** Null where it says nothing of them, as of others who are merely named. */
  reply: Exclude<Reply, 'needs-action'> | null;
  /** Who answered in their stead, a mail address (SENT-BY); null where they did themselves. */
  sentBy: string | null;
  /** Whom they send instead, a mail address (DELEGATED-TO); null where nobody. */
  sends: string | null;
}

/** An answer as it came back by mail. */
export interface ReplyMessage {
  uid: string;
  sequence: number;
  /** When the answer was made, epoch milliseconds (DTSTAMP); null when it does not say. */
  stamp: number | null;
  /** Whom it names, one or more: some programs send back all who are invited. */
  by: AnsweredBy[];
  comment: string;
  /**
   * The one occurrence that is answered, by its place in the rule (RECURRENCE-ID, whatever zone it is
   * given in); null for all of it.
   */
  occurrence: NamedDate | null;
  /** Whether all later dates are meant, too (RANGE=THISANDFUTURE). */
  andLater: boolean;
}

/** Another time that came back by mail (RFC 5546 section 3.2.7). */
export interface CounterMessage extends ReplyMessage {
  /** Each an instant, or a wall time of the meeting's own zone: of whole days their midnights. */
  start: NamedDate;
  end: NamedDate;
}

/** What somebody who is invited sends back. */
export type AnswerMessage =
  | { method: 'REPLY'; answers: ReplyMessage[] }
  | { method: 'COUNTER'; counter: CounterMessage }
  /** They lost the invitation, and ask for it once more (section 3.2.6). */
  | { method: 'REFRESH'; refresh: ReplyMessage };

const REPLIES: Record<string, AnsweredBy['reply']> = {
  ACCEPTED: 'accepted',
  TENTATIVE: 'tentative',
  DECLINED: 'declined',
  // They do not come themselves; whom they send is said in the comment.
  DELEGATED: 'declined',
};

/** More answers in one letter are none that a person gave. */
const MOST_ANSWERS = 200;
/** Addresses that one answer may name: all who are invited. */
const MOST_NAMED = 1000;
const LONGEST_COMMENT = 2000;

/**
 * Reads what somebody who is invited sends back: a REPLY, an answer for each event in it, such as one to a series
 * and others to single occurrences; a COUNTER that asks for another time; or a REFRESH that asks for the
 * invitation once more (RFC 5546 sections 3.2.3, 3.2.6, 3.2.7).
 * @throws Error with a sentence when it is none of them, answers for nobody, or asks for no time
 */
export function parseAnswer(text: string): AnswerMessage {
  const [calendar] = readCalendars(text);
  const method = String(calendar?.getFirstPropertyValue('method') ?? '').toUpperCase();
  if (method === 'DECLINECOUNTER')
    throw new Error(
      'Its organizer does not take the other time that was asked for; the meeting stands as it was.',
    );
  if (!calendar || (method !== 'REPLY' && method !== 'COUNTER' && method !== 'REFRESH'))
    throw new Error(`The calendar part is ${method || 'no message'}, not an answer.`);
  // A time without a zone is by the clock of the meeting, which is known where it is looked up.
  settleZones(calendar, { zone: null });
  const events = calendar.getAllSubcomponents('vevent');
  const [event] = events;
  if (!event) throw new Error(`The ${method} names no event.`);
  if (method === 'REFRESH') return { method, refresh: answerOf(event, calendar) };
  if (method === 'REPLY') {
    if (events.length > MOST_ANSWERS)
      throw new Error(`A REPLY may answer for at most ${MOST_ANSWERS} occurrences.`);
    const answers = events.map((one) => answerOf(one, calendar));
    for (const { by } of answers)
      if (by.every((one) => one.reply === null))
        throw new Error('It says of nobody that they accept, accept tentatively or decline.');
    return { method, answers };
  }
  if (events.length !== 1) throw new Error('A COUNTER asks for another time of exactly one event.');
  return { method, counter: { ...answerOf(event, calendar), ...askedTimes(event, calendar) } };
}

/** The other time that a COUNTER asks for, by its end or its length. */
function askedTimes(
  event: ICAL.Component,
  calendar: ICAL.Component,
): Pick<CounterMessage, 'start' | 'end'> {
  const start = timeOf(event, 'dtstart', calendar);
  if (!start) throw new Error('The COUNTER names no other time.');
  const end = timeOf(event, 'dtend', calendar);
  if (end) return { start: namedDateOf(start), end: namedDateOf(end) };
  const duration = event.getFirstPropertyValue('duration');
  const seconds =
    duration instanceof ICAL.Duration ? duration.toSeconds() : start.isDate ? 86_400 : 0;
  if (seconds <= 0) throw new Error('The COUNTER does not say until when.');
  const begin = namedDateOf(start);
  if ('instant' in begin) return { start: begin, end: { instant: begin.instant + seconds * 1000 } };
  const wall = new Date(Date.parse(`${begin.wall}Z`) + seconds * 1000).toISOString().slice(0, 16);
  return { start: begin, end: { wall } };
}

/** A mail address without `mailto:`; null where there is none. */
function addressIn(value: unknown): string | null {
  const one: unknown = Array.isArray(value) ? value[0] : value;
  return typeof one === 'string' && one.includes('@')
    ? plainLine(
        one
          .slice(0, 300)
          .replace(/^"?mailto:/i, '')
          .replace(/"$/, ''),
      )
        .slice(0, 254)
        .toLowerCase()
    : null;
}

function namedBy(attendee: ICAL.Property): AnsweredBy[] {
  const email = emailOf(attendee);
  if (email === null) return [];
  const status = String(attendee.getFirstParameter('partstat') ?? '').toUpperCase();
  return [
    {
      email,
      reply: REPLIES[status] ?? null,
      sentBy: addressIn(attendee.getFirstParameter('sent-by')),
      sends: status === 'DELEGATED' ? addressIn(attendee.getParameter('delegated-to')) : null,
    },
  ];
}

/** Which event is answered, by whom, and what they say. */
function answerOf(event: ICAL.Component, calendar: ICAL.Component): ReplyMessage {
  const uid = event.getFirstPropertyValue('uid');
  if (!uid) throw new Error('The message names no event.');
  const attendees = event.getAllProperties('attendee');
  if (attendees.length > MOST_NAMED)
    throw new Error(`An answer may name at most ${MOST_NAMED} people.`);
  const by = attendees.flatMap(namedBy);
  if (by.length === 0) throw new Error('It does not say who answers.');
  const stamp = timeOf(event, 'dtstamp', calendar);
  const occurrence = timeOf(event, 'recurrence-id', calendar);
  const sequence = Number(event.getFirstPropertyValue('sequence') ?? 0);
  const range = event.getFirstProperty('recurrence-id')?.getFirstParameter('range');
  return {
    uid: String(uid),
    sequence: Number.isSafeInteger(sequence) ? sequence : 0,
    stamp: stamp && instantOf(stamp, 'UTC'),
    by,
    comment: plainCharacters(String(event.getFirstPropertyValue('comment') ?? '')).slice(
      0,
      LONGEST_COMMENT,
    ),
    occurrence: occurrence && namedDateOf(occurrence),
    andLater: range === 'THISANDFUTURE',
  };
}

/**
 * Who of those whom an answer names it is from: the one of whom it says something, where it says it of one; else
 * whoever sent it. Whom somebody sends in their place answers by themselves.
 * @param senders addresses from which it came, as far as they are known, lower case; the first that is named
 * @returns null where it cannot be told
 */
export function answererOf(
  { by }: Pick<ReplyMessage, 'by'>,
  senders: readonly string[],
): AnsweredBy | null {
  if (by.length === 1) return by[0]!;
  for (const email of senders) {
    const found = by.find((one) => one.email === email);
    if (found) return found;
  }
  const delegating = by.filter((one) => one.sends !== null);
  if (delegating.length === 1) return delegating[0]!;
  return null;
}
