import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { LedgerGroup, LedgerGroupRow, LedgerResponse } from '../../contract/ledger.ts';
import { DAY, HOUR, MINUTE } from '../../core/time/interval.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { foldTally } from './tallyQueries.ts';

/* Sums of years are added up of those that are kept, and are what counting one by one says. */
const server = useServer({ works: false });
server.writesPastTheRules();

const ask = async (mailbox: string, query: Record<string, string>): Promise<LedgerGroupRow[]> => {
  const client = await server.as(mailbox);
  const address = `/api/ledger?${new URLSearchParams({ whose: 'all', ...query }).toString()}`;
  const { status, body } = await client.get<LedgerResponse>(address);
  expect(status).toBe(200);
  return body.groups.sort((a, b) => (a.key < b.key ? -1 : 1));
};

let made = 10;

/** Bookings of one meeting in one place, one at each of some moments. */
async function bookings(place: string, starts: readonly number[], minutes: number): Promise<void> {
  const day = `2031-03-${++made}`;
  const meeting = await (
    await server.as('ines.aldabe')
  ).post<EventDetail>(
    '/api/events',
    meetingRequest({
      attendees: [],
      resources: [await server.id(place)],
      times: bergenTimes(`${day}T10:00`, `${day}T11:00`),
    }),
  );
  expect(meeting.status).toBe(201);
  await server.sql(
    `with there as (
       insert into occurrence (event_id, recurrence_at, starts_at, ends_at)
       select $1, timestamp '2032-01-01' + n * interval '1 minute', at, at + $3 * interval '1 minute'
       from unnest($2::timestamptz[]) with ordinality as new (at, n)
       returning id, event_id, starts_at, ends_at)
     insert into reservation (occurrence_id, event_id, resource_id, unit, state, since, starts_at, ends_at,
                              holder_id)
     select id, event_id, $4, 1, 'held', starts_at, starts_at, ends_at, $5 from there`,
    [
      meeting.body.id,
      starts.map((at) => new Date(at)),
      minutes,
      await server.id(place),
      await server.id('Ines Aldabe'),
    ],
  );
}

const ZONES = [
  'Pacific/Auckland',
  'Australia/Adelaide',
  'UTC',
  'America/St_Johns',
  'America/Anchorage',
];
const FROM = Date.UTC(2033, 0, 1);

