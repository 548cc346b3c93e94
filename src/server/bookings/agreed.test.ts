import { describe, expect, it } from 'vitest';
import type { PlaceRequestsResponse } from '../../contract/bookings.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';
import { NO_RULES } from '../../core/booking/rules.ts';
import { HOUR } from '../../core/time/interval.ts';
import { meetingRequest, newPlace } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* What becomes of an agreement when what was agreed to is changed, taken back or taken away. */
const server = useServer();
const START = Date.UTC(2026, 11, 1, 8);
const wall = (instant: number) => new Date(instant).toISOString().slice(0, 16);
const ines = () => server.as('ines.aldabe');

/** Two hours of a place of its own, asked for by somebody and agreed to. */
async function agreedBooking(name: string) {
  const steward = await ines();
  const rules = { ...NO_RULES, open: null, teams: null, approval: true as const };
  const place = await steward.post<{ id: number }>(
    '/api/catalogue/places',
    newPlace({ name, rules }),
  );
  const id = place.body.id;
  const client = await server.as('tomas.okafor');
  const { body: event } = await client.post<EventDetail>(
    '/api/events',
    meetingRequest({
      times: { startsAt: wall(START), endsAt: wall(START + 2 * HOUR), zone: 'UTC' },
      attendees: [],
      resources: [id],
    }),
  );
  await decide(event.id, id);
  expect(await stateOf(event.id)).toMatchObject([{ state: 'held' }]);
  return { id, start: START, event, client };
}

const decide = async (eventId: string, placeId: number) =>
  (await ines()).post('/api/bookings/requests/decide', {
    eventId,
    placeId,
    version: (
      await server.sql<{ version: number }>('select version from event where id = $1', [eventId])
    )[0]!.version,
    agreed: true,
  });

const stateOf = (eventId: string) =>
  server.sql<{ id: string; state: string; from: number; to: number }>(
    `select reservation.id::text, state, lower(during) as from, upper(during) as to
     from occurrence join reservation on occurrence_id = occurrence.id
     left join claim on reservation_id = reservation.id
     where occurrence.event_id = $1`,
    [eventId],
  );

/** Of what stewards were told that somebody asks for it, and of that what waits. */
const asked = async () =>
  (await (await ines()).get<NotificationsResponse>('/api/notifications')).body.notifications.filter(
    (one) => one.what === 'place-asked',
  );
const waiting = async () =>
  (await (await ines()).get<PlaceRequestsResponse>('/api/bookings/requests')).body.requests;

describe('what a steward agreed to', () => {
  it('is had again where a change of it is taken back, and asked of nobody', async () => {
    const { id, start, event, client } = await agreedBooking('Knot');
    const change = async (version: number, from: number, end: number) =>
      client.patch<EventDetail>(`/api/events/${event.id}`, {
        version,
        times: { startsAt: wall(from), endsAt: wall(end), zone: 'UTC' },
      });
    const undo = async (version: number) => {
      const before = await asked();
      const done = await client.post<EventDetail>(`/api/events/${event.id}/undo`, { version });
      expect(done.status).toBe(200);
      // What was asked meanwhile may be gone; nothing is asked anew.
      expect(before).toEqual(expect.arrayContaining(await asked()));
      return done.body.version;
    };
    // Made shorter, moved away, and cancelled: each is taken back.
    let { body: now } = await change(event.version, start, start + HOUR);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'held' }]);
    let version = await undo(now.version);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'held', to: start + 2 * HOUR }]);
    ({ body: now } = await change(version, start + 3 * HOUR, start + 5 * HOUR));
    expect(await stateOf(event.id)).toMatchObject([{ state: 'requested' }]);
    version = await undo(now.version);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'held', from: start }]);
    expect(await waiting()).not.toContainEqual(expect.objectContaining({ eventId: event.id }));
    const { body: gone } = await client.post<EventDetail>(`/api/events/${event.id}/cancel`, {
      version,
    });
    version = await undo(gone.version);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'held', to: start + 2 * HOUR }]);
    // Beyond it a steward is asked, and what they agree to then is what counts.
    ({ body: now } = await change(version, start + HOUR, start + 3 * HOUR));
    expect(await stateOf(event.id)).toMatchObject([{ state: 'requested' }]);
    await decide(event.id, id);
    await change(now.version, start, start + 2 * HOUR);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'requested', from: start }]);
  });

  it('is asked for anew where a steward took it away', async () => {
    const { start, event, client } = await agreedBooking('Ruff');
    const [booking] = await stateOf(event.id);
    const gone = await (
      await ines()
    ).post('/api/ledger/change', {
      bookings: [{ id: booking!.id, start }],
      change: { kind: 'give-back' },
    });
    expect(gone.status).toBe(200);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'released' }]);
    const { body: found } = await client.get<EventDetail>(`/api/events/${event.id}`);
    const restored = await client.post(`/api/events/${event.id}/restore`, {
      version: found.version,
    });
    expect(restored.status).toBe(200);
    expect(await stateOf(event.id)).toMatchObject([{ state: 'requested' }]);
  });
});
