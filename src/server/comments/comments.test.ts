import { beforeAll, describe, expect, it } from 'vitest';
import type { CommentsResponse } from '../../contract/comments.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
let leila: number;
let hal: number;
beforeAll(async () => {
  leila = await server.id('Leila Haddad');
  hal = await server.id('Hal Teague');
});

let day = 0;
async function meeting(more: object = {}): Promise<EventDetail> {
  const ines = await server.as('ines.aldabe');
  const date = new Date(Date.UTC(2027, 8, 2 + day++)).toISOString().slice(0, 10);
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `Talked about ${day}`,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      attendees: [
        { personId: leila, role: 'required' },
        { personId: hal, role: 'optional' },
        { email: 'jon.skau@harbourworks.example', role: 'required' },
      ],
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

const words = ({ comments }: CommentsResponse) => comments.map((one) => one.words);
async function heard(mailbox: string, eventId: string) {
  const client = await server.as(mailbox);
  const { body } = await client.get<NotificationsResponse>('/api/notifications');
  return body.notifications.filter((one) => one.eventId === eventId && one.what === 'commented');
}

describe('comments', () => {
  it('are read by those who take part, who hear of them, those spoken to as such', async () => {
    const event = await meeting();
    const [ines, reader] = [await server.as('ines.aldabe'), await server.as('leila.haddad')];
    const said = await ines.post<CommentsResponse>(`/api/events/${event.id}/comments`, {
      words: 'Who brings the boat? @Hal Teague',
      mentions: [hal],
    });
    expect(said.status).toBe(201);
    expect(said.body).toMatchObject({
      readBy: 'everybody',
      people: [
        { id: leila, name: 'Leila Haddad' },
        { id: hal, name: 'Hal Teague' },
      ],
    });
    const there = await reader.get<CommentsResponse>(`/api/events/${event.id}/comments`);
    expect(there.body.comments).toMatchObject([
      {
        author: 'Ines Aldabe',
        words: 'Who brings the boat? @Hal Teague',
        mentions: ['Hal Teague'],
        canChange: false,
        canRemove: false,
      },
    ]);
    expect(await heard('hal.teague', event.id)).toMatchObject([
      { kind: 'mentions', by: 'Ines Aldabe', words: 'Who brings the boat? @Hal Teague' },
    ]);
    expect(await heard('leila.haddad', event.id)).toMatchObject([{ kind: 'comments' }]);
    expect(await heard('ines.aldabe', event.id)).toEqual([]);
    // The log keeps that something was said, not what.
    const [fact] = await server.sql<{ details: object }>(
      `select details from fact where event_id = $1 and kind = 'commented'`,
      [event.id],
    );
    expect(JSON.stringify(fact)).not.toContain('boat');
  });

  it('are changed by who wrote them, removed by them or the organizer, and come back', async () => {
    const event = await meeting();
    const address = `/api/events/${event.id}/comments`;
    const [ines, reader, other] = await Promise.all(
      ['ines.aldabe', 'leila.haddad', 'hal.teague'].map((one) => server.as(one)),
    );
    const said = await reader!.post<CommentsResponse>(address, { words: 'I do' });
    const { id } = said.body.comments[0]!;
    const changed = await reader!.patch<CommentsResponse>(`${address}/${id}`, { words: 'I may' });
    expect(changed.body.comments[0]).toMatchObject({ words: 'I may', canChange: true });
    expect(changed.body.comments[0]!.changedAt).not.toBeNull();
    const foreign = await ines!.patch<ProblemBody>(`${address}/${id}`, { words: 'No' });
    expect(foreign).toMatchObject({ status: 403, body: { code: 'not-allowed' } });
    const refused = await other!.request<ProblemBody>('DELETE', `${address}/${id}`);
    expect(refused).toMatchObject({ status: 403, body: { code: 'not-allowed' } });
    expect(await heard('ines.aldabe', event.id)).toHaveLength(1);
    const gone = await ines!.request<CommentsResponse>('DELETE', `${address}/${id}`);
    expect(gone.body.comments).toEqual([]);
    expect(await heard('ines.aldabe', event.id)).toEqual([]);
    const back = await ines!.post<CommentsResponse>(`${address}/${id}/restore`, {});
    expect(words(back.body)).toEqual(['I may']);
  });

  it('go to the organizer alone where invitees do not see who else is asked', async () => {
    const event = await meeting({ rights: { list: false } });
    const address = `/api/events/${event.id}/comments`;
    const [ines, reader, other] = await Promise.all(
      ['ines.aldabe', 'leila.haddad', 'hal.teague'].map((one) => server.as(one)),
    );
    const said = await reader!.post<CommentsResponse>(address, { words: 'Only you' });
    expect(said.body).toMatchObject({ readBy: 'organizer', organizer: 'Ines Aldabe' });
    expect(said.body.people.map((one) => one.name)).toEqual(['Ines Aldabe']);
    await ines!.post(address, { words: 'To all of you' });
    const there = await other!.get<CommentsResponse>(address);
    expect(words(there.body)).toEqual(['To all of you']);
    expect(JSON.stringify(there.body)).not.toMatch(/Leila/);
    expect(await heard('hal.teague', event.id)).toHaveLength(1);
    const spoken = await reader!.post<ProblemBody>(address, { words: '@Hal', mentions: [hal] });
    expect(spoken).toMatchObject({ status: 400, body: { fields: [{ field: 'mentions.0' }] } });
    const { id } = said.body.comments[0]!;
    const hidden = await other!.request<ProblemBody>('DELETE', `${address}/${id}`);
    expect(hidden).toMatchObject({ status: 404, body: { code: 'no-such-comment' } });
  });

  it('stay with a series that is split, on both its parts', async () => {
    const ines = await server.as('ines.aldabe');
    const event = await meeting({ repeats: { rule: 'FREQ=DAILY;COUNT=4' } });
    await ines.post(`/api/events/${event.id}/comments`, { words: 'From the first day' });
    const occurrence = `${new Date(Date.parse(event.startsAt.slice(0, 10)) + 2 * 86_400_000).toISOString().slice(0, 10)}T10:00`;
    const tail = await ines.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      scope: 'following',
      occurrence,
      title: 'The rest of it',
    });
    for (const id of [event.id, tail.body.id]) {
      const { body } = await ines.get<CommentsResponse>(`/api/events/${id}/comments`);
      expect(words(body)).toEqual(['From the first day']);
    }
  });

  it('name what is wrong with them', async () => {
    const event = await meeting();
    const ines = await server.as('ines.aldabe');
    const empty = await ines.post<ProblemBody>(`/api/events/${event.id}/comments`, { words: '  ' });
    expect(empty.body.fields).toEqual([{ field: 'words', message: 'must not be empty' }]);
    const long = await ines.post<ProblemBody>(`/api/events/${event.id}/comments`, {
      words: 'x'.repeat(4001),
    });
    expect(long.body.fields![0]!.message).toContain('4000');
  });
});
