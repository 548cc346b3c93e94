import { describe, expect, it } from 'vitest';
import type { ImportResponse, PlacePreview } from '../../contract/catalogue.ts';
import type { ClosurePreview } from '../../contract/closures.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Place, PlacesResponse } from '../../contract/places.ts';
import { NO_RULES } from '../../core/booking/rules.ts';
import { HOUR, MINUTE } from '../../core/time/interval.ts';
import { weekOf } from '../../core/time/workingHours.ts';
import { meetingRequest, newPlace } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* Places as stewards keep them: added, changed, retired, read from a file. */
const server = useServer();
const START = Date.UTC(2027, 10, 2, 9);
const wall = (instant: number) => new Date(instant).toISOString().slice(0, 16);
const steward = () => server.as('ines.aldabe');

type Answer<T> = T & Omit<ProblemBody, 'status' | 'fields'> & Required<Pick<ProblemBody, 'fields'>>;
const send = async <T = object>(method: string, path: string, body: unknown) =>
  (await steward()).request<Answer<T>>(method, `/api/catalogue${path}`, body);

async function add(more: Parameters<typeof newPlace>[0] = {}) {
  const made = await send<{ id: number }>('POST', '/places', newPlace(more));
  expect(made.status).toBe(201);
  return made.body.id;
}
const placeOf = async (id: number) =>
  (await (await steward()).get<Place>(`/api/places/${id}`)).body;

async function book(mailbox: string, place: number, start: number, end: number) {
  const client = await server.as(mailbox);
  const made = await client.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Slides',
      times: { startsAt: wall(start), endsAt: wall(end), zone: 'UTC' },
      attendees: [],
      resources: [place],
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}
const claimsOf = (place: number) =>
  server.sql<{ unit: number; start: number; end: number }>(
    `select unit, lower(during) as start, upper(during) as "end" from claim
     where subject_id = $1 order by lower(during), unit`,
    [place],
  );

