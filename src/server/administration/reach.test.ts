import { beforeAll, describe, expect, it } from 'vitest';
import type { SiteDetail, StaffMember } from '../../contract/administration.ts';
import type { CalendarResponse } from '../../contract/calendar.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { PlaceRequestsResponse } from '../../contract/bookings.ts';
import type { SessionState } from '../../contract/session.ts';
import type { Client } from '../../../tests/support/client.ts';
import { bergenTimes, meetingRequest, newPlace } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });
let admin: Client;
beforeAll(async () => {
  admin = await server.as('aksel.nordvik');
});

type Change = Record<string, unknown>;
type Answered = ProblemBody & { ids: number[]; changes: number[] };

async function change(name: string, what: Change) {
  const id = await server.id(name);
  const [row] = await server.sql<{ version: number }>(
    'select version from person where subject_id = $1',
    [id],
  );
  return admin.patch<Answered>('/api/administration/people', {
    people: [{ id, version: row!.version }],
    change: what,
  });
}

const settled = async (name: string, what: Change) => {
  const answer = await change(name, what);
  expect(answer.status, JSON.stringify(answer.body)).toBe(200);
  return answer.body.changes;
};

const undo = (changes: readonly number[]) =>
  admin.post('/api/changes/undo', { changes: [...changes] });

const meOf = async (mailbox: string) =>
  (await (await server.as(mailbox)).get<SessionState>('/api/session')).body.me!;

/** Places as the database knows them, by which the reach is worked out once more. */
const places = () =>
  server.sql<{ id: number; name: string; siteId: number; floor: string; kind: string }>(
    `select subject_id as id, name, site_id as "siteId", floor, resource.kind
     from resource join subject on subject.id = subject_id order by subject.id`,
  );

