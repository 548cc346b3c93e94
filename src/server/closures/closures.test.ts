import { describe, expect, it } from 'vitest';
import type { ClosurePreview, ClosureResponse } from '../../contract/closures.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';
import type { BoardResponse, Place } from '../../contract/places.ts';
import { HOUR, MINUTE } from '../../core/time/interval.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* A place goes out of use: what is in it goes elsewhere together, or is told that nothing fits. */
const server = useServer();
const wall = (instant: number) => new Date(instant).toISOString().slice(0, 16);

let sites = 0;
/** Places of a site of their own, as many as there are descriptions. */
async function placesAt(...places: { floor?: string; capacity?: number; units?: number }[]) {
  const [site] = await server.sql<{ id: number }>(
    `insert into site (organization_id, name, city, zone)
     select min(id), 'House ' || $1::int, 'House', 'UTC' from organization returning id`,
    [sites],
  );
  const ids: number[] = [];
  for (const [k, { floor = '1', capacity = 8, units = 1 }] of places.entries()) {
    const [row] = await server.sql<{ id: number }>(
      `with made as (insert into subject (kind, name) values ('resource', $1) returning id)
       insert into resource (subject_id, kind, site_id, floor, capacity, units, features)
       select id, 'room', $2, $3, $4, $5, '{screen}' from made returning subject_id as id`,
      [`Room ${sites}-${k}`, site!.id, floor, capacity, units],
    );
    ids.push(row!.id);
  }
  return { ids, start: Date.UTC(2027, 9, 4 + sites++ * 14, 8) };
}