describe('a steward', () => {
  it('adds a place, which is there for all at once, its name once at its site', async () => {
    const rules = { ...NO_RULES, open: weekOf({ start: 540, end: 1020 }).map((day) => [...day]) };
    const id = await add({ name: 'Auklet', rules: { ...rules, teams: null } });
    const tomas = await server.as('tomas.okafor');
    const { body } = await tomas.get<PlacesResponse>('/api/places?q=auklet');
    expect(body.places).toMatchObject([{ id, ruleWords: ['open Mon–Fri 09:00–17:00'] }]);
    const twice = await send('POST', '/places', newPlace({ name: 'AUKLET' }));
    expect([twice.status, twice.body.fields[0]?.field]).toEqual([400, 'name']);
    const nowhere = await send('POST', '/places', newPlace({ siteId: 99_999 }));
    expect(nowhere.body.fields[0]?.field).toBe('siteId');
    const noTeam = { ...NO_RULES, open: null, teams: [99_999] };
    const forNobody = await send('POST', '/places', newPlace({ name: 'Murre', rules: noTeam }));
    expect(forNobody.body.fields[0]?.field).toBe('rules.teams');
  });

  it('changes one, as it was read, and sees before what its bookings would stand against', async () => {
    const id = await add({ name: 'Dunlin' });
    const early = await book('tomas.okafor', id, START - 3 * HOUR, START - 2 * HOUR);
    await book('clara.weiss', id, START, START + HOUR);
    const open = weekOf({ start: 9 * 60, end: 17 * 60 });
    const rules = { ...NO_RULES, open };
    const seen = await send<PlacePreview>('POST', `/places/${id}/preview`, { rules });
    expect(seen.body).toMatchObject({
      total: 1,
      // What it is for is shared with colleagues no more than with anybody else.
      against: [{ start: early.start, title: null, holder: 'Tomas Okafor' }],
      impossible: null,
    });
    expect(seen.body.against[0]!.broken).toEqual(['is open 09:00–17:00 on Tue 2 Nov']);
    expect((await placeOf(id)).rules.open).toBeNull();
    const changed = await send('PATCH', `/places/${id}`, { version: 1, rules, floor: '3' });
    expect(changed.body).toMatchObject({ version: 2 });
    expect(await placeOf(id)).toMatchObject({ floor: '3', version: 2, rules: { open } });
    // It stands as it was made.
    expect(await claimsOf(id)).toHaveLength(2);
    const stale = await send('PATCH', `/places/${id}`, { version: 1, floor: '4' });
    expect([stale.status, stale.body.code]).toEqual([409, 'stale']);
    const again = await send<PlacePreview>('POST', `/places/${id}/preview`, { rules });
    expect(again.body.total).toBe(0);
  });

  it('keeps more free around bookings where they leave room for it', async () => {
    const id = await add({ name: 'Dunlin nook' });
    await book('tomas.okafor', id, START, START + HOUR);
    await book('clara.weiss', id, START + 2 * HOUR, START + 3 * HOUR);
    const wide = await send('PATCH', `/places/${id}`, {
      version: 1,
      prepareMinutes: 45,
      clearMinutes: 30,
    });
    expect([wide.status, wide.body.code]).toEqual([409, 'too-close']);
    expect(wide.body.detail).toMatch(
      /^1 booking would be too close to the one before, the first Tue 2 Nov/,
    );
    const seen = await send<PlacePreview>('POST', `/places/${id}/preview`, { prepareMinutes: 61 });
    expect(seen.body.impossible).toMatch(/^1 booking would be too close/);
    const fits = await send('PATCH', `/places/${id}`, {
      version: 1,
      prepareMinutes: 15,
      clearMinutes: 30,
    });
    expect(fits.status).toBe(200);
    expect(await claimsOf(id)).toEqual([
      { unit: 1, start: START - 15 * MINUTE, end: START + 90 * MINUTE },
      { unit: 1, start: START + 105 * MINUTE, end: START + 210 * MINUTE },
    ]);
  });

  it('lowers the units as far as what is booked leaves one for everybody', async () => {
    const id = await add({ name: 'Sounder', kind: 'equipment', units: 3 });
    for (const mailbox of ['tomas.okafor', 'clara.weiss', 'hal.teague'])
      await book(mailbox, id, START, START + HOUR);
    await book('grace.paul', id, START + 2 * HOUR, START + 3 * HOUR);
    const refused = await send('PATCH', `/places/${id}`, { version: 1, units: 2 });
    expect([refused.status, refused.body.code]).toEqual([409, 'units-in-use']);
    expect(refused.body.detail).toMatch(/^1 booking would have no unit left, the first Tue 2 Nov/);
    expect((await claimsOf(id)).map((one) => one.unit)).toEqual([1, 2, 3, 1]);
    const [third] = await server.sql<{ id: string }>(
      `select occurrence.event_id as id from claim join occurrence on occurrence.id = occurrence_id
       where subject_id = $1 and unit = 1 and lower(during) = $2`,
      [id, new Date(START)],
    );
    const holder = await server.as('tomas.okafor');
    await holder.post(`/api/events/${third!.id}/cancel`, { version: 1 });
    const lowered = await send('PATCH', `/places/${id}`, { version: 1, units: 2 });
    expect(lowered.status).toBe(200);
    expect((await claimsOf(id)).map((one) => one.unit)).toEqual([1, 2, 1]);
  });

  it('retires one: its bookings go elsewhere, and nobody sees or books it any more', async () => {
    const id = await add({ name: 'Turnstone', capacity: 4 });
    const booked = await book('tomas.okafor', id, START, START + HOUR);
    const client = await steward();
    const { body: seen } = await client.get<ClosurePreview>(`/api/catalogue/places/${id}/retire`);
    const [only] = seen.bookings;
    const { move } = only!;
    const moves = [
      {
        eventId: booked.id,
        occurrence: null,
        placeId: move!.placeId,
        start: move!.start,
        end: move!.end,
      },
    ];
    const stale = await send('POST', `/places/${id}/retire`, { version: 7, moves });
    expect([stale.status, stale.body.code]).toEqual([409, 'stale']);
    expect(await claimsOf(id)).toHaveLength(1);
    const done = await send('POST', `/places/${id}/retire`, { version: 1, moves });
    expect(done.body).toMatchObject({ moved: 1, without: 0 });
    const { body: list } = await client.get<PlacesResponse>('/api/places?q=turnstone');
    expect(list.total).toBe(0);
    const { body: found } = await client.get<{ found: unknown[] }>('/api/search?q=turnstone');
    expect(found.found).toEqual([]);
    const late = await client.post<ProblemBody>(
      '/api/events',
      meetingRequest({
        times: { startsAt: wall(START), endsAt: wall(START + HOUR), zone: 'UTC' },
        attendees: [],
        resources: [id],
      }),
    );
    expect([late.status, late.body.code]).toEqual([409, 'place-retired']);
    expect(late.body.detail).toBe('Turnstone is retired: nobody books it any more.');
    const again = await send('POST', `/places/${id}/retire`, { version: 2, moves: [] });
    expect(again.status).toBe(404);
    // Its name is free for another.
    await add({ name: 'Turnstone' });
  });
});

