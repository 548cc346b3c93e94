import { describe, expect, it } from 'vitest';
import { claimedTime } from '../../src/core/booking/booking.ts';
import { DAY, overlaps } from '../../src/core/time/interval.ts';
import { inventCalendars } from './invent.ts';
import type { LoadedOrganization } from './load.ts';
import { PARTNER_PEOPLE, PARTNER_SITE, PEOPLE, RESOURCES, SITES } from './organization.ts';

const NOW = Date.parse('2026-11-24T08:12:00Z');

function organization(): LoadedOrganization {
  const weekdays = [1, 2, 3, 4, 5];
  let id = 0;
  const home = PEOPLE.flatMap((group, site) =>
    group.map((person) => ({
      weekdays,
      hours: SITES[site]!.hours,
      ...person,
      id: ++id,
      email: `${id}@ternrock.example`,
      zone: SITES[site]!.zone,
      site,
    })),
  );
  const partners = PARTNER_PEOPLE.map(({ name }) => ({
    id: ++id,
    name,
    email: `${id}@nilgiriwater.example`,
    zone: PARTNER_SITE.zone,
    site: null,
    team: null,
    hours: PARTNER_SITE.hours,
    weekdays,
  }));
  return {
    people: [...home, ...partners],
    resources: RESOURCES.map((resource) => ({ ...resource, id: ++id })),
  };
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
    const claims = calendars.events.flatMap((event) =>
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
    claims.sort((a, b) => a.key.localeCompare(b.key) || a.start - b.start);
    const clashes = claims.filter((claim, k) => {
      const before = claims[k - 1];
      return before?.key === claim.key && overlaps(before, claim);
    });
    expect(claims.length).toBeGreaterThan(500);
    expect(clashes).toEqual([]);
  });
});
