import { DAY, MINUTE, type Interval } from '../../src/core/time/interval.ts';
import { formatTimeOfDay } from '../../src/core/time/typedTime.ts';
import {
  addDays,
  dateAt,
  daysBetween,
  resolveWallTime,
  startOfDay,
  startOfWeek,
  weekdayOf,
} from '../../src/core/time/wall.ts';
import { toLocal, zoneTables, type ZoneTable } from '../../src/core/time/zoneTable.ts';
import { horizonAt } from '../../src/server/events/index.ts';
import { Calendars, type SampleAttendee, type SampleReply } from './calendars.ts';
import type { LoadedOrganization, LoadedPerson, LoadedResource } from './load.ts';
import { SITES, TEAMS } from './organization.ts';
import { Random } from './random.ts';
import * as words from './words.ts';

const WEEKS_BACK = 8;
const WEEKS_AHEAD = 12;

/** Makes up everybody's calendar around a day: the same for the same day, whenever it is called. */
export function inventCalendars(organization: LoadedOrganization, now: number): Calendars {
  const today = dateAt(now, SITES[0]!.zone);
  const firstMonday = addDays(startOfWeek(today), -7 * WEEKS_BACK);
  const lastDay = addDays(startOfWeek(today), 7 * WEEKS_AHEAD);
  const window = {
    start: startOfDay(firstMonday, 'UTC') - DAY,
    end: startOfDay(lastDay, 'UTC') + DAY,
  };
  const inventor = new Inventor(
    organization,
    new Calendars(window, horizonAt(now)),
    new Random(today),
    now,
    zoneTables(window),
  );
  inventor.series(firstMonday);
  inventor.leave(today);
  for (let week = 0; week < WEEKS_BACK + WEEKS_AHEAD; week++) {
    const monday = addDays(firstMonday, 7 * week);
    // The further ahead, the less is planned.
    const ahead = Math.max(0, daysBetween(today, monday)) / 7;
    inventor.week(monday, Math.max(0.12, 1 - ahead * 0.14));
  }
  return inventor.calendars;
}

class Inventor {
  constructor(
    private readonly organization: LoadedOrganization,
    readonly calendars: Calendars,
    private readonly random: Random,
    private readonly now: number,
    private readonly tables: (zone: string) => ZoneTable,
  ) {}

  private at(site: number): LoadedPerson[] {
    return this.organization.people.filter((person) => person.site === site);
  }

  private places(site: number, kind: LoadedResource['kind']): LoadedResource[] {
    return this.organization.resources.filter(
      (one) => one.site === site && one.kind === kind && !one.owner,
    );
  }

  /** Weekly meetings of teams and sites, and regular conversations of two. */
  series(firstMonday: string): void {
    TEAMS.forEach((team, k) => {
      const members = this.organization.people.filter((person) => person.team === team);
      const lead = members[0]!;
      const startsAt = `${addDays(firstMonday, 1 + (k % 3))}T${k % 2 ? '14:00' : '13:30'}`;
      const span = spanAt(startsAt, lead.zone, 60);
      const rooms = this.places(lead.site!, 'room').filter((room) => room.capacity! <= 20);
      this.calendars.add({
        title: `${team} weekly`,
        organizer: lead,
        startsAt,
        lengthMinutes: 60,
        rule: `FREQ=WEEKLY;BYDAY=${['TU', 'WE', 'TH'][k % 3]}`,
        attendees: this.invite(
          members.filter((one) => one !== lead && this.inHours(one, span)),
          false,
        ),
        resources: [rooms[k % rooms.length]!],
      });
    });
    SITES.forEach((site, k) => {
      const [host, ...others] = this.at(k);
      this.calendars.add({
        title: `${site.name} notices`,
        organizer: host!,
        startsAt: `${firstMonday}T09:15`,
        lengthMinutes: 30,
        rule: 'FREQ=WEEKLY;BYDAY=MO',
        attendees: others
          .filter((one) => this.inHours(one, spanAt(`${firstMonday}T09:15`, site.zone, 30)))
          .map((person) => ({ person, role: 'optional', reply: 'accepted' })),
        resources: [this.places(k, 'room').toSorted((a, b) => b.capacity! - a.capacity!)[0]!],
      });
      for (let pair = 0; pair + 3 < others.length; pair += 3) {
        const [one, other] = [others[pair]!, others[pair + 1]!];
        const day = addDays(firstMonday, this.random.below(5));
        const startsAt = `${day}T${this.random.pick(['10:00', '10:30', '11:00', '15:00'])}`;
        if (![one, other].every((person) => this.inHours(person, spanAt(startsAt, site.zone, 30))))
          continue;
        this.calendars.add({
          title: `${given(one)} and ${given(other)}`,
          organizer: one,
          startsAt,
          lengthMinutes: 30,
          rule: `FREQ=WEEKLY;INTERVAL=2;BYDAY=${WEEKDAYS[weekdayOf(day) - 1]}`,
          attendees: [{ person: other, role: 'required', reply: 'accepted' }],
          visibility: 'private',
        });
      }
    });
  }

