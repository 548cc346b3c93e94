import type {
  GuestInvitation,
  GuestProposeRequest,
  GuestReplyRequest,
} from '../../contract/guest.ts';
import type { DaysAround, DaysQuery } from '../../contract/invitations.ts';
import { decideReply } from '../../core/meetings/reply.ts';
import {
  isSeries,
  listedFor,
  occurrenceOf,
  peopleOf,
  organizerHere,
  wantedResources,
} from '../../core/meetings/meeting.ts';
import { decidePropose } from '../../core/meetings/propose.ts';
import { participantKey } from '../../core/meetings/people.ts';
import { nextOccurrence } from '../../core/meetings/next.ts';
import { parseRule } from '../../core/recurrence/rule.ts';
import { ruleSentence } from '../../core/recurrence/sentence.ts';
import { Refusal } from '../../core/refusal.ts';
import { zoneCity } from '../../core/time/format.ts';
import { transaction, type Database } from '../db/transaction.ts';
import { answerAs, readMeeting, type StoredMeeting } from '../events/index.ts';
import { readDaysAround, exceptOf, latestMessage } from '../invitations/index.ts';
import { calendarPart, placeText } from '../letters/index.ts';
import { guestKey, meetingOfAttendee, readToken } from '../participants/index.ts';
import { findContacts } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import { readResources } from '../reservations/index.ts';
import { organizationName } from '../session/index.ts';
import { cityOf } from './queries.ts';
import { MOST_OTHERS_NAMED } from './limits.ts';

const unknownLink = () =>
  new Refusal(
    'no-such-link',
    'This link does not lead to an invitation any more. Ask whoever invited you for a new one.',
  );

interface Guest {
  meeting: StoredMeeting;
  attendeeId: number;
}

/** @throws Refusal when the link is nobody's, or they are asked no more */
async function guestBy(db: Database, token: string): Promise<Guest> {
  const attendeeId = readToken(await guestKey(db), token);
  const id = attendeeId === null ? null : await meetingOfAttendee(db, attendeeId);
  const meeting = id === null ? null : await readMeeting(db, id);
  if (attendeeId === null || !meeting) throw unknownLink();
  return { meeting, attendeeId };
}

/** The invitation of a link, as whoever has it sees it: no address of anybody else. */
export async function readGuestInvitation(
  platform: Platform,
  token: string,
): Promise<GuestInvitation> {
  const { pool, clock } = platform;
  const guest = await guestBy(pool, token);
  const { meeting } = guest;
  const now = clock.now();
  const me = meeting.participants.find((one) => one.id === guest.attendeeId)!;
  const shown = occurrenceOf(meeting, nextOccurrence(meeting, now));
  const [organization, contacts, city, resources, message] = await Promise.all([
    organizationName(pool),
    findContacts(pool, { ids: [organizerHere(meeting)] }),
    cityOf(pool, organizerHere(meeting)),
    readResources(pool, shown.resources),
    latestMessage(pool, meeting.id, participantKey(me)),
  ]);
  const others = listedFor(meeting, me).filter((one) => one !== me && one.role !== 'organizer');
  const at = isSeries(meeting) ? shown.recurrenceId : null;
  return {
    title: shown.title,
    organizer: contacts[0]!.name,
    organization,
    name: me.name,
    role: me.role === 'optional' ? 'optional' : 'required',
    status: meeting.status,
    start: shown.start,
    end: shown.end,
    allDay: shown.timing.allDay,
    zone: contacts[0]!.zone,
    city: city ?? zoneCity(contacts[0]!.zone),
    place: placeText(shown, resources),
    description: shown.description,
    repeats: isSeries(meeting)
      ? ruleSentence(parseRule(meeting.rule), meeting.timing.startsAt)
      : null,
    message,
    others: others.slice(0, MOST_OTHERS_NAMED).map((one) => one.name),
    more: Math.max(0, others.length - MOST_OTHERS_NAMED),
    reply: me.reply,
    note: me.note,
    proposals: me.proposals
      .filter((one) => one.occurrence === at && one.start > now)
      .map(({ start, end }) => ({ start, end })),
    isOver: shown.end <= now || meeting.status === 'cancelled',
    now,
  };
}

/**
 * Keeps the answer of whoever has a link, to all of the meeting; it can be changed until that is over.
 * @throws Refusal when the link is nobody's, or the meeting is over or cancelled
 */
export async function answerByLink(
  platform: Platform,
  token: string,
  { reply, note = '' }: GuestReplyRequest,
): Promise<void> {
  await transaction(platform.pool, async (tx) => {
    const { attendeeId, meeting: read } = await guestBy(tx, token);
    const now = platform.clock.now();
    await answerAs(tx, platform, read.id, (meeting) => {
      if (occurrenceOf(meeting, nextOccurrence(meeting, now)).end <= now)
        throw new Refusal('over', 'This meeting is over; it cannot be answered any more.');
      const answer = { reply, note, occurrence: null, stamp: now, sequence: null };
      return decideReply(meeting, attendeeId, answer, now);
    });
  });
}

/**
 * Keeps which other times whoever has a link asks for, of the date that they are shown.
 * @throws Refusal when the link is nobody's, or the meeting is over or cancelled
 */
export async function proposeByLink(
  platform: Platform,
  token: string,
  { times, note = '' }: GuestProposeRequest,
): Promise<void> {
  await transaction(platform.pool, async (tx) => {
    const { attendeeId, meeting: read } = await guestBy(tx, token);
    const now = platform.clock.now();
    await answerAs(tx, platform, read.id, (meeting) => {
      const occurrence = nextOccurrence(meeting, now);
      return decidePropose(meeting, attendeeId, { occurrence, times, note }, now);
    });
  });
}

/**
 * Days on which another time could be; how many of the others are free then is counted as the organizer
 * sees it, where they show it.
 */
export async function guestDays(
  platform: Platform,
  token: string,
  asked: DaysQuery,
): Promise<DaysAround> {
  const { pool, clock } = platform;
  const { meeting } = await guestBy(pool, token);
  const now = clock.now();
  const occurrence = nextOccurrence(meeting, now);
  return readDaysAround(
    pool,
    { me: { id: organizerHere(meeting), acts: [], keeps: [] } },
    {
      people: meeting.rights.count ? peopleOf(meeting) : null,
      except: exceptOf(meeting.id, occurrence),
      start: occurrenceOf(meeting, occurrence).start,
      now,
      asked,
    },
  );
}

/** The meeting as an iCalendar file, in which nobody is named but the organizer and whoever has the link. */
export async function guestCalendar(platform: Platform, token: string): Promise<string> {
  const { pool, clock } = platform;
  const { meeting, attendeeId } = await guestBy(pool, token);
  const participants = meeting.participants.filter(
    (one) => one.role === 'organizer' || one.id === attendeeId,
  );
  const [contacts, resources] = await Promise.all([
    findContacts(pool, { ids: [organizerHere(meeting)] }),
    readResources(pool, wantedResources(meeting)),
  ]);
  const method = meeting.status === 'cancelled' ? 'CANCEL' : 'REQUEST';
  return calendarPart(
    {
      meeting: { ...meeting, participants },
      occurrence: null,
      resources,
      sender: contacts[0]!,
    },
    method,
    clock.now(),
    '',
  );
}
