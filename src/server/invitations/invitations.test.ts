import { describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type {
  InvitationDetail,
  News,
  RepliesList,
  WaitingInvitation,
} from '../../contract/invitations.ts';
import type { MailroomEntry, MailroomMessage } from '../../contract/mailroom.ts';
import type { ProblemBody } from '../../contract/common.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { eventually, useServer } from '../../../tests/support/server.ts';

const server = useServer();

async function invite(names: string[], changes = {}) {
  const ines = await server.as('ines.aldabe');
  const attendees = await Promise.all(
    names.map(async (name) => ({ personId: await server.id(name), role: 'required' as const })),
  );
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({ attendees, ...changes }),
  );
  expect(made.status).toBe(201);
  return { ines, event: made.body };
}

const mailTo = (recipient: string, subject: string) =>
  eventually(async () => {
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<{ entries: MailroomEntry[] }>(
      `/api/mailroom?recipient=${recipient}`,
    );
    return body.entries.find((entry) => entry.subject.includes(subject));
  });

describe('an invitation', () => {
  it('waits for the invitee, beside their own day, with conflicts named', async () => {
    const tomas = await server.as('tomas.okafor');
    await tomas.post(
      '/api/events',
      meetingRequest({
        title: 'Dentist',
        times: bergenTimes('2027-02-02T10:30', '2027-02-02T11:30'),
      }),
    );
    await tomas.post(
      '/api/events',
      meetingRequest({
        title: 'School run',
        times: bergenTimes('2027-02-02T09:00', '2027-02-02T09:50'),
      }),
    );
    const { event } = await invite(['Tomas Okafor'], {
      title: 'Winch talk',
      times: bergenTimes('2027-02-02T10:00', '2027-02-02T11:00'),
    });
    const waiting = await tomas.get<{ waiting: WaitingInvitation[] }>('/api/invitations');
    expect(waiting.body.waiting.find((one) => one.eventId === event.id)).toMatchObject({
      organizer: 'Ines Aldabe',
      recurring: false,
      conflicts: [
        {
          title: 'Dentist',
          start: Date.UTC(2027, 1, 2, 9, 30),
          end: Date.UTC(2027, 1, 2, 10, 30),
        },
      ],
    });
    const detail = await tomas.get<InvitationDetail>(`/api/invitations/${event.id}`);
    expect(detail.body.conflicts.map(({ title, kind }) => [title, kind])).toEqual([
      ['Dentist', 'overlap'],
      ['School run', 'near'],
    ]);
    const day = detail.body.day.map((item) => item.title);
    expect(day).toEqual(expect.arrayContaining(['School run', 'Dentist']));
    expect(day).not.toContain('Winch talk');
  });

  it('says what is before and after, the way between the places, and what was written', async () => {
    const tomas = await server.as('tomas.okafor');
    const at = (from: string, to: string) => bergenTimes(`2027-02-03T${from}`, `2027-02-03T${to}`);
    const [gannet, skua] = [await server.id('Gannet'), await server.id('Skua')];
    await tomas.post(
      '/api/events',
      meetingRequest({ title: 'Net loft', times: at('08:00', '09:30'), resources: [skua] }),
    );
    await tomas.post(
      '/api/events',
      meetingRequest({ title: 'Lunch', times: at('12:00', '12:30') }),
    );
    const { event } = await invite(['Tomas Okafor'], {
      title: 'Winch plan',
      times: at('10:00', '11:00'),
      resources: [gannet],
      message: 'Bring the gloves.',
    });
    const { body } = await tomas.get<InvitationDetail>(`/api/invitations/${event.id}`);
    expect(body.message).toBe('Bring the gloves.');
    expect(body.before).toMatchObject({ title: 'Net loft', end: Date.UTC(2027, 1, 3, 8, 30) });
    expect(body.before!.way).toMatch(/^(one floor|\d+ floors) (up|down)$|^on the same floor$/);
    expect(body.after).toMatchObject({ title: 'Lunch', way: null });
  });

  it.each([
    ['accepted', 'busy'],
    ['tentative', 'tentative'],
    ['declined', undefined],
  ] as const)('once %s takes the time as %s', async (reply, occupancy) => {
    const { ines, event } = await invite(['Mika Sandoval']);
    const mika = await server.as('mika.sandoval');
    const answer = await mika.post<EventDetail>(`/api/invitations/${event.id}/reply`, {
      reply,
      note: 'From the boat',
    });
    expect(answer.body.myReply).toBe(reply);
    const claims = await server.sql<{ occupancy: string }>(
      `select occupancy from claim join occurrence on occurrence.id = claim.occurrence_id
       where event_id = $1 and subject_id = $2`,
      [event.id, await server.id('Mika Sandoval')],
    );
    expect(claims[0]?.occupancy).toBe(occupancy);
    const replies = await ines.get<RepliesList>(`/api/replies?event=${event.id}`);
    const mine = replies.body.meetings[0]!;
    expect(mine.replies).toMatchObject([{ name: 'Mika Sandoval', reply, note: 'From the boat' }]);
  });

  it('shows a note to the organizer and its writer, not to the other invitees', async () => {
    const { ines, event } = await invite(['Mika Sandoval', 'Tomas Okafor']);
    const mika = await server.as('mika.sandoval');
    await mika.post(`/api/invitations/${event.id}/reply`, {
      reply: 'declined',
      note: 'Private reason',
    });
    const seenBy = async (mailbox: string) =>
      JSON.stringify((await (await server.as(mailbox)).get(`/api/events/${event.id}`)).body);
    expect(await seenBy('tomas.okafor')).not.toContain('Private reason');
    expect(await seenBy('mika.sandoval')).toContain('Private reason');
    expect(JSON.stringify((await ines.get(`/api/events/${event.id}`)).body)).toContain(
      'Private reason',
    );
  });

  it('cannot be answered by whoever is not invited, nor by its organizer, nor once cancelled', async () => {
    const { ines, event } = await invite(['Mika Sandoval']);
    const answer = { reply: 'accepted' };
    expect(
      await (await server.as('mei.tanaka')).post(`/api/invitations/${event.id}/reply`, answer),
    ).toMatchObject({ status: 404 });
    expect(await ines.post(`/api/invitations/${event.id}/reply`, answer)).toMatchObject({
      status: 403,
    });
    await ines.post(`/api/events/${event.id}/cancel`, { version: 1 });
    const late = await (
      await server.as('mika.sandoval')
    ).post<ProblemBody>(`/api/invitations/${event.id}/reply`, answer);
    expect(late).toMatchObject({ status: 409, body: { code: 'cancelled' } });
    const wrong = await ines.post<ProblemBody>(`/api/invitations/${event.id}/reply`, {
      reply: 'perhaps',
    });
    expect(wrong).toMatchObject({ status: 400, body: { fields: [{ field: 'reply' }] } });
  });
});

