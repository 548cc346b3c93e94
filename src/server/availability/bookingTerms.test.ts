import { describe, expect, it } from 'vitest';
import type { BusyResponse, OpeningsResponse, RoomsResponse } from '../../contract/availability.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { NO_RULES, type PlaceRules } from '../../core/booking/rules.ts';
import { fitOf } from '../../core/planner/fit.ts';
import { overlaps } from '../../core/time/interval.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { membersOf } from './service.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* The rules of places, as far as Plan knows them before anything is sent. */

const server = useServer();
server.writesPastTheRules();
const [MINUTE, HOUR, DAY] = [60_000, 3_600_000, 86_400_000];
/** Bergen's midnight before Thursday 26 November 2026, the second day after the tests' present. */
const THURSDAY = Date.UTC(2026, 10, 25, 23);
const window = { from: THURSDAY, to: THURSDAY + 5 * DAY };

async function withRules(name: string, rules: Partial<PlaceRules>): Promise<number> {
  const id = await server.id(name);
  await server.sql('update resource set rules = $2 where subject_id = $1', [id, rules]);
  await server.sql('delete from claim where subject_id = $1', [id]);
  return id;
}

async function barredFor(who: string, id: number) {
  const client = await server.as(who);
  const answer = await client.post<BusyResponse>('/api/availability/busy', {
    subjects: [id],
    ...window,
  });
  expect(answer.status).toBe(200);
  return answer.body.subjects[0]!.busy.flatMap(([start, end, state]) =>
    state === 'barred' ? [{ start, end }] : [],
  );
}

const weekdays = (from: number, to: number): PlaceRules['open'] =>
  Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ start: from * 60, end: to * 60 }] : []));

describe('what the rules of a place bar', () => {
  it('stands among its times for whoever they bind, and for no steward', async () => {
    const puffin = await withRules('Puffin', { open: weekdays(8, 18) });
    const [thursday, friday] = [THURSDAY, THURSDAY + DAY];
    expect(await barredFor('grace.paul', puffin)).toEqual([
      { start: thursday, end: thursday + 8 * HOUR },
      { start: thursday + 18 * HOUR, end: friday + 8 * HOUR },
      { start: friday + 18 * HOUR, end: THURSDAY + 4 * DAY + 8 * HOUR },
      { start: THURSDAY + 4 * DAY + 18 * HOUR, end: THURSDAY + 5 * DAY },
    ]);
    expect(await barredFor('ines.aldabe', puffin)).toEqual([]);
  });

  it.each<[string, Partial<PlaceRules>]>([
    ['opening hours', { open: weekdays(9, 16) }],
    ['notice', { noticeMinutes: 3 * 1440 }],
    ['how far ahead', { horizonDays: 3 }],
    ['other teams', { teams: [999] }],
    ['all of it', { open: weekdays(8, 18), noticeMinutes: 60 * 50, horizonDays: 4 }],
  ])('is what booking refuses, and nothing else: %s', async (_, rules) => {
    const guillemot = await withRules('Guillemot', rules);
    const barred = await barredFor('grace.paul', guillemot);
    const grace = await server.as('grace.paul');
    for (let hour = 5; hour < 110; hour += 7) {
      const span = { start: THURSDAY + hour * HOUR, end: THURSDAY + (hour + 1) * HOUR };
      const answer = await grace.post<ProblemBody>(
        '/api/events',
        meetingRequest({
          times: {
            startsAt: wallTimeAt(span.start, 'Europe/Oslo'),
            endsAt: wallTimeAt(span.end, 'Europe/Oslo'),
            zone: 'Europe/Oslo',
          },
          resources: [guillemot],
        }),
      );
      const isBarred = barred.some((one) => overlaps(one, span));
      expect([hour, answer.status]).toEqual([hour, isBarred ? 409 : 201]);
      if (isBarred) expect(answer.body.code).toBe('against-rules');
    }
  });

  it('is told apart from what is taken where rooms are looked for', async () => {
    const skua = await withRules('Skua', { ...NO_RULES, open: weekdays(8, 18) });
    const grace = await server.as('grace.paul');
    const made = await grace.post(
      '/api/events',
      meetingRequest({
        times: { startsAt: '2026-11-26T10:00', endsAt: '2026-11-26T11:00', zone: 'Europe/Oslo' },
        resources: [skua],
      }),
    );
    expect(made.status).toBe(201);
    const request = { siteIds: [1], from: THURSDAY, to: THURSDAY + DAY };
    const { body } = await grace.post<RoomsResponse>('/api/availability/rooms', request);
    expect(body.rooms.find((one) => one.id === skua)).toMatchObject({
      busy: [[THURSDAY + 10 * HOUR, THURSDAY + 11 * HOUR]],
      barred: [
        [THURSDAY, THURSDAY + 8 * HOUR],
        [THURSDAY + 18 * HOUR, THURSDAY + DAY],
      ],
    });
  });

  it('is offered by no opening', async () => {
    const kittiwake = await withRules('Kittiwake', { open: weekdays(13, 15) });
    const grace = await server.as('grace.paul');
    const { body } = await grace.post<OpeningsResponse>('/api/availability/openings', {
      lineUp: [{ id: kittiwake, role: 'required' }],
      ...window,
      lengthMinutes: 60,
      limit: 50,
    });
    // Five starts a day from 13:00 to 14:00, on Thursday, Friday and Monday.
    expect(body.count).toBe(15);
    for (const { start, end } of body.openings) {
      const minutes = [start, end].map((one) => ((one - THURSDAY) % DAY) / MINUTE);
      expect(minutes[0]).toBeGreaterThanOrEqual(13 * 60);
      expect(minutes[1]).toBeLessThanOrEqual(15 * 60);
    }
  });
});

