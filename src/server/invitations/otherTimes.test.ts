import { beforeAll, describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { GuestInvitation } from '../../contract/guest.ts';
import type { AnswerHistory, DaysAround, OtherTimes } from '../../contract/invitations.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
server.writesPastTheRules();
const HOUR = 3_600_000;
/** 12 April 2027, a Monday; Bergen is two hours ahead. */
const at = (day: number, hour: number) => Date.UTC(2027, 3, day, hour - 2);
const GUEST = 'jon.skau@harbourworks.example';
let ids: Record<'leila' | 'hal' | 'tomas' | 'gannet', number>;

beforeAll(async () => {
  ids = {
    leila: await server.id('Leila Haddad'),
    hal: await server.id('Hal Teague'),
    tomas: await server.id('Tomas Okafor'),
    gannet: await server.id('Gannet'),
  };
  await server.sql('delete from claim where subject_id = any($1)', [Object.values(ids)]);
});

/** Ines asks Leila and Hal, and somebody outside, to an hour of a day of April 2027, in Gannet. */
async function asked(day: number, more = {}) {
  const ines = await server.as('ines.aldabe');
  const date = `2027-04-${day}`;
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `Drift figures ${day}`,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      attendees: [
        { personId: ids.leila, role: 'required' },
        { personId: ids.hal, role: 'optional' },
        { email: GUEST, role: 'required' },
      ],
      resources: [ids.gannet],
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

const span = (day: number, hour: number) => ({ start: at(day, hour), end: at(day, hour) + HOUR });
const timesOf = async (id: string, occurrence = '') =>
  (await (await server.as('ines.aldabe')).get<OtherTimes>(`/api/replies/${id}/times${occurrence}`))
    .body;
const lettersTo = (email: string, subject: string) =>
  server.sql<{ subject: string; calendar: string; body_text: string }>(
    `select subject, calendar, body_text from mail
     where recipient_email = $1 and subject like $2 order by created_at desc, id desc`,
    [email, `${subject}%`],
  );

describe('another time', () => {
  it('is asked for, weighed beside the others, and taken with its room exchanged, all told', async () => {
    const event = await asked(12);
    const leila = await server.as('leila.haddad');
    const busy = await server.as('tomas.okafor');
    // Somebody else has Gannet at the time that is asked for.
    const taken = await busy.post('/api/events', {
      ...meetingRequest({ resources: [ids.gannet] }),
      times: bergenTimes('2027-04-13T14:00', '2027-04-13T15:00'),
    });
    expect(taken.status).toBe(201);
    const put = await leila.request<EventDetail>('PUT', `/api/invitations/${event.id}/proposals`, {
      times: [span(13, 14), span(14, 9)],
      note: 'The lab is mine until noon',
    });
    expect(put.status).toBe(200);
    const mine = put.body.attendees.find((one) => one.personId === ids.leila)!;
    expect(mine.proposals.map((one) => one.start)).toEqual([at(13, 14), at(14, 9)]);
    expect(mine.reply).toBe('needs-action');

    const times = await timesOf(event.id);
    expect(times.people.map((one) => one.name)).toContain('Hal Teague');
    const [present, first, second] = times.rows;
    expect(present).toMatchObject({ kind: 'present', start: event.start, places: ['free'] });
    expect(first).toMatchObject({
      kind: 'asked',
      start: at(13, 14),
      from: [{ name: 'Leila Haddad', note: 'The lab is mine until noon' }],
    });
    expect(first!.places[0]).toHaveProperty('instead');
    expect(second!.places).toEqual(['free']);
    const outsider = times.people.findIndex((one) => one.name === GUEST);
    expect(first!.states[outsider]).toBe('unknown');

    const ines = await server.as('ines.aldabe');
    for (const end of [first!.start, first!.start - 3_600_000, first!.start + 63 * 86_400_000]) {
      const wrong = await ines.post<ProblemBody>(`/api/replies/${event.id}/times`, {
        version: times.version,
        start: first!.start,
        end,
      });
      expect([wrong.status, wrong.body.fields?.[0]?.field]).toEqual([400, 'end']);
    }
    const moved = await ines.post<EventDetail>(`/api/replies/${event.id}/times`, {
      version: times.version,
      start: first!.start,
      end: first!.end,
    });
    expect(moved.status).toBe(200);
    expect(moved.body.start).toBe(at(13, 14));
    // Whoever asked for it comes; the others are asked anew.
    const replies = moved.body.attendees.filter((one) => one.role !== 'organizer');
    expect(replies.filter((one) => one.reply === 'accepted').map((one) => one.name)).toEqual([
      'Leila Haddad',
    ]);
    const [instead] = moved.body.resources;
    expect(instead!.id).not.toBe(ids.gannet);
    expect(first!.places[0]).toEqual({ instead: { id: instead!.id, name: instead!.name } });
    expect(moved.body.attendees.flatMap((one) => one.proposals)).toEqual([]);
    for (const email of ['leila.haddad@ternrock.example', GUEST]) {
      const [letter] = await lettersTo(email, `New time: ${event.title}`);
      expect(letter!.calendar).toContain('METHOD:REQUEST');
      expect(letter!.body_text).toContain('It was');
    }

    // Taken back, it is where it was, and the times are asked for again.
    const undone = await ines.post<EventDetail>(`/api/events/${event.id}/undo`, {
      version: moved.body.version,
    });
    expect(undone.body.start).toBe(event.start);
    expect(undone.body.resources.map((one) => one.id)).toEqual([ids.gannet]);
    expect((await timesOf(event.id)).rows.filter((one) => one.kind === 'asked')).toHaveLength(2);
  });

  it('is said no to, and whoever asked hears of it in a DECLINECOUNTER', async () => {
    const event = await asked(15);
    const leila = await server.as('leila.haddad');
    await leila.request('PUT', `/api/invitations/${event.id}/proposals`, { times: [span(16, 9)] });
    const [row] = (await timesOf(event.id)).rows.filter((one) => one.kind === 'asked');
    const ines = await server.as('ines.aldabe');
    const no = { attendeeId: row!.from[0]!.attendeeId, ...span(16, 9), message: 'The ship sails' };
    const answer = await ines.post(`/api/events/${event.id}/proposals/decline`, no);
    expect(answer.status).toBe(200);
    const [letter] = await lettersTo('leila.haddad@ternrock.example', 'Stays at its time');
    expect(letter!.calendar).toContain('METHOD:DECLINECOUNTER');
    expect(letter!.body_text).toContain('Fri 16 Apr 09:00');
    expect(letter!.body_text).toContain('The ship sails');
    expect(await lettersTo('hal.teague@ternrock.example', 'Stays at its time')).toEqual([]);
    const again = await ines.post<ProblemBody>(`/api/events/${event.id}/proposals/decline`, no);
    expect(again).toMatchObject({ status: 409, body: { code: 'not-asked-for' } });
  });

  it('of a series is asked for one date, and moves that date alone', async () => {
    const event = await asked(19, { repeats: { rule: 'FREQ=WEEKLY;COUNT=3' }, resources: [] });
    const leila = await server.as('leila.haddad');
    const path = `/api/invitations/${event.id}/proposals`;
    const whole = await leila.request<ProblemBody>('PUT', path, { times: [span(27, 9)] });
    expect(whole.body.fields![0]!.field).toBe('occurrence');
    const occurrence = '2027-04-26T10:00';
    await leila.request('PUT', path, { times: [span(27, 9)], occurrence });
    const times = await timesOf(event.id);
    expect(times.occurrence).toBe(occurrence);
    const ines = await server.as('ines.aldabe');
    const moved = await ines.post<EventDetail>(`/api/replies/${event.id}/times`, {
      version: times.version,
      occurrence,
      ...span(27, 9),
    });
    expect(moved.body.start).toBe(at(27, 9));
    expect(moved.body.series!.changed).toEqual([occurrence]);
  });

  it('is weighed as Plan weighs it: who is off does not come, and the best is Plan’s best', async () => {
    const event = await asked(12, {
      times: bergenTimes('2027-05-11T10:00', '2027-05-11T11:00'),
      resources: [],
    });
    const leila = await server.as('leila.haddad');
    // 15 May 2027 is a Saturday, 17 May a public holiday in Norway; 18 May ends an hour after work.
    const may = (day: number, hour: number) => ({
      start: Date.UTC(2027, 4, day, hour - 2),
      end: Date.UTC(2027, 4, day, hour - 1),
    });
    const times = [may(15, 10), may(17, 10), may(18, 20), may(19, 10)];
    const put = await leila.request('PUT', `/api/invitations/${event.id}/proposals`, { times });
    expect(put.status).toBe(200);
    const { rows } = await timesOf(event.id);
    const row = (start: number) => rows.find((one) => one.kind === 'asked' && one.start === start)!;
    const [saturday, holiday, evening, weekday] = times.map((one) => row(one.start));
    expect([saturday!.couldCome, holiday!.couldCome, evening!.couldCome]).toEqual([0, 0, 0]);
    expect(weekday!.couldCome).toBe(weekday!.states.filter((one) => one === 'free').length);
    expect(weekday!.couldCome).toBeGreaterThan(1);
    const best = rows.filter((one) => one.isBest);
    expect(best).toHaveLength(1);
    expect(best[0]!.couldCome).toBeGreaterThan(1);
    // By what Plan asks of a time nobody could do better than its own best.
    const plan = rows.find((one) => one.kind === 'best');
    if (plan) expect(best[0]!.start).toBe(plan.start);
  });

  it('is refused where it cannot be, by name', async () => {
    const event = await asked(20, { resources: [] });
    const leila = await server.as('leila.haddad');
    const put = async (times: unknown, who = leila) =>
      who.request<ProblemBody>('PUT', `/api/invitations/${event.id}/proposals`, { times });
    const fields = async (times: unknown) => (await put(times)).body.fields![0];
    expect(await fields([{ start: at(21, 9), end: at(21, 9) }])).toMatchObject({
      field: 'times.0',
      message: 'must last at least 5 minutes',
    });
    expect((await fields([span(21, 9), { start: 1, end: 1 + HOUR }]))!.field).toBe('times.1');
    expect((await fields([{ start: event.start, end: event.end }]))!.message).toContain('present');
    expect((await fields(Array.from({ length: 6 }, (_, k) => span(21, k + 8))))!.field).toBe(
      'times',
    );
    const tomas = await server.as('tomas.okafor');
    expect((await put([span(21, 9)], tomas)).status).toBeGreaterThanOrEqual(403);
  });
});

describe('somebody outside', () => {
  const tokenTo = async (event: EventDetail) => {
    const [mail] = await lettersTo(GUEST, `Invitation: ${event.title}`);
    return /\/guest\/(\S+)/.exec(mail!.body_text)![1]!;
  };

  it('asks for another time by their link, and sees how many are free only where that is shown', async () => {
    const hidden = await asked(21, { resources: [] });
    const shown = await asked(22, {
      resources: [],
      rights: { count: true, list: false },
    });
    const anonymous = server.anonymous();
    const days = async (event: EventDetail) =>
      (
        await anonymous.get<DaysAround>(
          `/api/guest/${await tokenTo(event)}/days?zone=Asia/Kolkata&from=2027-04-19`,
        )
      ).body;
    const blank = await days(hidden);
    expect(blank.days.map((one) => one.date)).toEqual([
      '2027-04-19',
      '2027-04-20',
      '2027-04-21',
      '2027-04-22',
      '2027-04-23',
    ]);
    expect(blank).toMatchObject({ total: 0, days: [{ counts: null }, {}, {}, {}, {}] });
    const counted = await days(shown);
    expect(counted.total).toBe(3);
    expect(counted.days[0]!.counts).toHaveLength(96);
    expect(Math.max(...counted.days.flatMap((one) => one.counts!))).toBe(3);

    const token = await tokenTo(hidden);
    const put = await anonymous.request<GuestInvitation>('PUT', `/api/guest/${token}/proposals`, {
      times: [span(23, 9)],
      note: 'After the tide',
    });
    expect(put.body.proposals).toEqual([span(23, 9)]);
    const [row] = (await timesOf(hidden.id)).rows.filter((one) => one.kind === 'asked');
    expect(row!.from).toMatchObject([{ name: GUEST, note: 'After the tide' }]);
    const gone = await anonymous.request<GuestInvitation>('PUT', `/api/guest/${token}/proposals`, {
      times: [],
    });
    expect(gone.body.proposals).toEqual([]);
  });
});

describe('the history of answers', () => {
  it('holds each answer, also those that were changed, for whoever organizes it', async () => {
    const event = await asked(28, { resources: [] });
    const leila = await server.as('leila.haddad');
    const reply = (answer: string) =>
      leila.post(`/api/invitations/${event.id}/reply`, { reply: answer });
    await reply('tentative');
    await reply('accepted');
    await leila.request('PUT', `/api/invitations/${event.id}/proposals`, { times: [span(29, 9)] });
    const ines = await server.as('ines.aldabe');
    await ines.post(`/api/events/${event.id}/nudge`, { attendees: 'all' });
    const path = `/api/replies/${event.id}/history`;
    const { entries } = (await ines.get<AnswerHistory>(path)).body;
    const of = (name: string) =>
      entries.filter((one) => one.name === name).map(({ what, reply: said }) => said ?? what);
    expect(of('Leila Haddad')).toEqual(['proposed', 'accepted', 'tentative', 'invited']);
    expect(of('Hal Teague')).toEqual(['nudged', 'invited']);
    expect((await leila.get(path)).status).toBe(403);
  });
});
