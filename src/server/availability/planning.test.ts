import { describe, expect, it } from 'vitest';
import { minus } from '../../core/booking/freeing.ts';
import type {
  BusyResponse,
  HistoryResponse,
  MovableResponse,
  OpeningsResponse,
  RoomsResponse,
} from '../../contract/availability.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { BUSY_SQL } from './queries.ts';

const server = useServer();
server.writesPastTheRules();
const HOUR = 3_600_000;
/** Thursday 10 December 2026, in UTC; Bergen is an hour ahead. */
const day = { from: Date.UTC(2026, 11, 10), to: Date.UTC(2026, 11, 11) };
const at = (hour: number) => day.from + hour * HOUR;

const busyOf = async (who: string, names: string[], more = {}) => {
  const client = await server.as(who);
  const subjects = await Promise.all(names.map((name) => server.id(name)));
  const answer = await client.post<BusyResponse>('/api/availability/busy', {
    subjects,
    ...day,
    ...more,
  });
  expect(answer.status).toBe(200);
  return answer.body.subjects;
};

describe('the times of a line-up', () => {
  it('say where people sit and which days their site has off', async () => {
    const [sunniva, gannet] = await busyOf('ines.aldabe', ['Sunniva Brekke', 'Gannet'], {
      from: Date.UTC(2026, 11, 20),
      to: Date.UTC(2026, 11, 28),
    });
    expect(sunniva).toMatchObject({ floor: '1', isRoom: false, published: null });
    expect(sunniva!.holidays.map((one) => one.date)).toEqual(['2026-12-25', '2026-12-26']);
    expect(gannet).toMatchObject({
      isRoom: true,
      seats: 12,
      holidays: [],
      siteId: sunniva!.siteId,
    });
  });

  it('leave a meeting of one’s own out of the way of its new time, and nobody else’s', async () => {
    const ines = await server.as('ines.aldabe');
    const tomas = await server.id('Tomas Okafor');
    await server.sql('delete from claim where subject_id = $1', [tomas]);
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({ attendees: [{ personId: tomas, role: 'required' }] }),
    );
    const eventId = made.body.id;
    const [with_] = await busyOf('ines.aldabe', ['Tomas Okafor']);
    expect(with_!.busy).toEqual([[at(9), at(10), 'tentative']]);
    const [without] = await busyOf('ines.aldabe', ['Tomas Okafor'], { except: { eventId } });
    expect(without!.busy).toEqual([]);
    const others = await (
      await server.as('leila.haddad')
    ).post<ProblemBody>('/api/availability/busy', {
      subjects: [tomas],
      ...day,
      except: { eventId },
    });
    expect(others.status).toBe(404);
  });

  it('of a place are as booking finds them, also where what is booked lies before the window', async () => {
    const ines = await server.as('ines.aldabe');
    const razorbill = await server.id('Razorbill');
    await server.sql('delete from claim where subject_id = $1', [razorbill]);
    await server.sql(
      'update resource set prepare_minutes = 60, clear_minutes = 45 where subject_id = $1',
      [razorbill],
    );
    const book = (from: string, to: string) =>
      ines.post('/api/events', {
        ...meetingRequest({ resources: [razorbill] }),
        times: bergenTimes(`2026-12-10T${from}`, `2026-12-10T${to}`),
      });
    expect((await book('12:00', '13:30')).status).toBe(201);
    const taken: [number, number] = [at(11 - 1 - 0.75), at(12.5 + 0.75 + 1)];
    for (const window of [
      { from: at(13), to: at(20) },
      { from: at(14), to: at(20) },
      { from: at(1), to: at(9.5) },
    ]) {
      const [place] = await busyOf('ines.aldabe', ['Razorbill'], window);
      expect(place!.busy).toEqual([[...taken, 'busy']]);
      const rooms = await ines.post<RoomsResponse>('/api/availability/rooms', {
        siteIds: [place!.siteId],
        ...window,
      });
      expect(rooms.body.rooms.find((one) => one.id === razorbill)?.busy ?? [taken]).toEqual([
        taken,
      ]);
    }
    const [later] = await busyOf('ines.aldabe', ['Razorbill'], { from: taken[1], to: at(20) });
    expect(later!.busy).toEqual([]);
    expect((await book('15:00', '16:00')).status).toBe(409);
    expect((await book('15:15', '16:00')).status).toBe(201);
  });

  it('leave out one occurrence of a series alone', async () => {
    const kwame = await server.as('kwame.boateng');
    const id = await server.id('Kwame Boateng');
    await server.sql('delete from claim where subject_id = $1', [id]);
    const made = await kwame.post<EventDetail>(
      '/api/events',
      meetingRequest({ repeats: { rule: 'FREQ=DAILY;COUNT=3' } }),
    );
    const spans = async (occurrence?: string) => {
      const [own] = await busyOf('kwame.boateng', ['Kwame Boateng'], {
        to: day.to + 72 * HOUR,
        except: { eventId: made.body.id, ...(occurrence && { occurrence }) },
      });
      return own!.busy.map(([start]) => start);
    };
    expect(await spans()).toEqual([]);
    expect(await spans('2026-12-11T10:00')).toEqual([at(9), at(57)]);
  });

  it('of a room hold its preparing and clearing free around what is booked', async () => {
    const ines = await server.as('ines.aldabe');
    const fulmar = await server.id('Fulmar');
    await server.sql('delete from claim where subject_id = $1', [fulmar]);
    const made = await ines.post('/api/events', meetingRequest({ resources: [fulmar] }));
    expect(made.status).toBe(201);
    const [room] = await busyOf('ines.aldabe', ['Fulmar']);
    // Claimed from 15 minutes before to 15 after; another meeting needs as much again.
    expect(room!.busy).toEqual([[at(8.5), at(10.5), 'busy']]);
    const rooms = await ines.post<RoomsResponse>('/api/availability/rooms', {
      siteIds: [room!.siteId],
      ...day,
    });
    const same = rooms.body.rooms.find((one) => one.id === fulmar)!;
    expect(same).toMatchObject({
      name: 'Fulmar',
      site: 'Bergen',
      seats: 20,
      busy: [[at(8.5), at(10.5)]],
    });
    expect(rooms.body.rooms.every((one) => one.siteId === room!.siteId)).toBe(true);
    const refused = await ines.post('/api/events', {
      ...meetingRequest({ resources: [fulmar] }),
      times: bergenTimes('2026-12-10T11:15', '2026-12-10T12:00'),
    });
    expect(refused.status).toBe(409);
  });

  it('are read by the index on claims, not by reading them through', async () => {
    await server.sql(
      `insert into claim (subject_id, during, occupancy, occurrence_id)
       select subject.id, tstzrange(at, at + interval '30 minutes'), 'busy', (select min(id) from occurrence)
       from subject, generate_series(timestamptz '2024-01-01', '2026-06-01', interval '7 days') at
       where subject.kind = 'person'`,
    );
    await server.sql('analyze claim');
    const ids = (await server.sql<{ id: number }>('select id from subject limit 50')).map(
      (one) => one.id,
    );
    const values = [ids, new Date(day.from), new Date(day.to + 27 * 24 * HOUR), null, null];
    const plan = await server.sql<{ 'QUERY PLAN': string }>(`explain ${BUSY_SQL}`, values);
    const text = plan.map((row) => row['QUERY PLAN']).join('\n');
    expect(text).toContain('claim_subject_during');
    expect(text).not.toContain('Seq Scan on claim');
  });
});

