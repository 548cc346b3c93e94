import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { GuestInvitation } from '../../contract/guest.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();

let day = 1;
const GUEST = 'jon@skau.example';

/** A meeting with somebody outside and a colleague, and the link in the letter of the former. */
async function asked(changes = {}): Promise<{ meeting: EventDetail; token: string }> {
  const ines = await server.as('ines.aldabe');
  const date = `2027-03-${String(day++).padStart(2, '0')}`;
  const { status, body } = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `Sensors, ${date}`,
      description: '<p>Bring the <strong>drift</strong> figures</p>',
      message: 'Half an hour is enough',
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      attendees: [
        { email: GUEST, name: 'Jon Skau', role: 'required' },
        { personId: await server.id('Mika Sandoval'), role: 'required' },
      ],
      ...changes,
    }),
  );
  expect(status).toBe(201);
  return { meeting: body, token: await linkOf(body) };
}

async function linkOf(meeting: EventDetail, to = GUEST): Promise<string> {
  const [letter] = await server.sql<{ text: string; html: string }>(
    `select body_text as text, body_html as html from mail
     where strpos(calendar, $1) > 0 and recipient_email = $2 order by created_at desc limit 1`,
    [meeting.uid, to],
  );
  const link = /http\S+\/guest\/(\S+)/.exec(letter!.text)!;
  expect(letter!.html).toContain(link[0]);
  return link[1]!;
}

const open = (token: string) =>
  server.anonymous().get<GuestInvitation & { code?: string }>(`/api/guest/${token}`);
const reply = (token: string, body: object) =>
  server.anonymous().post<GuestInvitation>(`/api/guest/${token}/reply`, body);

