import type { EventAttendee } from '../../contract/events.ts';
import { composeMessage } from '../../core/icalendar/compose.ts';
import type { MeetingMessage, Method } from '../../core/icalendar/message.ts';
import { formatLength, formatSpan, zoneCity } from '../../core/time/format.ts';
import type { Transaction } from '../db/transaction.ts';
import { escapeHtml, letterHtml } from '../mail/html.ts';
import { postMail } from '../mail/service.ts';
import { readContacts } from '../people/service.ts';
import type { Platform } from '../platform.ts';
import type { EventRecord } from './model.ts';

export type Occasion = 'invited' | 'changed' | 'moved' | 'cancelled' | 'restored';

const SUBJECT: Record<Occasion, string> = {
  invited: 'Invitation',
  changed: 'Changed',
  moved: 'New time',
  cancelled: 'Cancelled',
  restored: 'On again',
};

const OPENING: Record<Occasion, (organizer: string) => string> = {
  invited: (organizer) => `${organizer} invites you to a meeting.`,
  changed: (organizer) => `${organizer} changed a meeting you are invited to.`,
  moved: (organizer) => `${organizer} moved a meeting you are invited to. Please answer again.`,
  cancelled: (organizer) => `${organizer} cancelled a meeting you were invited to.`,
  restored: (organizer) => `${organizer} took back the cancellation of this meeting.`,
};

/** The event as an iTIP message to all its attendees. */
export function meetingMessage(
  event: EventRecord,
  method: Method,
  now: number,
  comment = '',
): MeetingMessage {
  return {
    method,
    uid: event.uid,
    sequence: event.sequence,
    stamp: now,
    organizer: event.organizer,
    attendees: event.attendees.map(({ name, email, role, reply }) => ({
      name,
      email,
      role: role === 'optional' ? 'optional' : 'required',
      reply,
    })),
    title: event.title,
    place: placeText(event),
    description: event.description,
    start: event.start,
    end: event.end,
    allDay: event.allDay,
    zone: event.zone,
    ...(event.rule && {
      series: { rule: event.rule, startsAt: event.startsAt, except: event.exceptAt },
    }),
    ...(comment && { comment }),
  };
}

/** Where it is, in words: what was typed, then the resources reserved. */
export const placeText = (event: Pick<EventRecord, 'place' | 'resources'>): string =>
  [event.place, ...event.resources.map(({ name, site }) => `${name} (${site})`)]
    .filter(Boolean)
    .join(', ');

/**
 * Writes to everyone invited but the organizer, each in their own zone.
 * @returns how many mails go out
 */
export async function writeToAttendees(
  tx: Transaction,
  platform: Platform,
  event: EventRecord,
  occasion: Occasion,
  message: string,
): Promise<number> {
  const receivers = event.attendees.filter((attendee) => attendee.role !== 'organizer');
  if (receivers.length === 0) return 0;
  const contacts = await readContacts(
    tx,
    receivers.flatMap(({ personId }) => (personId === null ? [] : [personId])),
  );
  const method = occasion === 'cancelled' ? 'CANCEL' : 'REQUEST';
  const content = composeMessage(meetingMessage(event, method, platform.clock.now(), message));
  for (const receiver of receivers) {
    const contact = receiver.personId === null ? undefined : contacts.get(receiver.personId);
    const letter = letterFor(platform, event, receiver, occasion, message, contact?.zone);
    await postMail(tx, platform, {
      eventId: event.id,
      from: event.organizer,
      to: { name: receiver.name, email: receiver.email },
      ...letter,
      calendar: { method, content },
    });
  }
  return receivers.length;
}

function letterFor(
  platform: Platform,
  event: EventRecord,
  receiver: EventAttendee,
  occasion: Occasion,
  message: string,
  receiverZone: string | undefined,
) {
  const zone = receiverZone ?? event.zone;
  const when = `${formatSpan(event, zone)} (${zoneCity(zone)} time), ${formatLength(event.end - event.start)}`;
  const theirs =
    zone === event.organizer.zone
      ? null
      : `${formatSpan(event, event.organizer.zone)} for ${event.organizer.name} in ${zoneCity(event.organizer.zone)}`;
  const others = event.attendees
    .filter((attendee) => attendee.email !== receiver.email)
    .map((attendee) => attendee.name);
  const facts: [string, string][] = [
    ['When', [when, theirs].filter(Boolean).join('\n')],
    ['Where', placeText(event)],
    ['With', others.join(', ')],
    ['You are', receiver.role === 'optional' ? 'optional' : 'required'],
  ];
  const shown = facts.filter(([, text]) => text);
  const intro = OPENING[occasion](event.organizer.name);
  const link =
    receiver.personId === null || occasion === 'cancelled'
      ? null
      : `${platform.publicUrl}/invitations/${event.id}`;
  const paragraphs = [intro, message, event.description].filter(Boolean);
  return {
    subject: `${SUBJECT[occasion]}: ${event.title}, ${formatSpan(event, zone)}`,
    text: [
      event.title,
      ...paragraphs,
      shown.map(([name, text]) => `${name}: ${text}`).join('\n'),
      link && `See it beside your own day and answer: ${link}`,
    ]
      .filter(Boolean)
      .join('\n\n'),
    html: letterHtml({
      title: event.title,
      paragraphs: paragraphs.map(escapeHtml),
      facts: shown.map(([name, text]) => [name, escapeHtml(text)]),
      link: link ? { href: link, label: 'See it beside your own day and answer' } : null,
    }),
  };
}
