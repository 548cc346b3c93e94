import { beforeAll, describe, expect, it } from 'vitest';
import type {
  MyBookingsResponse,
  PlaceRequestsResponse,
  PresenceResponse,
} from '../../contract/bookings.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';
import type { Place } from '../../contract/places.ts';
import { HOUR, MINUTE } from '../../core/time/interval.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { watchBookings } from './clockwork.ts';

/* Bookings as they are used: somebody comes, leaves, does not come; a steward agrees or does not. */
const server = useServer();
// Of the demonstration's own places none asks for anything here.
beforeAll(() => server.sql(`update resource set rules = rules - 'graceMinutes' - 'approval'`));
const clock = () => server.running.platform.clock;
const START = Date.UTC(2026, 11, 1, 8);

/** Sets the clock of the server. */
function setNow(now: number) {
  clock().now = () => now;
}
const wall = (instant: number) => new Date(instant).toISOString().slice(0, 16);

let days = 0;
/** A place with rules, taken by nobody, and a time that is nobody else's. */
async function placeWith(rules: Record<string, unknown>, units = 1) {
  const [{ id }] = (await server.sql<{ id: number }>(
    `with made as (insert into subject (kind, name) values ('resource', 'Puffin ' || $1) returning id)
     insert into resource (subject_id, kind, site_id, floor, capacity, units, rules)
     select made.id, 'room', (select id from site where name = 'Skerry House'), '1', 6, $3, $2 from made
     returning subject_id as id`,
    [days, JSON.stringify(rules), units],
  )) as [{ id: number }];
  days += 2;
  return { id, start: START + days * 24 * HOUR };
}

async function book(
  mailbox: string,
  place: number,
  start: number,
  end: number,
  more: Record<string, unknown> = {},
) {
  const client = await server.as(mailbox);
  const made = await client.post<Omit<EventDetail, 'status'> & ProblemBody>(
    '/api/events',
    meetingRequest({
      title: 'Slides',
      times: { startsAt: wall(start), endsAt: wall(end), zone: 'UTC' },
      attendees: [],
      resources: [place],
      ...more,
    }),
  );
  return { ...made, client };
}

const stateOf = async (eventId: string) => {
  const rows = await server.sql<{ state: string; from: number; to: number }>(
    `select state, lower(during) as from, upper(during) as to
     from occurrence join reservation on occurrence_id = occurrence.id
     left join claim on reservation_id = reservation.id
     where occurrence.event_id = $1 order by occurrence.starts_at`,
    [eventId],
  );
  return rows;
};

const newsOf = async (mailbox: string) => {
  const client = await server.as(mailbox);
  const { body } = await client.get<NotificationsResponse>('/api/notifications');
  return body.notifications;
};

