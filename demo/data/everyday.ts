import { contains, MINUTE, overlaps, type Interval } from '../../src/core/time/interval.ts';
import { formatTimeOfDay } from '../../src/core/time/typedTime.ts';
import {
  addDays,
  dateAt,
  daysBetween,
  startOfDay,
  wallTimeAt,
  weekdayOf,
} from '../../src/core/time/wall.ts';
import type { Calendars } from './calendars.ts';
import { SITE_HOLIDAYS } from './holidays.ts';
import { spanAt } from './invent.ts';
import type { LoadedOrganization, LoadedPerson, LoadedResource } from './load.ts';
import { SITES } from './organization.ts';
import { Random } from './random.ts';
import * as words from './words.ts';

/** The days around today that are as full as working days are; what is further ahead is still emptier. */
const FULL_DAYS = { back: 7, ahead: 9 };
const EMPTIER_AHEAD = 20;
/** Of their hours so much of the rooms of a site is taken. */
const ROOMS_TAKEN = { least: 0.5, most: 0.58 };
/** How often people meet on a day: at headquarters, and elsewhere. */
const MEETINGS = { most: [4, 6], elsewhere: [2, 4] } as const;
const LENGTHS = [30, 30, 45, 45, 60];
/** Tries a day; what has not been found by then has no room. */
const MOST_TRIES = 400;

/**
 * Fills the working days around a day with what people who work together do: they meet some times a day, and
 * half of the hours of the rooms is taken. Nothing that is there is moved or met twice.
 */
export function fillDays(organization: LoadedOrganization, calendars: Calendars, now: number) {
  const today = dateAt(now, SITES[0]!.zone);
  const random = new Random(`everyday ${today}`);
  const from = addDays(today, -FULL_DAYS.back);
  for (let date = from; date <= addDays(today, EMPTIER_AHEAD); date = addDays(date, 1)) {
    for (const [site, { zone, hours }] of SITES.entries()) {
      if (weekdayOf(date) > 5 || isHoliday(site, date)) continue;
      const day = {
        date,
        zone,
        hours: {
          start: spanAt(`${date}T${formatTimeOfDay(hours[0])}`, zone, 0).start,
          end: spanAt(`${date}T${formatTimeOfDay(hours[1])}`, zone, 0).start,
        },
        share: daysBetween(today, date) > FULL_DAYS.ahead ? 0.5 : 1,
      };
      new SiteDay(organization, calendars, random, site, day).fill();
    }
  }
}

/** Whether a date is a public holiday at a site. @param site index into SITES */
export const isHoliday = (site: number, date: string): boolean =>
  SITE_HOLIDAYS[site]!(Number(date.slice(0, 4))).some(([holiday]) => holiday === date);

/** Somebody's day, as far as it is planned. */
interface Working {
  person: LoadedPerson;
  hours: Interval;
  times: Interval[];
  wanted: number;
}

class SiteDay {
  private readonly people: readonly Working[];
  private readonly rooms: readonly LoadedResource[];
  private taken: number;

  constructor(
    { people, resources }: LoadedOrganization,
    private readonly calendars: Calendars,
    private readonly random: Random,
    site: number,
    private readonly day: { date: string; zone: string; hours: Interval; share: number },
  ) {
    const [least, most] = site === 0 ? MEETINGS.most : MEETINGS.elsewhere;
    this.people = people
      .filter((one) => one.site === site && one.weekdays.includes(weekdayOf(day.date)))
      .map((person) => ({
        person,
        hours: hoursOn(day.date, person),
        times: calendars.timesOf(person, day.hours),
        wanted: Math.round((least + random.below(most - least + 1)) * day.share),
      }));
    this.rooms = resources.filter(
      (one) => one.site === site && one.kind === 'room' && one.capacity! <= 20,
    );
    this.taken = this.rooms.reduce((sum, room) => sum + calendars.takenOf(room, day.hours), 0);
  }

  fill(): void {
    for (let tries = 0; tries < MOST_TRIES; tries++) {
      const lacking = this.people.filter((one) => lacks(one) > 0);
      if (lacking.length === 0) break;
      this.meet(this.random.pick(lacking));
    }
    const least = ROOMS_TAKEN.least * this.day.share;
    for (let tries = 0; tries < MOST_TRIES && this.roomsTaken() < least; tries++)
      this.keepRoom(this.random.pick(this.people));
  }

  private roomsTaken(): number {
    const { hours } = this.day;
    return this.taken / ((hours.end - hours.start) * this.rooms.length);
  }

