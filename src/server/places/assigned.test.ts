import { describe, expect, it } from 'vitest';
import type { BookingNote } from '../../contract/bookings.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { FindResponse, Place, PlacesResponse } from '../../contract/places.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });

/** A desk of Hal's, made so by a steward. */
async function desk(name: string) {
  const [row] = await server.sql<{ id: number }>(
    `with made as (insert into subject (kind, name) values ('resource', $1) returning id)
     insert into resource (subject_id, kind, site_id, floor, capacity)
     select id, 'desk', 1, '9', 1 from made returning subject_id as id`,
    [name],
  );
  const { id } = row!;
  const steward = await server.as('ines.aldabe');
  const owned = await steward.request<Place>('PUT', `/api/places/${id}/owner`, {
    personId: await server.id('Hal Teague'),
  });
  expect(owned.body.ruleWords).toEqual(['Hal Teague’s']);
  return id;
}
const book = async (mailbox: string, id: number, day: string, to = day) =>
  (await server.as(mailbox)).post<ProblemBody & { id: string }>(
    '/api/events',
    meetingRequest({
      title: 'At the desk',
      attendees: [],
      resources: [id],
      showsAs: 'free',
      times: bergenTimes(`${day}T08:00`, `${to}T16:00`),
    }),
  );
const free = async (mailbox: string, method: 'PUT' | 'DELETE', id: number, day: string) =>
  (await server.as(mailbox)).request<ProblemBody>(method, `/api/places/${id}/free-days/${day}`);

describe('a place that is somebody’s', () => {
  it('is had by others on the days on which its owner gives it free, and on no other', async () => {
    const id = await desk('Desk Q1');
    const refused = await book('mika.sandoval', id, '2026-12-01');
    expect([refused.status, refused.body.code]).toEqual([409, 'against-rules']);
    expect(refused.body.detail).toContain(
      'is Hal Teague’s, who has not given it free on Tue 1 Dec',
    );
    expect((await book('hal.teague', id, '2026-12-01')).status).toBe(201);

    expect((await free('mika.sandoval', 'PUT', id, '2026-12-02')).body.code).toBe('not-theirs');
    expect((await free('hal.teague', 'PUT', id, '2026-12-02')).status).toBe(200);
    const found = async (day: string) =>
      (
        await (
          await server.as('mika.sandoval')
        ).get<FindResponse>(`/api/places/find?kind=desk&floor=9&date=${day}`)
      ).body.places.find((one) => one.id === id)!;
    expect((await found('2026-12-02')).free).not.toBeNull();
    expect((await found('2026-12-03')).free).toBeNull();
    expect((await found('2026-12-02')).ruleWords[0]).toContain('free for others Wed 2 Dec');
    // The night into a day that was not given free is not free either.
    expect((await book('mika.sandoval', id, '2026-12-02', '2026-12-03')).status).toBe(409);
    expect((await book('mika.sandoval', id, '2026-12-02')).status).toBe(201);
  });

  it('is taken back while nobody else has it, and days that are over are not given', async () => {
    const id = await desk('Desk Q2');
    for (const day of ['2026-12-08', '2026-12-09']) await free('hal.teague', 'PUT', id, day);
    expect((await free('hal.teague', 'DELETE', id, '2026-12-08')).status).toBe(200);
    expect((await book('mika.sandoval', id, '2026-12-08')).status).toBe(409);
    expect((await book('mika.sandoval', id, '2026-12-09')).status).toBe(201);
    // Who has it is said as far as it is shown, with what would do instead.
    const back = await free('hal.teague', 'DELETE', id, '2026-12-09');
    expect(back.body).toMatchObject({
      code: 'resource-taken',
      fields: [{ field: 'date' }],
      taken: [
        {
          resourceId: id,
          holder: 'Mika Sandoval',
          holderEmail: 'mika.sandoval@ternrock.example',
          start: Date.parse('2026-12-09T07:00Z'),
          end: Date.parse('2026-12-09T15:00Z'),
        },
      ],
    });
    const { alternatives } = back.body as unknown as { alternatives: { kind: string }[] };
    expect(alternatives.some((one) => one.kind === 'resource')).toBe(true);
    for (const day of ['2026-11-23', '2028-12-01'])
      expect((await free('hal.teague', 'PUT', id, day)).body.fields?.[0]?.field).toBe('date');
    // Another owner has said nothing yet; nobody's is everybody's.
    const steward = await server.as('ines.aldabe');
    const of = (personId: number | null) =>
      steward.request<Place>('PUT', `/api/places/${id}/owner`, { personId });
    const leila = await server.id('Leila Haddad');
    expect((await of(leila)).body.ruleWords).toEqual(['Leila Haddad’s']);
    expect((await of(999_999)).status).toBe(400);
    expect((await of(null)).body.ruleWords).toEqual([]);
    expect((await book('mika.sandoval', id, '2026-12-10')).status).toBe(201);
  });
});