describe('checking in', () => {
  it('is for those who take part, from a quarter before; leaving gives the rest to others', async () => {
    const { id, start } = await placeWith({ graceMinutes: 15 });
    const { body: event, client } = await book('tomas.okafor', id, start, start + 2 * HOUR);
    const here = { eventId: event.id, placeId: id };
    setNow(start - HOUR);
    const early = await client.post<ProblemBody>('/api/bookings/check-in', here);
    expect(early.body).toMatchObject({ code: 'check-in-too-early' });
    expect(early.body.detail).toMatch(/can be checked in to from 08:45 on/);
    const { body: mine } = await client.get<MyBookingsResponse>('/api/bookings/mine');
    expect(mine.bookings).toMatchObject([
      { placeId: id, start, from: start - 15 * MINUTE, givenUpAt: start + 15 * MINUTE },
    ]);
    setNow(start - 5 * MINUTE);
    const there = await client.post<PresenceResponse>('/api/bookings/check-in', here);
    expect(there.body).toEqual({ state: 'in-use', usedAt: start - 5 * MINUTE, leftAt: null });
    // Nobody is waited for who is there.
    setNow(start + 40 * MINUTE);
    expect(await watchBookings(server.running.platform)).toMatchObject({ warned: 0, givenUp: 0 });

    const left = await client.post<PresenceResponse>('/api/bookings/check-out', here);
    expect(left.body.leftAt).toBe(start + 40 * MINUTE);
    expect(await stateOf(event.id)).toEqual([
      { state: 'in-use', from: start, to: start + 40 * MINUTE },
    ]);
    // A new title takes nothing back.
    const renamed = await client.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      title: 'Slides, the last of them',
    });
    expect(renamed.status).toBe(200);
    expect(await stateOf(event.id)).toMatchObject([{ to: start + 40 * MINUTE }]);
    const other = await book('clara.weiss', id, start + HOUR, start + 2 * HOUR);
    expect(other.status).toBe(201);
    const back = await client.post<ProblemBody>('/api/bookings/check-in', here);
    expect(back.body.code).toBe('resource-taken');
    expect(await stateOf(event.id)).toMatchObject([{ to: start + 40 * MINUTE }]);
    await other.client.post(`/api/events/${other.body.id}/cancel`, {
      version: other.body.version,
    });
    const again = await client.post<PresenceResponse>('/api/bookings/check-in', here);
    expect(again.body).toMatchObject({ state: 'in-use', leftAt: null });
    expect(await stateOf(event.id)).toMatchObject([{ to: start + 2 * HOUR }]);
  });

  it('that nobody does gives the place to others, of which its holder hears before', async () => {
    const { id, start } = await placeWith({ graceMinutes: 15 });
    setNow(start - 24 * HOUR);
    const { body: event, client } = await book('tomas.okafor', id, start, start + HOUR);
    const platform = server.running.platform;
    setNow(start + 9 * MINUTE);
    expect(await watchBookings(platform)).toMatchObject({ warned: 0, givenUp: 0 });
    // No server looked for a while: nobody loses a place of which they were not told.
    setNow(start + 20 * MINUTE);
    expect(await watchBookings(platform)).toMatchObject({ warned: 1, givenUp: 0 });
    expect(await watchBookings(platform)).toMatchObject({ warned: 0, givenUp: 0 });
    expect((await newsOf('tomas.okafor'))[0]).toMatchObject({
      what: 'no-show-soon',
      title: 'Slides',
    });
    setNow(start + 25 * MINUTE);
    expect(await watchBookings(platform)).toMatchObject({ warned: 0, givenUp: 1 });
    const [first] = await newsOf('tomas.okafor');
    expect(first).toMatchObject({ what: 'no-show', kind: 'places', mine: true });
    expect(first!.by).toMatch(/^Puffin/);
    const { body: place } = await client.get<Place>(`/api/places/${id}`);
    expect(place).toMatchObject({ freeUnits: 1, until: null });
    expect(
      await server.sql('select person_id, starts_at from no_show where resource_id = $1', [id]),
    ).toEqual([{ person_id: await server.id('Tomas Okafor'), starts_at: start }]);
    // Nothing but a booking: it is cancelled, and can be had again.
    const { body: gone } = await client.get<EventDetail>(`/api/events/${event.id}`);
    expect(gone.status).toBe('cancelled');
    const restored = await client.post<EventDetail>(`/api/events/${event.id}/restore`, {
      version: gone.version,
    });
    expect(restored.body.status).toBe('confirmed');
  });

  it('leaves a meeting on when nobody came to its room, and warns anew at a new time', async () => {
    const { id, start } = await placeWith({ graceMinutes: 10 });
    setNow(start - 24 * HOUR);
    const { body: event, client } = await book('tomas.okafor', id, start, start + HOUR, {
      attendees: [{ personId: await server.id('Hal Teague'), role: 'required' }],
      repeats: { rule: 'FREQ=DAILY;COUNT=2' },
    });
    const platform = server.running.platform;
    setNow(start + 5 * MINUTE);
    expect(await watchBookings(platform)).toMatchObject({ warned: 1 });
    const at = wall(start);
    const moved = await client.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      scope: 'one',
      occurrence: at,
      times: { startsAt: wall(start + HOUR), endsAt: wall(start + 2 * HOUR), zone: 'UTC' },
    });
    expect(moved.status).toBe(200);
    setNow(start + 12 * MINUTE);
    expect(await watchBookings(platform)).toMatchObject({ warned: 0, givenUp: 0 });
    setNow(start + HOUR + 5 * MINUTE);
    expect(await watchBookings(platform)).toMatchObject({ warned: 1 });
    setNow(start + HOUR + 10 * MINUTE);
    expect(await watchBookings(platform)).toMatchObject({ givenUp: 1 });
    // The other date keeps its room, and both are on.
    const { body: one } = await client.get<EventDetail>(`/api/events/${event.id}?occurrence=${at}`);
    expect(one).toMatchObject({ status: 'confirmed', resources: [] });
    const next = wall(start + 24 * HOUR);
    const { body: two } = await client.get<EventDetail>(
      `/api/events/${event.id}?occurrence=${next}`,
    );
    expect(two.resources).toHaveLength(1);
  });

  it('is done once by two servers', async () => {
    const { id, start } = await placeWith({ graceMinutes: 10 });
    setNow(start - 24 * HOUR);
    await book('clara.weiss', id, start, start + HOUR);
    const platform = server.running.platform;
    setNow(start + 6 * MINUTE);
    const warned = await Promise.all([watchBookings(platform), watchBookings(platform)]);
    expect(warned[0].warned + warned[1].warned).toBe(1);
    setNow(start + 12 * MINUTE);
    const given = await Promise.all([watchBookings(platform), watchBookings(platform)]);
    expect(given[0].givenUp + given[1].givenUp).toBe(1);
    const rows = await server.sql('select 1 from no_show where resource_id = $1', [id]);
    expect(rows).toHaveLength(1);
  });
});

