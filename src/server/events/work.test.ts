import pg from 'pg';
import { describe, expect, it, vi } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { CreateEventRequest } from '../../contract/events.ts';
import type { LedgerChanged } from '../../contract/ledger.ts';
import { addDays } from '../../core/time/wall.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/** No jobs, so that every statement is one of the action that is counted. */
const server = useServer({ works: false });

/** The statements that a piece of work sends to the database, from the session to the commit. */
async function statements(work: () => Promise<{ status: number }>, status: number) {
  const spy = vi.spyOn(pg.Client.prototype, 'query');
  try {
    expect((await work()).status).toBe(status);
    return spy.mock.calls
      .map(([text]) => String(text))
      .filter((text) => !text.startsWith('select pg_notify($1, $2)'));
  } finally {
    spy.mockRestore();
  }
}

const key = (name: string) => ({ 'Idempotency-Key': `work-per-action-${name}` });

describe('an action takes so many statements and no more', () => {
  it('booking a room: 14, with the letter that confirms it', async () => {
    const ines = await server.as('ines.aldabe');
    const request = meetingRequest({
      times: bergenTimes('2027-06-01T10:00', '2027-06-01T11:00'),
      resources: [await server.id('Gannet')],
    });
    const sent = await statements(() => ines.post('/api/events', request, key('booking')), 201);
    expect(sent).toContain('begin');
    expect(sent.length).toBeLessThanOrEqual(14);
  });

  it('a meeting with 40 guests and a room: 28, with a letter to each', async () => {
    const ines = await server.as('ines.aldabe');
    const people = await server.sql<{ id: number }>(
      `select subject_id as id from person where email <> 'ines.aldabe@ternrock.example'
       order by subject_id limit 40`,
    );
    const request = meetingRequest({
      title: 'Forty guests',
      times: bergenTimes('2027-06-01T12:00', '2027-06-01T13:00'),
      attendees: people.map(({ id }) => ({ personId: id, role: 'required' as const })),
      resources: [await server.id('Gannet')],
    });
    const sent = await statements(() => ines.post('/api/events', request, key('forty')), 201);
    expect(sent.length).toBeLessThanOrEqual(28);
    expect(await server.sql(`select 1 from mail where subject like '%Forty guests%'`)).toHaveLength(
      40,
    );
  });

  it('one answer to a daily series of 50 people: 12, and no more claims than its own are touched', async () => {
    const ines = await server.as('ines.aldabe');
    const people = await server.sql<{ id: number }>(
      `select subject_id as id from person where email not like 'ines.aldabe@%'
       order by password_hash is null, subject_id limit 50`,
    );
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Each day',
        times: bergenTimes('2027-06-01T04:00', '2027-06-01T04:15'),
        attendees: people.map(({ id }) => ({ personId: id, role: 'required' as const })),
        repeats: { rule: 'FREQ=DAILY' },
      }),
    );
    const { id } = made.body;
    const tomas = await server.as('tomas.okafor');
    const tomasId = await server.id('Tomas Okafor');
    const others = async () =>
      server.sql(
        `select claim.id, claim.xmin::text from claim
         join occurrence on occurrence.id = claim.occurrence_id
         where event_id = $1 and subject_id <> $2 order by claim.id`,
        [id, tomasId],
      );
    const his = () =>
      server.sql<{ occupancy: string; count: number }>(
        `select occupancy, count(*)::int as count from claim
         join occurrence on occurrence.id = claim.occurrence_id
         where event_id = $1 and subject_id = $2 group by 1 order by 1`,
        [id, tomasId],
      );
    const before = await others();
    expect(before.length).toBeGreaterThan(30_000);
    const answer = (body: object) =>
      statements(() => tomas.post(`/api/invitations/${id}/reply`, body), 200);
    expect((await answer({ reply: 'accepted' })).length).toBeLessThanOrEqual(12);
    const [all] = await his();
    expect(all).toMatchObject({ occupancy: 'busy' });
    const one = await answer({ reply: 'declined', occurrence: '2027-06-05T04:00' });
    expect(one.length).toBeLessThanOrEqual(12);
    expect(await his()).toEqual([{ occupancy: 'busy', count: all!.count - 1 }]);
    await answer({ reply: 'tentative' });
    expect((await his()).map((row) => row.occupancy)).toEqual(['tentative']);
    await answer({ reply: 'declined' });
    expect(await his()).toEqual([]);
    expect(await others()).toEqual(before);
  });

  it('a refusal on sixty dates of a series: as few as on one', async () => {
    const ines = await server.as('ines.aldabe');
    const gannet = await server.id('Gannet');
    const series = (count: number): CreateEventRequest =>
      meetingRequest({
        times: bergenTimes('2027-06-02T05:00', '2027-06-02T05:30'),
        repeats: { rule: `FREQ=DAILY;COUNT=${count}` },
        resources: [gannet],
      });
    expect((await ines.post('/api/events', series(60))).status).toBe(201);
    const one = await statements(() => ines.post('/api/events', series(1)), 409);
    const sixty = await statements(() => ines.post('/api/events', series(60)), 409);
    expect(sixty.length).toBe(one.length);
  });
});

