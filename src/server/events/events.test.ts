import { describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { ProblemBody } from '../../contract/common.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();

async function counts() {
  const [row] = await server.sql<Record<string, number>>(
    `select (select count(*) from event) as events, (select count(*) from occurrence) as occurrences,
            (select count(*) from claim) as claims, (select count(*) from attendee) as attendees,
            (select count(*) from mail) as mails`,
  );
  return row;
}

describe('making an event', () => {
  it('keeps the event, claims everyone’s time and reserves the room with its buffers', async () => {
    const ines = await server.as('ines.aldabe');
    const tomas = await server.id('Tomas Okafor');
    const fulmar = await server.id('Fulmar');
    const answer = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-01-20T10:00', '2027-01-20T11:00'),
        attendees: [{ personId: tomas, role: 'required' }],
        resources: [fulmar],
      }),
    );
    expect(answer.status).toBe(201);
    expect(answer.body).toMatchObject({ version: 1, sequence: 0, canChange: true, clockNotes: [] });
    const claims = await server.sql(
      `select subject_id, lower(during) as start, upper(during) as "end", occupancy, exclusive
       from claim join occurrence on occurrence.id = claim.occurrence_id where event_id = $1
       order by subject_id`,
      [answer.body.id],
    );
    const [start, end] = [Date.UTC(2027, 0, 20, 9), Date.UTC(2027, 0, 20, 10)];
    const quarter = 15 * 60_000;
    expect(claims).toEqual([
      {
        subject_id: await server.id('Ines Aldabe'),
        start,
        end,
        occupancy: 'busy',
        exclusive: false,
      },
      { subject_id: tomas, start, end, occupancy: 'tentative', exclusive: false },
      {
        subject_id: fulmar,
        start: start - quarter,
        end: end + quarter,
        occupancy: 'busy',
        exclusive: true,
      },
    ]);
    expect(answer.body).toMatchObject({ start, end });
  });

  it('answers a repeated request again and makes one meeting', async () => {
    const ines = await server.as('ines.aldabe');
    const key = { 'Idempotency-Key': 'the-same-request-1' };
    const request = meetingRequest({ title: 'Once only' });
    const first = await ines.post<EventDetail>('/api/events', request, key);
    const second = await ines.post<EventDetail>('/api/events', request, key);
    expect([first.status, second.status]).toEqual([201, 201]);
    expect(second.body).toEqual(first.body);
    const made = await server.sql(`select 1 from event where title = 'Once only'`);
    expect(made).toHaveLength(1);
  });

  it('makes one meeting of two equal requests at the same moment', async () => {
    const ines = await server.as('ines.aldabe');
    const request = meetingRequest({ title: 'Sent twice at once' });
    const answers = await Promise.all(
      [1, 2, 3].map(() =>
        ines.post<EventDetail>('/api/events', request, { 'Idempotency-Key': 'twice-at-once' }),
      ),
    );
    expect(answers.map((answer) => answer.status)).toEqual([201, 201, 201]);
    expect(new Set(answers.map((answer) => answer.body.id)).size).toBe(1);
  });

  it('refuses a key that was used for something else', async () => {
    const ines = await server.as('ines.aldabe');
    const key = { 'Idempotency-Key': 'used-for-another' };
    await ines.post('/api/events', meetingRequest({ title: 'One thing' }), key);
    const other = await ines.post<ProblemBody>(
      '/api/events',
      meetingRequest({ title: 'Another thing' }),
      key,
    );
    expect(other).toMatchObject({ status: 422, body: { code: 'key-used' } });
  });

  it('counts an address inside the organization as that colleague', async () => {
    const ines = await server.as('ines.aldabe');
    const answer = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        attendees: [
          { email: 'Mika.Sandoval@ternrock.example', role: 'required' },
          { email: 'guest@elsewhere.example', name: 'A guest', role: 'optional' },
        ],
      }),
    );
    expect(answer.body.attendees.map(({ name, personId }) => [name, personId])).toEqual([
      ['Ines Aldabe', await server.id('Ines Aldabe')],
      ['Mika Sandoval', await server.id('Mika Sandoval')],
      ['A guest', null],
    ]);
  });
});