describe('what the rules of a place ask of bookings', () => {
  /** Lengths and beginnings on a Saturday and the Monday after it, each tried by itself. */
  const TRIED = [30, 45, 60, 90, 120].flatMap((minutes) =>
    [9 * 60, 9 * 60 + 15, 9 * 60 + 30].flatMap((from) =>
      [2, 4].map((day) => ({ day, from, minutes })),
    ),
  );

  it.each<[string, Partial<PlaceRules>]>([
    ['shortest', { shortestMinutes: 60 }],
    ['longest', { longestMinutes: 60 }],
    ['steps', { stepMinutes: 30 }],
    ['a week’s limit, of which some is had', { weeklyMinutes: 150 }],
    [
      'all of it, and opening hours',
      {
        ...{ shortestMinutes: 45, longestMinutes: 90, stepMinutes: 15, weeklyMinutes: 135 },
        open: weekdays(8, 10),
      },
    ],
  ])('is what booking refuses, and nothing else: %s', async (_, rules) => {
    const skua = await withRules('Skua', {});
    const grace = await server.as('grace.paul');
    const book = (start: number, minutes: number) =>
      grace.post<Partial<Pick<EventDetail, 'id'> & Pick<ProblemBody, 'code'>>>(
        '/api/events',
        meetingRequest({
          times: {
            startsAt: wallTimeAt(start, 'Europe/Oslo'),
            endsAt: wallTimeAt(start + minutes * MINUTE, 'Europe/Oslo'),
            zone: 'Europe/Oslo',
          },
          resources: [skua],
        }),
      );
    // An hour of the week that ends on Sunday is had already.
    expect((await book(THURSDAY + 12 * HOUR, 60)).status).toBe(201);
    await server.sql('update resource set rules = $2 where subject_id = $1', [skua, rules]);
    const { body } = await grace.post<BusyResponse>('/api/availability/busy', {
      subjects: [skua],
      ...window,
    });
    const [known] = membersOf(body.subjects, () => 'required');
    const rooms = await grace.post<RoomsResponse>('/api/availability/rooms', {
      siteIds: [1],
      ...window,
    });
    expect(rooms.body.rooms.find((one) => one.id === skua)!.terms).toEqual(known!.terms);
    const outcomes = new Set<string>();
    for (const { day, from, minutes } of TRIED) {
      const start = THURSDAY + day * DAY + from * MINUTE;
      const [fit] = fitOf([known!], { start, end: start + minutes * MINUTE });
      const answer = await book(start, minutes);
      expect([day, from, minutes, answer.status]).toEqual([
        ...[day, from, minutes],
        fit!.state === 'free' ? 201 : 409,
      ]);
      if (answer.status === 409) expect(answer.body.code).toBe('against-rules');
      outcomes.add(`${answer.status}`);
      // What was booked is given back, so that each is judged by itself.
      if (answer.status === 201)
        await server.sql('delete from event where id = $1', [answer.body.id]);
    }
    expect([...outcomes].sort()).toEqual(['201', '409']);
  });

  it('counts no meeting to a week’s limit that is moved', async () => {
    const skua = await withRules('Skua', { weeklyMinutes: 60 });
    const grace = await server.as('grace.paul');
    const made = await grace.post<EventDetail>(
      '/api/events',
      meetingRequest({
        times: { startsAt: '2026-11-27T10:00', endsAt: '2026-11-27T11:00', zone: 'Europe/Oslo' },
        resources: [skua],
      }),
    );
    expect(made.status).toBe(201);
    const hadWith = async (except?: { eventId: string }) =>
      (
        await grace.post<BusyResponse>('/api/availability/busy', {
          subjects: [skua],
          ...window,
          ...(except && { except }),
        })
      ).body.subjects[0]!.terms!.weeks.map((one) => one.had);
    expect((await hadWith())[0]).toBeGreaterThanOrEqual(60);
    expect((await hadWith({ eventId: made.body.id }))[0]).toBe((await hadWith())[0]! - 60);
  });
});