describe('the reach of a steward', () => {
  it('is every place, until something is named; then it is that, and nothing else', async () => {
    expect((await meOf('ines.aldabe')).keeps).toBeNull();
    const all = await places();
    const lab = all.find((one) => one.kind === 'lab')!;
    const desk = all.find((one) => one.kind === 'desk')!;
    const room = all.find((one) => one.kind === 'room' && one.siteId !== desk.siteId)!;
    const changes = await settled('Ines Aldabe', {
      reach: [
        { kind: 'lab' },
        { siteId: desk.siteId, floor: desk.floor, kind: 'desk' },
        { placeId: room.id },
      ],
    });
    const expected = all.filter(
      (one) =>
        one.kind === 'lab' ||
        (one.siteId === desk.siteId && one.floor === desk.floor && one.kind === 'desk') ||
        one.id === room.id,
    );
    expect(expected.length).toBeLessThan(all.length);
    const me = await meOf('ines.aldabe');
    expect([...me.keeps!].sort((a, b) => a - b)).toEqual(expected.map(({ id }) => id));
    expect(me.acts).toContain('look-after');
    const log = await admin.get<{ entries: { what: string }[] }>(
      '/api/administration/log?what=person',
    );
    expect(log.body.entries[0]!.what).toContain(`desks on floor ${desk.floor} of`);
    expect(lab).toBeDefined();
    await undo(changes);
    expect((await meOf('ines.aldabe')).keeps).toBeNull();
  });

  it('bounds all that is done to a place, by every route there is', async () => {
    const all = await places();
    const [mine, others] = [
      all.find(({ name }) => name === 'Gannet')!,
      all.find(({ name, kind, siteId }) => kind === 'room' && siteId !== 1 && name !== 'Gannet')!,
    ];
    const changes = await settled('Ines Aldabe', { reach: [{ placeId: mine.id }] });
    const ines = await server.as('ines.aldabe');
    const versionOf = async (id: number) =>
      (
        await server.sql<{ version: number }>(
          'select version from resource where subject_id = $1',
          [id],
        )
      )[0]!.version;
    const start = Date.UTC(2031, 4, 5, 8);
    const attempts = async (place: typeof mine) => [
      await ines.patch(`/api/catalogue/places/${place.id}`, {
        version: await versionOf(place.id),
        description: 'kept well',
      }),
      await ines.post(`/api/catalogue/places/${place.id}/preview`, { description: 'kept well' }),
      await ines.get(`/api/catalogue/places/${place.id}/retire`),
      await ines.get(
        `/api/places/${place.id}/closures/preview?start=${start}&end=${start + 3_600_000}`,
      ),
      await ines.request('PUT', `/api/places/${place.id}/owner`, { personId: null }),
    ];
    const allowed = (await attempts(mine)).map(({ status }) => status);
    expect(allowed.filter((status) => status === 403)).toEqual([]);
    const refused = await attempts(others);
    for (const answer of refused) {
      expect(answer.status).not.toBe(200);
      if (answer.status === 403) expect((answer.body as ProblemBody).detail).toMatch(/look after/);
    }
    expect(refused.filter(({ status }) => status === 403).length).toBeGreaterThan(2);
    // Nor is a place put out of reach, or a new one made beyond it.
    const away = await ines.patch<ProblemBody>(`/api/catalogue/places/${mine.id}`, {
      version: await versionOf(mine.id),
      floor: '9',
    });
    expect(away.status, JSON.stringify(away.body)).toBe(200);
    const added = await ines.post<ProblemBody>('/api/catalogue/places', newPlace({ siteId: 1 }));
    expect(added.status).toBe(403);
    await undo(changes);
  });

  it('says who is asked: whoever looks after it, the deputy while they are away, administrators where there is nobody', async () => {
    const all = await places();
    const gannet = all.find(({ name }) => name === 'Gannet')!;
    const other = all.find(
      ({ kind, id, siteId }) => kind === 'room' && id !== gannet.id && siteId === gannet.siteId,
    )!;
    await server.sql(
      `update resource set rules = rules || '{"approval": true}' where subject_id = any($1)`,
      [[gannet.id, other.id]],
    );
    await server.sql(
      `update person set role = 'staff' where role = 'steward' and subject_id <> $1`,
      [await server.id('Ines Aldabe')],
    );
    const undone = [
      ...(await settled('Ines Aldabe', {
        reach: [{ placeId: gannet.id }],
        deputyId: await server.id('Hal Teague'),
      })),
    ];
    let day = 5;
    const leila = await server.as('leila.haddad');
    const ask = async (resources: number[]) => {
      const date = `2027-02-${String(day++ + 10).padStart(2, '0')}`;
      const made = await leila.post<EventDetail>(
        '/api/events',
        meetingRequest({
          title: `Asked ${date}`,
          resources,
          times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
        }),
      );
      expect(made.status, JSON.stringify(made.body)).toBe(201);
      const facts = await server.sql<{ resources: number[]; stewards: number[] }>(
        `select details->'resources' as resources, details->'stewards' as stewards from fact
         where kind = 'place-asked' and event_id = $1 order by id`,
        [made.body.id],
      );
      return Object.fromEntries(
        facts.flatMap((one) => one.resources.map((id) => [id, one.stewards])),
      );
    };
    const [ines, hal, aksel] = [
      await server.id('Ines Aldabe'),
      await server.id('Hal Teague'),
      await server.id('Aksel Nordvik'),
    ];
    expect(await ask([gannet.id, other.id])).toEqual({ [gannet.id]: [ines], [other.id]: [aksel] });
    // She is away.
    const inesHerself = await server.as('ines.aldabe');
    const away = await inesHerself.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Leave',
        attendees: [],
        showsAs: 'away',
        times: bergenTimes('2026-11-24T06:00', '2026-11-24T20:00'),
      }),
    );
    expect(away.status, JSON.stringify(away.body)).toBe(201);
    expect(await ask([gannet.id])).toEqual({ [gannet.id]: [hal] });
    // The deputy decides as she does, of what she looks after alone.
    const deputy = await server.as('hal.teague');
    const waiting = await deputy.get<PlaceRequestsResponse>('/api/bookings/requests');
    expect(waiting.status).toBe(200);
    expect(new Set(waiting.body.requests.map(({ placeId }) => placeId))).toEqual(
      new Set([gannet.id]),
    );
    const [first] = waiting.body.requests;
    const decided = await deputy.post('/api/bookings/requests/decide', {
      eventId: first!.eventId,
      placeId: gannet.id,
      version: first!.version,
      agreed: true,
    });
    expect(decided.status, JSON.stringify(decided.body)).toBe(200);
    await undo(undone);
    expect((await meOf('hal.teague')).acts).toEqual([]);
    expect((await deputy.get('/api/bookings/requests')).status).toBe(403);
  });

  it('is of stewards alone, and goes with the role', async () => {
    const refused = await change('Hal Teague', { reach: [{ kind: 'lab' }] });
    expect(refused.body.fields?.[0]).toMatchObject({ field: 'change.reach' });
    const self = await change('Ines Aldabe', { deputyId: await server.id('Ines Aldabe') });
    expect(self.body.fields?.[0]?.field).toBe('change.deputyId');
    const nowhere = await change('Ines Aldabe', { reach: [{ siteId: 999_999 }] });
    expect(nowhere.body.fields?.[0]?.field).toBe('change.reach.0.siteId');
    const floor = await change('Ines Aldabe', { reach: [{ floor: '2' }] });
    expect(floor.status).toBe(400);
    const first = await settled('Ines Aldabe', { reach: [{ kind: 'lab' }] });
    const second = await settled('Ines Aldabe', { role: 'staff' });
    expect((await meOf('ines.aldabe')).acts).toEqual([]);
    await undo([...second]);
    expect((await meOf('ines.aldabe')).keeps).not.toBeNull();
    await undo([...first]);
    expect((await meOf('ines.aldabe')).keeps).toBeNull();
  });
});

