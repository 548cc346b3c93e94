import { beforeAll, describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* A meeting of mine is moved to make room for another: one action, one undo. */

const server = useServer({}, 10);
let leila: number;
let hal: number;
let room: number;
beforeAll(async () => {
  [leila, hal, room] = (await Promise.all(
    ['Leila Haddad', 'Hal Teague', 'Gannet'].map((name) => server.id(name)),
  )) as [number, number, number];
});

let day = 0;
const at = (from: string, to: string) => {
  const date = new Date(Date.UTC(2027, 10, 2 + day)).toISOString().slice(0, 10);
  return bergenTimes(`${date}T${from}`, `${date}T${to}`);
};
async function mine(): Promise<EventDetail> {
  day++;
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `In the way ${day}`,
      times: at('10:00', '11:00'),
      attendees: [{ personId: leila, role: 'required' }],
      resources: [room],
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}
const letters = (id: string) =>
  server.sql<{ occasion: string; calendar: string }>(
    'select occasion, calendar from mail where event_id = $1',
    [id],
  );
const another = (own: EventDetail, more: object = {}) =>
  meetingRequest({
    title: `Instead ${day}`,
    times: at('10:00', '11:00'),
    attendees: [{ personId: hal, role: 'required' }],
    resources: [room],
    moving: [{ eventId: own.id, version: own.version, times: at('14:00', '15:00') }],
    ...more,
  });
type Made = EventDetail & { moved: { id: string; version: number }[] };

describe('making room', () => {
  it('moves the one and sends the other, whose places are then free, and one undo takes back both', async () => {
    const ines = await server.as('ines.aldabe');
    const own = await mine();
    const made = await ines.post<Made>('/api/events', another(own));
    expect(made.status).toBe(201);
    expect(made.body.moved).toEqual([{ id: own.id, version: own.version + 1 }]);
    const moved = await ines.get<EventDetail>(`/api/events/${own.id}`);
    expect(moved.body.startsAt).toBe(at('14:00', '15:00').startsAt);
    // Its invitation has not left: it says the new time by now.
    const now = await letters(own.id);
    expect(now.map((one) => one.occasion)).toEqual(['invited']);
    expect(now[0]!.calendar).toMatch(/DTSTART:\d{8}T130000Z/);
    const undone = await ines.post(`/api/events/${made.body.id}/cancel`, {
      version: made.body.version,
      takeBack: made.body.moved,
    });
    expect(undone.status).toBe(200);
    const back = await ines.get<EventDetail>(`/api/events/${own.id}`);
    expect(back.body.startsAt).toBe(at('10:00', '11:00').startsAt);
    expect(back.body.resources.map((one) => one.id)).toEqual([room]);
    // Nobody had a letter of it yet, and nobody will.
    const then = await letters(own.id);
    expect(then.map((one) => one.occasion)).toEqual(['invited']);
    expect(then[0]!.calendar).toMatch(/DTSTART:\d{8}T090000Z/);
    expect(await letters(made.body.id)).toEqual([]);
  });

  it('does neither when one of them cannot be', async () => {
    const ines = await server.as('ines.aldabe');
    const own = await mine();
    const other = await server.as('hal.teague');
    await other.post(
      '/api/events',
      meetingRequest({ title: 'Later there', times: at('14:00', '15:00'), resources: [room] }),
    );
    const refused = await ines.post<ProblemBody>('/api/events', another(own));
    expect(refused).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    const stale = await ines.post<ProblemBody>(
      '/api/events',
      another(own, {
        moving: [{ eventId: own.id, version: own.version + 7, times: at('16:00', '17:00') }],
      }),
    );
    expect(stale).toMatchObject({ status: 409, body: { code: 'stale' } });
    const still = await ines.get<EventDetail>(`/api/events/${own.id}`);
    expect(still.body).toMatchObject({ version: own.version, startsAt: own.startsAt });
    const found = await server.sql('select 1 from event where title = $1', [`Instead ${day}`]);
    expect(found).toEqual([]);
  });

  it('is for events that the asker may change alone', async () => {
    const own = await mine();
    const stranger = await server.as('mika.sandoval');
    const refused = await stranger.post<ProblemBody>('/api/events', another(own));
    expect([403, 404]).toContain(refused.status);
  });

  it('takes nothing back when what made room was moved on since', async () => {
    const ines = await server.as('ines.aldabe');
    const own = await mine();
    const made = await ines.post<Made>('/api/events', another(own));
    await ines.patch(`/api/events/${own.id}`, {
      version: own.version + 1,
      times: at('16:00', '17:00'),
    });
    const undo = await ines.post<ProblemBody>(`/api/events/${made.body.id}/cancel`, {
      version: made.body.version,
      takeBack: made.body.moved,
    });
    expect(undo).toMatchObject({ status: 409, body: { code: 'changed-since' } });
    const still = await ines.get<EventDetail>(`/api/events/${made.body.id}`);
    expect(still.body.status).toBe('confirmed');
  });
});
