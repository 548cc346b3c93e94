import { beforeAll, describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { DelegatesResponse } from '../../contract/delegates.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type {
  AnswerHistory,
  InvitationDetail,
  News,
  RepliesList,
} from '../../contract/invitations.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';
import type { SessionState } from '../../contract/session.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* Robine plans, answers and books for Sunniva. */

const server = useServer();
let sunniva: number;
let robine: number;
let hal: number;
beforeAll(async () => {
  [sunniva, robine, hal] = (await Promise.all(
    ['Sunniva Brekke', 'Robine Thys', 'Hal Teague'].map((name) => server.id(name)),
  )) as [number, number, number];
  const principal = await server.as('sunniva.brekke');
  const made = await principal.request<DelegatesResponse>('PUT', `/api/delegates/${robine}`, {
    receives: 'invitations',
  });
  expect(made.body.delegates).toMatchObject([{ name: 'Robine Thys', receives: 'invitations' }]);
});

let day = 0;
const times = () => {
  const date = new Date(Date.UTC(2027, 9, 2 + day++)).toISOString().slice(0, 10);
  return bergenTimes(`${date}T10:00`, `${date}T11:00`);
};
async function byRobine(more: object = {}): Promise<EventDetail> {
  const delegate = await server.as('robine.thys');
  const made = await delegate.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `For her ${day}`,
      times: times(),
      attendees: [{ personId: hal, role: 'required' }],
      for: sunniva,
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}
const heard = async (mailbox: string, eventId: string) => {
  const client = await server.as(mailbox);
  const { body } = await client.get<NotificationsResponse>('/api/notifications');
  return body.notifications.filter((one) => one.eventId === eventId);
};
async function invitedBySomebody(): Promise<EventDetail> {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `Asked of her ${day}`,
      times: times(),
      attendees: [{ personId: sunniva, role: 'required' }],
    }),
  );
  return made.body;
}