describe('meetings that could make room', () => {
  it('are those I organize, with the time of their people as far as I may see it', async () => {
    const sigrid = await server.as('sigrid.aune');
    const me = await server.id('Sigrid Aune');
    const [oskar, mika] = [await server.id('Oskar Lindqvist'), await server.id('Mika Sandoval')];
    await server.sql('delete from claim where subject_id = $1', [me]);
    const mine = meetingRequest({
      title: 'Winch budget',
      attendees: [
        { personId: oskar, role: 'required' },
        { personId: mika, role: 'optional' },
        { email: 'jon@harbour.example', role: 'required' },
      ],
    });
    const made = await sigrid.post<EventDetail>('/api/events', mine);
    await (
      await server.as('leila.haddad')
    ).post('/api/events', {
      ...mine,
      title: 'Not hers',
      attendees: [{ personId: me, role: 'required' }],
    });
    const answer = await sigrid.post<MovableResponse>('/api/availability/movable', day);
    expect(answer.body.meetings).toEqual([
      {
        eventId: made.body.id,
        recurrenceId: null,
        version: made.body.version,
        title: 'Winch budget',
        zone: 'Europe/Oslo',
        start: at(9),
        end: at(10),
        people: [
          { id: me, role: 'required' },
          { id: oskar, role: 'required' },
          { id: mika, role: 'optional' },
        ],
        resources: [],
        frees: [],
        outsiders: 1,
      },
    ]);
    const silent = answer.body.subjects.find((one) => one.id === oskar)!;
    expect(silent).toMatchObject({ knowledge: 'none', busy: [] });
    expect(JSON.stringify(answer.body)).not.toContain('Not hers');
    const over = { from: Date.UTC(2026, 9, 1), to: Date.UTC(2026, 9, 20) };
    const past = await sigrid.post<MovableResponse>('/api/availability/movable', over);
    expect(past).toMatchObject({ status: 200, body: { meetings: [], subjects: [] } });
  });

  it('free of a room what they have of it, and not what stands beside them', async () => {
    const robine = await server.as('robine.thys');
    const guillemot = await server.id('Guillemot');
    await server.sql('delete from claim where subject_id = any($1)', [
      [guillemot, await server.id('Robine Thys')],
    ]);
    const [{ prepare, clear }] = (await server.sql<{ prepare: number; clear: number }>(
      'select prepare_minutes as prepare, clear_minutes as clear from resource where subject_id = $1',
      [guillemot],
    )) as [{ prepare: number; clear: number }];
    const book = async (mailbox: string, from: string, to: string) =>
      (await server.as(mailbox)).post<EventDetail>(
        '/api/events',
        meetingRequest({ times: bergenTimes(from, to), resources: [guillemot], attendees: [] }),
      );
    const made = await book('robine.thys', '2026-12-10T10:00', '2026-12-10T11:00');
    expect(made.status).toBe(201);
    // Right behind it, as near as preparing and clearing leave it.
    const gap = prepare + clear;
    const next = new Date(at(10) + gap * 60_000 + HOUR).toISOString().slice(0, 16);
    const ends = new Date(at(11) + gap * 60_000 + HOUR).toISOString().slice(0, 16);
    expect((await book('tomas.okafor', next, ends)).status).toBe(201);
    const { body } = await robine.post<MovableResponse>('/api/availability/movable', day);
    const [meeting] = body.meetings;
    const [room] = body.subjects.filter((one) => one.id === guillemot);
    const [freed] = meeting!.frees;
    const without = [
      ...minus(
        room!.busy.flatMap(([start, end, state]) => (state === 'barred' ? [] : [{ start, end }])),
        freed!.goes.full,
      ),
      ...freed!.comes.full,
    ];
    // What Tomas has stays taken, with what it is prepared and cleared in.
    const theirs = { start: at(10) + gap * 60_000, end: at(11) + gap * 60_000 };
    expect(without).toEqual([
      { start: theirs.start - gap * 60_000, end: theirs.end + gap * 60_000 },
    ]);
  });

  it('past ones count where most of the people were the same', async () => {
    const ines = await server.as('ines.aldabe');
    const [me, hal, tui, bao] = await Promise.all(
      ['Ines Aldabe', 'Hal Teague', 'Tui Parata', 'Bao Nguyen'].map((name) => server.id(name)),
    );
    const hold = async (hour: string, ids: number[]) => {
      const made = await ines.post(
        '/api/events',
        meetingRequest({
          times: bergenTimes(`2026-11-17T${hour}:00`, `2026-11-17T${hour}:30`),
          attendees: ids.map((personId) => ({ personId, role: 'required' })),
        }),
      );
      expect(made.status).toBe(201);
    };
    await hold('05', [hal!, tui!, bao!]);
    await hold('06', [hal!]);
    await hold('07', [hal!, tui!]);
    const answer = await ines.post<HistoryResponse>('/api/availability/history', {
      people: [me, hal, tui, bao],
    });
    expect(answer.body.meetings.map((one) => new Date(one.start).getUTCHours())).toEqual([6, 4]);
    expect(answer.body.meetings[1]!.people).toEqual(
      [hal, tui, bao, me]
        .sort((a, b) => a! - b!)
        .filter((id) => id !== me)
        .concat(me),
    );
  });
});