describe('what those who look after places are told', () => {
  it('is read by them and by whoever has the booking alone, and whom to ask is remembered', async () => {
    const hal = await server.as('hal.teague');
    const made = await hal.post<{ id: string }>(
      '/api/events',
      meetingRequest({
        resources: [await server.id('Gannet')],
        attendees: [{ personId: await server.id('Mika Sandoval'), role: 'required' }],
        times: bergenTimes('2027-03-03T10:00', '2027-03-03T11:00'),
        forStewards: { note: 'Needs the long table', contact: 'ext. 41' },
      }),
    );
    expect(made.status).toBe(201);
    const path = `/api/bookings/notes/${made.body.id}`;
    const read = async (mailbox: string) =>
      (await server.as(mailbox)).get<BookingNote & ProblemBody>(path);
    expect((await read('ines.aldabe')).body).toEqual({
      note: 'Needs the long table',
      contact: 'ext. 41',
    });
    expect((await read('hal.teague')).body.note).toBe('Needs the long table');
    // Whoever is asked to it is not told, and cannot tell it from nothing.
    for (const mailbox of ['mika.sandoval', 'leila.haddad'])
      expect((await read(mailbox)).body.code).toBe('no-such-booking');
    expect((await hal.get('/api/bookings/contact')).body).toEqual({ contact: 'ext. 41' });
    const other = await hal.request('PUT', path, { note: '', contact: 'ext. 42' });
    expect(other.status).toBe(200);
    expect((await hal.get('/api/bookings/contact')).body).toEqual({ contact: 'ext. 42' });
    expect(
      (await (await server.as('mika.sandoval')).request('PUT', path, { note: 'x' })).status,
    ).toBe(404);
  });
});

it('what is told of a series goes along with the part that becomes one of its own', async () => {
  const hal = await server.as('hal.teague');
  const made = await hal.post<{ id: string; version: number }>(
    '/api/events',
    meetingRequest({
      attendees: [],
      resources: [await server.id('Gannet')],
      times: bergenTimes('2027-03-16T10:00', '2027-03-16T11:00'),
      repeats: { rule: 'FREQ=DAILY;COUNT=4' },
      forStewards: { note: 'Every day', contact: '' },
    }),
  );
  const changed = await hal.patch<{ id: string }>(`/api/events/${made.body.id}`, {
    version: made.body.version,
    scope: 'following',
    occurrence: '2027-03-18T10:00',
    title: 'The rest of it',
    tell: 'nobody',
  });
  expect(changed.body.id).not.toBe(made.body.id);
  for (const { id } of [made.body, changed.body])
    expect((await hal.get<BookingNote>(`/api/bookings/notes/${id}`)).body.note).toBe('Every day');
});

describe('how a place looks', () => {
  const send = async (mailbox: string, id: number, body: Buffer) => {
    const { base, cookie } = await server.as(mailbox);
    return fetch(`${base}/api/places/${id}/photo`, {
      method: 'POST',
      headers: { Cookie: cookie, 'Content-Type': 'application/octet-stream', Origin: base },
      body: new Uint8Array(body),
    });
  };

  it('is seen by everybody, changed by those who look after it, and is a picture', async () => {
    const gannet = await server.id('Gannet');
    const mika = await server.as('mika.sandoval');
    const before = await mika.get<Place>(`/api/places/${gannet}`);
    expect(before.body.photo).toBe(1);
    const shown = await fetch(`${mika.base}/api/places/${gannet}/photo`, {
      headers: { Cookie: mika.cookie },
    });
    expect(shown.headers.get('content-type')).toBe('image/png');
    const picture = Buffer.from(await shown.arrayBuffer());
    expect((await send('mika.sandoval', gannet, picture)).status).toBe(403);
    const page = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script/></svg>');
    const none = await send('ines.aldabe', gannet, page);
    expect([none.status, await none.json()]).toMatchObject([400, { fields: [{ field: 'file' }] }]);
    const large = await send(
      'ines.aldabe',
      gannet,
      Buffer.concat([picture, Buffer.alloc(2 ** 20)]),
    );
    expect(large.status).toBe(400);
    expect((await send('ines.aldabe', gannet, picture)).status).toBe(201);
    expect((await mika.get<Place>(`/api/places/${gannet}`)).body.photo).toBe(2);
    const steward = await server.as('ines.aldabe');
    expect((await steward.request('DELETE', `/api/places/${gannet}/photo`)).status).toBe(200);
    expect((await mika.get(`/api/places/${gannet}/photo`)).status).toBe(404);
  });

  it('is not free now for others, nor is what is closed or another team’s', async () => {
    const id = await desk('Desk Q9');
    const look = async (mailbox: string, query = '') =>
      (
        await (
          await server.as(mailbox)
        ).get<PlacesResponse>(`/api/places?kind=desk&floor=9&q=Desk%20Q9${query}`)
      ).body;
    const theirs = await look('mika.sandoval');
    expect(theirs).toMatchObject({ total: 1, free: 0, places: [{ id, freeUnits: 1 }] });
    expect(theirs.places[0]!.barred).toContain('is Hal Teague’s');
    expect(await look('mika.sandoval', '&free=now')).toMatchObject({ total: 0, places: [] });
    expect(await look('hal.teague', '&free=now')).toMatchObject({
      total: 1,
      free: 1,
      places: [{ id, barred: null }],
    });
    const rule = (rules: object) =>
      server.sql('update resource set owner_id = null, rules = $2 where subject_id = $1', [
        id,
        rules,
      ]);
    // Open on no day of the week.
    await rule({ open: [[], [], [], [], [], [], []] });
    expect((await look('hal.teague')).places[0]!.barred).toMatch(/^is closed on/);
    const [team] = await server.sql<{ id: number }>(
      `select id from team where id not in (select team_id from team_member
       where person_id = (select id from subject where name = 'Hal Teague')) limit 1`,
    );
    await rule({ teams: [team!.id] });
    expect((await look('hal.teague')).places[0]!.barred).toMatch(/^is for .* alone$/);
    expect(await look('hal.teague')).toMatchObject({ total: 1, free: 0 });
  });
});