describe('who coordinates a team', () => {
  it('plans, answers and records absence for its people, and is told nothing of what is private', async () => {
    const team = (
      await server.sql<{ id: number }>(
        `select team_id as id from team_member where person_id = $1 limit 1`,
        [await server.id('Leila Haddad')],
      )
    )[0]!.id;
    const grace = await server.as('grace.paul');
    const leilaId = await server.id('Leila Haddad');
    const leila = await server.as('leila.haddad');
    await server.sql(`update person set share_organization = 'busy' where subject_id = $1`, [
      leilaId,
    ]);
    const secret = await leila.post<EventDetail>(
      '/api/events',
      meetingRequest({ title: 'Of mine alone', visibility: 'private', attendees: [] }),
    );
    const tomas = await server.as('tomas.okafor');
    await server.sql(`update person set share_organization = 'busy' where subject_id = $1`, [
      await server.id('Tomas Okafor'),
    ]);
    const invited = await tomas.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Moorings, looked at',
        attendees: [{ personId: leilaId, role: 'required' }],
      }),
    );
    expect((await grace.get(`/api/events/${invited.body.id}`)).status).toBe(404);
    const changes = await settled('Grace Paul', { coordinates: [team] });
    const me = await meOf('grace.paul');
    expect(me.coordinates.map(({ id }) => id)).toContain(leilaId);
    expect(me.actsFor.map(({ id }) => id)).not.toContain(leilaId);
    // Everybody whose calendar it opens hears of it, once.
    const letters = await server.sql<{ recipient_email: string; body_text: string }>(
      `select recipient_email, body_text from mail where subject = 'Who plans for whom'`,
    );
    const people = await server.sql<{ count: number }>(
      `select count(distinct person_id)::int as count from team_member
       join team on team.id = team_id where $1 in (team.id, team.parent_id) and person_id <> $2`,
      [team, await server.id('Grace Paul')],
    );
    expect(letters.length).toBe(people[0]!.count + 1);
    // What somebody else asks her to is shown, and answered.
    expect((await grace.get(`/api/events/${invited.body.id}`)).status).toBe(200);
    const answered = await grace.post(`/api/invitations/${invited.body.id}/reply`, {
      reply: 'accepted',
      for: leilaId,
    });
    expect(answered.status, JSON.stringify(answered.body)).toBe(200);
    const [row] = await server.sql<{ reply: string }>(
      'select reply from attendee where event_id = $1 and person_id = $2',
      [invited.body.id, leilaId],
    );
    expect(row!.reply).toBe('accepted');
    // Absence is recorded, and stands as hers, by whoever did it.
    const leave = await grace.post<EventDetail>(
      '/api/events',
      meetingRequest({ title: 'Leave', attendees: [], showsAs: 'away', for: leilaId }),
    );
    expect(leave.status, JSON.stringify(leave.body)).toBe(201);
    expect(leave.body.organizer.id).toBe(leilaId);
    // What is private stays so: not its title, not itself, not changed.
    expect((await grace.get(`/api/events/${secret.body.id}`)).status).toBe(404);
    const { body } = await grace.get<CalendarResponse>(
      `/api/calendar?subjects=${leilaId}&from=${secret.body.start - 3_600_000}&to=${secret.body.end + 3_600_000}`,
    );
    expect(JSON.stringify(body)).not.toContain('Of mine alone');
    await undo(changes);
    expect((await grace.get(`/api/events/${invited.body.id}`)).status).toBe(404);
    const after = await grace.post(`/api/invitations/${invited.body.id}/reply`, {
      reply: 'declined',
      for: leilaId,
    });
    expect(after.status).not.toBe(200);
  });

  it('is nobody of another organization, and sees nobody of another team', async () => {
    const { people } = (
      await admin.get<{ people: StaffMember[] }>('/api/administration/people?limit=100')
    ).body;
    const [one, other] = [
      people[0]!.teams[0]!,
      people.find((p) => p.teams.length > 0 && p.teams[0]!.id !== people[0]!.teams[0]!.id)!,
    ];
    const changes = await settled('Mika Sandoval', { coordinates: [one.id] });
    const me = await meOf('mika.sandoval');
    if (!other.teams.some(({ id }) => id === one.id))
      expect(me.coordinates.map(({ id }) => id)).not.toContain(other.id);
    const mika = await server.as('mika.sandoval');
    const tried = await mika.post<ProblemBody>(
      '/api/events',
      meetingRequest({ attendees: [], for: other.id }),
    );
    expect(tried.status).toBe(403);
    await undo(changes);
  });
});

