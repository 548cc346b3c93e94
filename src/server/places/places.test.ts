import { describe, expect, it } from 'vitest';
import type { EventDetail, TakenResource, OfferedAlternative } from '../../contract/eventDetail.ts';
import type { PlaceDay, PlacesResponse } from '../../contract/places.ts';
import type { ProblemBody } from '../../contract/common.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
server.writesPastTheRules();

type Refusal = ProblemBody & { taken: TakenResource[]; alternatives: OfferedAlternative[] };

const times = bergenTimes('2027-02-16T10:00', '2027-02-16T11:00');

describe('a place that is taken', () => {
  it('is refused with who has it and three ways out that work', async () => {
    const gannet = await server.id('Gannet');
    const ines = await server.as('ines.aldabe');
    const leila = await server.as('leila.haddad');
    expect(
      (
        await ines.post(
          '/api/events',
          meetingRequest({ title: 'Secret plan', times, resources: [gannet] }),
        )
      ).status,
    ).toBe(201);
    const refused = await leila.post<Refusal>(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-02-16T10:30', '2027-02-16T11:30'),
        resources: [gannet],
      }),
    );
    expect(refused).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    // Ines shares busy times only: who, but not what for.
    expect(refused.body.taken).toMatchObject([
      { name: 'Gannet', holder: 'Ines Aldabe', title: null },
    ]);
    expect(JSON.stringify(refused.body)).not.toContain('Secret plan');
    expect(refused.body.alternatives.map((way) => way.kind).sort()).toEqual([
      'resource',
      'time',
      'time',
    ]);
    for (const way of refused.body.alternatives) {
      const request =
        way.kind === 'resource'
          ? meetingRequest({
              times: bergenTimes('2027-02-16T10:30', '2027-02-16T11:30'),
              resources: [way.resourceId],
            })
          : meetingRequest({
              times: {
                startsAt: new Date(way.start).toISOString().slice(0, 16),
                endsAt: new Date(way.end).toISOString().slice(0, 16),
                zone: 'UTC',
              },
              resources: [gannet],
            });
      expect((await leila.post('/api/events', request)).status).toBe(201);
    }
  });

  it('refuses the whole meeting: nothing of it is kept', async () => {
    const [gannet, skua] = [await server.id('Gannet'), await server.id('Skua')];
    const ines = await server.as('ines.aldabe');
    const when = bergenTimes('2027-02-17T10:00', '2027-02-17T11:00');
    await ines.post('/api/events', meetingRequest({ times: when, resources: [gannet] }));
    const refused = await ines.post<Refusal>(
      '/api/events',
      meetingRequest({
        title: 'Half done',
        times: when,
        resources: [skua, gannet],
        attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
      }),
    );
    expect(refused.status).toBe(409);
    expect(await server.sql(`select 1 from event where title = 'Half done'`)).toHaveLength(0);
    expect(await server.sql(`select 1 from mail where subject like '%Half done%'`)).toHaveLength(0);
    expect(
      (await ines.post('/api/events', meetingRequest({ times: when, resources: [skua] }))).status,
    ).toBe(201);
  });

  it('keeps preparation and clearing free, though the booking’s own times are the true ones', async () => {
    const hall = await server.id('Cormorant Hall');
    const ines = await server.as('ines.aldabe');
    await ines.post(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-02-18T10:00', '2027-02-18T11:00'),
        resources: [hall],
      }),
    );
    const close = await ines.post(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-02-18T11:30', '2027-02-18T12:00'),
        resources: [hall],
      }),
    );
    expect(close.status).toBe(409);
    const clear = await ines.post(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-02-18T12:00', '2027-02-18T12:30'),
        resources: [hall],
      }),
    );
    expect(clear.status).toBe(201);
    const day = await ines.get<PlaceDay>(`/api/places/${hall}/day?date=2027-02-18`);
    expect(day.body.bookings.map((one) => one.start)).toEqual([
      Date.UTC(2027, 1, 18, 9),
      Date.UTC(2027, 1, 18, 11),
    ]);
  });

  it('of several units is taken when all are', async () => {
    const kit = await server.id('Sonar kit');
    const ines = await server.as('ines.aldabe');
    const when = bergenTimes('2027-03-02T03:00', '2027-03-02T04:00');
    const statuses = [];
    for (let k = 0; k < 4; k++)
      statuses.push(
        (await ines.post('/api/events', meetingRequest({ times: when, resources: [kit] }))).status,
      );
    expect(statuses).toEqual([201, 201, 201, 409]);
  });

  it('stays with its meeting while that is moved, and is free where it was', async () => {
    const puffin = await server.id('Puffin');
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-02-23T10:00', '2027-02-23T11:00'),
        resources: [puffin],
      }),
    );
    // Half an hour later overlaps its own old time, which must not stand in its way.
    const moved = await ines.patch<EventDetail>(`/api/events/${made.body.id}`, {
      version: 1,
      times: bergenTimes('2027-02-23T10:30', '2027-02-23T11:30'),
    });
    expect(moved.status).toBe(200);
    const before = await ines.post(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-02-23T09:30', '2027-02-23T10:30'),
        resources: [puffin],
      }),
    );
    expect(before.status).toBe(201);
    const onto = await ines.patch<Refusal>(`/api/events/${made.body.id}`, {
      version: 2,
      times: bergenTimes('2027-02-23T10:00', '2027-02-23T11:00'),
    });
    expect(onto.status).toBe(409);
    expect((await ines.get<EventDetail>(`/api/events/${made.body.id}`)).body.start).toBe(
      moved.body.start,
    );
  });
});

