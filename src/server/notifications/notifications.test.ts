import { beforeAll, describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Notification, NotificationsResponse } from '../../contract/notifications.ts';
import { Client } from '../../../tests/support/client.ts';
import { TEST_NOW } from '../../../tests/support/cluster.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { sendDailyLetters } from './index.ts';

/* What people hear of: behind the bell on every device, in one letter a day, or not at all. */

const server = useServer({}, 10);
let leila: number;
let hal: number;
beforeAll(async () => {
  leila = await server.id('Leila Haddad');
  hal = await server.id('Hal Teague');
});

let day = 0;
async function meeting(more: object = {}): Promise<EventDetail> {
  const ines = await server.as('ines.aldabe');
  const date = new Date(Date.UTC(2027, 7, 2 + day++)).toISOString().slice(0, 10);
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `Told of ${day}`,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      attendees: [
        { personId: leila, role: 'required' },
        { personId: hal, role: 'required' },
      ],
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

/** What somebody hears of one meeting, the latest first. */
async function heard(mailbox: string, eventId: string): Promise<Notification[]> {
  const client = await server.as(mailbox);
  const { body } = await client.get<NotificationsResponse>('/api/notifications');
  return body.notifications.filter((one) => one.eventId === eventId);
}
const whats = async (mailbox: string, eventId: string) =>
  (await heard(mailbox, eventId)).map((one) => one.what);

async function hear(mailbox: string, hearing: object) {
  const client = await server.as(mailbox);
  expect((await client.patch('/api/preferences', { hearing })).status).toBe(200);
}

const letterCount = async (eventId: string, mailbox: string) =>
  (
    await server.sql('select 1 from mail where event_id = $1 and recipient_email like $2', [
      eventId,
      `${mailbox}@%`,
    ])
  ).length;

/** Writes the daily letters as if it were another time; those of that moment, by whose they are. */
async function lettersAt(now: number): Promise<{ to: string; text: string }[]> {
  await sendDailyLetters({ ...server.running.platform, clock: { now: () => now, fixed: true } });
  return server.sql<{ to: string; text: string }>(
    `select recipient_email as to, body_text as text from mail
     where event_id is null and subject like 'What is new%' and created_at = $1 order by 1`,
    [new Date(now)],
  );
}

describe('behind the bell', () => {
  it('is what concerns each: the invited hear of the meeting, its organizer of answers', async () => {
    const event = await meeting({ message: 'Bring the charts' });
    const [invited] = await heard('leila.haddad', event.id);
    expect(invited).toMatchObject({
      kind: 'invitations',
      what: 'invited',
      by: 'Ines Aldabe',
      title: event.title,
      start: event.start,
      words: 'Bring the charts',
      isRead: false,
    });
    const reader = await server.as('leila.haddad');
    const reply = { reply: 'tentative', note: 'If the ferry sails' };
    await reader.post(`/api/invitations/${event.id}/reply`, reply);
    expect(await heard('ines.aldabe', event.id)).toMatchObject([
      { kind: 'answers', by: 'Leila Haddad', reply: 'tentative', words: 'If the ferry sails' },
    ]);
    // Whoever did it hears nothing of it.
    expect(await whats('leila.haddad', event.id)).toEqual(['invited']);
    // Answered, the invitation is no news any more.
    expect((await heard('leila.haddad', event.id))[0]!.isRead).toBe(true);
    const ines = await server.as('ines.aldabe');
    const moved = await ines.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      times: bergenTimes('2027-09-01T14:00', '2027-09-01T15:00'),
    });
    expect(moved.status).toBe(200);
    expect(await whats('hal.teague', event.id)).toEqual(['moved', 'invited']);
    expect(await whats('ines.aldabe', event.id)).toEqual(['replied']);
  });

  it('tells nobody where nobody is told', async () => {
    const event = await meeting({ send: false });
    expect(await heard('hal.teague', event.id)).toEqual([]);
    const reader = await server.as('hal.teague');
    await reader.post(`/api/invitations/${event.id}/reply`, { reply: 'accepted', tell: false });
    expect(await heard('ines.aldabe', event.id)).toEqual([]);
    const ines = await server.as('ines.aldabe');
    const detail = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(detail.body.attendees.find((one) => one.personId === hal)!.reply).toBe('accepted');
  });

  it('is read once for all devices', async () => {
    const event = await meeting();
    const desk = await server.as('hal.teague');
    const before = await desk.get<NotificationsResponse>('/api/notifications');
    expect(before.body.unread).toBeGreaterThan(0);
    const upTo = before.body.notifications[0]!.id;
    const answer = await desk.post<NotificationsResponse>('/api/notifications/read', { upTo });
    expect(answer.body.unread).toBe(0);
    const phone = await Client.signIn(server.base, 'hal.teague');
    const there = await phone.get<NotificationsResponse>('/api/notifications');
    expect(there.body.unread).toBe(0);
    expect(there.body.notifications.find((one) => one.eventId === event.id)!.isRead).toBe(true);
    // Of somebody else nothing is read by it.
    expect((await heard('leila.haddad', event.id))[0]!.isRead).toBe(false);
    const later = await meeting();
    expect((await heard('hal.teague', later.id))[0]!.isRead).toBe(false);
  });

  it('is taken back with what it tells of, unless it was read', async () => {
    const event = await meeting();
    const ines = await server.as('ines.aldabe');
    const changed = await ines.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      title: 'Told wrongly',
    });
    expect(await whats('hal.teague', event.id)).toEqual(['changed', 'invited']);
    const reader = await server.as('leila.haddad');
    const [latest] = await heard('leila.haddad', event.id);
    await reader.post('/api/notifications/read', { upTo: latest!.id });
    await ines.post(`/api/events/${event.id}/undo`, { version: changed.body.version });
    expect(await whats('hal.teague', event.id)).toEqual(['invited']);
    expect(await whats('leila.haddad', event.id)).toEqual(['changed', 'changed', 'invited']);
  });

  it('says nothing of the end of what was never heard of', async () => {
    const event = await meeting();
    const ines = await server.as('ines.aldabe');
    const reader = await server.as('leila.haddad');
    const [latest] = await heard('leila.haddad', event.id);
    await reader.post('/api/notifications/read', { upTo: latest!.id });
    await ines.post(`/api/events/${event.id}/cancel`, { version: event.version });
    expect(await whats('hal.teague', event.id)).toEqual([]);
    expect(await whats('leila.haddad', event.id)).toEqual(['cancelled', 'invited']);
  });
});