describe('the floors of a site', () => {
  const siteWithFloors = async () => {
    const { sites } = (await admin.get<{ sites: SiteDetail[] }>('/api/administration/sites')).body;
    return sites.find(({ floors, places: count }) => floors.length > 1 && count > 1)!;
  };
  const floorsOf = (siteId: number) =>
    server.sql<{ floor: string; count: number }>(
      `select floor, count(*)::int as count from resource where site_id = $1 group by floor order by floor`,
      [siteId],
    );

  it('are renamed and ordered with the places on them, even in a ring, and come back with undo', async () => {
    const site = await siteWithFloors();
    const before = await floorsOf(site.id);
    const [a, b, ...rest] = site.floors;
    const changed = await admin.patch<{ version: number; change: number }>(
      `/api/administration/sites/${site.id}`,
      {
        version: site.version,
        floors: [
          { id: b!.id, name: a!.name },
          { id: a!.id, name: b!.name },
          ...rest,
          { name: 'Loft' },
        ],
      },
    );
    expect(changed.status, JSON.stringify(changed.body)).toBe(200);
    const swapped = new Map((await floorsOf(site.id)).map((one) => [one.floor, one.count]));
    const was = new Map(before.map((one) => [one.floor, one.count]));
    expect(swapped.get(a!.name)).toBe(was.get(b!.name));
    expect(swapped.get(b!.name)).toBe(was.get(a!.name));
    const shown = (await siteWithFloors()).floors.map(({ name }) => name);
    expect(shown.slice(0, 2)).toEqual([a!.name, b!.name]);
    expect(shown.at(-1)).toBe('Loft');
    const back = await undo([changed.body.change]);
    expect(back.status).toBe(200);
    expect(await floorsOf(site.id)).toEqual(before);
    expect((await siteWithFloors()).floors).toEqual(site.floors);
  });

  it('stay while places are on them, have one name each, and one that a place names first is added', async () => {
    const site = await siteWithFloors();
    const patch = (floors: unknown) =>
      admin.patch<ProblemBody>(`/api/administration/sites/${site.id}`, {
        version: site.version,
        floors,
      });
    const none = await patch([]);
    expect(none.body.fields?.[0]?.field).toBe('floors');
    expect(none.body.detail + JSON.stringify(none.body.fields)).toMatch(/must keep floor/);
    expect((await patch([...site.floors, { name: site.floors[0]!.name }])).status).toBe(400);
    expect((await patch([{ id: 999_999, name: 'x' }])).body.fields?.[0]?.field).toBe('floors.0.id');
    const added = await admin.post(
      '/api/catalogue/places',
      newPlace({ siteId: site.id, floor: 'M2' }),
    );
    expect(added.status, JSON.stringify(added.body)).toBe(201);
    expect((await siteWithFloors()).floors.map(({ name }) => name)).toContain('M2');
  });
});

describe('days off', () => {
  const sites = async () =>
    (await admin.get<{ sites: SiteDetail[] }>('/api/administration/sites')).body.sites;

  it('are half days where a part is said, in every plan and calendar, and one for all sites at once', async () => {
    const before = await sites();
    const day = { date: '2026-12-23', name: 'Winter party', part: { start: 720, end: 1440 } };
    const added = await admin.post<{ sites: number; changes: number[] }>(
      '/api/administration/days-off',
      day,
    );
    expect(added.status, JSON.stringify(added.body)).toBe(200);
    expect(added.body.sites).toBe(before.length);
    for (const { holidays } of await sites()) expect(holidays).toContainEqual(day);
    const leila = await server.as('leila.haddad');
    const shown = await leila.get<{ holidays: unknown[] }>(
      '/api/calendar/holidays?first=2026-12-23&last=2026-12-23',
    );
    expect(shown.body.holidays).toEqual([day]);
    const log = await admin.get<{ entries: { what: string }[] }>(
      '/api/administration/log?what=site',
    );
    expect(log.body.entries[0]!.what).toContain('Winter party, from 12:00');
    const back = await undo(added.body.changes);
    expect(back.status).toBe(200);
    expect((await sites()).map(({ holidays }) => holidays)).toEqual(
      before.map(({ holidays }) => holidays),
    );
    for (const part of [
      { start: 720, end: 720 },
      { start: 0, end: 1440 },
      { start: -1, end: 30 },
    ])
      expect((await admin.post('/api/administration/days-off', { ...day, part })).status).toBe(400);
  });
});
