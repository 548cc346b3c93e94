import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail, TakenDate } from '../../contract/eventDetail.ts';
import type { CreateEventRequest } from '../../contract/events.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { moveHorizon } from './index.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';

const server = useServer();
type Refusal = ProblemBody & { dates: TakenDate[] };

/** Five Wednesdays from 3 March 2027; the clock changes after the fourth. */
const weekly = (changes: Partial<CreateEventRequest> = {}) =>
  meetingRequest({
    title: 'Tide tables',
    times: bergenTimes('2027-03-03T09:00', '2027-03-03T10:00'),
    repeats: { rule: 'FREQ=WEEKLY;COUNT=5' },
    ...changes,
  });

async function make(changes: Partial<CreateEventRequest> = {}) {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>('/api/events', weekly(changes));
  expect(made.status).toBe(201);
  return { ines, event: made.body };
}

const occurrences = async (id: string) =>
  (
    await server.sql<{ at: string; start: number }>(
      `select recurrence_at as at, starts_at as start from occurrence
       where event_id = $1 order by starts_at`,
      [id],
    )
  ).map(({ at, start }) => [at.slice(0, 10), new Date(start).toISOString().slice(0, 16)]);

const roomClaims = async (id: string) =>
  server.sql<{ resource: string; date: string }>(
    `select subject.name as resource, to_char(occurrence.recurrence_at, 'MM-DD') as date
     from claim join occurrence on occurrence.id = claim.occurrence_id
     join subject on subject.id = claim.subject_id
     where occurrence.event_id = $1 and claim.exclusive order by date, resource`,
    [id],
  );

describe('making a series', () => {
  it('keeps every occurrence at its local hour, claims it, and says its rule in words', async () => {
    const gannet = await server.id('Gannet');
    const { event } = await make({
      resources: [gannet],
      times: bergenTimes('2027-03-03T06:00', '2027-03-03T06:30'),
    });
    expect(event.series).toMatchObject({ sentence: 'Every Wednesday, 5 times', except: [] });
    expect((await occurrences(event.id)).map(([, start]) => start)).toEqual([
      '2027-03-03T05:00',
      '2027-03-10T05:00',
      '2027-03-17T05:00',
      '2027-03-24T05:00',
      '2027-03-31T04:00',
    ]);
    expect(await roomClaims(event.id)).toHaveLength(5);
  });

  it('without an end reaches two years ahead', async () => {
    const { event } = await make({ repeats: { rule: 'FREQ=MONTHLY;BYDAY=1WE' } });
    const all = await occurrences(event.id);
    expect(all[0]![0]).toBe('2027-03-03');
    // The 24 months are counted from the first of the dates where that lies ahead.
    expect(all.at(-1)![0]).toBe('2029-02-07');
  });

  it('begins with the first date the rule names, and says so', async () => {
    const { event } = await make({ repeats: { rule: 'FREQ=WEEKLY;BYDAY=FR;COUNT=2' } });
    expect(event.clockNotes).toEqual(['The first date that the rule names is Fri 5 Mar.']);
    expect(event.series!.startsAt).toBe('2027-03-05T09:00');
  });

  it.each([
    [{ rule: 'FREQ=WEEKLY;COUNT=2;UNTIL=20270401' }, 'repeats.rule', 'COUNT or UNTIL, not both'],
    [{ rule: 'FREQ=WEEKLY;INTERVAL=0' }, 'repeats.rule', 'INTERVAL as a whole number from 1'],
    [{ rule: 'FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=31' }, 'repeats.rule', 'no 31 June'],
    [{ rule: 'FREQ=DAILY;UNTIL=20260101' }, 'repeats.rule', 'ends before its first date'],
    [
      { rule: 'FREQ=DAILY', except: Array.from({ length: 5000 }, () => '2027-03-04T09:00') },
      'repeats.except',
      'may leave out at most 500 dates',
    ],
  ])('refuses %j by the name of the field', async (repeats, field, message) => {
    const ines = await server.as('ines.aldabe');
    const answer = await ines.post<ProblemBody>('/api/events', weekly({ repeats }));
    expect(answer.status).toBe(400);
    expect(answer.body.fields).toEqual([
      { field, message: expect.stringContaining(message) as string },
    ]);
  });

  it('refuses an end before the start', async () => {
    const ines = await server.as('ines.aldabe');
    const times = bergenTimes('2027-03-03T09:00', '2027-03-03T08:00');
    const answer = await ines.post<ProblemBody>('/api/events', weekly({ times }));
    expect(answer.body.fields).toEqual([
      { field: 'times.endsAt', message: 'must be later than times.startsAt' },
    ]);
  });
});

