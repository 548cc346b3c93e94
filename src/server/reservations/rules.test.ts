import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Place } from '../../contract/places.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* Places have rules; whatever way they are booked, the rules hold, and say what they allow. */

const server = useServer();
type Answer = Omit<EventDetail, 'status'> & ProblemBody & { alternatives?: unknown[] };

async function book(
  mailbox: string,
  place: string,
  from: string,
  to: string,
  more: Record<string, unknown> = {},
) {
  const client = await server.as(mailbox);
  return client.post<Answer>(
    '/api/events',
    meetingRequest({
      title: 'Slides',
      times: bergenTimes(from, to),
      attendees: [],
      resources: [await server.id(place)],
      ...more,
    }),
  );
}
const countOf = async (place: string) => {
  const [row] = await server.sql<{ count: number }>(
    'select count(*) as count from claim where subject_id = $1 and exclusive',
    [await server.id(place)],
  );
  return row!.count;
};

describe('the rules of a place', () => {
  it('are said before, and at a refusal, which leaves nothing', async () => {
    const client = await server.as('tomas.okafor');
    const lab = await server.id('Imaging lab');
    const { body: place } = await client.get<Place>(`/api/places/${lab}`);
    expect(place.ruleWords).toEqual([
      'open Mon–Fri 08:00–18:00',
      'for 4 h at most',
      'in steps of 15 min',
      '12 h a week for each at most',
    ]);
    const before = await countOf('Imaging lab');
    const refused = await book(
      'tomas.okafor',
      'Imaging lab',
      '2027-06-05T19:05',
      '2027-06-06T21:05',
    );
    expect(refused.status).toBe(409);
    expect(refused.body).toMatchObject({
      code: 'against-rules',
      detail:
        'Imaging lab is closed on Sat 5 Jun. Imaging lab is booked for 4 h at most. Imaging lab is booked in steps of 15 min, counted from midnight. And 1 more such. Nothing was booked.',
      fields: [{ field: 'resources' }],
    });
    expect(await countOf('Imaging lab')).toBe(before);
    const { status } = await book(
      'tomas.okafor',
      'Imaging lab',
      '2027-06-03T14:00',
      '2027-06-03T18:00',
    );
    expect(status).toBe(201);
  });

  it('hold for a change as for a booking, and for each date of a series', async () => {
    const made = await book('clara.weiss', 'Imaging lab', '2027-06-08T09:00', '2027-06-08T10:00');
    const client = await server.as('clara.weiss');
    const moved = await client.patch<Answer>(`/api/events/${made.body.id}`, {
      version: made.body.version,
      times: bergenTimes('2027-06-08T17:30', '2027-06-08T18:30'),
    });
    expect(moved.body.detail).toContain('Imaging lab is open 08:00–18:00 on Tue 8 Jun');
    // The old time was never given up.
    const { body: still } = await client.get<EventDetail>(`/api/events/${made.body.id}`);
    expect(still.start).toBe(made.body.start);
    const daily = await book('clara.weiss', 'Imaging lab', '2027-06-10T11:00', '2027-06-10T12:00', {
      repeats: { rule: 'FREQ=DAILY;COUNT=5' },
    });
    expect(daily.body.code).toBe('against-rules');
    expect(daily.body.detail).toContain('is closed on Sat 12 Jun');
    expect(daily.body.detail).toContain('on 2 of 5 dates');
  });

  it('keep a place for some teams, and ask for notice', async () => {
    const refused = await book(
      'mika.sandoval',
      'Survey drone',
      '2027-06-03T09:00',
      '2027-06-03T10:00',
    );
    expect(refused.body.detail).toMatch(/Survey drone is for .*Seabirds.* alone/);
    const [pilot] = await server.sql<{ email: string }>(
      `select email from person join team_member on person_id = subject_id
       join team on team.id = team_id where team.name = 'Seabirds' and person.role = 'staff' limit 1`,
    );
    const allowed = pilot!.email.split('@')[0]!;
    const taken = await book(allowed, 'Survey drone', '2027-06-03T09:00', '2027-06-03T10:00');
    expect(taken.status).toBe(201);
    // A steward books for whoever cannot.
    const steward = await book(
      'ines.aldabe',
      'Survey drone',
      '2027-06-03T09:00',
      '2027-06-03T10:00',
    );
    expect(steward.status).toBe(201);
  });

  it('count what somebody has of it in the week', async () => {
    for (const day of ['14', '15', '16']) {
      const one = await book(
        'hal.teague',
        'Imaging lab',
        `2027-06-${day}T09:00`,
        `2027-06-${day}T13:00`,
      );
      expect(one.status).toBe(201);
    }
    const fourth = await book('hal.teague', 'Imaging lab', '2027-06-17T09:00', '2027-06-17T09:15');
    expect(fourth.body.detail).toContain(
      'Imaging lab is had 12 h a week at most by each: nothing left that week',
    );
    const other = await book('grace.paul', 'Imaging lab', '2027-06-17T09:00', '2027-06-17T09:15');
    expect(other.status).toBe(201);
    const next = await book('hal.teague', 'Imaging lab', '2027-06-21T09:00', '2027-06-21T10:00');
    expect(next.status).toBe(201);
  });

  it('are kept by what is offered instead of a time that is taken', async () => {
    await book('leila.haddad', 'Imaging lab', '2027-06-24T16:00', '2027-06-24T18:00');
    const refused = await book('grace.paul', 'Imaging lab', '2027-06-24T16:30', '2027-06-24T18:00');
    expect(refused.body.code).toBe('resource-taken');
    const ways = refused.body.alternatives as { kind: string; start: number; end: number }[];
    expect(ways.length).toBeGreaterThan(0);
    for (const { kind, start, end } of ways) {
      if (kind !== 'time') continue;
      // 08:00 to 18:00 in Bergen is 06:00 to 16:00 UTC in June.
      expect(new Date(start).getUTCHours()).toBeGreaterThanOrEqual(6);
      expect(new Date(end - 1).getUTCHours()).toBeLessThan(16);
    }
  });
});
