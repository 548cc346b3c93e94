import { beforeAll, describe, expect, it } from 'vitest';
import type { PlaceRequestsResponse } from '../../src/contract/bookings.ts';
import type { CalendarResponse } from '../../src/contract/calendar.ts';
import type { ClosurePreview } from '../../src/contract/closures.ts';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import type { CreateEventRequest } from '../../src/contract/events.ts';
import type { LedgerResponse } from '../../src/contract/ledger.ts';
import { SHARING_LEVELS, type SharingLevel } from '../../src/core/availability/busy.ts';
import { bergenTimes, meetingRequest, newPlace } from '../support/requests.ts';
import { useServer } from '../support/server.ts';

/*
 * What whoever looks after places, and whoever is asked beside a list that is not theirs to see, come across:
 * every answer is looked through for marked words.
 */

const server = useServer({ works: false });
server.writesPastTheRules();
const MARK = 'Zwielicht';
let leila: number;
let place: number;
beforeAll(async () => {
  leila = await server.id('Leila Haddad');
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<{ id: number }>(
    '/api/catalogue/places',
    newPlace({ name: 'Petrel' }),
  );
  place = made.body.id;
  await server.sql(`update resource set rules = '{"approval": true}' where subject_id = $1`, [
    place,
  ]);
});

const share = (level: SharingLevel) =>
  server.sql('update person set share_organization = $2 where subject_id = $1', [leila, level]);

let day = 0;
/** A meeting of Leila's in the place, on a day of its own. */
async function meeting(more: Partial<CreateEventRequest> = {}) {
  const client = await server.as('leila.haddad');
  const date = new Date(Date.UTC(2027, 8, 1 + day++)).toISOString().slice(0, 10);
  const made = await client.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `${MARK} ${date}`,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      resources: [place],
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

/** Whatever the place's keeper asks for that speaks of what is in it. */
async function asSteward({ start, end }: { start: number; end: number }) {
  const steward = await server.as('ines.aldabe');
  const date = new Date(start).toISOString().slice(0, 10);
  const answers = await Promise.all([
    steward.get<PlaceRequestsResponse>('/api/bookings/requests'),
    steward.get<ClosurePreview>(`/api/places/${place}/closures/preview?start=${start}&end=${end}`),
    steward.post(`/api/catalogue/places/${place}/preview`, {
      rules: { ...newPlace().rules, longestMinutes: 15 },
    }),
    steward.get<LedgerResponse>(
      `/api/ledger?whose=all&from=${date}&to=${date}&sort=title&place=${place}`,
    ),
    steward.get(`/api/places/${place}/day?date=${date}`),
  ]);
  expect(answers.map((one) => one.status)).toEqual([200, 200, 200, 200, 200]);
  const [requests, closure, preview] = answers as unknown as [
    { body: PlaceRequestsResponse },
    { body: ClosurePreview },
    { body: { total: number } },
  ];
  // They come across the booking itself on each of these ways.
  expect(requests.body.requests.filter((one) => one.start === start)).toHaveLength(1);
  expect(closure.body.bookings.map((one) => one.start)).toContain(start);
  expect(preview.body.total).toBeGreaterThan(0);
  return JSON.stringify(answers.map((one) => one.body));
}

describe('what a steward comes across of bookings', () => {
  it.each(SHARING_LEVELS)('shows titles as its holder shares them: %s', async (level) => {
    await share(level);
    const event = await meeting();
    const seen = await asSteward(event);
    expect(seen.includes(event.title)).toBe(!['nothing', 'busy'].includes(level));
  });

  it.each(['private', 'draft'] as const)('shows no title of what is %s', async (kind) => {
    await share('everything');
    const event = await meeting(
      kind === 'private' ? { visibility: 'private' } : { draft: { holds: true } },
    );
    expect(await asSteward(event)).not.toContain(event.title);
  });

  it.each([
    ['default', true],
    ['private', false],
    ['draft', false],
  ] as const)('finds, sorts and puts together by title what is %s: %s', async (kind, isSeen) => {
    await share('everything');
    const event = await meeting(
      kind === 'draft' ? { draft: { holds: true } } : { visibility: kind },
    );
    const steward = await server.as('ines.aldabe');
    const date = new Date(event.start).toISOString().slice(0, 10);
    const asked = `/api/ledger?whose=all&from=${date}&to=${date}&place=${place}`;
    const ledger = async (more: string) =>
      (await steward.get<LedgerResponse>(`${asked}&${more}`)).body;
    expect((await ledger('sort=start')).rows).toHaveLength(1);
    expect((await ledger(`q=${MARK}`)).total).toBe(isSeen ? 1 : 0);
    expect((await ledger(`q=${MARK}&group=holder`)).groups).toHaveLength(isSeen ? 1 : 0);
    expect((await ledger('group=title')).groups.map((one) => one.label)).toEqual([
      isSeen ? event.title : null,
    ]);
    expect((await ledger('sort=title')).rows[0]!.title).toBe(isSeen ? event.title : null);
  });

  it('has no notes of what takes no place', async () => {
    const steward = await server.as('ines.aldabe');
    const without = await meeting({ resources: [], visibility: 'private' });
    for (const answer of [
      await steward.get(`/api/bookings/notes/${without.id}`),
      await steward.request('PUT', `/api/bookings/notes/${without.id}`, {
        note: MARK,
        contact: '',
      }),
    ])
      expect(answer.status).toBe(404);
    const within = await meeting();
    expect((await steward.get(`/api/bookings/notes/${within.id}`)).status).toBe(200);
  });
});

describe('a list that is hidden', () => {
  it('names nobody of it, and tells no count', async () => {
    await share('everything');
    const [hal, clara] = [await server.id('Hal Teague'), await server.id('Clara Weiss')];
    await server.sql(`delete from claim where subject_id = any($1) and not exclusive`, [
      [hal, clara],
    ]);
    // A meeting of last week, since people are met in what is over.
    const client = await server.as('leila.haddad');
    const made = await client.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: `${MARK} asked apart`,
        times: bergenTimes('2026-11-18T10:00', '2026-11-18T11:00'),
        attendees: [hal, clara].map((personId) => ({ personId, role: 'required' as const })),
        resources: [place],
        rights: { list: false },
      }),
    );
    expect(made.status).toBe(201);
    const { id, start, end } = made.body;
    const reader = await server.as('hal.teague');
    const met = await reader.get<{ met: { name: string }[] }>('/api/line-ups');
    expect(met.body.met.map((one) => one.name)).toEqual(['Leila Haddad']);
    const span = `from=${start}&to=${end}`;
    const calendar = await reader.get<CalendarResponse>(`/api/calendar?${span}`);
    expect(calendar.body.items.find((one) => one.eventId === id)!.attendeeCount).toBe(2);
    const booked = `/api/ledger?whose=all&from=2026-11-18&to=2026-11-18&place=${place}`;
    const ledger = await reader.get<LedgerResponse>(booked);
    expect(ledger.body.rows.find((one) => one.eventId === id)!.others).toBeNull();
    for (const road of [
      `/api/calendar/search?q=${MARK}`,
      `/api/events/${id}`,
      `/api/invitations/${id}`,
      booked,
    ]) {
      const { status, body } = await reader.get(road);
      expect(status).toBe(200);
      expect(JSON.stringify(body)).not.toMatch(/Clara|clara/);
    }
    // Its organizer sees all of it.
    const own = await client.get<CalendarResponse>(`/api/calendar?${span}`);
    expect(own.body.items.find((one) => one.eventId === id)!.attendeeCount).toBe(3);
  });
});