describe('places of a series', () => {
  it('that are taken on some dates: says which, and takes what was chosen for each', async () => {
    const tomas = await server.as('tomas.okafor');
    const [gannet, puffin] = [await server.id('Gannet'), await server.id('Puffin')];
    for (const day of ['10', '17', '24']) {
      const times = bergenTimes(`2027-03-${day}T20:30`, `2027-03-${day}T21:30`);
      await tomas.post('/api/events', meetingRequest({ times, resources: [gannet] }));
    }
    const ines = await server.as('ines.aldabe');
    const request = weekly({
      times: bergenTimes('2027-03-03T20:00', '2027-03-03T21:00'),
      resources: [gannet],
    });
    const before = await server.sql('select count(*) from event');
    const refused = await ines.post<Refusal>('/api/events', request);
    expect(refused.status).toBe(409);
    expect(refused.body.detail).toBe(
      'Gannet is taken on 3 dates: Wed 10 Mar, Wed 17 Mar, Wed 24 Mar. Nothing was booked.',
    );
    expect(refused.body.dates.map((date) => date.at)).toEqual([
      '2027-03-10T20:00',
      '2027-03-17T20:00',
      '2027-03-24T20:00',
    ]);
    expect(refused.body.dates.every((date) => date.alternatives.length === 3)).toBe(true);
    expect(await server.sql('select count(*) from event')).toEqual(before);

    const made = await ines.post<EventDetail>('/api/events', {
      ...request,
      dates: [
        { do: 'leave-out', at: '2027-03-10T20:00' },
        { do: 'instead', at: '2027-03-17T20:00', instead: gannet, resourceId: puffin },
        {
          do: 'move',
          at: '2027-03-24T20:00',
          startsAt: '2027-03-24T18:00',
          endsAt: '2027-03-24T19:00',
        },
      ],
    });
    expect(made.status).toBe(201);
    expect(await roomClaims(made.body.id)).toEqual([
      { resource: 'Gannet', date: '03-03' },
      { resource: 'Puffin', date: '03-17' },
      { resource: 'Gannet', date: '03-24' },
      { resource: 'Gannet', date: '03-31' },
    ]);
    expect(await occurrences(made.body.id)).toContainEqual(['2027-03-24', '2027-03-24T17:00']);
    const one = await ines.get<EventDetail>(
      `/api/events/${made.body.id}?occurrence=2027-03-17T20:00`,
    );
    expect(one.body.resources.map((place) => place.name)).toEqual(['Puffin']);
  });

  it('a choice for a date that is none is refused by its name', async () => {
    const ines = await server.as('ines.aldabe');
    const answer = await ines.post<ProblemBody>(
      '/api/events',
      weekly({ dates: [{ do: 'leave-out', at: '2027-03-04T09:00' }] }),
    );
    expect(answer.body.fields?.[0]?.field).toBe('dates.0.at');
  });
});