describe('somebody outside', () => {
  it('sees by the link what they are asked to, and no address of anybody else', async () => {
    const { token } = await asked();
    const { status, body } = await open(token);
    expect(status).toBe(200);
    expect(body).toMatchObject({
      organizer: 'Ines Aldabe',
      organization: 'Tern Rock Institute',
      name: 'Jon Skau',
      role: 'required',
      zone: 'Europe/Oslo',
      city: 'Bergen',
      message: 'Half an hour is enough',
      others: ['Mika Sandoval'],
      more: 0,
      reply: 'needs-action',
      isOver: false,
    });
    expect(body.description).toContain('<strong>drift</strong>');
    expect(JSON.stringify(body)).not.toContain('ternrock.example');
  });

  it('answers without an account, changes the answer, and its organizer has it at once', async () => {
    const { meeting, token } = await asked();
    const first = await reply(token, { reply: 'tentative', note: 'If the ferry runs' });
    expect(first.body).toMatchObject({ reply: 'tentative', note: 'If the ferry runs' });
    await reply(token, { reply: 'accepted', note: '' });
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<EventDetail>(`/api/events/${meeting.id}`);
    expect(body.attendees.find((one) => one.email === GUEST)).toMatchObject({
      reply: 'accepted',
      note: '',
    });
    expect(body.version).toBe(meeting.version);
    const bad = await reply(token, { reply: 'maybe' });
    expect(bad.status).toBe(400);
    expect((bad.body as unknown as ProblemBody).fields![0]!.field).toBe('reply');
  });

  it('adds a file in which nobody is named but they and the organizer', async () => {
    const { token, meeting } = await asked();
    const answer = await server.anonymous().get<string>(`/api/guest/${token}/calendar`);
    expect(answer.headers.get('content-type')).toContain('text/calendar');
    expect(answer.headers.get('content-disposition')).toContain('meeting.ics');
    expect(answer.body).toContain(`UID:${meeting.uid}`);
    expect(answer.body).toContain(GUEST);
    expect(answer.body.replace(/\r\n /g, '')).not.toContain('mika.sandoval');
  });

  it('adds a file that names the room of a date that has one of its own', async () => {
    const { token, meeting } = await asked({ repeats: { rule: 'FREQ=WEEKLY;COUNT=3' } });
    const ines = await server.as('ines.aldabe');
    const second = new Date(meeting.start + 7 * 86_400_000).toISOString().slice(0, 10);
    const changed = await ines.patch<EventDetail>(`/api/events/${meeting.id}`, {
      version: meeting.version,
      scope: 'one',
      occurrence: `${second}T10:00`,
      resources: [await server.id('Gannet')],
    });
    expect(changed.status).toBe(200);
    const answer = await server.anonymous().get<string>(`/api/guest/${token}/calendar`);
    const lines = answer.body.replace(/\r\n /g, '');
    expect(lines).toMatch(/RECURRENCE-ID[^\n]*[\s\S]*Gannet/);
  });

  it('has no way in by a link that is made up, changed, or somebody else’s number', async () => {
    const { token } = await asked();
    const [id, proof] = token.split('~') as [string, string];
    const next = (Number.parseInt(id, 36) + 1).toString(36);
    for (const other of [
      `${next}~${proof}`,
      `${id}~${proof.slice(0, -2)}AA`,
      `${id}~${'A'.repeat(43)}`,
      `zzzzzzzzzzzzz~${proof}`,
    ]) {
      const { status, body } = await open(other);
      expect([other, status, body.code]).toEqual([other, 404, 'no-such-link']);
    }
    for (const none of ['x', `${id}~`, `${id}~${proof}x`, encodeURIComponent('../../x')]) {
      const { status } = await open(none);
      expect([none, [400, 404].includes(status)]).toEqual([none, true]);
    }
  });

  it('is let in no more once they are left out, and cannot answer what is cancelled', async () => {
    const { meeting, token } = await asked();
    const ines = await server.as('ines.aldabe');
    await ines.post(`/api/events/${meeting.id}/cancel`, { version: meeting.version });
    expect((await open(token)).body).toMatchObject({ status: 'cancelled', isOver: true });
    expect((await reply(token, { reply: 'accepted' })).status).toBe(409);

    const other = await asked();
    await ines.patch(`/api/events/${other.meeting.id}`, {
      version: other.meeting.version,
      attendees: [{ personId: await server.id('Mika Sandoval'), role: 'required' }],
    });
    expect((await open(other.token)).status).toBe(404);
    expect((await reply(other.token, { reply: 'accepted' })).status).toBe(404);
    // Asked again, they have a link of their own, and the old one stays shut.
    const detail = await ines.get<EventDetail>(`/api/events/${other.meeting.id}`);
    await ines.patch(`/api/events/${other.meeting.id}`, {
      version: detail.body.version,
      attendees: [{ email: GUEST, role: 'required' }],
    });
    const again = await server.sql<{ text: string }>(
      `select body_text as text from mail
       where strpos(calendar, $1) > 0 and recipient_email = $2 and body_text like '%/guest/%'`,
      [other.meeting.uid, GUEST],
    );
    const links = new Set(again.map((one) => /\/guest\/(\S+)/.exec(one.text)![1]!));
    expect(links.size).toBe(2);
    links.delete(other.token);
    expect((await open([...links][0]!)).status).toBe(200);
    expect((await open(other.token)).status).toBe(404);
  });

  it('is told when it is over', async () => {
    const { token } = await asked({
      times: bergenTimes('2026-11-23T10:00', '2026-11-23T11:00'),
    });
    expect((await open(token)).body.isOver).toBe(true);
    const answer = await reply(token, { reply: 'accepted' });
    expect(answer).toMatchObject({ status: 409, body: { code: 'over' } });
  });

  it('of a series answers all of it, and sees the next date', async () => {
    const { token } = await asked({
      times: bergenTimes('2026-11-18T10:00', '2026-11-18T11:00'),
      repeats: { rule: 'FREQ=WEEKLY;COUNT=4', except: [] },
    });
    const { body } = await open(token);
    expect(body.repeats).toContain('Every Wednesday');
    expect(new Date(body.start).toISOString()).toBe('2026-11-25T09:00:00.000Z');
    expect((await reply(token, { reply: 'declined' })).body.reply).toBe('declined');
  });

  it('asks at most sixty times a minute from one network address', async () => {
    const { token } = await asked();
    await server.sql(`delete from rate_limit where key like 'guest:%'`);
    const answers = await Promise.all(Array.from({ length: 75 }, () => open(token)));
    const statuses = answers.map((one) => one.status);
    expect(statuses.filter((one) => one === 200)).toHaveLength(60);
    const refused = answers.find((one) => one.status === 429)!;
    expect(Number(refused.headers.get('retry-after'))).toBeGreaterThan(0);
    await server.sql(`delete from rate_limit where key like 'guest:%'`);
  });
});
