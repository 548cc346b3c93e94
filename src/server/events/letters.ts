import type { EventAttendee } from '../../contract/events.ts';
import { composeMessage } from '../../core/icalendar/compose.ts';
import type { MeetingMessage, Method } from '../../core/icalendar/message.ts';
import { parseRule } from '../../core/recurrence/rule.ts';
import { ruleSentence } from '../../core/recurrence/sentence.ts';
import { timingInterval } from '../../core/recurrence/series.ts';
import { formatLength, formatSpan, zoneCity } from '../../core/time/format.ts';
import type { Transaction } from '../db/transaction.ts';
import { escapeHtml, letterHtml } from '../mail/html.ts';
import { postMail } from '../mail/service.ts';
import { readContacts } from '../people/service.ts';
import type { Platform } from '../platform.ts';
import { isSeries, occurrenceOf, type EventRecord } from './model.ts';
import { plainText } from './richText.ts';

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

/** What a message is about: all of an event, or the one occurrence of it that is in view. */
type About = 'all' | 'occurrence';

/** The event as an iTIP message to all its attendees. */
export function meetingMessage(
  event: EventRecord,
  method: Method,
  now: number,
  comment = '',
  about: About = 'all',
): MeetingMessage {
  const message: MeetingMessage = {
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
    description: plainText(event.description),
    start: event.start,
    end: event.end,
    allDay: event.allDay,
    zone: event.zone,
    ...(comment && { comment }),
  };
  if (!isSeries(event)) return message;
  if (about === 'occurrence') return { ...message, recurrenceId: event.recurrenceAt! };
  const cancelled = event.overrides.filter((one) => one.cancelled);
  const changed = event.overrides.filter((one) => !one.cancelled);
  return {
    ...message,
    ...timingInterval(event.whole),
    series: {
      rule: event.rule,
      startsAt: event.whole.startsAt,
      except: [...event.exceptAt, ...cancelled.map((one) => one.recurrenceId)].sort(),
    },
    changed: changed.map((one) =>
      meetingMessage(occurrenceOf(event, one.recurrenceId), method, now, comment, 'occurrence'),
    ),
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
  about: About = 'all',
): Promise<number> {
  const receivers = event.attendees.filter((attendee) => attendee.role !== 'organizer');
  if (receivers.length === 0) return 0;
  const contacts = await readContacts(
    tx,
    receivers.flatMap(({ personId }) => (personId === null ? [] : [personId])),
  );
  const method = occasion === 'cancelled' ? 'CANCEL' : 'REQUEST';
  const content = composeMessage(
    meetingMessage(event, method, platform.clock.now(), message, about),
  );
  for (const receiver of receivers) {
    const contact = receiver.personId === null ? undefined : contacts.get(receiver.personId);
    const letter = letterFor(platform, event, receiver, occasion, message, contact?.zone, about);
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
  about: About,
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
    ['Repeats', repeatsText(event, about)],
    ['Where', placeText(event)],
    ['With', others.join(', ')],
    ['You are', receiver.role === 'optional' ? 'optional' : 'required'],
  ];
  const shown = facts.filter(([, text]) => text);
  const one = about === 'occurrence' ? ' Only this date of the series is meant.' : '';
  const intro = OPENING[occasion](event.organizer.name) + one;
  const link =
    receiver.personId === null || occasion === 'cancelled'
      ? null
      : `${platform.publicUrl}/invitations/${event.id}${about === 'occurrence' ? `?occurrence=${event.recurrenceAt}` : ''}`;
  const words = [intro, message].filter(Boolean);
  return {
    subject: `${SUBJECT[occasion]}: ${event.title}, ${formatSpan(event, zone)}`,
    text: [
      event.title,
      ...words,
      plainText(event.description),
      shown.map(([name, text]) => `${name}: ${text}`).join('\n'),
      link && `See it beside your own day and answer: ${link}`,
    ]
      .filter(Boolean)
      .join('\n\n'),
    html: letterHtml({
      title: event.title,
      // The description was cleaned when it was kept.
      paragraphs: [...words.map(escapeHtml), event.description].filter(Boolean),
      facts: shown.map(([name, text]) => [name, escapeHtml(text)]),
      link: link ? { href: link, label: 'See it beside your own day and answer' } : null,
    }),
  };
}

function repeatsText(event: EventRecord, about: About): string {
  if (!isSeries(event) || about === 'occurrence') return '';
  return ruleSentence(parseRule(event.rule), event.whole.startsAt);
}
