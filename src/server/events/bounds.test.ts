import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { DAY } from '../../core/time/interval.ts';
import { addDays } from '../../core/time/wall.ts';
import { TEST_NOW } from '../../../tests/support/cluster.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { laidOutUntil } from './occurrences/dates.ts';
import { readMeeting } from './store/read.ts';

const server = useServer({ works: false });
const NOW = Date.parse(TEST_NOW);
const MOST_ROWS = 40_000;

const guests = (count: number) =>
  Array.from({ length: count }, (_, k) => ({
    email: `guest${k}@elsewhere.example`,
    name: '',
    role: 'required' as const,
  }));

async function colleagues(count: number) {
  const rows = await server.sql<{ id: number }>(
    `select subject_id as id from person where email not like 'ines.aldabe@%' order by 1 limit $1`,
    [count],
  );
  return rows.map(({ id }) => ({ personId: id, role: 'required' as const }));
}

const claimsOf = async (id: string) =>
  (
    await server.sql<{ count: number; first: number; last: number }>(
      `select count(*) as count, min(lower(during)) as first, max(lower(during)) as last
       from claim join occurrence on occurrence.id = claim.occurrence_id where event_id = $1`,
      [id],
    )
  )[0]!;

describe('what one action writes has a bound', () => {
  it('is refused in words where it is more dates of places than are booked at once', async () => {
    const ines = await server.as('ines.aldabe');
    const places = await server.sql<{ id: number }>(
      `select subject_id as id from resource order by subject_id limit 20`,
    );
    const asked = (rule: string) =>
      ines.post<ProblemBody>(
        '/api/events',
        meetingRequest({
          times: bergenTimes('2027-03-01T03:00', '2027-03-01T03:15'),
          resources: places.map((one) => one.id),
          repeats: { rule },
        }),
      );
    const refused = await asked('FREQ=DAILY');
    expect(refused).toMatchObject({ status: 422, body: { code: 'too-much' } });
    expect(refused.body.detail).toMatch(
      /^\d+ dates of 20 places are [\d,]+ bookings, and at most 12,000/,
    );
    expect(refused.body.fields![0]!.message).toMatch(/^may be at most 1\d for so many dates$/);
    expect((await asked('FREQ=DAILY;COUNT=3')).status).toBe(201);
  });

  it('a daily series entered as of 2000 takes no time older than 90 days', async () => {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Since ever',
        times: bergenTimes('2000-01-03T05:00', '2000-01-03T05:30'),
        repeats: { rule: 'FREQ=DAILY' },
        attendees: [...(await colleagues(40)), ...guests(10)],
      }),
    );
    expect(made.status).toBe(201);
    const { count, first } = await claimsOf(made.body.id);
    expect(count).toBeLessThanOrEqual(MOST_ROWS);
    expect(first).toBeGreaterThan(NOW - 91 * DAY);
    expect(first).toBeLessThan(NOW - 88 * DAY);
    // Another title changes nothing of that, nor does another time bring the past back.
    const moved = await ines.patch<EventDetail>(`/api/events/${made.body.id}`, {
      version: 1,
      times: bergenTimes('2000-01-03T05:15', '2000-01-03T05:45'),
    });
    expect(moved.status).toBe(200);
    expect((await claimsOf(made.body.id)).count).toBe(count);
  });

  it('a daily series of many people is laid out less far, and further as time goes on', async () => {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Daily',
        times: bergenTimes('2026-11-25T04:00', '2026-11-25T04:30'),
        repeats: { rule: 'FREQ=DAILY' },
        attendees: await colleagues(20),
      }),
    );
    const meeting = (await readMeeting(server.running.platform.pool, made.body.id))!;
    // As it was made, it is laid out for two years; with 500 people in it, for 79 days.
    expect(meeting.expandedUntil).toBeGreaterThan(NOW + 729 * DAY);
    const crowd = {
      ...meeting,
      participants: Array.from({ length: 500 }, (_, k) => ({
        ...meeting.participants[1]!,
        id: k,
        personId: k + 1,
      })),
    };
    const ahead = (now: number) => (laidOutUntil(crowd, meeting.expandedUntil, now)! - now) / DAY;
    expect(ahead(NOW)).toBeGreaterThan(75);
    expect(ahead(NOW)).toBeLessThan(81);
    expect(ahead(NOW + 40 * DAY)).toBeGreaterThan(75);
    expect(ahead(NOW + 40 * DAY)).toBeLessThan(81);
  });

  it('choices for 500 dates take no longer than a moment', async () => {
    const ines = await server.as('ines.aldabe');
    const pauseFor = (count: number, year: number) =>
      longestPause(async () => {
        const days = Array.from({ length: count }, (_, k) => addDays(`${year}-01-03`, k));
        const made = await ines.post<EventDetail>(
          '/api/events',
          meetingRequest({
            title: 'Moved about',
            times: bergenTimes(`${year}-01-03T04:00`, `${year}-01-03T04:30`),
            repeats: { rule: 'FREQ=DAILY' },
            dates: days.map((day) => ({
              do: 'move' as const,
              at: `${day}T04:00`,
              startsAt: `${day}T05:00`,
              endsAt: `${day}T05:30`,
            })),
          }),
        );
        expect(made.status).toBe(201);
      });
    const few = await pauseFor(100, 2027);
    const many = await pauseFor(500, 2027);
    // Five times as many take about five times as long; where each was held against each it was 25 times.
    expect(many).toBeLessThan(12 * Math.max(few, SHORTEST_PAUSE_MS));
  });
});