  /** Days off and journeys, as whole days. */
  leave(today: string): void {
    for (const person of this.organization.people) {
      const trips = this.random.chance(0.5) ? 2 : 1;
      for (let k = 0; k < trips; k++) {
        const first = addDays(today, this.random.below(130) - 50);
        const days = 1 + this.random.below(5);
        const journey = this.random.chance(0.4);
        this.calendars.add({
          title: journey ? this.random.pick(words.JOURNEYS) : 'Leave',
          organizer: person,
          startsAt: `${first}T00:00`,
          lengthMinutes:
            (startOfDay(addDays(first, days), person.zone) - startOfDay(first, person.zone)) /
            MINUTE,
          allDay: true,
          showsAs: 'away',
        });
      }
    }
  }

  /** One week of meetings, quiet work and bookings. @param fullness 1 for an ordinary week */
  week(monday: string, fullness: number): void {
    for (const person of this.organization.people) {
      for (let k = 0; k < 4; k++)
        if (this.random.chance(0.62 * fullness)) this.meeting(person, monday);
      for (let k = 0; k < 2; k++)
        if (this.random.chance(0.5 * fullness)) this.quietWork(person, monday);
    }
    SITES.forEach((_, site) => {
      this.bookings(site, 'lab', monday, 4 * fullness, [120, 180, 240]);
      this.bookings(site, 'desk', monday, 9 * fullness, [480]);
      this.bookings(site, 'equipment', monday, 2 * fullness, [480, 1440, 2880]);
      this.bookings(site, 'vehicle', monday, 2 * fullness, [300, 480]);
      this.bookings(site, 'parking', monday, 2 * fullness, [480]);
    });
  }

  private meeting(organizer: LoadedPerson, monday: string) {
    const length = this.random.pick([30, 30, 45, 60, 60, 60, 90]);
    const startsAt = this.timeFor(organizer, monday, length);
    if (!startsAt) return;
    const span = spanAt(startsAt, organizer.zone, length);
    const near = this.organization.people.filter(
      (person) =>
        person !== organizer &&
        this.inHours(person, span) &&
        (this.calendars.isFree(person, span) || this.random.chance(0.06)) &&
        (person.site === organizer.site ||
          person.team === organizer.team ||
          this.random.chance(0.12)),
    );
    const guests = this.random.some(near, 1 + this.random.below(5));
    if (guests.length === 0) return;
    const site = organizer.site;
    const rooms =
      site === null || this.random.chance(0.3)
        ? []
        : this.places(site, 'room').filter(
            (room) =>
              room.capacity! > guests.length &&
              room.capacity! <= 20 &&
              this.calendars.isResourceFree(room, span),
          );
    this.calendars.add({
      title: words.meetingTitle(this.random, organizer.team),
      organizer,
      startsAt,
      lengthMinutes: length,
      attendees: this.invite(guests, span.start > this.now),
      resources: rooms.length ? [this.random.pick(rooms.slice(0, 3))] : [],
      visibility: this.random.chance(0.1) ? 'private' : 'default',
    });
  }