describe('a place to which a steward agrees', () => {
  const decide = async (body: Record<string, unknown>) =>
    (await server.as('ines.aldabe')).post<ProblemBody & { dates: number }>(
      '/api/bookings/requests/decide',
      { version: await versionOf(String(body.eventId)), ...body },
    );
  /** As whoever decides has read it just now. */
  const versionOf = async (id: string) =>
    (
      await server.sql<{ version: number }>('select version from event where id::text = $1', [id])
    )[0]?.version ?? 1;
  const waiting = async () => {
    const steward = await server.as('ines.aldabe');
    const { body } = await steward.get<PlaceRequestsResponse>('/api/bookings/requests');
    return body.requests;
  };

  it('is not agreed to by whoever has not seen what is asked for', async () => {
    const { id, start } = await placeWith({ approval: true });
    setNow(start - 24 * HOUR);
    const { body: event } = await book('tomas.okafor', id, start, start + HOUR);
    const [asked] = (await waiting()).filter((one) => one.eventId === event.id);
    const tomas = await server.as('tomas.okafor');
    const moved = await tomas.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      times: { startsAt: wall(start + HOUR), endsAt: wall(start + 5 * HOUR), zone: 'UTC' },
    });
    expect(moved.status).toBe(200);
    const decided = { eventId: event.id, placeId: id, agreed: true };
    expect(await decide({ ...decided, version: asked!.version })).toMatchObject({
      status: 409,
      body: { code: 'stale', fields: [{ field: 'version' }] },
    });
    expect((await stateOf(event.id)).map((one) => one.state)).toEqual(['requested']);
    const [now] = (await waiting()).filter((one) => one.eventId === event.id);
    expect(now).toMatchObject({ start: start + HOUR, end: start + 5 * HOUR });
    expect((await decide({ ...decided, version: now!.version })).status).toBe(200);
  });

  it('is held while it is asked for, and had once it is agreed to', async () => {
    const { id, start } = await placeWith({
      approval: true,
      hourlyPrice: { hundredths: 40_000, currency: 'NOK' },
    });
    setNow(start - 24 * HOUR);
    const { body: event } = await book('tomas.okafor', id, start, start + 90 * MINUTE, {
      repeats: { rule: 'FREQ=DAILY;COUNT=3' },
    });
    expect((await stateOf(event.id)).map((one) => one.state)).toEqual(Array(3).fill('requested'));
    // Its time is nobody else's meanwhile.
    const second = await book('clara.weiss', id, start, start + HOUR);
    expect(second.body.code).toBe('resource-taken');
    expect((await newsOf('ines.aldabe'))[0]).toMatchObject({ what: 'place-asked' });
    expect(await waiting()).toContainEqual(
      expect.objectContaining({
        eventId: event.id,
        placeId: id,
        holder: 'Tomas Okafor',
        dates: 3,
        price: { hundredths: 60_000, currency: 'NOK' },
        decidedBy: start,
      }),
    );
    const agreed = await decide({
      eventId: event.id,
      placeId: id,
      agreed: true,
      message: 'Gladly',
    });
    expect(agreed.body).toEqual({ dates: 3 });
    expect((await stateOf(event.id)).map((one) => one.state)).toEqual(Array(3).fill('held'));
    expect((await newsOf('tomas.okafor'))[0]).toMatchObject({
      what: 'place-agreed',
      words: 'Gladly',
    });
    expect((await decide({ eventId: event.id, placeId: id, agreed: true })).status).toBe(404);
  });

  it('is asked for anew at another time, and not within the same', async () => {
    const { id, start } = await placeWith({ approval: true });
    setNow(start - 24 * HOUR);
    const { body: event, client } = await book('tomas.okafor', id, start, start + 2 * HOUR);
    await decide({ eventId: event.id, placeId: id, agreed: true });
    const to = async (version: number, from: number, end: number) =>
      (
        await client.patch<EventDetail>(`/api/events/${event.id}`, {
          version,
          times: { startsAt: wall(from), endsAt: wall(end), zone: 'UTC' },
        })
      ).body.version;
    let version = await to(event.version, start, start + HOUR);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'held' }]);
    version = await to(version, start, start + 3 * HOUR);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'requested', to: start + 3 * HOUR }]);
    expect(version).toBe(3);
  });

  it('is others’ when nobody agrees, and whoever asked is told', async () => {
    const { id, start } = await placeWith({ approval: true });
    setNow(start - 24 * HOUR);
    const { body: event, client } = await book('tomas.okafor', id, start, start + HOUR, {
      attendees: [{ personId: await server.id('Hal Teague'), role: 'required' }],
    });
    await decide({ eventId: event.id, placeId: id, agreed: false, message: 'Painters' });
    const { body: still } = await client.get<EventDetail>(`/api/events/${event.id}`);
    expect(still).toMatchObject({ status: 'confirmed', resources: [] });
    expect((await newsOf('tomas.okafor'))[0]).toMatchObject({
      what: 'place-refused',
      words: 'Painters',
    });
    expect((await book('clara.weiss', id, start, start + HOUR)).status).toBe(201);
  });

  it('is over without an answer after two days, or when it begins', async () => {
    const { id, start } = await placeWith({ approval: true });
    const platform = server.running.platform;
    setNow(start - 3 * HOUR);
    const { body: late } = await book('tomas.okafor', id, start, start + HOUR);
    setNow(start + MINUTE);
    const passed = await decide({ eventId: late.id, placeId: id, agreed: true });
    expect(passed.body).toMatchObject({ code: 'too-late' });
    await watchBookings(platform);
    expect((await newsOf('tomas.okafor'))[0]).toMatchObject({
      what: 'place-expired',
      eventId: late.id,
    });
    const { body: far } = await book('tomas.okafor', id, start + 200 * HOUR, start + 201 * HOUR, {
      repeats: { rule: 'FREQ=DAILY;COUNT=4' },
    });
    setNow(start + 47 * HOUR);
    expect(await watchBookings(platform)).toMatchObject({ expired: 0 });
    setNow(start + 49 * HOUR);
    expect(await watchBookings(platform)).toMatchObject({ expired: 1 });
    expect((await stateOf(far.id)).every((one) => one.from === null)).toBe(true);
  });

  it('is a steward’s at once', async () => {
    const { id, start } = await placeWith({ approval: true });
    const { body: event } = await book('ines.aldabe', id, start, start + HOUR);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'held' }]);
  });
});