describe('a cancelled booking', () => {
  const when = bergenTimes('2027-03-09T10:00', '2027-03-09T11:00');

  it('is not restored over somebody else’s, and says what would do instead', async () => {
    const puffin = await server.id('Puffin');
    const ines = await server.as('ines.aldabe');
    const leila = await server.as('leila.haddad');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({ times: when, resources: [puffin] }),
    );
    const address = `/api/events/${made.body.id}`;
    await ines.post(`${address}/cancel`, { version: 1 });
    await leila.post('/api/events', meetingRequest({ times: when, resources: [puffin] }));
    const refused = await ines.post<Refusal>(`${address}/restore`, { version: 2 });
    expect(refused).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    expect(refused.body.taken).toMatchObject([{ name: 'Puffin', holder: 'Leila Haddad' }]);
    expect(refused.body.alternatives).toHaveLength(3);
    expect((await ines.get<EventDetail>(address)).body).toMatchObject({
      status: 'cancelled',
      version: 2,
    });
  });

  it('cannot be changed until it is restored', async () => {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>('/api/events', meetingRequest());
    const address = `/api/events/${made.body.id}`;
    await ines.post(`${address}/cancel`, { version: 1 });
    const change = await ines.patch<ProblemBody>(address, { version: 2, title: 'Too late' });
    expect(change).toMatchObject({ status: 409, body: { code: 'cancelled' } });
  });
});

describe('the day of a place', () => {
  it('names one date of a series as that date is named', async () => {
    const skua = await server.id('Skua');
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Kelp weekly',
        times: bergenTimes('2027-04-06T05:00', '2027-04-06T06:00'),
        repeats: { rule: 'FREQ=WEEKLY;COUNT=3' },
        resources: [skua],
      }),
    );
    await ines.patch(`/api/events/${made.body.id}`, {
      version: 1,
      scope: 'one',
      occurrence: '2027-04-13T05:00',
      title: 'Kelp weekly with the divers',
    });
    const title = async (date: string) =>
      (await ines.get<PlaceDay>(`/api/places/${skua}/day?date=${date}`)).body.bookings.map(
        (one) => one.title,
      );
    expect(await title('2027-04-06')).toContain('Kelp weekly');
    expect(await title('2027-04-13')).toContain('Kelp weekly with the divers');
  });
});

describe('places now', () => {
  it('say what is free and until when, by the bookings there are', async () => {
    const ines = await server.as('ines.aldabe');
    const razorbill = await server.id('Razorbill');
    await server.sql('delete from claim where subject_id = $1', [razorbill]);
    const state = async () => {
      const { body } = await ines.get<PlacesResponse>('/api/places?q=Razorbill');
      return body.places.find((place) => place.id === razorbill);
    };
    expect(await state()).toMatchObject({ freeUnits: 1, until: null });
    await ines.post(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2026-11-24T09:00', '2026-11-24T10:00'),
        resources: [razorbill],
      }),
    );
    expect(await state()).toMatchObject({
      freeUnits: 0,
      until: Date.UTC(2026, 10, 24, 9),
      holder: 'Ines Aldabe',
    });
  });

  it('stand by site and floor, however they are read, and one floor of a site alone', async () => {
    const ines = await server.as('ines.aldabe');
    const read = async (query: string) =>
      (await ines.get<PlacesResponse>(`/api/places?${query}`)).body;
    const whole = await read('limit=200');
    const keys = whole.places.map(({ site, floor, name }) => [site, floor, name]);
    const home = keys[0]![0];
    expect(home).toBe('Skerry House');
    const inOrder = keys.toSorted(
      (a, b) =>
        Number(a[0] !== home) - Number(b[0] !== home) ||
        a[0]!.localeCompare(b[0]!) ||
        a[1]!.localeCompare(b[1]!) ||
        a[2]!.localeCompare(b[2]!, 'en', { numeric: false }),
    );
    expect(keys.map(([site, floor]) => [site, floor])).toEqual(
      inOrder.map(([site, floor]) => [site, floor]),
    );
    // The same a part at a time.
    const parts: number[] = [];
    for (let after: number | undefined; ;) {
      const { places } = await read(`limit=7${after === undefined ? '' : `&after=${after}`}`);
      parts.push(...places.map((one) => one.id));
      if (places.length < 7) break;
      after = places.at(-1)!.id;
    }
    expect(parts).toEqual(whole.places.map((one) => one.id));
    const site = whole.sites.find((one) => one.name === home)!.id;
    const here = whole.places.filter((one) => one.siteId === site);
    expect((await read(`site=${site}`)).floors).toEqual(
      [...new Set(here.map((one) => one.floor).filter(Boolean))].sort(),
    );
    const second = await read(`site=${site}&floor=2&limit=200`);
    expect(second.places.map((one) => one.id)).toEqual(
      here.filter((one) => one.floor === '2').map((one) => one.id),
    );
    expect(second.total).toBe(second.places.length);
    expect(whole.floors).toEqual([]);
  });

  it('an unknown place is not found, and a day that does not exist is named', async () => {
    const ines = await server.as('ines.aldabe');
    expect(await ines.get('/api/places/999999/day?date=2026-11-24')).toMatchObject({ status: 404 });
    const wrong = await ines.get<ProblemBody>('/api/places/1/day?date=2026-02-30');
    expect(wrong).toMatchObject({ status: 400, body: { fields: [{ field: 'date' }] } });
  });
});