it('weeks of any zone are those that counting one by one gives, through clock changes and all', async () => {
  const at = fc.integer({ min: 0, max: (420 * DAY) / (15 * MINUTE) });
  const [moments] = fc.sample(fc.array(at, { minLength: 1_500, maxLength: 1_500 }), 1);
  // About the beginnings of weeks there are most of them.
  const [edges] = fc.sample(fc.array(fc.integer({ min: -60, max: 60 }), { minLength: 500 }), 1);
  const starts = [
    ...moments!.map((n) => FROM + n * 15 * MINUTE),
    ...edges!.map((n, k) => Date.UTC(2033, 0, 3) + (k % 60) * 7 * DAY + n * 15 * MINUTE),
  ];
  await bookings('Gannet', starts, 30);
  const inWeeks = (zone: string, some: readonly number[]) => {
    const day = new Intl.DateTimeFormat('en-CA', { timeZone: zone });
    const counts = new Map<string, number>();
    for (const start of some) {
      const date = Date.parse(`${day.format(start)}T00:00Z`);
      const monday = new Date(date - ((new Date(date).getUTCDay() + 6) % 7) * DAY);
      const key = monday.toISOString().slice(0, 10);
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    return [...counts]
      .map(([key, bookings]) => ({ key, bookings, minutes: bookings * 30 }))
      .sort((a, b) => (a.key < b.key ? -1 : 1));
  };
  const spans = [
    ['2033-01-05', '2034-01-20'],
    ['2033-03-20', '2033-04-12'],
    ['2033-06-27', '2033-07-17'],
  ] as const;
  const reader = await server.id('Mika Sandoval');
  for (const isFolded of [false, true]) {
    if (isFolded) expect(await foldTally(server.running.platform.pool)).toBeGreaterThan(0);
    for (const zone of ZONES) {
      await server.sql('update person set zone = $1 where subject_id = $2', [zone, reader]);
      const day = new Intl.DateTimeFormat('en-CA', { timeZone: zone });
      for (const [from, to] of spans) {
        const within = starts.filter((one) => day.format(one) >= from && day.format(one) <= to);
        const got = await ask('mika.sandoval', { from, to, group: 'week' });
        expect([
          zone,
          from,
          got.map(({ key, bookings: n, minutes }) => ({ key, bookings: n, minutes })),
        ]).toEqual([zone, from, inWeeks(zone, within)]);
        const [place] = await ask('mika.sandoval', { from, to, group: 'place' });
        expect(place).toMatchObject({ label: 'Gannet', bookings: within.length });
      }
    }
  }
});

it('sums follow whatever is done to bookings, before and after they are added up', async () => {
  const pool = server.running.platform.pool;
  const hal = await server.as('hal.teague');
  const sums = async () => {
    const groups = {} as Record<LedgerGroup, unknown>;
    for (const group of ['place', 'state', 'site', 'kind', 'floor'] as const)
      groups[group] = (
        await ask('hal.teague', { from: '2035-01-01', to: '2035-12-31', group })
      ).map(({ label, bookings: n, minutes }) => [label, n, minutes]);
    return groups;
  };
  const made = await hal.post<EventDetail>(
    '/api/events',
    meetingRequest({
      attendees: [],
      resources: [await server.id('Gannet')],
      times: bergenTimes('2035-02-05T10:00', '2035-02-05T11:00'),
      repeats: { rule: 'FREQ=WEEKLY;COUNT=10' },
    }),
  );
  expect(made.status).toBe(201);
  const site = (await sums()).site;
  expect(await sums()).toEqual({
    place: [['Gannet', 10, 600]],
    state: [['held', 10, 600]],
    site,
    kind: [['room', 10, 600]],
    floor: expect.anything() as unknown,
  });
  await foldTally(pool);
  const cancelled = await hal.request('POST', `/api/events/${made.body.id}/cancel`, {
    version: made.body.version,
    scope: 'one',
    occurrence: '2035-02-12T10:00',
    tell: 'nobody',
  });
  expect(cancelled.status).toBe(200);
  expect((await sums()).place).toEqual([['Gannet', 9, 540]]);
  const moved = await hal.patch(`/api/events/${made.body.id}`, {
    version: made.body.version + 1,
    scope: 'one',
    occurrence: '2035-02-19T10:00',
    times: bergenTimes('2035-04-30T10:00', '2035-04-30T12:00'),
    tell: 'nobody',
  });
  expect(moved.status).toBe(200);
  expect((await sums()).place).toEqual([['Gannet', 9, 600]]);
  await foldTally(pool);
  expect((await sums()).place).toEqual([['Gannet', 9, 600]]);
  await server.sql('delete from event where id = $1', [made.body.id]);
  expect((await sums()).place).toEqual([]);
  await foldTally(pool);
  const left = await server.sql(
    `select 1 from booking_tally where bookings = 0 and minutes = 0
     union all select 1 from booking_tally_change`,
  );
  expect(left).toEqual([]);
});

it('two who add up at once add nothing twice, while somebody books', async () => {
  const pool = server.running.platform.pool;
  const starts = Array.from({ length: 400 }, (_, k) => Date.UTC(2037, 0, 5) + k * HOUR);
  const parts = [0, 1, 2, 3].map((k) => starts.slice(k * 100, k * 100 + 100));
  await Promise.all([
    ...parts.map((part) => bookings('Petrel', part, 15)),
    ...[1, 2, 3, 4].map(() => foldTally(pool)),
  ]);
  const count = async () =>
    (await ask('hal.teague', { from: '2037-01-01', to: '2037-12-31', group: 'place' })).map(
      (one) => one.bookings,
    );
  expect(await count()).toEqual([400]);
  await Promise.all([foldTally(pool), foldTally(pool)]);
  expect(await count()).toEqual([400]);
});