describe('bad input', () => {
  const cases: [string, unknown, string, RegExp][] = [
    ['no title', { ...meetingRequest(), title: undefined }, 'title', /must be/],
    ['an empty title', meetingRequest({ title: '   ' }), 'title', /must not be empty/],
    [
      'a title of 100,000 characters',
      meetingRequest({ title: 'x'.repeat(100_000) }),
      'title',
      /at most 200/,
    ],
    [
      'an end before the start',
      meetingRequest({ times: bergenTimes('2026-12-10T11:00', '2026-12-10T10:00') }),
      'times.endsAt',
      /later than times.startsAt/,
    ],
    [
      'an unknown zone',
      meetingRequest({
        times: { ...bergenTimes('2026-12-10T10:00', '2026-12-10T11:00'), zone: 'Europe/Atlantis' },
      }),
      'times.zone',
      /time zone known here/,
    ],
    [
      'a day that does not exist',
      meetingRequest({ times: bergenTimes('2027-02-30T10:00', '2027-02-30T11:00') }),
      'times.startsAt',
      /day that exists/,
    ],
    [
      'somebody who does not exist',
      meetingRequest({ attendees: [{ personId: 999_999, role: 'required' }] }),
      'attendees.0.personId',
      /id of a person/,
    ],
    [
      'a resource that does not exist',
      meetingRequest({ resources: [999_999] }),
      'resources.0',
      /id of a resource/,
    ],
    ['a field nobody knows', { ...meetingRequest(), colour: 'red' }, 'colour', /not a field/],
    ['a list where text belongs', { ...meetingRequest(), title: ['x'] }, 'title', /must be text/],
  ];

  it.each(cases)('%s is refused, named, and changes nothing', async (_, body, field, message) => {
    const ines = await server.as('ines.aldabe');
    const before = await counts();
    const answer = await ines.post<ProblemBody>('/api/events', body);
    expect(answer.status).toBe(400);
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(answer.body.code).toBe('invalid-request');
    const named = answer.body.fields!.find((one) => one.field === field);
    expect(named?.message).toMatch(message);
    expect(await counts()).toEqual(before);
  });

  it('a body that is not JSON is refused', async () => {
    const ines = await server.as('ines.aldabe');
    const broken = await ines.post<ProblemBody>('/api/events', '{"title": ');
    expect(broken).toMatchObject({
      status: 400,
      body: { code: 'not-json', fields: [{ field: 'body' }] },
    });
    const form = await ines.request<ProblemBody>('POST', '/api/events', 'title=x', {
      'Content-Type': 'application/x-www-form-urlencoded',
    });
    expect(form).toMatchObject({ status: 415, body: { code: 'not-json' } });
    const huge = await ines.post<ProblemBody>('/api/events', { title: 'x'.repeat(2_000_000) });
    expect(huge).toMatchObject({ status: 413, body: { code: 'too-large' } });
  });

  it('nobody gets in without signing in, or from a page of another site', async () => {
    const stranger = server.anonymous();
    expect(await stranger.post('/api/events', meetingRequest())).toMatchObject({ status: 401 });
    const ines = await server.as('ines.aldabe');
    const foreign = await ines.post('/api/events', meetingRequest(), {
      Origin: 'https://evil.example',
    });
    expect(foreign).toMatchObject({ status: 403, body: { code: 'foreign-origin' } });
  });
});

describe('times around a clock change', () => {
  it('reads a skipped time with the offset before the change and says so', async () => {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({ times: bergenTimes('2027-03-28T02:30', '2027-03-28T04:00') }),
    );
    expect(made.status).toBe(201);
    expect(made.body.start).toBe(Date.UTC(2027, 2, 28, 1, 30));
    expect(made.body.startsAt).toBe('2027-03-28T03:30');
    expect(made.body.clockNotes.join()).toMatch(/skip 02:30; it is taken as 03:30/);
    const read = await ines.get<EventDetail>(`/api/events/${made.body.id}`);
    expect(read.body).toMatchObject({ start: made.body.start, startsAt: '2027-03-28T03:30' });
  });

  it.each([
    ['earlier', Date.UTC(2027, 9, 31, 0, 30), /the first one is meant \(UTC\+2\)/],
    ['later', Date.UTC(2027, 9, 31, 1, 30), /the second one is meant \(UTC\+1\)/],
  ] as const)('takes the %s of two equal times as asked', async (fold, start, note) => {
    const ines = await server.as('ines.aldabe');
    const times = { ...bergenTimes('2027-10-31T02:30', '2027-10-31T04:00'), fold };
    const made = await ines.post<EventDetail>('/api/events', meetingRequest({ times }));
    expect(made.body.start).toBe(start);
    const read = await ines.get<EventDetail>(`/api/events/${made.body.id}`);
    expect(read.body.start).toBe(start);
    expect(read.body.clockNotes.join()).toMatch(note);
  });
});

