import { USUAL_FIELDS } from '../../src/core/meetings/fields.ts';
import { USUAL_RIGHTS, type InviteeRights } from '../../src/core/meetings/rights.ts';
import type { NewEvent } from '../../src/contract/events.ts';
import type { Me } from '../../src/contract/session.ts';
import {
  wallTimeAt,
  addDays,
  dateAt,
  resolveWallTime,
  weekdayOf,
} from '../../src/core/time/wall.ts';
import { DAY, MINUTE } from '../../src/core/time/interval.ts';
import type { Transaction } from '../../src/server/db/transaction.ts';
import type { PersonActor } from '../../src/server/actions/index.ts';
import { createEvent, proposeTo, replyTo } from '../../src/server/events/index.ts';
import type { Platform } from '../../src/server/platform.ts';
import type { Calendars } from './calendars.ts';
import { isHoliday } from './everyday.ts';
import { isAtWork, spanAt } from './invent.ts';
import { zoneTables, type ZoneTable } from '../../src/core/time/zoneTable.ts';
import type { LoadedOrganization, LoadedPerson } from './load.ts';

interface OpenMeeting {
  title: string;
  by: string;
  with: string[];
  optional?: string[];
  outside?: { name: string; email: string }[];
  room?: string;
  /** It is there to show what lies outside somebody's hours. */
  isOutside?: true;
  /** Working days from today. */
  in: number;
  at: string;
  minutes: number;
  replies?: Record<string, { reply: 'accepted' | 'tentative' | 'declined'; note?: string }>;
  message?: string;
  agenda?: string;
  /** Who asks for other times: minutes after the present one. */
  proposals?: Record<string, { after: number[]; note: string }>;
  rights?: Partial<InviteeRights>;
  /** Not sent yet. */
  draft?: { holds: boolean };
}

/** Meetings that wait for answers: made by the real actions, so their mails are in the Mailroom. */
const OPEN_MEETINGS: OpenMeeting[] = [
  {
    title: 'Array deployment plan',
    by: 'Mika Sandoval',
    with: ['Ines Aldabe', 'Tomas Okafor', 'Kwame Boateng'],
    room: 'Petrel',
    in: 2,
    at: '10:00',
    minutes: 60,
    replies: { 'Tomas Okafor': { reply: 'accepted' } },
    message: 'We need a boat day before the end of the season.',
  },
  {
    title: 'Open day programme',
    by: 'Runa Fossheim',
    with: ['Ines Aldabe', 'Sunniva Brekke', 'Pedro Quintela'],
    room: 'Kittiwake',
    in: 3,
    at: '13:00',
    minutes: 45,
    replies: { 'Sunniva Brekke': { reply: 'tentative', note: 'I may still be at the harbour.' } },
  },
  {
    title: 'Nilgiri sensor exchange',
    by: 'Ines Aldabe',
    with: ['Priya Raman', 'Kabir Sethi', 'Wanjiru Keele', 'Samuel Kiprop'],
    optional: ['Robine Thys'],
    outside: [{ name: 'Jon Skau', email: 'jon.skau@harbourworks.example' }],
    room: 'Gannet',
    in: 4,
    at: '10:30',
    minutes: 60,
    replies: {
      'Wanjiru Keele': { reply: 'accepted' },
      'Samuel Kiprop': { reply: 'declined', note: 'At sea all week, please share the notes.' },
      'Robine Thys': { reply: 'accepted' },
    },
    proposals: {
      'Priya Raman': { after: [30, 24 * 60 + 60], note: 'half an hour later suits the lab' },
    },
    rights: { count: true },
    agenda:
      '<ul><li>What the buoys heard, Priya: 20 min</li><li>Salt in the casings, Kabir: 15 min</li>' +
      '<li>Whose sensors go where: 20 min</li><li>What we decide: 10 min</li></ul>',
  },
  {
    title: 'Desk plan for spring',
    by: 'Ines Aldabe',
    with: ['Aksel Nordvik', 'Pedro Quintela', 'Elsie Drummond', 'Otieno Were'],
    isOutside: true,
    in: 6,
    at: '08:30',
    minutes: 45,
    replies: { 'Aksel Nordvik': { reply: 'accepted' }, 'Elsie Drummond': { reply: 'accepted' } },
    agenda:
      '<ul><li>Who moves, Elsie: 15 min</li><li>Desks by the window, all: 20 min</li>' +
      '<li>Keys and lamps, Pedro: 10 min</li></ul>',
  },
  {
    title: 'Kelp line inspection',
    by: 'Leila Haddad',
    with: ['Ines Aldabe', 'Jonas Vågen', 'Henrik Sæther'],
    in: 5,
    at: '09:00',
    minutes: 90,
  },
  {
    title: 'Open evening, trial run',
    by: 'Leila Haddad',
    with: [],
    room: 'Cormorant Hall',
    in: 6,
    at: '17:30',
    minutes: 90,
  },
  {
    title: 'Reef camera trial',
    by: 'Ines Aldabe',
    with: ['Hal Teague', 'Runa Fossheim', 'Tomas Okafor'],
    isOutside: true,
    in: 8,
    at: '15:30',
    minutes: 45,
    draft: { holds: false },
  },
];

const meOf = (person: LoadedPerson): Me => ({
  id: person.id,
  name: person.name,
  email: person.email,
  role: 'staff',
  acts: [],
  keeps: [],
  coordinates: [],
  zone: person.zone,
  furtherZones: [],
  clock: '24',
  zoneNames: {},
  siteId: null,
  siteName: null,
  actsFor: [],
});

