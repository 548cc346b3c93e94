import { addressKey } from '../../core/mailAddress.ts';
import { priceOf, priceWords } from '../../core/booking/ruleWords.ts';
import {
  factDetail,
  type MeetingFact,
  type MeetingFactKind,
} from '../../core/meetings/meetingFacts.ts';
import {
  isSeries,
  occurrenceOf,
  wantedResources,
  type Meeting,
  type Occurrence,
} from '../../core/meetings/meeting.ts';
import { nextOccurrence } from '../../core/meetings/next.ts';
import { parseRule } from '../../core/recurrence/rule.ts';
import { ruleSentence } from '../../core/recurrence/sentence.ts';
import {
  formatDay,
  formatLength,
  formatSpan,
  formatTime,
  zoneCity,
} from '../../core/time/format.ts';
import type { ItipMethod } from '../../core/icalendar/message.ts';
import type { Actor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import type { OutgoingMail } from '../mail/index.ts';
import { contactsById, type Contact } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import type { HeldResources } from '../reservations/index.ts';
import { layOutLetter } from './html.ts';
import { calendarPart, placeText } from './itip.ts';
import { letterText, type Letter } from './words.ts';
import { MOST_DATES_OF_BOOKINGS } from './limits.ts';

interface Saying {
  subject: string;
  /** What became of the place, done by whom where that is somebody else. */
  opening: (place: string, by: string | null) => string;
  /** What becomes of it in its holder's calendar program. */
  method: ItipMethod;
}

const PUBLISH = 'PUBLISH';

/** What whoever has a place hears, whatever else hangs on it. */
const BECOMES: Partial<Record<MeetingFactKind, Saying>> = {
  'place-agreed': {
    subject: 'Agreed',
    opening: (place) => `A steward agreed: ${place} is yours.`,
    method: PUBLISH,
  },
  'place-refused': {
    subject: 'Not agreed',
    opening: (place) => `A steward does not agree: ${place} is not yours then.`,
    method: PUBLISH,
  },
  'place-expired': {
    subject: 'Not agreed in time',
    opening: (place) => `No steward agreed in time: ${place} is not yours then.`,
    method: PUBLISH,
  },
  'place-moved': {
    subject: 'Another place',
    opening: (place) => `${place} goes out of use. You have another place:`,
    method: PUBLISH,
  },
  'place-closed': {
    subject: 'No place any more',
    opening: (place) =>
      `${place} goes out of use, and nothing else fits. Please choose another place or time.`,
    method: PUBLISH,
  },
  'no-show-soon': {
    subject: 'Are you coming?',
    opening: (place) => `Nobody has checked in to ${place} yet.`,
    method: PUBLISH,
  },
  'no-show': {
    subject: 'Given to others',
    opening: (place) => `Nobody checked in to ${place}, so it was given to others.`,
    method: PUBLISH,
  },
};

/** What somebody hears of a booking that is nobody's but theirs. */
const OF_ONES_OWN: Partial<Record<MeetingFactKind, Saying>> = {
  invited: {
    subject: 'Booked',
    opening: (place, by) => (by ? `${by} booked ${place} for you.` : `${place} is booked for you.`),
    method: PUBLISH,
  },
  changed: {
    subject: 'Booking changed',
    opening: (_, by) => (by ? `${by} changed your booking.` : 'Your booking was changed.'),
    method: PUBLISH,
  },
  moved: {
    subject: 'Booking moved',
    opening: (_, by) =>
      by ? `${by} moved your booking to another time.` : 'Your booking is at another time now.',
    method: PUBLISH,
  },
  cancelled: {
    subject: 'Booking cancelled',
    opening: (place, by) =>
      by
        ? `${by} gave ${place} back: it is free for others again.`
        : `${place} is free for others again.`,
    method: 'CANCEL',
  },
  restored: {
    subject: 'Booked again',
    opening: (place) => `${place} is booked for you again.`,
    method: PUBLISH,
  },
};

const ASKED: Saying = {
  subject: 'Asked for',
  opening: (place, by) =>
    `${by ? `${by} asked for ${place} for you` : `You asked for ${place}`}. It is held for you until a steward agrees, which you will hear.`,
  method: PUBLISH,
};

interface Matter {
  fact: MeetingFact;
  meeting: Meeting;
  saying: Saying;
}

/**
 * The letters to those who have places of what becomes of these, with what their calendar program takes:
 * made, changed, given to others, agreed to. One statement, however many they are; none where nobody
 * is to hear of anything.
 * @param spared who needs no letter about a meeting, by their addresses
 */
export async function lettersOfBookings(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  facts: readonly MeetingFact[],
  meetings: ReadonlyMap<string, Meeting>,
  resources: HeldResources,
  spared: ReadonlyMap<string, ReadonlySet<string>>,
): Promise<OutgoingMail[]> {
  const matters = facts.flatMap((fact) => matterOf(fact, facts, meetings) ?? []);
  if (matters.length === 0) return [];
  const contacts = await contactsById(
    tx,
    matters.flatMap(({ meeting }) => meeting.organizerId ?? []),
  );
  return matters.flatMap((matter) => {
    const holder = contacts.get(matter.meeting.organizerId ?? 0);
    if (!holder || (holder.hearing.places ?? 'now') !== 'now') return [];
    if (spared.get(matter.meeting.id)?.has(addressKey(holder.email))) return [];
    const who = actor.kind === 'person' ? (actor.by ?? actor.me) : null;
    const by = who && who.id !== holder.id ? who.name : null;
    return letterAbout(platform, matter, holder, resources, by);
  });
}

/** Whether something that happened is told whoever has the places of a meeting. */
export const concernsHolder = (...given: Parameters<typeof matterOf>): boolean =>
  matterOf(...given) !== null;

function matterOf(
  fact: MeetingFact,
  facts: readonly MeetingFact[],
  meetings: ReadonlyMap<string, Meeting>,
): Matter | null {
  const meeting = meetings.get(fact.meetingId);
  if (!meeting || meeting.organizerId === null) return null;
  const becomes = BECOMES[fact.kind];
  if (becomes) {
    // What was nothing but a booking is out of the calendar with it.
    const isOver = meeting.status === 'cancelled' && meeting.participants.length === 1;
    return { fact, meeting, saying: isOver ? { ...becomes, method: 'CANCEL' } : becomes };
  }
  const own = OF_ONES_OWN[fact.kind];
  const isOwn = meeting.participants.length === 1 && wantedResources(meeting).length > 0;
  if (!own || !isOwn || meeting.draft) return null;
  const isAsked = facts.some((one) => one.kind === 'place-asked' && one.meetingId === meeting.id);
  return { fact, meeting, saying: isAsked ? ASKED : own };
}

function letterAbout(
  { publicUrl, clock }: Platform,
  { fact, meeting, saying }: Matter,
  holder: Contact,
  resources: HeldResources,
  by: string | null,
): OutgoingMail {
  const now = clock.now();
  const at = isSeries(meeting) ? fact.occurrence : null;
  const shown = occurrenceOf(meeting, at ?? nextOccurrence(meeting, now));
  const when = formatSpan(shown, holder.zone, holder.clock);
  const choose = fact.kind === 'place-moved' || fact.kind === 'place-closed';
  const names = shown.resources.flatMap((id) => resources.get(id)?.name ?? []);
  const place = factDetail(fact, 'place') ?? names.join(', ');
  const until = factDetail(fact, 'until');
  const letter: Letter = {
    subject: `${saying.subject}: ${place || shown.title}, ${when}`,
    title: shown.title,
    opening: [
      saying.opening(place, by),
      movesIn(fact, holder),
      until
        ? `Check in until ${formatTime(until, holder.zone, holder.clock)}, or it is given to others.`
        : '',
      fact.message,
    ].filter(Boolean),
    description: '',
    facts: factsOf(meeting, shown, at, holder, resources),
    link: linkOf(fact, meeting, publicUrl, choose ? 'Choose another place or time' : 'Open it'),
  };
  const sender = { name: holder.name, email: holder.email, zone: holder.zone };
  const matter = { meeting, occurrence: at, resources, sender };
  const part = calendarPart(matter, saying.method, now, fact.message);
  return {
    eventId: meeting.id,
    attendeeId: null,
    from: { name: 'Marmot', email: `marmot@${holder.email.split('@')[1]}` },
    to: { name: holder.name, email: holder.email },
    subject: letter.subject,
    text: letterText(letter),
    html: layOutLetter(letter),
    calendar: { method: saying.method, content: part },
    tells: { occasion: fact.kind, version: meeting.version },
  };
}

function factsOf(
  meeting: Meeting,
  shown: Occurrence,
  at: string | null,
  { zone, clock }: Contact,
  resources: HeldResources,
): [string, string][] {
  const held = shown.resources.flatMap((id) => resources.get(id) ?? []);
  const costs = held.flatMap((one) => {
    const price = priceOf(one.rules, shown);
    return price ? [`${one.name}: ${priceWords(price)}`] : [];
  });
  const graces = held.flatMap(({ name, rules: { graceMinutes } }) =>
    graceMinutes === null ? [] : [`${name}: within ${graceMinutes} min of its beginning`],
  );
  const facts: [string, string][] = [
    [
      'When',
      `${formatSpan(shown, zone, clock)} (${zoneCity(zone)} time), ${formatLength(shown.end - shown.start)}`,
    ],
    [
      'Repeats',
      isSeries(meeting) && at === null
        ? ruleSentence(parseRule(meeting.rule), meeting.timing.startsAt)
        : '',
    ],
    ['Where', placeText(shown, resources)],
    ['Costs', costs.join('\n')],
    ['Check in', graces.join('\n')],
  ];
  return facts.filter(([, text]) => text !== '');
}

/** To the place's card where somebody is to check in, else to the event. */
function linkOf(
  fact: MeetingFact,
  meeting: Meeting,
  publicUrl: string,
  label: string,
): Letter['link'] {
  if (fact.kind === 'no-show-soon')
    return {
      href: `${publicUrl}/places?open=${fact.details.resource}`,
      label: 'Check in',
    };
  const query = fact.occurrence === null ? '' : `?occurrence=${fact.occurrence}`;
  return { href: `${publicUrl}/events/${meeting.id}${query}`, label };
}

/** Where each date is that had its place go out of use, a line for each. */
function movesIn(fact: MeetingFact, { zone, clock }: Contact): string {
  const moves = factDetail(fact, 'moves') ?? [];
  const lines = moves
    .slice(0, MOST_DATES_OF_BOOKINGS)
    .map(
      ([start, place]) =>
        `${formatDay(start, zone)} ${formatTime(start, zone, clock)}: ${place ?? 'no place'}`,
    );
  const more = moves.length - lines.length;
  return [...lines, more > 0 ? `and ${more} more` : ''].filter(Boolean).join('\n');
}
