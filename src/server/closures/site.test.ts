import { beforeAll, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { SiteClosurePreview } from '../../contract/closures.ts';
import type { Client } from '../../../tests/support/client.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });
let ines: Client;
let site: number;
let places: { id: number; units: number }[];
beforeAll(async () => {
  ines = await server.as('ines.aldabe');
  const rows = await server.sql<{ id: number }>(`select id from site where name = 'Skerry House'`);
  site = rows[0]!.id;
  places = await server.sql(
    'select subject_id as id, units from resource where site_id = $1 and retired_at is null order by 1',
    [site],
  );
});

const DAY = { start: Date.UTC(2027, 5, 8, 22), end: Date.UTC(2027, 5, 9, 22) };
const preview = async () =>
  (
    await ines.get<SiteClosurePreview>(
      `/api/sites/${site}/closure/preview?start=${DAY.start}&end=${DAY.end}`,
    )
  ).body;
const close = (seen: number, by = ines) =>
  by.post<ProblemBody & { places: number; without: number; changes: number[] }>(
    `/api/sites/${site}/closure`,
    { ...DAY, reason: 'The house is painted', seen },
  );
const claimsThen = () =>
  server.sql<{ subject_id: number; unit: number }>(
    `select subject_id, unit from claim where closure_id is not null and during && tstzrange($1, $2)`,
    [new Date(DAY.start), new Date(DAY.end)],
  );

it('closes a site with all its places, tells who has them, and comes back as one', async () => {
  const [gannet, skua] = [await server.id('Gannet'), await server.id('Skua')];
  const leila = await server.as('leila.haddad');
  const { total: others } = await preview();
  const made = await leila.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'In two rooms',
      resources: [gannet, skua],
      attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
      times: bergenTimes('2027-06-09T10:00', '2027-06-09T11:00'),
    }),
  );
  expect(made.status, JSON.stringify(made.body)).toBe(201);
  const seen = await preview();
  expect(seen.places).toBe(places.length);
  expect(seen.total).toBe(others + 2);
  const mine = seen.bookings.filter(({ eventId }) => eventId === made.body.id);
  expect(mine.map(({ place }) => place).sort()).toEqual(['Gannet', 'Skua']);
  const stale = await close(others + 1);
  expect(stale.body.code).toBe('changed-since');
  expect(await claimsThen()).toEqual([]);
  const done = await close(others + 2);
  expect(done.status, JSON.stringify(done.body)).toBe(200);
  expect(done.body).toMatchObject({ places: places.length, without: others + 2 });
  expect(await claimsThen()).toHaveLength(places.reduce((sum, { units }) => sum + units, 0));
  const without = await leila.get<EventDetail>(`/api/events/${made.body.id}`);
  expect(without.body.resources).toEqual([]);
  const told = await server.sql<{ details: { place: string } }>(
    `select details from fact where event_id = $1 and kind = 'place-closed'`,
    [made.body.id],
  );
  expect(told.map(({ details }) => details.place).sort()).toEqual(['Gannet', 'Skua']);
  // Nobody books there then; anybody does the day after.
  const refused = await leila.post(
    '/api/events',
    meetingRequest({
      resources: [gannet],
      times: bergenTimes('2027-06-09T14:00', '2027-06-09T15:00'),
    }),
  );
  expect(refused.status).toBe(409);
  const back = await ines.post<{ undone: number; left: string[] }>('/api/changes/undo', {
    changes: done.body.changes,
  });
  expect(back.status, JSON.stringify(back.body)).toBe(200);
  expect(back.body.left).toEqual([]);
  expect(await claimsThen()).toEqual([]);
  const again = await leila.get<EventDetail>(`/api/events/${made.body.id}`);
  expect(again.body.resources.map(({ id }) => id).sort()).toEqual([gannet, skua].sort());
});

it('is for who looks after all of it', async () => {
  const hal = await server.as('hal.teague');
  expect((await close(0, hal)).status).toBe(403);
  const josephine = await server.as('josephine.arseneau');
  const refused = await close(0, josephine);
  expect(refused.status).toBe(403);
  expect(refused.body.detail).toMatch(/You do not look after/);
  const nowhere = await ines.get(
    `/api/sites/999999/closure/preview?start=${DAY.start}&end=${DAY.end}`,
  );
  expect(nowhere.status).toBe(404);
});