describe('each kind', () => {
  it('comes in one letter a day, at seven on the clock of its reader, where that is asked', async () => {
    await hear('grace.paul', { invitations: 'daily', changes: 'daily' });
    await hear('wanjiru.keele', { invitations: 'daily' });
    const grace = await server.id('Grace Paul');
    const wanjiru = await server.id('Wanjiru Keele');
    const attendees = [
      { personId: grace, role: 'required' },
      { personId: wanjiru, role: 'required' },
    ];
    const [one, two] = [await meeting({ attendees }), await meeting({ attendees })];
    expect(await heard('grace.paul', one.id)).toEqual([]);
    expect(await letterCount(one.id, 'grace.paul')).toBe(0);
    // 08:12 UTC is 04:12 in Halifax, and 11:12 in Nairobi.
    const now = Date.parse(TEST_NOW);
    const early = await lettersAt(now);
    expect(early.map((mail) => mail.to)).toEqual(['wanjiru.keele@ternrock.example']);
    expect(early[0]!.text).toContain(one.title);
    expect(early[0]!.text).toContain('Ines Aldabe invites you');
    const later = await lettersAt(now + 3 * 3_600_000);
    expect(later.map((mail) => mail.to)).toEqual(['grace.paul@ternrock.example']);
    expect(later[0]!.text).toContain(two.title);
    // No more than one a day, and nothing twice.
    const three = await meeting({ attendees });
    expect(await lettersAt(now + 4 * 3_600_000)).toEqual([]);
    const next = await lettersAt(now + 27 * 3_600_000);
    expect(next.map((mail) => [mail.to, mail.text.includes(three.title)])).toEqual([
      ['grace.paul@ternrock.example', true],
      ['wanjiru.keele@ternrock.example', true],
    ]);
    expect(next.some((mail) => mail.text.includes(one.title))).toBe(false);
    await hear('grace.paul', { invitations: 'now', changes: 'now' });
  });

  it('is written once when two servers look at the same moment', async () => {
    await hear('hal.teague', { invitations: 'daily' });
    await meeting();
    const now = Date.parse(TEST_NOW) + 60 * 24 * 3_600_000;
    const platform = { ...server.running.platform, clock: { now: () => now, fixed: true } };
    await Promise.all([1, 2, 3].map(() => sendDailyLetters(platform)));
    const letters = (await lettersAt(now)).filter((mail) => mail.to.startsWith('hal.teague'));
    expect(letters).toHaveLength(1);
    await hear('hal.teague', { invitations: 'now' });
  });

  it('is not heard of at all, where that is asked', async () => {
    await hear('hal.teague', { changes: 'never' });
    const event = await meeting();
    const ines = await server.as('ines.aldabe');
    const letters = await letterCount(event.id, 'hal.teague');
    const changed = await ines.patch(`/api/events/${event.id}`, {
      version: event.version,
      title: 'Told quietly',
    });
    expect(changed.status).toBe(200);
    expect(await whats('hal.teague', event.id)).toEqual(['invited']);
    expect(await letterCount(event.id, 'hal.teague')).toBe(letters);
    // Her invitation has not left, and says it.
    expect(await letterCount(event.id, 'leila.haddad')).toBe(1);
    await hear('hal.teague', { changes: 'now' });
  });
});