async function book(
  mailbox: string,
  place: number,
  start: number,
  end: number,
  more: Record<string, unknown> = {},
) {
  const client = await server.as(mailbox);
  const made = await client.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Slides',
      times: { startsAt: wall(start), endsAt: wall(end), zone: 'UTC' },
      attendees: [],
      resources: [place],
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

const steward = () => server.as('ines.aldabe');
const preview = async (place: number, start: number, end: number) =>
  (
    await (
      await steward()
    ).get<ClosurePreview>(`/api/places/${place}/closures/preview?start=${start}&end=${end}`)
  ).body;
const close = async (place: number, body: Record<string, unknown>) =>
  (await steward()).post<ClosureResponse & ProblemBody>(`/api/places/${place}/closures`, {
    reason: 'A leak',
    ...body,
  });
/** What the preview proposes, as it is asked for. */
const proposed = ({ bookings }: ClosurePreview) => ({
  moves: bookings.flatMap(({ eventId, occurrence, move }) =>
    move ? [{ eventId, occurrence, placeId: move.placeId, start: move.start, end: move.end }] : [],
  ),
  without: bookings.flatMap(({ eventId, occurrence, move }) =>
    move ? [] : [{ eventId, occurrence }],
  ),
});
const detailOf = async (mailbox: string, id: string, at?: number) =>
  (
    await (
      await server.as(mailbox)
    ).get<EventDetail>(`/api/events/${id}${at ? `?occurrence=${wall(at)}` : ''}`)
  ).body;

describe('a place that goes out of use', () => {
  it('has its bookings moved together, each holder told, and is nobody’s meanwhile', async () => {
    const { ids, start } = await placesAt({}, { floor: '2' }, { capacity: 3 });
    const [home, upstairs, small] = ids as [number, number, number];
    const hal = await server.id('Hal Teague');
    const people = await Promise.all(
      ['Mika Sandoval', 'Clara Weiss', 'Grace Paul'].map((name) => server.id(name)),
    );
    const alone = await book('tomas.okafor', home, start, start + HOUR);
    const many = await book('leila.haddad', home, start + HOUR, start + 2 * HOUR, {
      attendees: [hal, ...people].map((personId) => ({ personId, role: 'required' })),
    });
    const series = await book('tomas.okafor', home, start + 3 * HOUR, start + 4 * HOUR, {
      repeats: { rule: 'FREQ=DAILY;COUNT=3' },
    });
    // Of the series the first two dates lie in it; upstairs is taken on the second, and the small one.
    const day = 24 * HOUR;
    await book('clara.weiss', upstairs, start + day + 3 * HOUR, start + day + 4 * HOUR);
    await book('clara.weiss', small, start + day + 3 * HOUR, start + day + 4 * HOUR);
    const span = { start: start - HOUR, end: start + day + 12 * HOUR };
    const seen = await preview(home, span.start, span.end);
    expect(seen).toMatchObject({ total: 4, isBest: true });
    expect(seen.bookings.map(({ people: count, move }) => [count, move?.placeId ?? null])).toEqual([
      [1, small],
      [5, upstairs],
      [1, small],
      [1, null],
    ]);

    const done = await close(home, { ...span, ...proposed(seen), message: 'Sorry.' });
    expect(done).toMatchObject({ status: 201, body: { moved: 3, without: 1 } });
    expect((await detailOf('tomas.okafor', alone.id)).resources).toMatchObject([{ id: small }]);
    expect(await detailOf('leila.haddad', many.id)).toMatchObject({
      resources: [{ id: upstairs }],
      start: start + HOUR,
    });
    const dates = [0, 1, 2].map((k) => start + 3 * HOUR + k * day);
    const rooms = await Promise.all(dates.map((at) => detailOf('tomas.okafor', series.id, at)));
    expect(rooms.map((one) => one.resources.map((room) => room.id))).toEqual([[small], [], [home]]);
    const tomas = await server.as('tomas.okafor');
    const { body: bell } = await tomas.get<NotificationsResponse>('/api/notifications');
    expect(bell.notifications.map((one) => one.what)).toContain('place-moved');
    // Whoever is asked to a meeting hears where it is; nobody is asked anew.
    const letters = await server.sql<{
      recipient_email: string;
      subject: string;
      body_text: string;
    }>(
      'select recipient_email, subject, body_text from mail where event_id = $1 order by created_at',
      [many.id],
    );
    const toHal = letters.filter((one) => one.recipient_email.startsWith('hal.teague'));
    expect(toHal.map((one) => one.subject.split(',')[0])).toContain('Changed: Slides');
    const toLeila = letters.filter((one) => one.recipient_email.startsWith('leila.haddad'));
    expect(toLeila.map((one) => one.body_text).join('\n')).toMatch(
      /You have another place:[^]*Room \d-1[^]*A leak/,
    );
    expect((await detailOf('leila.haddad', many.id)).attendees[1]).toMatchObject({
      reply: 'needs-action',
    });

    // Nobody books it meanwhile, and it is said why.
    const refused = await tomas.post<ProblemBody>(
      '/api/events',
      meetingRequest({
        times: { startsAt: wall(start + 5 * HOUR), endsAt: wall(start + 6 * HOUR), zone: 'UTC' },
        attendees: [],
        resources: [home],
      }),
    );
    expect(refused.body).toMatchObject({ code: 'resource-taken' });
    expect(refused.body.detail).toMatch(
      /^Room \d-0 is out of use, .*: A leak\. Nothing was booked/,
    );
    expect(refused.body.alternatives).not.toEqual([]);
    const { body: board } = await tomas.get<BoardResponse>(
      `/api/places/board?date=${wall(start).slice(0, 10)}&place=${home}`,
    );
    expect(board.closures).toMatchObject([{ placeId: home, reason: 'A leak', ...span }]);

    // Early in use again: by a steward alone, and once.
    const path = `/api/places/${home}/closures/${done.body.closure.id}`;
    expect((await tomas.request('DELETE', path)).status).toBe(403);
    expect((await (await steward()).request('DELETE', path)).status).toBe(200);
    expect((await (await steward()).request('DELETE', path)).status).toBe(404);
    await book('tomas.okafor', home, start + 5 * HOUR, start + 6 * HOUR);
  });

  it('is left as it is when its bookings are others by then, or another place is taken', async () => {
    const { ids, start } = await placesAt({}, {});
    const [home, other] = ids as [number, number];
    const first = await book('tomas.okafor', home, start, start + HOUR);
    const span = { start, end: start + 8 * HOUR };
    const seen = await preview(home, span.start, span.end);
    const late = await book('clara.weiss', home, start + 2 * HOUR, start + 3 * HOUR);
    const changed = await close(home, { ...span, ...proposed(seen) });
    expect(changed).toMatchObject({ status: 409, body: { code: 'changed-since' } });
    const again = await preview(home, span.start, span.end);
    await book('hal.teague', other, start, start + HOUR);
    const taken = await close(home, { ...span, ...proposed(again) });
    expect(taken).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    for (const { id } of [first, late])
      expect(
        await server.sql(
          `select resource_id as id from reservation
           join occurrence on occurrence.id = occurrence_id where occurrence.event_id = $1`,
          [id],
        ),
      ).toEqual([{ id: home }]);
    expect(await server.sql('select 1 from closure where resource_id = $1', [home])).toEqual([]);
    // The others' time is nobody's to move.
    const many = await book('leila.haddad', home, start + 4 * HOUR, start + 5 * HOUR, {
      attendees: [{ personId: await server.id('Hal Teague'), role: 'required' }],
    });
    const moves = proposed(await preview(home, span.start, span.end)).moves.map((one) =>
      one.eventId === many.id ? { ...one, start: one.start + HOUR, end: one.end + HOUR } : one,
    );
    const without = [{ eventId: first.id, occurrence: null }];
    const wrong = await close(home, { ...span, moves, without });
    expect(wrong).toMatchObject({ status: 400, body: { fields: [{ field: 'moves' }] } });
  });

  it('is in use again by one step, with what stood in it but for what was changed since', async () => {
    const { ids, start } = await placesAt({}, {});
    const [home, other] = ids as [number, number];
    const moved = await book('tomas.okafor', home, start, start + HOUR);
    const series = await book('leila.haddad', home, start + 2 * HOUR, start + 3 * HOUR, {
      repeats: { rule: 'FREQ=DAILY;COUNT=2' },
    });
    const putOff = await book('hal.teague', home, start + 4 * HOUR, start + 5 * HOUR);
    const span = { start: start - HOUR, end: start + 20 * HOUR };
    const done = await close(home, {
      ...span,
      ...proposed(await preview(home, span.start, span.end)),
    });
    expect(done).toMatchObject({ status: 201, body: { moved: 3 } });
    const { change } = done.body;
    // Its holder put it off since: that stays.
    const hal = await server.as('hal.teague');
    const { version } = await detailOf('hal.teague', putOff.id);
    const later = { startsAt: wall(start + 8 * HOUR), endsAt: wall(start + 9 * HOUR), zone: 'UTC' };
    const off = { version, times: later };
    expect((await hal.patch(`/api/events/${putOff.id}`, off)).status).toBe(200);
    const tomas = await server.as('tomas.okafor');
    expect((await tomas.post('/api/changes/undo', { changes: [change] })).status).toBe(403);
    const back = await (await steward()).post('/api/changes/undo', { changes: [change] });
    const bookings = { undone: 3, partly: 0, left: 0 };
    expect(back).toMatchObject({ status: 200, body: { undone: 1, left: [], bookings } });
    const rooms = async (mailbox: string, id: string, at?: number) =>
      (await detailOf(mailbox, id, at)).resources.map((one) => one.id);
    expect(await rooms('tomas.okafor', moved.id)).toEqual([home]);
    expect(await rooms('leila.haddad', series.id, start + 2 * HOUR)).toEqual([home]);
    expect(await rooms('leila.haddad', series.id, start + 26 * HOUR)).toEqual([home]);
    expect(await rooms('hal.teague', putOff.id)).toEqual([home]);
    expect((await detailOf('hal.teague', putOff.id)).start).toBe(start + 8 * HOUR);
    // Free again where they were, and the place itself can be booked.
    await book('clara.weiss', other, start, start + HOUR);
    await book('clara.weiss', home, start + 6 * HOUR, start + 7 * HOUR);
    const again = await (await steward()).post('/api/changes/undo', { changes: [change] });
    expect(again).toMatchObject({ status: 409, body: { code: 'nothing-to-undo' } });
  });

  it('leaves what its holder chose since, says so, and brings the rest back when it is used again', async () => {
    const { ids, start } = await placesAt({}, {}, {}, {});
    const [home, , , third] = ids as [number, number, number, number];
    const chosen = await book('tomas.okafor', home, start, start + HOUR);
    const plain = await book('leila.haddad', home, start + HOUR, start + 2 * HOUR);
    const bare = await book('clara.weiss', home, start + 2 * HOUR, start + 3 * HOUR);
    const span = { start: start - HOUR, end: start + 20 * HOUR };
    const seen = proposed(await preview(home, span.start, span.end));
    const [first, second, last] = seen.moves;
    const without = [{ eventId: last!.eventId, occurrence: null }];
    const done = await close(home, { ...span, moves: [first, second], without });
    expect(done).toMatchObject({ status: 201, body: { moved: 2, without: 1 } });
    const { closure, change } = done.body;
    // One takes a third room instead of what it was given, one a room where it had none.
    for (const [mailbox, { id }] of [
      ['tomas.okafor', chosen],
      ['clara.weiss', bare],
    ] as const) {
      const client = await server.as(mailbox);
      const { version } = await detailOf(mailbox, id);
      const body = { version, resources: [third] };
      expect((await client.patch(`/api/events/${id}`, body)).status).toBe(200);
    }
    const path = `/api/places/${home}/closures/${closure.id}`;
    const elsewhere = async () => (await (await steward()).get(`${path}/elsewhere`)).body;
    expect(await elsewhere()).toMatchObject({
      change,
      bookings: [{ start: start + HOUR, end: start + 2 * HOUR, holder: 'Leila Haddad' }],
    });
    const list = await (await steward()).get<{ places: { placeId: number }[] }>('/api/closures');
    expect(list.body.places).toContainEqual(
      expect.objectContaining({ placeId: home, closureId: closure.id, retiredAt: null }),
    );
    // Used again with what is elsewhere staying there first; it still comes back afterwards.
    expect((await (await steward()).request('DELETE', path)).status).toBe(200);
    const back = await (await steward()).post('/api/changes/undo', { changes: [change] });
    expect(back).toMatchObject({
      status: 200,
      body: { undone: 1, left: [], bookings: { undone: 1, partly: 0, left: 2 } },
    });
    const rooms = async (mailbox: string, id: string) =>
      (await detailOf(mailbox, id)).resources.map((one) => one.id);
    expect(await rooms('tomas.okafor', chosen.id)).toEqual([third]);
    expect(await rooms('clara.weiss', bare.id)).toEqual([third]);
    expect(await rooms('leila.haddad', plain.id)).toEqual([home]);
    expect(await elsewhere()).toEqual({ change: null, bookings: [] });
  });

  it('gives what is called by its place the name of the other one, and its own back', async () => {
    const { ids, start } = await placesAt({}, {}, {});
    const [home, other, third] = ids as [number, number, number];
    const nameOf = async (id: number) =>
      (await server.sql<{ name: string }>('select name from subject where id = $1', [id]))[0]!.name;
    const mine = await book('tomas.okafor', home, start, start + HOUR, {
      title: `${await nameOf(home)} booked`,
    });
    const titleNow = async () => (await detailOf('tomas.okafor', mine.id)).title;
    const span = { start: start - HOUR, end: start + 20 * HOUR };
    const seen = proposed(await preview(home, span.start, span.end));
    const done = await close(home, { ...span, ...seen });
    expect(await titleNow()).toBe(`${await nameOf(seen.moves[0]!.placeId)} booked`);
    await (await steward()).post('/api/changes/undo', { changes: [done.body.change] });
    expect(await titleNow()).toBe(`${await nameOf(home)} booked`);
    const tomas = await server.as('tomas.okafor');
    const { version } = await detailOf('tomas.okafor', mine.id);
    const goes = seen.moves[0]!.placeId === other ? third : other;
    await tomas.patch(`/api/events/${mine.id}`, { version, resources: [goes] });
    expect(await titleNow()).toBe(`${await nameOf(goes)} booked`);
  });

  it('leaves dates that have begun by now where they were when it is taken back', async () => {
    const { ids } = await placesAt({}, {});
    const { clock } = server.running.platform;
    const start = Math.ceil(clock.now() / HOUR) * HOUR + HOUR;
    const [home, other] = ids as [number, number];
    const series = await book('tomas.okafor', home, start, start + HOUR, {
      repeats: { rule: 'FREQ=DAILY;COUNT=3' },
    });
    const span = { start: start - HOUR, end: start + 100 * HOUR };
    const seen = await preview(home, span.start, span.end);
    const done = await close(home, { ...span, ...proposed(seen) });
    const before = clock.now;
    clock.now = () => start + 25 * HOUR;
    try {
      const back = await (
        await steward()
      ).post('/api/changes/undo', { changes: [done.body.change] });
      expect(back).toMatchObject({ status: 200, body: { bookings: { undone: 1 } } });
      const rooms = await Promise.all(
        [0, 24, 48].map((hours) => detailOf('tomas.okafor', series.id, start + hours * HOUR)),
      );
      expect(rooms.map((one) => one.resources.map((room) => room.id))).toEqual([
        [other],
        [other],
        [home],
      ]);
    } finally {
      clock.now = before;
    }
  });

  it('moves the time of whoever allows it, where their own place cannot be had then', async () => {
    const { ids, start } = await placesAt({}, {});
    const [home, other] = ids as [number, number];
    const idris = await server.as('idris.kaya');
    await idris.patch('/api/preferences', { shiftMinutes: 60 });
    const mine = await book('idris.kaya', home, start, start + HOUR);
    await book('hal.teague', other, start, start + 75 * MINUTE);
    const seen = await preview(home, start, start + 4 * HOUR);
    expect(seen.bookings).toMatchObject([{ move: { placeId: other, start: start - HOUR } }]);
    const done = await close(home, { start, end: start + 4 * HOUR, ...proposed(seen) });
    expect(done.status).toBe(201);
    expect(await detailOf('idris.kaya', mine.id)).toMatchObject({
      start: start - HOUR,
      end: start,
      resources: [{ id: other }],
    });
    const client = await steward();
    const { body: now } = await client.get<Place>(`/api/places/${home}`);
    expect(now.closure).toBeNull();
  });

  it('takes every unit of it', async () => {
    const { ids, start } = await placesAt({ units: 3 });
    const [home] = ids as [number];
    expect((await close(home, { start, end: start + HOUR })).status).toBe(201);
    const claims = await server.sql<{ unit: number }>(
      'select unit from claim where subject_id = $1 order by unit',
      [home],
    );
    expect(claims.map((one) => one.unit)).toEqual([1, 2, 3]);
  });
});