export const actorOf = (person: LoadedPerson): PersonActor => ({
  kind: 'person',
  me: meOf(person),
  principals: [person.id],
  by: null,
});

/** A meeting that waits for answers, with when and where it is to be. */
interface PlannedMeeting {
  meeting: OpenMeeting;
  request: NewEvent;
}

/**
 * When and where the meetings that wait for answers are to be: on working days, and in the hours of everybody
 * who is asked. Their time is kept free of what is made up after it.
 */
export function planInvitations(
  organization: LoadedOrganization,
  calendars: Calendars,
  now: number,
): PlannedMeeting[] {
  const tables = zoneTables({ start: now - DAY, end: now + 60 * DAY });
  return OPEN_MEETINGS.map((meeting) => {
    const request = requestFor(meeting, organization, calendars, now, tables);
    const { startsAt, zone } = request.times;
    const names = [meeting.by, ...meeting.with, ...(meeting.optional ?? [])];
    calendars.keep(
      organization.people.filter((one) => names.includes(one.name)),
      organization.resources.filter((one) => request.resources.includes(one.id)),
      spanAt(startsAt, zone, meeting.minutes),
    );
    return { meeting, request };
  });
}

/** Sends the open invitations and some of their answers. */
export async function openInvitations(
  tx: Transaction,
  platform: Platform,
  organization: LoadedOrganization,
  planned: readonly PlannedMeeting[],
): Promise<void> {
  const person = (name: string) => organization.people.find((one) => one.name === name)!;
  for (const { meeting, request } of planned) {
    const organizer = person(meeting.by);
    const event = await createEvent(tx, platform, actorOf(organizer), request);
    for (const [name, { reply, note = '' }] of Object.entries(meeting.replies ?? {})) {
      await replyTo(tx, platform, actorOf(person(name)), event.id, { reply, note });
    }
    for (const [name, { after, note }] of Object.entries(meeting.proposals ?? {})) {
      const times = after.map((minutes) => {
        const { zone } = organizer;
        let shift = minutes * MINUTE;
        while (weekdayOf(dateAt(event.start + shift, zone)) > 5) shift += DAY;
        return { start: event.start + shift, end: event.end + shift };
      });
      await proposeTo(tx, platform, actorOf(person(name)), event.id, { times, note });
    }
  }
}

function requestFor(
  meeting: OpenMeeting,
  { people, resources }: LoadedOrganization,
  calendars: Calendars,
  now: number,
  tables: (zone: string) => ZoneTable,
): NewEvent {
  const find = (name: string) => people.find((one) => one.name === name)!;
  const { zone } = find(meeting.by);
  const asked = [meeting.by, ...meeting.with, ...(meeting.optional ?? [])].map(find);
  let date = workingDay(dateAt(now, zone), meeting.in);
  // Nobody is asked for a holiday of theirs; who works no such day or hour at all is asked all the same.
  for (let tries = 0; tries < MOST_DAYS_LATER; tries++) {
    const span = spanAt(`${date}T${meeting.at}`, zone, meeting.minutes);
    const isHolidayOf = (one: LoadedPerson) =>
      one.site !== null && isHoliday(one.site, dateAt(span.start, one.zone));
    const hinders = (one: LoadedPerson) =>
      isHolidayOf(one) || (one.site !== null && !meeting.isOutside && !isAtWork(one, span, tables));
    if (meeting.with.length === 0 || !asked.some(hinders)) break;
    date = workingDay(date, 1);
  }
  const startsAt = `${date}T${meeting.at}`;
  const start = resolveWallTime(startsAt, zone).instant;
  const end = start + meeting.minutes * 60_000;
  // Should the room be taken by made-up bookings that day, the next one of the site does.
  const wanted = resources.find((one) => one.name === meeting.room);
  const room =
    wanted &&
    [wanted, ...resources.filter((one) => one.kind === 'room' && one.site === wanted.site)].find(
      (one) => calendars.isResourceFree(one, { start, end }),
    );
  return {
    ...USUAL_FIELDS,
    title: meeting.title,
    ...(meeting.agenda && { agenda: meeting.agenda }),
    repeats: null,
    dates: [],
    categoryId: null,
    rights: { ...USUAL_RIGHTS, ...meeting.rights },
    times: {
      startsAt,
      endsAt: wallTimeAt(end, zone),
      zone,
      endZone: null,
      fold: 'earlier',
      allDay: false,
    },
    attendees: [
      ...meeting.with.map((name) => ({ personId: find(name).id, role: 'required' as const })),
      ...(meeting.optional ?? []).map((name) => ({
        personId: find(name).id,
        role: 'optional' as const,
      })),
      ...(meeting.outside ?? []).map((guest) => ({ ...guest, role: 'required' as const })),
    ],
    resources: room ? [room.id] : [],
    send: true,
    moving: [],
    draft: meeting.draft ?? null,
    message: meeting.message ?? '',
  };
}

/** So many working days later at most than is wished for. */
const MOST_DAYS_LATER = 10;

/** The date `count` working days after `date`. */
function workingDay(date: string, count: number): string {
  let day = date;
  for (let left = count; left > 0;) {
    day = addDays(day, 1);
    if (weekdayOf(day) <= 5) left--;
  }
  return day;
}