  /** Any time of the day that is so long. */
  private timeFor(length: number): Interval {
    const { hours } = this.day;
    const quarters = Math.floor((hours.end - hours.start) / MINUTE / 15 - length / 15);
    const start = hours.start + this.random.below(quarters + 1) * 15 * MINUTE;
    return { start, end: start + length * MINUTE };
  }

  /** A room that somebody has without asking others to it. */
  private keepRoom(one: Working): void {
    const span = this.timeFor(this.random.pick([60, 90, 120]));
    if (!canCome(one, span)) return;
    const room = this.freeRoom(span, 0);
    if (room) this.add(one, span, [], room, this.random.pick(words.ROOM_USES));
  }

  private meet(organizer: Working): void {
    const span = this.timeFor(this.random.pick(LENGTHS));
    if (!canCome(organizer, span)) return;
    const others = this.people.filter(
      (one) => one !== organizer && lacks(one) > 0 && canCome(one, span),
    );
    const { team } = organizer.person;
    const count = 1 + this.random.below(4);
    const guests = [
      ...this.random.some(
        others.filter((one) => one.person.team === team),
        Math.min(2, count),
      ),
      ...this.random.some(
        others.filter((one) => one.person.team !== team),
        count,
      ),
    ].slice(0, count);
    if (guests.length === 0) return;
    const room =
      this.roomsTaken() < ROOMS_TAKEN.most * this.day.share
        ? this.freeRoom(span, guests.length + 1)
        : null;
    const title =
      guests.length === 1 && this.random.chance(0.4)
        ? `${given(organizer.person)} and ${given(guests[0]!.person)}`
        : words.meetingTitle(this.random, team);
    this.add(organizer, span, guests, room, title);
  }

  private freeRoom(span: Interval, seats: number): LoadedResource | null {
    const free = this.rooms.filter(
      (room) => room.capacity! >= seats && this.calendars.isResourceFree(room, span),
    );
    return free.length > 0 ? this.random.pick(free) : null;
  }

  private add(
    organizer: Working,
    span: Interval,
    guests: readonly Working[],
    room: LoadedResource | null,
    title: string,
  ): void {
    const { zone } = this.day;
    this.calendars.add({
      title,
      organizer: organizer.person,
      startsAt: wallTimeAt(span.start, zone),
      zone,
      lengthMinutes: (span.end - span.start) / MINUTE,
      attendees: guests.map(({ person }) => ({
        person,
        role: 'required',
        reply: this.random.chance(0.94) ? 'accepted' : 'tentative',
      })),
      resources: room ? [room] : [],
      showsAs: guests.length > 0 ? 'busy' : 'free',
    });
    for (const one of [organizer, ...guests]) one.times.push(span);
    if (room) this.taken += span.end - span.start;
  }
}

/** How many more times somebody is to meet that day. */
const lacks = ({ wanted, times }: Working): number => wanted - times.length;

const canCome = ({ hours, times }: Working, span: Interval): boolean =>
  contains(hours, span) && !times.some((one) => overlaps(one, span));

/** Somebody's hours on a date, the part after midnight left out. */
function hoursOn(date: string, { zone, hours: [from, to] }: LoadedPerson): Interval {
  const midnight = startOfDay(date, zone);
  return { start: midnight + from * MINUTE, end: midnight + Math.min(to, 1440) * MINUTE };
}

/** Series that have been going on for a year, each with all its dates. */
export function oldSeries(
  { people, resources }: LoadedOrganization,
  calendars: Calendars,
  now: number,
) {
  const today = dateAt(now, SITES[0]!.zone);
  const named = (name: string) => people.find((one) => one.name === name)!;
  const place = (name: string) => resources.find((one) => one.name === name)!;
  for (const { title, by, others, on, at, minutes, room } of OLD_SERIES) {
    const back = addDays(today, -364);
    const first = addDays(back, (on - weekdayOf(back) + 7) % 7);
    calendars.add({
      title,
      organizer: named(by),
      startsAt: `${first}T${at}`,
      lengthMinutes: minutes,
      rule: 'FREQ=WEEKLY',
      isOld: true,
      attendees: others.map((name) => ({
        person: named(name),
        role: 'required',
        reply: 'accepted',
      })),
      resources: [place(room)],
    });
  }
}

const OLD_SERIES = [
  {
    title: 'House keeping round',
    by: 'Ines Aldabe',
    others: ['Aksel Nordvik'],
    ...{ on: 1, at: '14:30', minutes: 45, room: 'Puffin' },
  },
  {
    title: 'Reading circle',
    by: 'Sunniva Brekke',
    others: ['Leila Haddad', 'Mei Tanaka', 'Robine Thys'],
    ...{ on: 4, at: '15:15', minutes: 60, room: 'Fulmar' },
  },
];

const given = (person: LoadedPerson) => person.name.split(' ')[0]!;