describe('a file of places', () => {
  const read = (rows: Record<string, string>[], check: boolean) =>
    send<ImportResponse>('POST', '/import', { rows, check });
  const site = 'Skerry House';
  const nothing = {
    ...{ added: 0, changed: 0, returned: 0, retired: 0, same: 0 },
    ...{ against: [], problems: [], changes: [] },
  };
  const { changes: _changes, ...applied } = nothing;

  it('is looked at first, then all of it is taken, and the same again changes nothing', async () => {
    const rows: Record<string, string>[] = [
      { name: 'Knot', kind: 'room', site, floor: '1', seats: '5', features: 'screen; video' },
      { name: 'Ruff', kind: 'desk', site, seats: '1', description: 'By the window' },
    ];
    expect((await read(rows, true)).body).toEqual({ ...nothing, added: 2 });
    const { body: none } = await (await steward()).get<PlacesResponse>('/api/places?q=knot');
    expect(none.total).toBe(0);
    expect((await read(rows, false)).body).toMatchObject({ added: 2 });
    expect((await read(rows, false)).body).toMatchObject({ ...applied, same: 2 });
    const later = [{ name: 'knot', site, floor: '2' }];
    expect((await read(later, false)).body).toMatchObject({ changed: 1, problems: [] });
    const { body } = await (await steward()).get<PlacesResponse>('/api/places?q=knot');
    expect(body.places).toMatchObject([
      { name: 'knot', floor: '2', capacity: 5, features: ['screen', 'video'] },
    ]);
  });

  it('with anything wrong in it is refused by row and column, and nothing is done', async () => {
    const { body } = await read(
      [
        { name: 'Whimbrel', kind: 'room', site },
        { name: '', kind: 'cellar', site: 'Nowhere', seats: 'many', colour: 'red' },
        { name: 'whimbrel', kind: 'room', site },
        { name: 'Gannet', site, open: 'Mon to Fri', teams: 'Nobody', 'price an hour': 'much' },
        { name: 'Dotterel', site, retired: 'yes', approval: 'perhaps', 'days ahead': '-1' },
      ],
      false,
    );
    expect(body.problems.map(({ row, field }) => [row, field])).toEqual([
      // Of the heading, and once.
      [0, 'colour'],
      [2, 'name'],
      [2, 'kind'],
      [2, 'site'],
      [2, 'seats'],
      [3, 'name'],
      [4, 'open'],
      [4, 'teams'],
      [4, 'price an hour'],
      [5, 'approval'],
      [5, 'days ahead'],
    ]);
    expect(body.problems.find(({ field }) => field === 'kind')!.message).toMatch(
      /^“cellar” must be/,
    );
    const { body: none } = await (await steward()).get<PlacesResponse>('/api/places?q=whimbrel');
    expect(none.total).toBe(0);
  });

  it('changes units and what is kept free of several places at once, as far as bookings leave room', async () => {
    const [buoy, raft, hut] = [
      await add({ name: 'Buoy', kind: 'equipment', units: 3 }),
      await add({ name: 'Raft', kind: 'equipment', units: 1 }),
      await add({ name: 'Hut' }),
    ];
    for (const mailbox of ['tomas.okafor', 'clara.weiss'])
      await book(mailbox, buoy, START, START + HOUR);
    await book('hal.teague', hut, START, START + HOUR);
    await book('grace.paul', hut, START + 2 * HOUR, START + 3 * HOUR);
    const row = (name: string, more: Record<string, string>) => ({ name, site, ...more });
    const refused = await read(
      [
        row('Buoy', { units: '1' }),
        row('Raft', { units: '4' }),
        row('Hut', { 'minutes before': '90' }),
      ],
      false,
    );
    expect(refused.body.problems).toMatchObject([
      { row: 1, field: 'units', message: expect.stringMatching(/1 booking would have no unit/) },
      { row: 3, field: 'minutes before', message: expect.stringMatching(/1 booking would be too/) },
    ]);
    expect((await placeOf(raft)).units).toBe(1);

    const rows = [
      row('Buoy', { units: '2' }),
      row('Raft', { units: '4' }),
      row('Hut', { 'minutes before': '30', 'minutes after': '15' }),
    ];
    expect((await read(rows, false)).body).toMatchObject({ ...applied, changed: 3 });
    expect((await claimsOf(buoy)).map((one) => one.unit)).toEqual([1, 2]);
    expect((await placeOf(raft)).units).toBe(4);
    expect(await claimsOf(hut)).toEqual([
      { unit: 1, start: START - 30 * MINUTE, end: START + 75 * MINUTE },
      { unit: 1, start: START + 90 * MINUTE, end: START + 195 * MINUTE },
    ]);
  });

  it('changes rules, says first what stands against them, and leaves those it says nothing of', async () => {
    const id = await add({ name: 'Greenshank' });
    const early = await book('tomas.okafor', id, START - 3 * HOUR, START - 2 * HOUR);
    const [team] = await server.sql<{ name: string }>('select name from team order by id limit 1');
    const rows = [
      {
        ...{ name: 'Greenshank', site, open: 'Mon–Fri 09:00–17:00; Sat 9–12', approval: 'yes' },
        ...{ 'longest minutes': '240', 'days ahead': '', 'price an hour': '600.50 nok' },
        teams: team!.name,
      },
    ];
    const seen = await read(rows, true);
    expect(seen.body).toMatchObject({
      ...{ changed: 1, problems: [] },
      against: [
        {
          ...{ name: 'Greenshank', site, total: 1 },
          first: { start: early.start, holder: 'Tomas Okafor' },
        },
      ],
    });
    expect((await placeOf(id)).rules.open).toBeNull();
    await read(rows, false);
    const open = weekOf({ start: 540, end: 1020 }).map((day) => [...day]);
    open[5] = [{ start: 540, end: 720 }];
    const { rules } = await placeOf(id);
    expect(rules).toMatchObject({ open, approval: true, longestMinutes: 240, horizonDays: null });
    expect(rules.hourlyPrice).toEqual({ hundredths: 60_050, currency: 'NOK' });
    expect(rules.teams).toHaveLength(1);
    // Its booking stands as it was made.
    expect(await claimsOf(id)).toHaveLength(1);
    const lifted = [{ name: 'Greenshank', site, open: 'none', approval: 'no', teams: 'None' }];
    expect((await read(lifted, false)).body).toMatchObject({ changed: 1, against: [] });
    expect((await placeOf(id)).rules).toMatchObject({
      ...{ open: null, approval: null, teams: null, longestMinutes: 240 },
    });
  });

  it('gives places to people and to nobody, and says first whose bookings stand there', async () => {
    const id = await add({ name: 'Ruff nook', kind: 'desk' });
    const [mika, clara] = await Promise.all([server.id('Mika Sandoval'), server.id('Clara Weiss')]);
    await book('mika.sandoval', id, START, START + HOUR);
    await book('tomas.okafor', id, START + 2 * HOUR, START + 3 * HOUR);
    const rows: Record<string, string>[] = [
      { name: 'Ruff nook', site, whose: 'Mika.Sandoval@ternrock.example' },
      { name: 'Whimbrel nook', site, kind: 'desk', whose: 'clara.weiss@ternrock.example' },
    ];
    const ownerOf = async (name: string) =>
      (
        await server.sql<{ owner_id: number | null; version: number }>(
          'select owner_id, version from resource join subject on subject.id = subject_id where name = $1',
          [name],
        )
      )[0];
    const seen = await read(rows, true);
    expect(seen.body).toMatchObject({
      ...{ added: 1, changed: 1, problems: [] },
      against: [
        {
          ...{ name: 'Ruff nook', total: 1 },
          first: { start: START + 2 * HOUR, holder: 'Tomas Okafor' },
        },
      ],
    });
    expect(seen.body.against[0]!.first.broken[0]).toMatch(/^is Mika Sandoval’s, who has not/);
    expect(await ownerOf('Ruff nook')).toEqual({ owner_id: null, version: 1 });
    await read(rows, false);
    expect(await ownerOf('Ruff nook')).toEqual({ owner_id: mika, version: 2 });
    expect(await ownerOf('Whimbrel nook')).toMatchObject({ owner_id: clara });
    // Days that its owner gave free stay with them, and are forgotten with the next.
    await server.sql(`insert into place_free_day values ($1, '2099-01-01')`, [id]);
    expect((await read(rows, false)).body).toMatchObject({ ...applied, same: 2 });
    expect(
      await server.sql('select 1 from place_free_day where resource_id = $1', [id]),
    ).toHaveLength(1);
    const others = [
      { name: 'Ruff nook', site, whose: 'none' },
      { name: 'Whimbrel nook', site, whose: 'nobody@elsewhere.example' },
    ];
    const refused = await read(others, false);
    expect(refused.body.problems).toEqual([
      {
        row: 2,
        field: 'whose',
        message: expect.stringMatching(/^“.+” must be the address of somebody here, or none$/),
      },
    ]);
    expect((await read(others.slice(0, 1), false)).body).toMatchObject({ ...applied, changed: 1 });
    expect(await ownerOf('Ruff nook')).toMatchObject({ owner_id: null });
    expect(await server.sql('select 1 from place_free_day where resource_id = $1', [id])).toEqual(
      [],
    );
  });

  it('retires places in which nothing is booked any more', async () => {
    const [free, taken] = [await add({ name: 'Redshank' }), await add({ name: 'Pratincole' })];
    await book('tomas.okafor', taken, START, START + HOUR);
    const rows = [
      { name: 'Redshank', site, retired: 'yes' },
      { name: 'Pratincole', site, retired: 'yes' },
    ];
    const refused = await read(rows, false);
    expect(refused.body.problems).toMatchObject([{ row: 2, field: 'retired' }]);
    expect(refused.body.problems[0]!.message).toMatch(/^must be no while it has 1 booking to come/);
    expect(await placeOf(free)).toMatchObject({ name: 'Redshank' });
    const done = await read(rows.slice(0, 1), false);
    expect(done.body).toMatchObject({ ...applied, retired: 1 });
    const { body: gone } = await (await steward()).get<PlacesResponse>('/api/places?q=redshank');
    expect(gone.total).toBe(0);
  });
});
