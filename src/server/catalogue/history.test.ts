import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import type { ImportResponse, NewPlaceRequest } from '../../contract/catalogue.ts';
import type { ChangesUndone, LogEntry } from '../../contract/changes.ts';
import type { ClosurePreview, OutOfUse } from '../../contract/closures.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Place, PlacesResponse } from '../../contract/places.ts';
import { HOUR } from '../../core/time/interval.ts';
import { weekOf } from '../../core/time/workingHours.ts';
import { meetingRequest, newPlace } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* What was done to places is kept with whoever did it, and taken back as far as nobody changed it since. */
const server = useServer();
const START = Date.UTC(2027, 10, 2, 9);
const wall = (instant: number) => new Date(instant).toISOString().slice(0, 16);
const steward = () => server.as('ines.aldabe');
const send = async <T>(method: string, path: string, body?: unknown) =>
  (await steward()).request<T>(method, path, body);

const add = async (more: Partial<NewPlaceRequest>) =>
  (
    await send<{ id: number; change: number }>(
      'POST',
      '/api/catalogue/places',
      newPlace({ features: [], ...more }),
    )
  ).body;
const placeOf = async (id: number) => (await send<Place>('GET', `/api/places/${id}`)).body;
/** Changes a place as it is now. @returns by which that is taken back */
async function change(id: number, part: Partial<NewPlaceRequest>): Promise<number> {
  const { version } = await placeOf(id);
  const done = await send<{ change: number }>('PATCH', `/api/catalogue/places/${id}`, {
    version,
    ...part,
  });
  expect(done.status).toBe(200);
  return done.body.change;
}
const undo = (...changes: number[]) =>
  send<ChangesUndone & ProblemBody>('POST', '/api/changes/undo', { changes });
const logOf = async (id: number) =>
  (await send<{ entries: LogEntry[] }>('GET', `/api/changes?place=${id}`)).body.entries;
const whatOf = async (id: number) => (await logOf(id)).map((one) => one.what);