describe('changing and cancelling', () => {
  async function make(changes = {}) {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>('/api/events', meetingRequest(changes));
    return { ines, event: made.body };
  }

  it('moves the meeting with its claims, asks everyone again and raises the sequence', async () => {
    const tomas = await server.id('Tomas Okafor');
    const { ines, event } = await make({ attendees: [{ personId: tomas, role: 'required' }] });
    const other = await server.as('tomas.okafor');
    await other.post(`/api/invitations/${event.id}/reply`, { reply: 'accepted' });
    const read = await ines.get<EventDetail>(`/api/events/${event.id}`);
    const moved = await ines.patch<EventDetail>(`/api/events/${event.id}`, {
      version: read.body.version,
      times: bergenTimes('2026-12-10T10:45', '2026-12-10T11:30'),
    });
    expect(moved.body).toMatchObject({ sequence: 1, start: Date.UTC(2026, 11, 10, 9, 45) });
    expect(moved.body.attendees[1]).toMatchObject({ name: 'Tomas Okafor', reply: 'needs-action' });
    const spans = await server.sql(
      `select distinct lower(during) as start, upper(during) as "end" from claim
       join occurrence on occurrence.id = claim.occurrence_id where event_id = $1`,
      [event.id],
    );
    expect(spans).toEqual([{ start: moved.body.start, end: moved.body.end }]);
  });

  it('refuses a change of something that was changed meanwhile, with its present state', async () => {
    const { ines, event } = await make();
    await ines.patch(`/api/events/${event.id}`, { version: 1, title: 'First' });
    const late = await ines.patch<ProblemBody & { current: EventDetail }>(
      `/api/events/${event.id}`,
      { version: 1, title: 'Second' },
    );
    expect(late).toMatchObject({ status: 409, body: { code: 'stale' } });
    expect(late.body.current).toMatchObject({ title: 'First', version: 2 });
  });

  it('cancels and restores, and the time is free in between', async () => {
    const gannet = await server.id('Gannet');
    const { ines, event } = await make({
      times: bergenTimes('2027-01-21T10:00', '2027-01-21T11:00'),
      resources: [gannet],
    });
    const claims = () =>
      server.sql(
        'select 1 from claim join occurrence on occurrence.id = claim.occurrence_id where event_id = $1',
        [event.id],
      );
    const cancelled = await ines.post<EventDetail>(`/api/events/${event.id}/cancel`, {
      version: 1,
    });
    expect(cancelled.body).toMatchObject({ status: 'cancelled', version: 2, sequence: 1 });
    expect(await claims()).toHaveLength(0);
    const restored = await ines.post<EventDetail>(`/api/events/${event.id}/restore`, {
      version: 2,
    });
    expect(restored.body.status).toBe('confirmed');
    expect(await claims()).toHaveLength(2);
  });

  it('somebody else’s event looks as if there were none', async () => {
    const { event } = await make({ visibility: 'private' });
    const mei = await server.as('mei.tanaka');
    const unknown = '00000000-0000-4000-8000-000000000000';
    for (const id of [event.id, unknown]) {
      expect(await mei.get(`/api/events/${id}`)).toMatchObject({ status: 404 });
      const change = await mei.patch<ProblemBody>(`/api/events/${id}`, {
        version: 1,
        title: 'Mine',
      });
      expect(change).toMatchObject({ status: 404, body: { code: 'no-such-event' } });
      expect(await mei.post(`/api/events/${id}/cancel`, { version: 1 })).toMatchObject({
        status: 404,
      });
    }
    expect(await mei.get('/api/events/not-an-id')).toMatchObject({ status: 400 });
  });

  it('an invitee reads the meeting but may not change it', async () => {
    const tomas = await server.id('Tomas Okafor');
    const { event } = await make({ attendees: [{ personId: tomas, role: 'required' }] });
    const other = await server.as('tomas.okafor');
    expect((await other.get<EventDetail>(`/api/events/${event.id}`)).body.canChange).toBe(false);
    const change = await other.patch(`/api/events/${event.id}`, { version: 1, title: 'Mine' });
    expect(change).toMatchObject({ status: 403, body: { code: 'not-organizer' } });
  });
});