describe('letters about bookings', () => {
  const lettersOn = (eventId: string) =>
    server.sql<{ subject: string; body_text: string; calendar: string; method: string }>(
      'select subject, body_text, calendar, method from mail where event_id = $1 order by created_at',
      [eventId],
    );

  it('confirm what is booked, changed, cancelled and given up, for calendar programs, too', async () => {
    const { id, start } = await placeWith({
      graceMinutes: 15,
      hourlyPrice: { hundredths: 40_000, currency: 'NOK' },
    });
    setNow(start - 24 * HOUR);
    const { body: event, client } = await book('tomas.okafor', id, start, start + 90 * MINUTE);
    const change = async (end: number, version: number) =>
      (
        await client.patch<EventDetail>(`/api/events/${event.id}`, {
          version,
          times: { startsAt: wall(start), endsAt: wall(end), zone: 'UTC' },
        })
      ).body.version;
    setNow(start - 23 * HOUR);
    await change(start + 2 * HOUR, event.version);
    setNow(start + 10 * MINUTE);
    await watchBookings(server.running.platform);
    setNow(start + 15 * MINUTE);
    await watchBookings(server.running.platform);
    const letters = await lettersOn(event.id);
    expect(letters.map((one) => one.subject.split(': ')[0])).toEqual([
      'Booked',
      'Booking moved',
      'Are you coming?',
      'Given to others',
    ]);
    expect(letters.map((one) => one.method)).toEqual(['PUBLISH', 'PUBLISH', 'PUBLISH', 'CANCEL']);
    const [booked, moved, soon] = letters;
    expect(booked!.body_text).toContain('NOK 600');
    expect(booked!.body_text).toContain('Check in: Puffin');
    expect(booked!.calendar).toMatch(/LOCATION:Puffin \d+ \(Skerry House\)/);
    expect(booked!.calendar).not.toContain('ATTENDEE');
    expect(moved!.calendar).toContain('SEQUENCE:1');
    expect(soon!.body_text).toMatch(/Check in until 09:15/);
    expect(soon!.body_text).toContain(`/places?open=${id}`);
  });

  it('come neither for a meeting with others nor to whoever wants none', async () => {
    const { id, start } = await placeWith({});
    const withOthers = await book('tomas.okafor', id, start, start + HOUR, {
      attendees: [{ personId: await server.id('Hal Teague'), role: 'required' }],
    });
    expect((await lettersOn(withOthers.body.id)).map((one) => one.method)).toEqual(['REQUEST']);
    const clara = await server.as('clara.weiss');
    await clara.patch('/api/preferences', { hearing: { places: 'never' } });
    const quiet = await book('clara.weiss', id, start + HOUR, start + 2 * HOUR);
    expect(quiet.status).toBe(201);
    expect(await lettersOn(quiet.body.id)).toEqual([]);
  });
});
