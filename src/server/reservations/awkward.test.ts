import { beforeAll, describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* What nobody should ask of a place is answered in words, and leaves nothing. */
const server = useServer();

beforeAll(() =>
  server.sql(
    `update resource set retired_at = now()
     where subject_id = (select id from subject where name = 'Ice corer')`,
  ),
);

const left = async () => {
  const [row] = await server.sql<{ events: number; claims: number; reservations: number }>(
    `select (select count(*) from event) as events, (select count(*) from claim) as claims,
            (select count(*) from reservation) as reservations`,
  );
  return row!;
};

const LAB = 'Imaging lab';
const HALL = 'Cormorant Hall';

describe('a booking', () => {
  it.each<[string, string, string, string, string, number, RegExp]>([
    [
      'of no length',
      LAB,
      '2027-06-01T10:00',
      '2027-06-01T10:00',
      'times.endsAt',
      400,
      /later than/,
    ],
    [
      'that ends first',
      LAB,
      '2027-06-01T10:00',
      '2027-06-01T09:00',
      'times.endsAt',
      400,
      /later than/,
    ],
    [
      'of 26 hours where it is open 8 to 18',
      LAB,
      '2027-06-01T09:00',
      '2027-06-02T11:00',
      'resources',
      409,
      /Imaging lab is open 08:00–18:00 on Tue 1 Jun\. Imaging lab is booked for 4 h at most/,
    ],
    [
      'beyond its horizon',
      HALL,
      '2028-06-01T09:00',
      '2028-06-01T10:00',
      'resources',
      409,
      /booked 365 days ahead at most, now through Wed 24 Nov 2027/,
    ],
    [
      'of what is retired',
      'Ice corer',
      '2027-06-01T09:00',
      '2027-06-01T10:00',
      'resources',
      409,
      /Ice corer is retired: nobody books it any more/,
    ],
    [
      'in a time that no clock has',
      LAB,
      '2027-02-30T10:00',
      '2027-02-30T11:00',
      'times.startsAt',
      400,
      /on a day that exists/,
    ],
  ])('%s is refused', async (_, place, from, to, field, status, words) => {
    const before = await left();
    const client = await server.as('tomas.okafor');
    const refused = await client.post<ProblemBody>(
      '/api/events',
      meetingRequest({
        times: bergenTimes(from, to),
        attendees: [],
        resources: [await server.id(place)],
      }),
    );
    expect(refused.status).toBe(status);
    expect(refused.body.fields!.map((one) => one.field)).toContain(field);
    expect(refused.body.detail).toMatch(words);
    expect(await left()).toEqual(before);
  });

  it('of two at one moment that are together more than a week allows, one is had', async () => {
    const client = await server.as('idris.kaya');
    const lab = await server.id(LAB);
    // Four days of three hours are all that somebody has of it within a week.
    const book = (day: number) =>
      client.post<ProblemBody>(
        '/api/events',
        meetingRequest({
          times: bergenTimes(`2027-06-${day}T13:00`, `2027-06-${day}T16:00`),
          attendees: [],
          resources: [lab],
        }),
      );
    const days = [21, 22, 23];
    for (const day of days) expect((await book(day)).status).toBe(201);
    const both = await Promise.all([book(24), book(25)]);
    expect(both.map((one) => one.status).sort()).toEqual([201, 409]);
    const refused = both.find((one) => one.status === 409)!;
    expect(refused.body.code).toBe('against-rules');
  });
});
