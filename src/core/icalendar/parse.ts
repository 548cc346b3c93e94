import ICAL from 'ical.js';
import { wallTimeAt, type WallTime } from '../time/wall.ts';
import type { Reply } from './message.ts';

/** An answer as it came back by mail. */
export interface ReplyMessage {
  uid: string;
  sequence: number;
  /** The address that answers, lower case. */
  email: string;
  reply: Exclude<Reply, 'needs-action'>;
  comment: string;
  /** RECURRENCE-ID of the one occurrence that is answered; `occurrenceNamed` reads it. */
  recurrenceId: string | null;
}

const REPLIES: Record<string, ReplyMessage['reply']> = {
  ACCEPTED: 'accepted',
  TENTATIVE: 'tentative',
  DECLINED: 'declined',
};

/**
 * Reads an iTIP REPLY (RFC 5546 section 3.2.3).
 * @throws Error with a sentence when the text is no calendar, no REPLY, or answers for nobody
 */
export function parseReply(text: string): ReplyMessage {
  const calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
  const method = String(calendar.getFirstPropertyValue('method') ?? '').toUpperCase();
  if (method !== 'REPLY')
    throw new Error(`The calendar part is ${method || 'no message'}, not a REPLY.`);
  const event = calendar.getFirstSubcomponent('vevent');
  const uid = event?.getFirstPropertyValue('uid');
  if (!event || !uid) throw new Error('The REPLY names no event.');
  const attendees = event.getAllProperties('attendee');
  if (attendees.length !== 1) throw new Error('A REPLY answers for exactly one attendee.');
  const attendee = attendees[0]!;
  const status = String(attendee.getFirstParameter('partstat')).toUpperCase();
  const reply = REPLIES[status];
  if (!reply) throw new Error(`The answer ${status} is not accepted, tentative or declined.`);
  return {
    uid: String(uid),
    sequence: Number(event.getFirstPropertyValue('sequence') ?? 0),
    email: String(attendee.getFirstValue())
      .replace(/^mailto:/i, '')
      .toLowerCase(),
    reply,
    comment: String(event.getFirstPropertyValue('comment') ?? ''),
    recurrenceId: recurrenceIdOf(event),
  };
}

function recurrenceIdOf(event: ICAL.Component): string | null {
  const value = event.getFirstPropertyValue('recurrence-id');
  if (!(value instanceof ICAL.Time)) return null;
  return value.isDate ? `${value.toString().slice(0, 10)}T00:00:00` : value.toString();
}

/** The wall time in a series' zone that a RECURRENCE-ID means: itself, unless it is given in UTC. */
export const occurrenceNamed = (recurrenceId: string, zone: string): WallTime =>
  recurrenceId.endsWith('Z')
    ? wallTimeAt(Date.parse(recurrenceId), zone)
    : recurrenceId.slice(0, 16);