describe('an invitation to a series', () => {
  it('says how all its dates fit, and where they collide', async () => {
    const mika = await server.as('mika.sandoval');
    for (const [date, title, showsAs] of [
      ['2027-09-14', 'Harbour day', 'busy'],
      ['2027-09-28', 'Dry dock', 'busy'],
      ['2027-09-28', 'Later still', 'busy'],
      ['2027-10-05', 'A reminder', 'free'],
    ] as const) {
      await mika.post(
        '/api/events',
        meetingRequest({ title, showsAs, times: bergenTimes(`${date}T14:00`, `${date}T15:30`) }),
      );
    }
    const { event } = await invite(['Mika Sandoval'], {
      title: 'Autumn round',
      times: bergenTimes('2027-09-07T15:00', '2027-09-07T16:00'),
      repeats: { rule: 'FREQ=WEEKLY;COUNT=6', except: ['2027-09-21T15:00'] },
    });
    const dates = {
      count: 5,
      fitting: 3,
      collisions: [
        { start: Date.UTC(2027, 8, 14, 13), title: 'Harbour day' },
        { start: Date.UTC(2027, 8, 28, 13), title: expect.any(String) as string },
      ],
    };
    const news = await mika.get<News>('/api/invitations');
    const waiting = news.body.waiting.find((one) => one.eventId === event.id);
    expect(waiting).toMatchObject({ recurring: true, dates });
    const detail = await mika.get<InvitationDetail>(
      `/api/invitations/${event.id}?occurrence=2027-10-05T15:00`,
    );
    expect(detail.body).toMatchObject({
      event: { series: { recurrenceId: '2027-10-05T15:00' } },
      conflicts: [],
      dates,
    });
    const once = await invite(['Mika Sandoval']);
    const single = await mika.get<InvitationDetail>(`/api/invitations/${once.event.id}`);
    expect(single.body.dates).toBeNull();
  });
});

describe('the replies to what I organize', () => {
  it('come a part at a time, each meeting once, what waits for answers first', async () => {
    const hal = await server.as('hal.teague');
    const mika = await server.as('mika.sandoval');
    const made: string[] = [];
    for (let k = 0; k < 5; k++) {
      const { body } = await hal.post<EventDetail>(
        '/api/events',
        meetingRequest({
          title: `Part ${k}`,
          attendees: [{ personId: await server.id('Mika Sandoval'), role: 'required' }],
        }),
      );
      made.push(body.id);
    }
    await mika.post(`/api/invitations/${made[0]}/reply`, { reply: 'accepted' });
    const ids: string[] = [];
    let parts = 0;
    for (;;) {
      const after = ids.length > 0 ? `&after=${ids.at(-1)}` : '';
      const { body } = await hal.get<RepliesList>(`/api/replies?limit=2${after}`);
      expect(body.waiting).toBeLessThan(body.total);
      if (body.meetings.length === 0) {
        expect(ids).toHaveLength(body.total);
        break;
      }
      ids.push(...body.meetings.map((one) => one.id));
      parts++;
    }
    expect(parts).toBeGreaterThan(2);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toEqual(expect.arrayContaining(made));
    for (const waiting of made.slice(1))
      expect(ids.indexOf(waiting)).toBeLessThan(ids.indexOf(made[0]!));
  });

  it('are refused after something that is no id', async () => {
    const ines = await server.as('ines.aldabe');
    expect(await ines.get<ProblemBody>('/api/replies?after=first')).toMatchObject({
      status: 400,
      body: { fields: [{ field: 'after' }] },
    });
  });
});