  private quietWork(person: LoadedPerson, monday: string) {
    const length = this.random.pick([60, 90, 120]);
    const startsAt = this.timeFor(person, monday, length);
    if (!startsAt) return;
    this.calendars.add({
      title: this.random.pick(words.QUIET_WORK),
      organizer: person,
      startsAt,
      lengthMinutes: length,
      showsAs: this.random.chance(0.25) ? 'tentative' : 'busy',
    });
  }

  private bookings(
    site: number,
    kind: LoadedResource['kind'],
    monday: string,
    count: number,
    lengths: number[],
  ) {
    const resources = this.places(site, kind);
    if (resources.length === 0) return;
    for (let k = 0; k < count; k++) {
      const resource = this.random.pick(resources);
      const length = this.random.pick(lengths);
      const day = addDays(monday, this.random.below(5));
      const hour = length > 300 ? '08:30' : this.random.pick(['08:30', '09:00', '10:30', '13:00']);
      const startsAt = `${day}T${hour}`;
      if (!this.calendars.isResourceFree(resource, spanAt(startsAt, SITES[site]!.zone, length)))
        continue;
      this.calendars.add({
        title: words.bookingTitle(this.random, kind),
        organizer: this.random.pick(this.at(site)),
        startsAt,
        lengthMinutes: length,
        resources: [resource],
        showsAs: 'free',
      });
    }
  }

  /** A start within working hours at which the person is free, or null after some tries. */
  private timeFor(person: LoadedPerson, monday: string, length: number): string | null {
    for (let tries = 0; tries < 5; tries++) {
      const day = addDays(monday, this.random.pick(person.weekdays) - 1);
      const room = person.hours[1] - person.hours[0] - length;
      const minute = person.hours[0] + this.random.below(room / 15 + 1) * 15;
      if (minute >= 1440) continue;
      const startsAt = `${day}T${formatTimeOfDay(minute - (minute % 30 && this.random.chance(0.6) ? 15 : 0))}`;
      if (this.calendars.isFree(person, spanAt(startsAt, person.zone, length))) return startsAt;
    }
    return null;
  }

  private inHours(person: LoadedPerson, span: Interval): boolean {
    return isAtWork(person, span, this.tables);
  }

  private invite(people: readonly LoadedPerson[], open: boolean): SampleAttendee[] {
    return people.map((person, k) => ({
      person,
      role: k > 2 && this.random.chance(0.4) ? 'optional' : 'required',
      reply: this.reply(open),
    }));
  }

  private reply(open: boolean): SampleReply {
    const draw = this.random.next();
    if (open && draw < 0.12) return 'needs-action';
    if (draw < 0.84) return 'accepted';
    return draw < 0.92 ? 'tentative' : 'declined';
  }
}

/** Whether a span lies within someone's hours on its day, or on the night that began the day before. */
export function isAtWork(
  { zone, hours: [from, to], weekdays }: Pick<LoadedPerson, 'zone' | 'hours' | 'weekdays'>,
  span: Interval,
  tables: (zone: string) => ZoneTable,
): boolean {
  const start = toLocal(tables(zone), span.start);
  const end = start + span.end - span.start;
  const today = Math.floor(start / DAY) * DAY;
  return [today - DAY, today].some((midnight) => {
    // 1970-01-01 was a Thursday; 1 stands for Monday.
    const weekday = ((midnight / DAY + 3) % 7) + 1;
    return (
      weekdays.includes(weekday) &&
      midnight + from * MINUTE <= start &&
      end <= midnight + to * MINUTE
    );
  });
}

const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

const given = (person: LoadedPerson) => person.name.split(' ')[0]!;

export function spanAt(startsAt: string, zone: string, minutes: number): Interval {
  const start = resolveWallTime(startsAt, zone).instant;
  return { start, end: start + minutes * MINUTE };
}