describe('a part of a series', () => {
  it('one occurrence gets a time and a name of its own, under the same UID', async () => {
    const { ines, event } = await make({
      attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
    });
    const answer = await ines.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      scope: 'one',
      occurrence: '2027-03-17T09:00',
      title: 'Tide tables, long',
      times: bergenTimes('2027-03-18T13:00', '2027-03-18T15:00'),
    });
    expect(answer.body).toMatchObject({ id: event.id, title: 'Tide tables, long', version: 2 });
    expect(await occurrences(event.id)).toContainEqual(['2027-03-17', '2027-03-18T12:00']);
    const [mail] = await server.sql<{ calendar: string; subject: string }>(
      `select calendar, subject from mail where event_id = $1 and subject like 'New time%'`,
      [event.id],
    );
    expect(mail!.calendar).toContain(`UID:${event.uid}`);
    expect(mail!.calendar).toContain('RECURRENCE-ID;TZID=Europe/Oslo:20270317T090000');
    expect(mail!.subject).toContain('Thu 18 Mar');
    // Only that one is asked about again.
    const tomas = await server.as('tomas.okafor');
    await tomas.post(`/api/invitations/${event.id}/reply`, { reply: 'accepted' });
    const kinds = await server.sql<{ occupancy: string; n: number }>(
      `select occupancy, count(*) as n from claim join occurrence on occurrence.id = occurrence_id
       where event_id = $1 and subject_id = $2 group by occupancy`,
      [event.id, await server.id('Tomas Okafor')],
    );
    expect(kinds).toEqual([{ occupancy: 'busy', n: 5 }]);
  });

  it('this and following becomes a series of its own; the old one ends the day before', async () => {
    const { ines, event } = await make();
    const answer = await ines.patch<EventDetail & { undo: { id: string; version: number } }>(
      `/api/events/${event.id}`,
      {
        version: event.version,
        scope: 'following',
        occurrence: '2027-03-17T09:00',
        times: bergenTimes('2027-03-18T10:00', '2027-03-18T11:30'),
      },
    );
    expect(answer.body.id).not.toBe(event.id);
    expect(answer.body.uid).not.toBe(event.uid);
    expect(answer.body.series!.rule).toBe('FREQ=WEEKLY;COUNT=3');
    const old = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(old.body.series!.rule).toBe('FREQ=WEEKLY;UNTIL=20270316');
    expect(await occurrences(event.id)).toHaveLength(2);
    expect((await occurrences(answer.body.id)).map(([date]) => date)).toEqual([
      '2027-03-18',
      '2027-03-25',
      '2027-04-01',
    ]);

    const undone = await ines.post<EventDetail>(`/api/events/${answer.body.undo.id}/undo`, {
      version: answer.body.undo.version,
    });
    expect(undone.status).toBe(200);
    expect(await occurrences(event.id)).toHaveLength(5);
    expect((await ines.get(`/api/events/${answer.body.id}`)).status).toBe(404);
  });

  it('is cancelled and restored: one, and this and following', async () => {
    const { ines, event } = await make();
    const one = await ines.post<EventDetail>(`/api/events/${event.id}/cancel`, {
      version: 1,
      scope: 'one',
      occurrence: '2027-03-10T09:00',
    });
    expect(one.body.series!.cancelled).toEqual(['2027-03-10T09:00']);
    expect(await occurrences(event.id)).toHaveLength(4);
    const rest = await ines.post<EventDetail>(`/api/events/${event.id}/cancel`, {
      version: 2,
      scope: 'following',
      occurrence: '2027-03-24T09:00',
    });
    expect(rest.status).toBe(200);
    expect(await occurrences(event.id)).toHaveLength(2);
    interface Bin {
      cancelled: { eventId: string; version: number; occurrence: string | null; title: string }[];
    }
    const bin = async () =>
      (await ines.get<Bin>('/api/calendar/cancelled')).body.cancelled.filter(
        (item) => item.title === 'Tide tables',
      );
    const found = await bin();
    expect(found.map((item) => item.occurrence).sort()).toEqual(['2027-03-10T09:00', null]);
    for (const item of found) {
      const answer = await ines.post(`/api/events/${item.eventId}/restore`, {
        version: item.version,
        ...(item.occurrence && { occurrence: item.occurrence }),
      });
      expect(answer.status).toBe(200);
    }
    expect(await bin()).toEqual([]);
    const tail = found.find((item) => item.occurrence === null)!;
    expect(await occurrences(event.id)).toHaveLength(3);
    expect(await occurrences(tail.eventId)).toHaveLength(2);
  });

  it.each([
    [{ scope: 'one' }, 'occurrence', 'must be given'],
    [{ scope: 'one', occurrence: '2027-03-04T09:00' }, 'occurrence', 'must be an occurrence'],
    [
      { scope: 'one', occurrence: '2027-03-03T09:00', repeats: { rule: 'FREQ=DAILY' } },
      'repeats',
      'only for "following" or "all"',
    ],
    [{ scope: 'some' }, 'scope', 'must be "one"'],
  ])('is refused when it is none: %j', async (part, field, message) => {
    const { ines, event } = await make();
    const answer = await ines.patch<ProblemBody>(`/api/events/${event.id}`, {
      version: 1,
      ...part,
    });
    expect(answer.status).toBe(400);
    expect(answer.body.fields).toEqual([
      { field, message: expect.stringContaining(message) as string },
    ]);
  });

  it('that was split off and changed since is not swept away by an undo', async () => {
    const { ines, event } = await make();
    const answer = await ines.patch<EventDetail>(`/api/events/${event.id}`, {
      version: 1,
      scope: 'following',
      occurrence: '2027-03-17T09:00',
      title: 'Later',
    });
    await ines.patch(`/api/events/${answer.body.id}`, {
      version: answer.body.version,
      title: 'Later still',
    });
    const undo = await ines.post<ProblemBody>(`/api/events/${event.id}/undo`, { version: 2 });
    expect(undo).toMatchObject({ status: 409, body: { code: 'changed-since' } });
    expect(await occurrences(answer.body.id)).toHaveLength(3);
  });
});