describe('many are changed in as many statements as one', () => {
  type Booked = { id: string; start: number };
  const COUNT = 40;

  /** Bookings of one place, an hour apart, and what the ledger calls them. */
  async function booked(place: string, day: string): Promise<{ first: Booked[]; all: Booked[] }> {
    const ines = await server.as('ines.aldabe');
    const resources = [await server.id(place)];
    const ids: string[] = [];
    for (let k = 0; k < COUNT; k++) {
      const [date, hour] = [addDays(day, Math.floor(k / 5)), `0${k % 5}`];
      const times = bergenTimes(`${date}T${hour}:00`, `${date}T${hour}:45`);
      const made = await ines.post<EventDetail>(
        '/api/events',
        meetingRequest({ title: `Of many ${k}`, times, resources }),
      );
      expect(made.status).toBe(201);
      ids.push(made.body.id);
    }
    const rows = await server.sql<Booked>(
      `select reservation.id::text, reservation.starts_at as start
       from reservation join occurrence on occurrence.id = occurrence_id
       where occurrence.event_id = any($1) order by reservation.starts_at`,
      [ids],
    );
    return { first: rows.slice(0, 1), all: rows.slice(1) };
  }

  it.each([
    [
      'shifted by an hour, each into the time of the next',
      { kind: 'shift', minutes: 60 },
      '2028-06-01',
    ],
    ['put into another place', { kind: 'place', placeId: 0 }, '2028-06-11'],
    ['given back', { kind: 'give-back' }, '2028-06-21'],
  ])('bookings %s', async (_, asked, day) => {
    const ines = await server.as('ines.aldabe');
    const { first, all } = await booked('Gannet', day);
    const change =
      asked.kind === 'place' ? { ...asked, placeId: await server.id('Kittiwake') } : asked;
    let undo: LedgerChanged['undo'] = [];
    const work = (bookings: Booked[]) => async () => {
      const answer = await ines.post<LedgerChanged>('/api/ledger/change', { bookings, change });
      undo = answer.body.undo;
      return answer;
    };
    // The last alone, as the first of the others waits for its time.
    const one = await statements(work(asked.kind === 'shift' ? all.splice(-1) : first), 200);
    const many = await statements(work(all), 200);
    expect(all.length).toBeGreaterThan(30);
    expect(many.length).toBe(one.length);
    const back = () => ines.post('/api/ledger/undo', { changes: undo });
    const undone = await statements(back, 200);
    // What takes it back is read, too.
    expect(undone.length).toBeLessThanOrEqual(20);
    const stands = await server.sql<{ start: number }>(
      `select starts_at as start from reservation
       where resource_id = $1 and state = 'held' and starts_at = any($2) order by starts_at`,
      [await server.id('Gannet'), all.map((row) => new Date(row.start))],
    );
    expect(stands.map((row) => row.start)).toEqual(all.map((row) => row.start));
  });
});

it('single dates of many long series are changed together, however many dates those have', async () => {
  const ines = await server.as('ines.aldabe');
  const gannet = await server.id('Gannet');
  const ids: string[] = [];
  for (let k = 0; k < 20; k++) {
    const [from, to] = [k * 5, k * 5 + 4].map((minute) => {
      const [hour, rest] = [Math.floor(minute / 60), minute % 60];
      return `2030-01-07T0${hour}:${String(rest).padStart(2, '0')}`;
    });
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: `Each day ${k}`,
        times: bergenTimes(from!, to!),
        repeats: { rule: 'FREQ=DAILY' },
        resources: [gannet],
      }),
    );
    expect(made.status).toBe(201);
    ids.push(made.body.id);
  }
  const bookings = await server.sql<{ id: string; start: number }>(
    `select reservation.id::text, reservation.starts_at as start
     from reservation join occurrence on occurrence.id = occurrence_id
     where occurrence.event_id = any($1) and occurrence.recurrence_at::date = '2030-02-11'`,
    [ids],
  );
  expect(bookings).toHaveLength(20);
  const answer = await ines.post<LedgerChanged>('/api/ledger/change', {
    bookings,
    change: { kind: 'give-back' },
  });
  expect(answer).toMatchObject({ status: 200 });
  expect(answer.body.undo).toHaveLength(20);
});