async function book(place: number, start: number, mailbox = 'tomas.okafor') {
  const made = await (
    await server.as(mailbox)
  ).post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Slides',
      times: { startsAt: wall(start), endsAt: wall(start + HOUR), zone: 'UTC' },
      attendees: [],
      resources: [place],
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

describe('a change of a place', () => {
  it('is kept in words with whoever did it, and taken back', async () => {
    const { id } = await add({ name: 'Whimbrel', capacity: 8 });
    const open = structuredClone(
      weekOf({ start: 480, end: 1080 }),
    ) as NewPlaceRequest['rules']['open'];
    const changed = await change(id, {
      name: 'Old Whimbrel',
      capacity: 10,
      rules: { ...newPlace().rules, open },
    });
    expect(await logOf(id)).toMatchObject([
      {
        actor: 'Ines Aldabe',
        change: changed,
        what: 'changed name Whimbrel → Old Whimbrel; seats 8 → 10; open always → Mon–Fri 08:00–18:00',
      },
      { actor: 'Ines Aldabe', what: 'added it' },
    ]);
    expect((await undo(changed)).body).toMatchObject({ undone: 1, gone: 0, left: [] });
    expect(await placeOf(id)).toMatchObject({ name: 'Whimbrel', capacity: 8 });
    expect((await logOf(id))[0]).toMatchObject({ change: null });
    expect((await whatOf(id))[0]).toContain('seats 10 → 8');
    // Once, however often it is asked.
    expect(await undo(changed)).toMatchObject({ status: 409, body: { code: 'nothing-to-undo' } });
  });

  it('leaves alone what was changed since, and says what', async () => {
    const { id } = await add({ name: 'Avocet', capacity: 8 });
    const changed = await change(id, { capacity: 10, floor: '3' });
    await change(id, { capacity: 12 });
    expect((await undo(changed)).body).toMatchObject({
      undone: 1,
      left: ['seats of Avocet, changed since'],
    });
    expect(await placeOf(id)).toMatchObject({ capacity: 12, floor: '1' });
    const seats = await change(id, { capacity: 14 });
    await change(id, { capacity: 15 });
    const refused = await undo(seats);
    expect(refused).toMatchObject({ status: 409, body: { code: 'changed-since' } });
    expect(refused.body.detail).toBe('It stays as it is: seats of Avocet, changed since.');
    expect(await placeOf(id)).toMatchObject({ capacity: 15 });
  });

  it('of its units is taken back only while nobody has those that go', async () => {
    const { id } = await add({ name: 'Locker', units: 1 });
    const more = await change(id, { units: 2, description: 'By the stairs' });
    await book(id, START);
    await book(id, START, 'hal.teague');
    const refused = await undo(more);
    expect(refused.status).toBe(409);
    expect(refused.body.detail).toContain('Locker, where 1 booking would have no unit left');
    expect(await placeOf(id)).toMatchObject({ units: 2, description: 'By the stairs' });
  });

  it('of whose it is', async () => {
    const { id } = await add({ name: 'Desk by the door', kind: 'desk', capacity: 1 });
    const hal = await server.id('Hal Teague');
    await send('PUT', `/api/places/${id}/owner`, { personId: hal });
    const [entry] = await logOf(id);
    expect(entry!.what).toBe('changed whose it is nobody’s → Hal Teague');
    expect((await undo(entry!.change!)).status).toBe(200);
    expect((await placeOf(id)).rules.assigned).toBeUndefined();
  });

  it('is known to those who look after places, and taken back by nobody else', async () => {
    const { id, change: added } = await add({ name: 'Shag' });
    const hal = await server.as('hal.teague');
    expect((await hal.get(`/api/changes?place=${id}`)).status).toBe(403);
    expect((await hal.post('/api/changes/undo', { changes: [added] })).status).toBe(403);
    const wrong = await undo();
    expect(wrong).toMatchObject({ status: 400, body: { fields: [{ field: 'changes' }] } });
  });
});

describe('a place that was added', () => {
  it('goes again, unless it is booked by now', async () => {
    const one = await add({ name: 'Small stoat' });
    expect((await undo(one.change)).status).toBe(200);
    expect((await send<PlacesResponse>('GET', '/api/places?q=stoat')).body.total).toBe(0);
    const other = await add({ name: 'Small stoat' });
    await book(other.id, START);
    const refused = await undo(other.change);
    expect(refused).toMatchObject({ status: 409, body: { code: 'changed-since' } });
    expect(refused.body.detail).toContain('Small stoat, which is booked by now');
    expect((await placeOf(other.id)).name).toBe('Small stoat');
  });
});

describe('a place that was retired', () => {
  const retire = async (id: number) => {
    const { version } = await placeOf(id);
    const seen = await send<ClosurePreview>('GET', `/api/catalogue/places/${id}/retire`);
    return send<{ change: number; moved: number }>('POST', `/api/catalogue/places/${id}/retire`, {
      version,
      moves: seen.body.bookings.map(({ eventId, occurrence, move }) => ({
        ...{ eventId, occurrence, placeId: move!.placeId },
        ...{ start: move!.start, end: move!.end },
      })),
    });
  };

  it('is back with the bookings that went elsewhere', async () => {
    const { id } = await add({ name: 'Turnstone', capacity: 4 });
    const booked = await book(id, START);
    const done = await retire(id);
    expect(done.body.moved).toBe(1);
    expect((await undo(done.body.change)).body).toMatchObject({
      ...{ undone: 1, left: [] },
      bookings: { undone: 1, partly: 0, left: 0 },
    });
    const tomas = await server.as('tomas.okafor');
    const { body } = await tomas.get<EventDetail>(`/api/events/${booked.id}`);
    expect(body.resources.map((one) => one.id)).toEqual([id]);
    expect((await whatOf(id)).slice(0, 2).sort()).toEqual([
      'brought it back',
      expect.stringContaining('put it to use again') as string,
    ]);
    // As before, it can be booked, and retired.
    await book(id, START + 2 * HOUR);
    expect((await retire(id)).status).toBe(200);
  });

  it('is brought back by one way, with its bookings staying where they went', async () => {
    const { id } = await add({ name: 'Sanderling', capacity: 4 });
    const booked = await book(id, START + 30 * HOUR);
    await retire(id);
    const { body } = await send<{ places: OutOfUse[] }>('GET', '/api/closures');
    const listed = body.places.find((one) => one.placeId === id)!;
    expect(listed).toMatchObject({ place: 'Sanderling', reason: 'retired' });
    expect(listed.retiredAt).not.toBeNull();
    const path = `/api/places/${id}/closures/${listed.closureId}`;
    const wrong = await send<ProblemBody>('DELETE', path);
    expect(wrong).toMatchObject({ status: 409, body: { code: 'place-retired' } });
    const back = await send<{ change: number }>('POST', `/api/catalogue/places/${id}/return`, {});
    expect(back.status).toBe(200);
    await book(id, START + 30 * HOUR);
    const tomas = await server.as('tomas.okafor');
    const { body: moved } = await tomas.get<EventDetail>(`/api/events/${booked.id}`);
    expect(moved.resources.map((one) => one.id)).not.toEqual([id]);
    expect((await send('POST', `/api/catalogue/places/${id}/return`, {})).status).toBe(404);
    // Taken back it would be retired again, were it not booked by now.
    expect((await undo(back.body.change)).body.detail).toContain('booked by now');
  });

  it('stays so while another has its name', async () => {
    const { id } = await add({ name: 'Polecat' });
    const { change: gone } = (await retire(id)).body;
    await add({ name: 'polecat' });
    const refused = await undo(gone);
    expect(refused.body.detail).toContain('whose name is another place’s by now');
    const { body } = await send<PlacesResponse>('GET', '/api/places?q=polecat');
    expect(body.places.map((one) => one.name)).toEqual(['polecat']);
    const claims = await server.sql('select 1 from claim where subject_id = $1', [id]);
    expect(claims).toHaveLength(1);
  });
});

describe('a time out of use', () => {
  it('that was ended is there again, unless the place is booked by now', async () => {
    const { id } = await add({ name: 'Knot' });
    const shut = async (start: number) => {
      const done = await send<{ closure: { id: number } }>('POST', `/api/places/${id}/closures`, {
        ...{ start, end: start + HOUR, reason: 'A leak' },
      });
      const path = `/api/places/${id}/closures/${done.body.closure.id}`;
      return (await send<{ change: number }>('DELETE', path)).body.change;
    };
    const first = await shut(START);
    expect((await undo(first)).status).toBe(200);
    const taken = await (
      await server.as('hal.teague')
    ).post<ProblemBody>(
      '/api/events',
      meetingRequest({
        times: { startsAt: wall(START), endsAt: wall(START + HOUR), zone: 'UTC' },
        ...{ attendees: [], resources: [id] },
      }),
    );
    expect(taken.status).toBe(409);
    const second = await shut(START + 4 * HOUR);
    await book(id, START + 4 * HOUR);
    expect((await undo(second)).body.detail).toContain('Knot, which is booked by now');
  });
});

describe('a file of places', () => {
  it('is taken back as one, each place as far as it can be', async () => {
    const { id } = await add({ name: 'Dunlin', capacity: 3 });
    const site = 'Skerry House';
    const rows = [
      { name: 'Dunlin', kind: 'room', site, seats: '5', floor: '2' },
      ...Array.from({ length: 60 }, (_, k) => ({ name: `Annexe ${k}`, kind: 'desk', site })),
    ];
    const taken = await send<ImportResponse>('POST', '/api/catalogue/import', {
      ...{ rows, check: false },
    });
    expect(taken.body.changes).toHaveLength(61);
    const list = async () =>
      (await send<PlacesResponse>('GET', '/api/places?q=Annexe')).body.places.map((one) => one.id);
    const [kept] = await list();
    await book(kept!, START);
    const { status, body } = await undo(...taken.body.changes);
    expect([status, body.undone, body.left]).toEqual([
      200,
      60,
      [expect.stringMatching(/^Annexe \d+, which is booked by now$/) as string],
    ]);
    expect(await list()).toEqual([kept]);
    expect(await placeOf(id)).toMatchObject({ capacity: 3, floor: '1' });
    // The same file again brings back what was retired, and makes no second ones.
    const again = await send<ImportResponse>('POST', '/api/catalogue/import', {
      ...{ rows, check: false },
    });
    expect(again.body).toMatchObject({ added: 0, returned: 59, changed: 1, same: 1, problems: [] });
    expect(await list()).toHaveLength(60);
    expect((await undo(...again.body.changes)).body).toMatchObject({ undone: 60, left: [] });
    expect(await list()).toEqual([kept]);
  });

  it('is written as it is read: all there is, taken in again, changes nothing', async () => {
    await add({
      name: '=Rail',
      rules: {
        ...newPlace().rules,
        open: structuredClone(
          weekOf({ start: 480, end: 1080 }),
        ) as NewPlaceRequest['rules']['open'],
        horizonDays: 30,
        approval: true,
        hourlyPrice: { hundredths: 12_550, currency: 'NOK' },
      },
    });
    const ines = await steward();
    const text = (await ines.get<string>('/api/catalogue/places.csv')).body;
    const { data } = Papa.parse<Record<string, string>>(text, {
      header: true,
      skipEmptyLines: true,
    });
    expect(data.length).toBeGreaterThan(60);
    expect(data.find((one) => one.name === "'=Rail")).toMatchObject({
      ...{ 'days ahead': '30', approval: 'yes', 'price an hour': '125.5 NOK', retired: 'no' },
    });
    expect(data.some((one) => one.retired === 'yes')).toBe(true);
    const again = await send<ImportResponse>('POST', '/api/catalogue/import', {
      rows: data.filter((one) => one.retired === 'no').slice(0, 200),
    });
    expect(again.body).toMatchObject({
      added: 0,
      changed: 0,
      returned: 0,
      retired: 0,
      problems: [],
    });
    expect((await (await server.as('hal.teague')).get('/api/catalogue/places.csv')).status).toBe(
      403,
    );
  });
});