describe('the horizon', () => {
  it('moves on, keeps what is there, and tells the organizer of a place that is taken', async () => {
    const fulmar = await server.id('Fulmar');
    const { event } = await make({
      title: 'Mooring log',
      times: bergenTimes('2027-03-03T05:00', '2027-03-03T06:00'),
      repeats: { rule: 'FREQ=WEEKLY' },
      resources: [fulmar],
    });
    const before = await occurrences(event.id);
    const last = before.at(-1)![0]!;
    const ids = await server.sql('select min(id) as first from occurrence where event_id = $1', [
      event.id,
    ]);
    const next = new Date(Date.parse(`${last}T00:00Z`) + 7 * 86_400_000).toISOString().slice(0, 10);
    const tomas = await server.as('tomas.okafor');
    const taken = await tomas.post(
      '/api/events',
      meetingRequest({ times: bergenTimes(`${next}T05:30`, `${next}T06:30`), resources: [fulmar] }),
    );
    expect(taken.status).toBe(201);

    const { platform } = server.running;
    const later = { now: () => Date.parse(`${last}T12:00Z`) - 700 * 86_400_000, fixed: true };
    expect((await moveHorizon({ ...platform, clock: later })).moved).toBeGreaterThan(0);
    const after = await occurrences(event.id);
    expect(after.slice(0, before.length)).toEqual(before);
    expect(after.length).toBeGreaterThan(before.length);
    expect(
      await server.sql('select min(id) as first from occurrence where event_id = $1', [event.id]),
    ).toEqual(ids);
    const claims = await roomClaims(event.id);
    expect(claims).toHaveLength(after.length - 1);
    const [mail] = await server.sql<{ recipient_email: string; body_text: string }>(
      `select recipient_email, body_text from mail where subject = 'Taken: a place for a date of Mooring log'`,
    );
    expect(mail!.recipient_email).toBe('ines.aldabe@ternrock.example');
    expect(mail!.body_text).toContain('Fulmar is taken');
    // What the job changed is a version like any other, kept with what happened and told behind the bell.
    const ines = await server.as('ines.aldabe');
    const { body: now } = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(now).toMatchObject({
      version: event.version + 1,
      series: { changed: [`${next}T05:00`] },
    });
    const facts = await server.sql(
      `select kind, actor_id, details->'dates'->0->1 as first from fact
       where event_id = $1 order by id`,
      [event.id],
    );
    expect(facts.at(-1)).toEqual({ kind: 'dates-taken', actor_id: null, first: `${next}T05:00` });
    const news = await ines.get<NotificationsResponse>('/api/notifications');
    expect(news.body.notifications[0]).toMatchObject({ what: 'dates-taken', by: 'Fulmar' });
    // Nobody else changed it: it goes back to its own list only where that can be had.
    const undo = await ines.post<ProblemBody>(`/api/events/${event.id}/undo`, {
      version: now.version,
    });
    expect(undo).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    // Once moved on there is nothing left to do.
    expect((await moveHorizon({ ...platform, clock: later })).moved).toBe(0);
  });

  it('is moved past a series that cannot be, and leaves alone those that reach far enough', async () => {
    const rule = { repeats: { rule: 'FREQ=WEEKLY' } };
    const { event: broken } = await make({ title: 'Broken', ...rule });
    const { event: whole } = await make({ title: 'Whole', ...rule });
    await server.sql('update event set rule = $2 where id = $1', [broken.id, 'FREQ=SOMETIMES']);
    const { platform } = server.running;
    const before = await occurrences(whole.id);
    const last = before.at(-1)![0]!;
    const later = { now: () => Date.parse(`${last}T12:00Z`) - 690 * 86_400_000, fixed: true };
    const quiet = { ...platform, clock: later, log: platform.log.child({}, { level: 'silent' }) };
    const { moved, failed } = await moveHorizon(quiet);
    expect(failed).toBe(1);
    expect(moved).toBeGreaterThan(1);
    expect((await occurrences(whole.id)).length).toBeGreaterThan(before.length);
    // A night later there is nothing to do yet: no series is locked, nobody is told anything.
    const nextNight = { ...quiet, clock: { ...later, now: () => later.now() + 86_400_000 } };
    const versions = await server.sql('select id, xmin::text from event order by id');
    await server.sql('delete from event where id = $1', [broken.id]);
    expect(await moveHorizon(nextNight, { slackDays: 28 })).toEqual({ moved: 0, failed: 0 });
    expect(await server.sql('select id, xmin::text from event order by id')).toEqual(
      versions.filter((row) => row.id !== broken.id),
    );
  });

  it('is done with a series once its last date is laid out, until it is changed', async () => {
    const { platform } = server.running;
    const { event } = await make({ title: 'Ends', repeats: { rule: 'FREQ=WEEKLY;COUNT=5' } });
    const state = async () =>
      (
        await server.sql<{ whole: boolean; xmin: string }>(
          'select is_laid_out_whole as whole, xmin::text from event where id = $1',
          [event.id],
        )
      )[0]!;
    const at = (days: number) => ({
      ...platform,
      clock: { now: () => platform.clock.now() + days * 86_400_000, fixed: true },
    });
    await moveHorizon(at(900));
    const done = await state();
    expect(done.whole).toBe(true);
    await moveHorizon(at(990));
    expect(await state()).toEqual(done);
    const ines = await server.as('ines.aldabe');
    await ines.patch(`/api/events/${event.id}`, {
      version: event.version,
      repeats: { rule: 'FREQ=WEEKLY' },
    });
    expect((await state()).whole).toBe(false);
    const before = await occurrences(event.id);
    await moveHorizon(at(990));
    expect((await state()).whole).toBe(false);
    expect((await occurrences(event.id)).length).toBeGreaterThan(before.length);
  });
});