describe('mail', () => {
  it('reaches everyone invited with a REQUEST in their own zone, once', async () => {
    const { event } = await invite(['Hal Teague', 'Priya Raman'], { title: 'Mail check one' });
    const entry = await mailTo('hal.teague@ternrock.example', 'Mail check one');
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<MailroomMessage>(`/api/mailroom/${entry.id}`);
    // 10:00 in Bergen is 20:00 in Hobart that day.
    expect(body.text).toContain('Thu 10 Dec 20:00–21:00 (Hobart time)');
    expect(body.method).toBe('REQUEST');
    expect(body.calendar).toContain(`UID:${event.uid}`);
    expect(body.calendar).toContain('SEQUENCE:0');
    expect(body.calendar).toContain('DTSTART:20261210T090000Z');
    await mailTo('priya.raman@nilgiriwater.example', 'Mail check one');
    const all = await server.sql(
      `select 1 from mailroom_message where subject like '%Mail check one%'`,
    );
    expect(all).toHaveLength(2);
    const source = await ines.get<string>(`/api/mailroom/${entry.id}/source`);
    expect(source.body).toMatch(/Content-Type: text\/calendar; charset=utf-8; method=REQUEST/);
  });

  it('is not sent when the organizer does not want it', async () => {
    const { event } = await invite(['Hal Teague'], { title: 'Quiet one', send: false });
    expect(await server.sql('select 1 from mail where event_id = $1', [event.id])).toHaveLength(0);
  });

  it('an answer by mail from outside counts, and one for an earlier time does not', async () => {
    const guest = { email: 'guest@harbour.example', name: 'A Guest', role: 'required' };
    const { ines, event } = await invite([], { title: 'Mail check two', attendees: [guest] });
    const entry = await mailTo('guest@harbour.example', 'Mail check two');
    const answered = await ines.post(`/api/mailroom/${entry.id}/answer`, {
      reply: 'accepted',
      note: 'Looking forward',
    });
    expect(answered.status).toBe(204);
    const read = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(read.body.attendees[1]).toMatchObject({ reply: 'accepted', note: 'Looking forward' });
    await ines.patch(`/api/events/${event.id}`, {
      version: 1,
      times: bergenTimes('2026-12-11T10:00', '2026-12-11T11:00'),
    });
    const old = await ines.post<ProblemBody>(`/api/mailroom/${entry.id}/answer`, {
      reply: 'declined',
    });
    expect(old).toMatchObject({ status: 422, body: { code: 'put-aside' } });
    expect(old.body.detail).toContain('for an earlier time of this meeting');
  });

  it('a letter carries no script of its own and may load nothing', async () => {
    await invite(['Hal Teague'], { title: '<script>alert(1)</script> check' });
    const entry = await mailTo('hal.teague@ternrock.example', 'alert(1)');
    const ines = await server.as('ines.aldabe');
    const letter = await ines.get<string>(`/api/mailroom/${entry.id}/letter`);
    expect(letter.body).not.toContain('<script>');
    expect(letter.headers.get('content-security-policy')).toContain("default-src 'none'");
  });
});

describe('live updates', () => {
  it('tell the organizer of an answer, and not those whom it does not concern', async () => {
    const { ines, event } = await invite(['Mika Sandoval']);
    const open = async (cookie: string) => {
      const stream = await fetch(`${server.base}/api/live`, { headers: { Cookie: cookie } });
      const reader = stream.body!.getReader();
      let text = '';
      void (async () => {
        for (;;) {
          const { done, value } = await reader.read();
          if (done) return;
          text += new TextDecoder().decode(value);
        }
      })().catch(() => undefined);
      return { text: () => text, close: () => reader.cancel() };
    };
    const organizerId = await server.id('Ines Aldabe');
    const bystander = await open((await server.as('mei.tanaka')).cookie);
    const organizer = await open(ines.cookie);
    await eventually(
      async () => organizer.text().includes('retry') && bystander.text().includes('retry'),
    );
    await (
      await server.as('mika.sandoval')
    ).post(`/api/invitations/${event.id}/reply`, { reply: 'accepted' });
    await eventually(async () => organizer.text().includes(`"calendar:${organizerId}"`));
    expect(bystander.text()).not.toContain('"calendar:');
    await Promise.all([organizer.close(), bystander.close()]);
  });
});