describe('somebody who acts for another', () => {
  it('is told by letter, and knows it everywhere', async () => {
    const [letter] = await server.sql<{ text: string }>(
      `select body_text as text from mail where subject = 'You may act for Sunniva Brekke'
       and recipient_email = 'robine.thys@ternrock.example'`,
    );
    expect(letter!.text).toContain('Sunniva Brekke lets you plan, answer and book');
    const { body } = await (await server.as('robine.thys')).get<SessionState>('/api/session');
    expect(body.me!.actsFor).toEqual([{ id: sunniva, name: 'Sunniva Brekke' }]);
  });

  it('makes a meeting of theirs, shown as for them in letter, iTIP, log and bell', async () => {
    const event = await byRobine();
    expect(event.organizer).toEqual({ id: sunniva, name: 'Sunniva Brekke' });
    const [mail] = await server.sql<{ sender: string; text: string; calendar: string }>(
      `select sender_email as sender, body_text as text, calendar from mail where event_id = $1`,
      [event.id],
    );
    expect(mail!.sender).toBe('sunniva.brekke@ternrock.example');
    expect(mail!.text).toContain('Robine Thys, for Sunniva Brekke, invites you');
    const folded = mail!.calendar.replaceAll(/\r\n /g, '');
    expect(folded).toMatch(
      /ORGANIZER;CN=Sunniva Brekke;SENT-BY="mailto:robine.thys@ternrock.example":mailto:sunniva/,
    );
    const [fact] = await server.sql<{ actor: number; whose: number }>(
      `select actor_id as actor, (details->>'for')::int as whose from fact where event_id = $1`,
      [event.id],
    );
    expect(fact).toEqual({ actor: robine, whose: sunniva });
    expect(await heard('hal.teague', event.id)).toMatchObject([
      { what: 'invited', by: 'Robine Thys, for Sunniva Brekke' },
    ]);
    // She sees what was done in her name.
    expect(await heard('sunniva.brekke', event.id)).toMatchObject([
      { what: 'invited', mine: true, by: 'Robine Thys, for Sunniva Brekke' },
    ]);
  });

  it('changes and cancels it, and follows its answers', async () => {
    const event = await byRobine();
    const delegate = await server.as('robine.thys');
    const replies = await delegate.get<RepliesList>(`/api/replies?event=${event.id}`);
    expect(replies.body.meetings).toMatchObject([{ id: event.id, for: 'Sunniva Brekke' }]);
    const changed = await delegate.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      title: 'For her, renamed',
    });
    expect(changed.status).toBe(200);
    expect((await heard('sunniva.brekke', event.id))[0]).toMatchObject({
      what: 'changed',
      by: 'Robine Thys, for Sunniva Brekke',
    });
    const gone = await delegate.post<EventDetail>(`/api/events/${event.id}/cancel`, {
      version: changed.body.version,
    });
    expect(gone.body.status).toBe('cancelled');
  });

  it('answers for them, seen beside their day, and the organizer sees who did', async () => {
    const event = await invitedBySomebody();
    const delegate = await server.as('robine.thys');
    const news = await delegate.get<News>('/api/invitations');
    expect(news.body.waiting.find((one) => one.eventId === event.id)).toMatchObject({
      for: { id: sunniva, name: 'Sunniva Brekke' },
    });
    const seen = await delegate.get<InvitationDetail>(
      `/api/invitations/${event.id}?for=${sunniva}`,
    );
    expect(seen.body.myReply).toBe('needs-action');
    const days = await delegate.get(
      `/api/invitations/${event.id}/days?zone=Europe/Oslo&for=${sunniva}`,
    );
    expect(days.status).toBe(200);
    const answer = await delegate.post(`/api/invitations/${event.id}/reply`, {
      reply: 'accepted',
      for: sunniva,
    });
    expect(answer.status).toBe(200);
    const ines = await server.as('ines.aldabe');
    const detail = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(detail.body.attendees.find((one) => one.personId === sunniva)!.reply).toBe('accepted');
    expect(await heard('ines.aldabe', event.id)).toMatchObject([
      { what: 'replied', reply: 'accepted', by: 'Robine Thys, for Sunniva Brekke' },
    ]);
    const history = await ines.get<AnswerHistory>(`/api/replies/${event.id}/history`);
    expect(history.body.entries.find((one) => one.what === 'replied')).toMatchObject({
      name: 'Sunniva Brekke',
      by: 'Robine Thys',
    });
  });

  it('hears of as much as the other decides', async () => {
    const event = await invitedBySomebody();
    expect(await heard('robine.thys', event.id)).toMatchObject([
      { what: 'invited', for: 'Sunniva Brekke' },
    ]);
    const mine = await byRobine();
    const invited = await server.as('hal.teague');
    await invited.post(`/api/invitations/${mine.id}/reply`, { reply: 'declined' });
    expect(await heard('robine.thys', mine.id)).toEqual([]);
    const principal = await server.as('sunniva.brekke');
    await principal.request('PUT', `/api/delegates/${robine}`, { receives: 'everything' });
    await invited.post(`/api/invitations/${mine.id}/reply`, { reply: 'accepted' });
    expect(await heard('robine.thys', mine.id)).toMatchObject([
      { what: 'replied', for: 'Sunniva Brekke' },
    ]);
    await principal.request('PUT', `/api/delegates/${robine}`, { receives: 'nothing' });
    const next = await invitedBySomebody();
    expect(await heard('robine.thys', next.id)).toEqual([]);
    expect(await heard('sunniva.brekke', next.id)).toHaveLength(1);
  });

  it('is somebody for whom one is named, and no longer once that is taken back', async () => {
    const event = await byRobine();
    const stranger = await server.as('clara.weiss');
    const refused = await stranger.post<ProblemBody>(
      '/api/events',
      meetingRequest({ times: times(), for: sunniva }),
    );
    expect(refused).toMatchObject({
      status: 403,
      body: { code: 'not-allowed', fields: [{ field: 'for' }] },
    });
    const principal = await server.as('sunniva.brekke');
    const gone = await principal.request<DelegatesResponse>('DELETE', `/api/delegates/${robine}`);
    expect(gone.body.delegates).toEqual([]);
    const delegate = await server.as('robine.thys');
    const change = await delegate.patch<ProblemBody>(`/api/events/${event.id}`, {
      version: event.version,
      title: 'Too late',
    });
    expect([403, 404]).toContain(change.status);
    const twice = await principal.request<ProblemBody>('DELETE', `/api/delegates/${robine}`);
    expect(twice).toMatchObject({ status: 404, body: { code: 'no-such-delegate' } });
    const self = await principal.request<ProblemBody>('PUT', `/api/delegates/${sunniva}`, {
      receives: 'nothing',
    });
    expect(self.body.fields).toMatchObject([{ field: 'id' }]);
  });
});
