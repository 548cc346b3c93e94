import { describe, expect, it } from 'vitest';
import { claimedTime } from '../../src/core/booking/booking.ts';
import { clip, DAY, HOUR, MINUTE, overlaps } from '../../src/core/time/interval.ts';
import { addDays, dateAt, resolveWallTime, weekdayOf } from '../../src/core/time/wall.ts';
import { zoneTables } from '../../src/core/time/zoneTable.ts';
import type { Calendars } from './calendars.ts';
import { fillDays, isHoliday, oldSeries } from './everyday.ts';
import { planInvitations } from './openInvitations.ts';
import { SITES } from './organization.ts';
import { inventCalendars, isAtWork, spanAt } from './invent.ts';
import { organization } from './sampleOrganization.ts';

const NOW = Date.parse('2026-11-24T08:12:00Z');

/** What bookings take of places, buffers included, by unit. */
const claimsOf = (calendars: Calendars) =>
  calendars.events.flatMap((event) =>
    event.resources.flatMap(({ resource, unit }) =>
      event.occurrences.map((span) => ({
        key: `${resource.name}/${unit}`,
        ...claimedTime(span, {
          prepareMinutes: resource.buffers?.[0] ?? 0,
          clearMinutes: resource.buffers?.[1] ?? 0,
        }),
      })),
    ),
  );

function clashesIn(claims: ReturnType<typeof claimsOf>) {
  const inOrder = claims.toSorted((a, b) => a.key.localeCompare(b.key) || a.start - b.start);
  return inOrder.filter((claim, k) => {
    const before = inOrder[k - 1];
    return before?.key === claim.key && overlaps(before, claim);
  });
}

describe('the demonstration', () => {
  const calendars = inventCalendars(organization(), NOW);

  it('is the same for the same day, at whatever hour, and another on another day', () => {
    const later = inventCalendars(organization(), NOW + 3_600_000);
    const titles = (list: typeof calendars) =>
      list.events.map((one) => `${one.title} ${one.startsAt}`);
    expect(titles(later)).toEqual(titles(calendars));
    const tomorrow = inventCalendars(organization(), NOW + DAY);
    expect(titles(tomorrow)).not.toEqual(titles(calendars));
  });

  it('reaches eight weeks back and twelve ahead', () => {
    const starts = calendars.events.flatMap((one) => one.occurrences.map((o) => o.start));
    expect(Math.min(...starts)).toBeLessThan(NOW - 8 * 7 * DAY);
    expect(Math.max(...starts)).toBeGreaterThan(NOW + 11 * 7 * DAY);
  });

  it('books nothing twice, buffers included', () => {
    const claims = claimsOf(calendars);
    expect(claims.length).toBeGreaterThan(500);
    expect(clashesIn(claims)).toEqual([]);
  });
});

/** Days on which somebody may start it: in a week like any other, before holidays, on a weekend, around a clock change. */
const STARTS = [
  '2026-11-24T08:12Z',
  '2026-12-22T15:00Z',
  '2027-03-24T07:00Z',
  '2027-03-27T10:00Z',
  '2027-07-16T21:00Z',
  '2027-10-29T06:00Z',
];

describe.each(STARTS.map((start) => [start, Date.parse(start)] as const))(
  'the full demonstration of %s',
  (_, now) => {
    const people = organization();
    const calendars = inventCalendars(people, now);
    const planned = planInvitations(people, calendars, now);
    oldSeries(people, calendars, now);
    fillDays(people, calendars, now);
    const { zone, hours } = SITES[0]!;
    const dates = Array.from({ length: 10 }, (_, k) => addDays(dateAt(now, zone), k))
      .filter((date) => weekdayOf(date) <= 5 && !isHoliday(0, date))
      .slice(0, 4);
    const day = (date: string) => {
      const midnight = resolveWallTime(`${date}T00:00`, zone).instant;
      return { start: midnight + hours[0] * MINUTE, end: midnight + hours[1] * MINUTE };
    };

    it.each(dates)('has half of the hours of the rooms of Skerry House taken on %s', (date) => {
      const rooms = people.resources.filter(
        (one) => one.site === 0 && one.kind === 'room' && one.capacity! <= 20,
      );
      const taken = calendars.events
        .flatMap((event) =>
          event.resources.flatMap(({ resource }) =>
            rooms.includes(resource) ? event.occurrences : [],
          ),
        )
        .flatMap((span) => clip(span, day(date)) ?? [])
        .reduce((sum, { start, end }) => sum + end - start, 0);
      const { start, end } = day(date);
      const share = taken / (rooms.length * (end - start));
      expect(share).toBeGreaterThanOrEqual(0.4);
      expect(share).toBeLessThanOrEqual(0.6);
    });

    it.each(dates)('has people meet four to six times on %s, unless they are away', (date) => {
      const span = day(date);
      const counts = people.people
        .filter((one) => one.site === 0 && one.weekdays.includes(weekdayOf(date)))
        .map((one) => calendars.timesOf(one, span))
        .filter((times) => !times.some((one) => one.end - one.start >= 8 * HOUR))
        .map((times) => times.length);
      const mean = counts.reduce((sum, one) => sum + one, 0) / counts.length;
      expect(mean).toBeGreaterThanOrEqual(4);
      expect(mean).toBeLessThanOrEqual(6.5);
    });

    it('books nothing twice, and has series that began a year ago', () => {
      expect(clashesIn(claimsOf(calendars))).toEqual([]);
      const old = calendars.events.find((one) => one.title === 'Reading circle')!;
      expect(old.occurrences[0]!.start).toBeLessThan(now - 355 * DAY);
      expect(old.occurrences.filter((one) => one.start < now).length).toBeGreaterThan(50);
    });

    it('asks for times on working days, in everybody’s hours, on no holiday of theirs', () => {
      const tables = zoneTables({ start: now - DAY, end: now + 60 * DAY });
      for (const { meeting, request } of planned) {
        if (meeting.with.length === 0 || meeting.isOutside) continue;
        const span = spanAt(request.times.startsAt, request.times.zone, meeting.minutes);
        const asked = people.people.filter((one) =>
          [meeting.by, ...meeting.with].includes(one.name),
        );
        for (const one of asked.filter(({ site }) => site !== null)) {
          expect([meeting.title, one.name, isAtWork(one, span, tables)]).toEqual([
            meeting.title,
            one.name,
            true,
          ]);
          expect(isHoliday(one.site!, dateAt(span.start, one.zone))).toBe(false);
        }
      }
    });
  },
);