describe('openings of the API', () => {
  it('know whose turn it was, as Plan does, and how soon others can be asked', async () => {
    const ines = await server.as('ines.aldabe');
    const [me, mika] = [await server.id('Ines Aldabe'), await server.id('Mika Sandoval')];
    for (const day_ of ['16', '18', '20']) {
      const made = await ines.post(
        '/api/events',
        meetingRequest({
          times: bergenTimes(`2026-11-${day_}T11:00`, `2026-11-${day_}T11:30`),
          attendees: [{ personId: mika, role: 'required' }],
        }),
      );
      expect(made.status).toBe(201);
    }
    await server.sql(`delete from claim where subject_id = any($1) and lower(during) >= $2`, [
      [me, mika],
      new Date(day.from),
    ]);
    const ask = async (more = {}) =>
      (
        await ines.post<OpeningsResponse>('/api/availability/openings', {
          lineUp: [me, mika].map((id) => ({ id, role: 'required' })),
          from: at(9),
          to: at(11),
          lengthMinutes: 60,
          stretchMinutes: 240,
          ...more,
        })
      ).body;
    // Ten to eleven in Bergen is five to six in Halifax.
    const { openings } = await ask();
    expect(openings[0]!.reasons.join()).toMatch(/Halifax took the early hour the last 3 times/);

    // At 09:12 in Bergen, others are not asked for the next two hours, unless that is wished.
    const today = { from: Date.UTC(2026, 10, 24), to: Date.UTC(2026, 10, 24, 23), limit: 50 };
    const first = async (more: object) =>
      Math.min(
        ...(await ask({ ...today, stretchMinutes: 720, leastBad: true, ...more })).openings.map(
          (one) => one.start,
        ),
      );
    expect(await first({})).toBeGreaterThanOrEqual(Date.UTC(2026, 10, 24, 10, 12));
    expect(await first({ leadMinutes: 600 })).toBeGreaterThanOrEqual(
      Date.UTC(2026, 10, 24, 18, 12),
    );
  });

  it('come with rooms where they are asked for, the same as booking then gives', async () => {
    const ines = await server.as('ines.aldabe');
    const lineUp = await Promise.all(
      ['Ines Aldabe', 'Tomas Okafor', 'Mika Sandoval'].map(async (name) => ({
        id: await server.id(name),
        role: 'required',
      })),
    );
    const asked = {
      lineUp,
      from: Date.UTC(2026, 10, 24),
      to: Date.UTC(2026, 11, 5),
      lengthMinutes: 45,
      places: 'fitting',
      features: ['video'],
      stretchMinutes: 120,
    };
    const answer = await ines.post<OpeningsResponse>('/api/availability/openings', asked);
    const [best] = answer.body.openings;
    expect(answer.body.why).toBeNull();
    expect(best!.rooms).toHaveLength(2);
    const wall = (instant: number) => new Date(instant + HOUR).toISOString().slice(0, 16);
    const made = await ines.post<EventDetail>('/api/events', {
      title: 'Array review',
      times: bergenTimes(wall(best!.start), wall(best!.end)),
      resources: best!.rooms,
    });
    expect(made.status).toBe(201);
    expect(made.body.resources.map((one) => one.site).sort()).toHaveLength(2);
    const hall = await ines.post<OpeningsResponse>('/api/availability/openings', {
      ...asked,
      features: ['orchestra pit'],
    });
    expect(hall.body).toMatchObject({ count: 0, openings: [] });
    expect(hall.body.why).toMatch(/^No room at (Bergen|Halifax) has all that was asked for\.$/);
  });

  it.each([
    [{ places: 'some' }, 'places'],
    [{ lengthMinutes: 4 }, 'lengthMinutes'],
    [{ stretches: { 'Mars/Olympus': { early: 60 } } }, 'stretches.Mars/Olympus'],
    [{ unknown: 'free' }, 'unknown'],
  ])('%j is refused with the field named', async (changes, field) => {
    const answer = await (
      await server.as('ines.aldabe')
    ).post<ProblemBody>('/api/availability/openings', {
      lineUp: [{ id: 1, role: 'required' }],
      ...day,
      lengthMinutes: 30,
      ...changes,
    });
    expect(answer.status).toBe(400);
    expect(answer.body.fields!.map((one) => one.field)).toContain(field);
  });
});