describe('what cannot be is refused in words', () => {
  it('more letters to addresses outside than a day allows', async () => {
    const mika = await server.as('mika.sandoval');
    await server.sql(
      `insert into mail (sender_name, sender_email, recipient_name, recipient_email, subject, body_text,
                         body_html, created_at, sent_at)
       select 'Mika', 'mika.sandoval@ternrock.example', '', 'x' || k || '@elsewhere.example', '', '', '', $1, $1
       from generate_series(1, 990) as k`,
      [new Date(NOW - DAY / 2)],
    );
    const invite = (count: number) =>
      mika.post<ProblemBody>('/api/events', meetingRequest({ attendees: guests(count) }));
    const refused = await invite(11);
    expect(refused).toMatchObject({ status: 429, body: { code: 'too-many-letters' } });
    expect(refused.body.fields![0]!.field).toBe('attendees');
    expect((await invite(10)).status).toBe(201);
    // Colleagues are not counted.
    const among = meetingRequest({ attendees: await colleagues(5) });
    expect((await mika.post('/api/events', among)).status).toBe(201);
  });

  it('a booking in the past of a room that was taken', async () => {
    const ines = await server.as('ines.aldabe');
    const gannet = await server.id('Gannet');
    const booking = meetingRequest({
      title: 'Long ago',
      times: bergenTimes('2026-03-02T10:00', '2026-03-02T11:00'),
      resources: [gannet],
    });
    expect((await ines.post('/api/events', booking)).status).toBe(201);
    const again = await ines.post<ProblemBody>('/api/events', booking);
    expect(again).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    expect(again.body.detail).toMatch(/Gannet/);
    const series = await ines.post<ProblemBody>('/api/events', {
      ...booking,
      times: bergenTimes('2026-11-16T03:00', '2026-11-16T04:00'),
      repeats: { rule: 'FREQ=WEEKLY;COUNT=4' },
    });
    expect(series.status).toBe(201);
    const over = await ines.post<ProblemBody>('/api/events', {
      ...booking,
      times: bergenTimes('2026-11-16T03:30', '2026-11-16T04:30'),
      repeats: { rule: 'FREQ=WEEKLY;COUNT=1' },
    });
    expect(over).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
  });

  it('a series that needs a room twice at once, but not one without a room', async () => {
    const ines = await server.as('ines.aldabe');
    const longer = meetingRequest({
      title: 'Day and night',
      times: bergenTimes('2027-10-04T10:00', '2027-10-05T12:00'),
      repeats: { rule: 'FREQ=DAILY;COUNT=5' },
    });
    const refused = await ines.post<ProblemBody>('/api/events', {
      ...longer,
      resources: [await server.id('Gannet')],
    });
    expect(refused.status).toBe(400);
    expect(refused.body.fields).toEqual([
      {
        field: 'resources',
        message:
          'must not be needed twice at once by the series itself: Gannet would be, by its dates of 2027-10-04 and 2027-10-05',
      },
    ]);
    const kit = await ines.post('/api/events', {
      ...longer,
      resources: [await server.id('Sonar kit')],
    });
    expect(kit.status).toBe(201);
    expect((await ines.post('/api/events', longer)).status).toBe(201);
  });

  it('one date and what follows changed at the same moment never wait for each other in a circle', async () => {
    const ines = await server.as('ines.aldabe');
    const room = await server.id('Fulmar');
    const deadlocks = async () =>
      (
        await server.sql<{ deadlocks: number }>(
          'select deadlocks from pg_stat_database where datname = current_database()',
        )
      )[0]!.deadlocks;
    const before = await deadlocks();
    for (let round = 0; round < 12; round++) {
      const day = addDays('2028-01-03', round * 56);
      const made = await ines.post<EventDetail>(
        '/api/events',
        meetingRequest({
          title: 'At once',
          times: bergenTimes(`${day}T05:00`, `${day}T05:30`),
          repeats: { rule: 'FREQ=DAILY;COUNT=20' },
          attendees: await colleagues(6),
          resources: [room],
        }),
      );
      const { id, version } = made.body;
      const at = (k: number) => `${addDays(day, k)}T05:00`;
      const change = (body: object) => ines.patch(`/api/events/${id}`, { version, ...body });
      const times = (k: number, hour: string) =>
        bergenTimes(`${addDays(day, k)}T${hour}:15`, `${addDays(day, k)}T${hour}:45`);
      const answers = await Promise.all([
        change({ scope: 'one', occurrence: at(12), times: times(12, '06') }),
        change({ scope: 'following', occurrence: at(9), times: times(9, '07') }),
        change({ scope: 'one', occurrence: at(3), title: 'Alone' }),
        ines.post('/api/events', meetingRequest({ times: times(15, '06'), resources: [room] })),
        change({ scope: 'following', occurrence: at(5), title: 'Rest' }),
      ]);
      // One wins, the others are told that they read another state.
      expect(answers.filter((answer) => ![200, 201, 409].includes(answer.status))).toEqual([]);
    }
    expect(await deadlocks()).toBe(before);
  });
});

/** Below this, a pause says more about the machine than about Marmot. */
const SHORTEST_PAUSE_MS = 10;

/** The longest time for which the process did nothing else while some work was done. Milliseconds. */
async function longestPause(work: () => Promise<void>): Promise<number> {
  let longest = 0;
  let last = performance.now();
  const timer = setInterval(() => {
    const now = performance.now();
    longest = Math.max(longest, now - last);
    last = now;
  }, 5);
  await work();
  clearInterval(timer);
  return longest;
}