/** Where each row stands and which transaction wrote it: the same while nobody has touched it. */
const rowsOf = async (eventIds: string[]) => ({
  occurrences: await server.sql(
    `select id, ctid::text, xmin::text from occurrence where event_id = any($1) order by id`,
    [eventIds],
  ),
  claims: await server.sql(
    `select claim.id, claim.ctid::text, claim.xmin::text
     from claim join occurrence on occurrence.id = claim.occurrence_id
     where event_id = any($1) order by claim.id`,
    [eventIds],
  ),
  reservations: await server.sql(
    `select reservation.id, reservation.ctid::text, reservation.xmin::text
     from reservation join occurrence on occurrence.id = reservation.occurrence_id
     where occurrence.event_id = any($1) order by reservation.id`,
    [eventIds],
  ),
});

describe('a change writes what it changes', () => {
  const weekly = async (start: string) => {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Tide tables',
        times: bergenTimes(`2027-07-07T${start}`, `2027-07-07T${start.slice(0, 3)}45`),
        repeats: { rule: 'FREQ=WEEKLY;COUNT=30' },
        attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
        resources: [await server.id('Gannet')],
      }),
    );
    expect(made.status).toBe(201);
    return { ines, id: made.body.id };
  };

  it('renaming a weekly series writes no occurrence, no reservation and no claim', async () => {
    const { ines, id } = await weekly('04:00');
    const before = await rowsOf([id]);
    expect(before.claims).toHaveLength(90);
    const renamed = await ines.patch<EventDetail>(`/api/events/${id}`, {
      version: 1,
      title: 'High water',
      description: '<p>By the harbour</p>',
    });
    expect(renamed.body).toMatchObject({ title: 'High water', version: 2, sequence: 0 });
    expect(await rowsOf([id])).toEqual(before);
  });

  it('renaming this and following moves rows to the new series without writing a claim', async () => {
    const { ines, id } = await weekly('03:00');
    const before = await rowsOf([id]);
    const answer = await ines.patch<EventDetail>(`/api/events/${id}`, {
      version: 1,
      scope: 'following',
      occurrence: '2027-09-01T03:00',
      title: 'Autumn tides',
    });
    expect(answer.status).toBe(200);
    const after = await rowsOf([id, answer.body.id]);
    expect(after.claims).toEqual(before.claims);
    // Which series they are of now is written beside dates and reservations, which stay the same ones.
    const ids = (rows: { id?: unknown }[]) => rows.map((row) => row.id);
    expect(ids(after.reservations)).toEqual(ids(before.reservations));
    expect(ids(after.occurrences)).toEqual(ids(before.occurrences));
  });

  it('moving one date writes that date alone, and its reservation stays the same one', async () => {
    const { ines, id } = await weekly('06:00');
    const before = await rowsOf([id]);
    await ines.patch(`/api/events/${id}`, {
      version: 1,
      scope: 'one',
      occurrence: '2027-08-04T06:00',
      times: bergenTimes('2027-08-05T06:15', '2027-08-05T07:00'),
    });
    const after = await rowsOf([id]);
    const changed = (name: keyof typeof before) =>
      after[name].filter((row, k) => row.ctid !== before[name][k]?.ctid).length;
    expect(after.reservations.map((row) => row.id)).toEqual(
      before.reservations.map((row) => row.id),
    );
    expect([changed('occurrences'), changed('claims')]).toEqual([1, 3]);
  });

  it('an answer writes only its own claims', async () => {
    const { id } = await weekly('07:00');
    const before = await rowsOf([id]);
    const tomas = await server.as('tomas.okafor');
    await tomas.post(`/api/invitations/${id}/reply`, { reply: 'accepted' });
    const after = await rowsOf([id]);
    expect(after.occurrences).toEqual(before.occurrences);
    const touched = after.claims.filter(
      (row) => !before.claims.some((one) => one.ctid === row.ctid && one.xmin === row.xmin),
    );
    expect(touched).toHaveLength(30);
  });
});