describe('taking back what its organizer alone does', () => {
  it('is not for an invitee who may change it, on either road', async () => {
    const hal = await server.id('Hal Teague');
    const organizer = await server.as('leila.haddad');
    const invitee = await server.as('hal.teague');
    const draft = await meeting({
      attendees: [{ personId: hal, role: 'required' }],
      rights: { change: true },
      draft: { holds: true },
    });
    const sent = await organizer.post<EventDetail>(`/api/events/${draft.id}/send`, {
      version: draft.version,
    });
    expect(sent.status).toBe(200);
    const { version } = sent.body;
    const both = [
      await invitee.post(`/api/events/${draft.id}/undo`, { version, change: version }),
      await invitee.post('/api/ledger/undo', { changes: [{ id: draft.id, version }] }),
    ];
    expect(both.map((one) => one.status)).toEqual([403, 403]);
    const seen = await invitee.get<EventDetail>(`/api/events/${draft.id}`);
    expect(seen).toMatchObject({ status: 200, body: { draft: null } });
    // A date that was cancelled is not brought back by them either.
    const series = await meeting({
      attendees: [{ personId: hal, role: 'required' }],
      rights: { change: true },
      resources: [],
      repeats: { rule: 'FREQ=DAILY;COUNT=4' },
    });
    const at = series.startsAt;
    const cancelled = await organizer.post<EventDetail>(`/api/events/${series.id}/cancel`, {
      version: series.version,
      scope: 'one',
      occurrence: at,
    });
    expect(cancelled.status).toBe(200);
    const undo = { changes: [{ id: series.id, version: series.version + 1 }] };
    expect((await invitee.post('/api/ledger/undo', undo)).status).toBe(403);
    expect((await organizer.post('/api/ledger/undo', undo)).status).toBe(200);
  });
});
