import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { BoardResponse } from '../../contract/places.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { readBookingsNear } from './queries.ts';

const server = useServer();
const DAY = '2027-06-02';
const board = async (mailbox: string, query: string) =>
  (await (await server.as(mailbox)).get<BoardResponse & ProblemBody>(`/api/places/board?${query}`))
    .body;

describe('the board', () => {
  it('has every place of the kinds at a site, and who has each that day, as far as it may be seen', async () => {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Tide tables',
        visibility: 'private',
        times: bergenTimes(`${DAY}T09:00`, `${DAY}T10:00`),
        attendees: [],
        resources: [await server.id('Gannet'), await server.id('Fulmar')],
      }),
    );
    expect(made.status).toBe(201);
    const [site] = (await board('ines.aldabe', `date=${DAY}`)).sites.filter(
      (one) => one.name === 'Skerry House',
    );
    const query = `date=${DAY}&kind=room,lab&site=${site!.id}`;
    const mine = await board('ines.aldabe', query);
    expect(mine.zone).toBe('Europe/Oslo');
    expect(mine.edges).toEqual([Date.UTC(2027, 5, 1, 22), Date.UTC(2027, 5, 2, 22)]);
    expect(mine.places.map((one) => one.floor)).toEqual(
      mine.places.map((one) => one.floor).toSorted(),
    );
    expect(new Set(mine.places.map((one) => one.kind))).toEqual(new Set(['room', 'lab']));
    expect(mine.total).toBe(mine.places.length);
    const gannet = await server.id('Gannet');
    expect(mine.bookings.find((one) => one.resourceId === gannet)).toMatchObject({
      eventId: made.body.id,
      title: 'Tide tables',
      start: made.body.start,
      mine: true,
    });
    const theirs = await board('clara.weiss', query);
    expect(theirs.bookings.find((one) => one.resourceId === gannet)).toMatchObject({
      eventId: null,
      occurrence: null,
      title: null,
      mine: false,
    });
    // Kept free before and after is not the booking's own time.
    const fulmar = theirs.places.find((one) => one.name === 'Fulmar')!;
    expect([fulmar.prepareMinutes, fulmar.clearMinutes]).toEqual([15, 15]);
    expect(theirs.bookings.find((one) => one.resourceId === fulmar.id)!.start).toBe(
      made.body.start,
    );
  });

  it('shows one place over a fortnight, on its own clock, the long day of autumn included', async () => {
    const albatross = await server.id('Albatross');
    const answer = await board('ines.aldabe', `date=2027-03-29&days=14&place=${albatross}`);
    expect(answer.zone).toBe('Australia/Hobart');
    expect(answer.places).toHaveLength(1);
    const lengths = answer.edges.slice(1).map((edge, k) => (edge - answer.edges[k]!) / 3_600_000);
    expect(lengths).toEqual([24, 24, 24, 24, 24, 24, 25, 24, 24, 24, 24, 24, 24, 24]);
  });

  it('knows the places that somebody wants to see first, for themselves alone', async () => {
    const clara = await server.as('clara.weiss');
    const fulmar = await server.id('Fulmar');
    const favourites = async (mailbox: string) =>
      (await board(mailbox, `date=${DAY}`)).places
        .filter((one) => one.isFavourite)
        .map((one) => one.id);
    expect((await clara.request('PUT', `/api/places/${fulmar}/favourite`, {})).status).toBe(200);
    await clara.request('PUT', `/api/places/${fulmar}/favourite`, {});
    expect(await favourites('clara.weiss')).toEqual([fulmar]);
    expect(await favourites('ines.aldabe')).toEqual([]);
    const nowhere = await clara.request<ProblemBody>('PUT', '/api/places/999999/favourite', {});
    expect([nowhere.status, nowhere.body.code]).toEqual([404, 'no-such-place']);
    await server.sql(
      `insert into favourite_place
       select $1, subject_id from resource where subject_id <> all ($2)
       order by subject_id desc limit 49`,
      [await server.id('Clara Weiss'), [fulmar, await server.id('Gannet')]],
    );
    const count = (await favourites('clara.weiss')).length;
    const more = await clara.request<ProblemBody>(
      'PUT',
      `/api/places/${await server.id('Gannet')}/favourite`,
      {},
    );
    expect([count, more.body.code]).toEqual([50, 'too-many-favourites']);
    expect((await clara.request('DELETE', `/api/places/${fulmar}/favourite`)).status).toBe(200);
    expect(await favourites('clara.weiss')).toHaveLength(49);
  });

  it.each([
    ['date=tomorrow', 'date'],
    [`date=${DAY}&kind=castle`, 'kind.0'],
    [`date=${DAY}&days=7`, 'days'],
    [`date=${DAY}&days=15&place=1`, 'days'],
    [`date=${DAY}&place=999999`, 'place'],
  ])('refuses %s, naming the field', async (query, field) => {
    expect((await board('ines.aldabe', query)).fields?.map((one) => one.field)).toContain(field);
  });
});

it('has the same bookings for many places at once as for each by itself', async () => {
  const { pool } = server.running.platform;
  const [{ ids }] = (await server.sql<{ ids: number[] }>(
    'select array_agg(subject_id order by subject_id) as ids from resource',
  )) as [{ ids: number[] }];
  const me = [await server.id('Ines Aldabe')];
  const windows = [
    { start: Date.UTC(2026, 10, 24), end: Date.UTC(2026, 10, 26) },
    { start: Date.UTC(2026, 10, 25), end: Date.UTC(2026, 11, 1) },
  ];
  const byItself = await readBookingsNear(pool, me, ids, windows);
  expect(byItself.length).toBeGreaterThan(20);
  // None has these ids, but there are many.
  const many = [...ids, ...Array.from({ length: 400 }, (_, k) => 900_000 + k)];
  expect(await readBookingsNear(pool, me, many, windows)).toEqual(byItself);
  expect(await readBookingsNear(pool, me, [ids[0]!, ...many.slice(-399)], windows)).toEqual(
    byItself.filter((one) => one.resourceId === ids[0]),
  );
});
