import { beforeAll, describe, expect, it } from 'vitest';
import type { CalendarResponse } from '../../contract/calendar.ts';
import type { AsideList } from '../../contract/incoming.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { News } from '../../contract/invitations.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { readMail, receiveMail } from './receive.ts';

/* Meetings that somebody elsewhere organizes: they come as REQUEST, and are answered by REPLY. */

const server = useServer();
const HOST = 'sunniva@fjordworks.example';
const LEILA = 'leila.haddad@ternrock.example';
const HAL = 'hal.teague@ternrock.example';
let leila: number;
beforeAll(async () => {
  leila = await server.id('Leila Haddad');
});

let number = 0;
interface Message {
  uid?: string;
  method?: string;
  sequence?: number;
  minute?: number;
  organizer?: string;
  attendees?: string[];
  lines?: string[];
  start?: string;
  end?: string;
}
const ZONE = [
  'BEGIN:VTIMEZONE',
  'TZID:Europe/Oslo',
  'BEGIN:STANDARD',
  'DTSTART:19701025T030000',
  'TZOFFSETFROM:+0200',
  'TZOFFSETTO:+0100',
  'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
  'END:STANDARD',
  'BEGIN:DAYLIGHT',
  'DTSTART:19700329T020000',
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0200',
  'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
  'END:DAYLIGHT',
  'END:VTIMEZONE',
];
const vevent = (message: Message): string[] => [
  'BEGIN:VEVENT',
  `UID:${message.uid}`,
  `SEQUENCE:${message.sequence ?? 0}`,
  `DTSTAMP:20261124T08${String(message.minute ?? 0).padStart(2, '0')}00Z`,
  `ORGANIZER;CN=Sunniva Fjord:mailto:${message.organizer ?? HOST}`,
  ...(message.attendees ?? [LEILA, HAL]).map(
    (one) => `ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:${one}`,
  ),
  `DTSTART;TZID=Europe/Oslo:${message.start ?? '20270602T100000'}`,
  `DTEND;TZID=Europe/Oslo:${message.end ?? '20270602T110000'}`,
  'SUMMARY:Quay inspection',
  'LOCATION:The long quay',
  'DESCRIPTION:Bring boots\\n\\n<script>alert(1)</script>',
  ...(message.lines ?? []),
  'END:VEVENT',
];
const calendarOf = (method: string, ...events: string[][]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Elsewhere//EN',
    `METHOD:${method}`,
    ...ZONE,
    ...events.flat(),
    'END:VCALENDAR',
  ].join('\r\n');
const mail = (calendar: string, from = HOST, to = LEILA) =>
  Buffer.from(
    [
      `From: Sunniva Fjord <${from}>`,
      `To: ${to}`,
      'Subject: Quay inspection',
      `Message-ID: <m${number++}@fjordworks.example>`,
      'MIME-Version: 1.0',
      `Content-Type: text/calendar; charset=utf-8; method=${/METHOD:(\w+)/.exec(calendar)![1]}`,
      '',
      calendar,
    ].join('\r\n'),
  );
const hand = (calendar: string, { from = HOST, to = LEILA } = {}) =>
  readMail(mail(calendar, from, to)).then((letter) =>
    receiveMail(server.running.platform, letter, to),
  );
const fresh = () => `quay-${number++}@fjordworks.example`;

async function eventOf(uid: string): Promise<string | undefined> {
  const [row] = await server.sql<{ id: string }>('select id from event where uid = $1', [uid]);
  return row?.id;
}
const detail = async (mailbox: string, uid: string) =>
  (await (await server.as(mailbox)).get<EventDetail>(`/api/events/${await eventOf(uid)}`)).body;
const answersFor = (id: string) =>
  server.sql<{ sender: string; recipient: string; calendar: string; method: string }>(
    `select sender_email as sender, recipient_email as recipient, calendar, method
     from mail where event_id = $1 order by created_at, id`,
    [id],
  );

describe('a meeting that is organized elsewhere', () => {
  it('stands in the calendars of those it invites, waits for their answer, and is told of', async () => {
    const uid = fresh();
    expect(await hand(calendarOf('REQUEST', vevent({ uid })))).toEqual({
      state: 'counted',
      reason: '',
    });
    const reader = await server.as('leila.haddad');
    const { body: news } = await reader.get<News>('/api/invitations');
    const id = await eventOf(uid);
    expect(news.waiting.find((one) => one.eventId === id)).toMatchObject({
      title: 'Quay inspection',
      organizer: 'Sunniva Fjord',
    });
    const event = await detail('leila.haddad', uid);
    expect(event).toMatchObject({
      place: 'The long quay',
      startsAt: '2027-06-02T10:00',
      zone: 'Europe/Oslo',
      organizer: { id: null, name: 'Sunniva Fjord' },
      canChange: false,
      canCancel: false,
      canInvite: false,
    });
    expect(event.description).not.toContain('<script');
    const { body: calendar } = await reader.get<CalendarResponse>(
      `/api/calendar?from=${event.start}&to=${event.end}`,
    );
    expect(calendar.items.find((one) => one.eventId === id)).toMatchObject({
      occupancy: 'tentative',
      standing: 'needs-action',
      organizer: 'Sunniva Fjord',
    });
    const { body: bell } = await reader.get<NotificationsResponse>('/api/notifications');
    expect(bell.notifications.find((one) => one.eventId === id)).toMatchObject({
      what: 'invited',
      by: 'Sunniva Fjord',
    });
    // Nobody is written to about it from here; a colleague who takes no part does not see it.
    expect(await answersFor(id!)).toEqual([]);
    const stranger = await server.as('clara.weiss');
    expect((await stranger.get(`/api/events/${id}`)).status).toBe(404);
    const change = await reader.patch(`/api/events/${id}`, { version: 1, title: 'Mine' });
    expect(change.status).toBe(403);
  });

  it('is answered by a REPLY to its organizer, and asked for another time by a COUNTER', async () => {
    const uid = fresh();
    await hand(calendarOf('REQUEST', vevent({ uid, sequence: 3 })));
    const id = (await eventOf(uid))!;
    const reader = await server.as('leila.haddad');
    await reader.post(`/api/invitations/${id}/reply`, { reply: 'accepted', note: 'With boots' });
    const [reply] = await answersFor(id);
    expect(reply).toMatchObject({ sender: LEILA, recipient: HOST, method: 'REPLY' });
    const folded = reply!.calendar.replaceAll('\r\n ', '');
    expect(folded).toContain(`UID:${uid}`);
    expect(folded).toContain('SEQUENCE:3');
    expect(folded).toMatch(/ATTENDEE;.*PARTSTAT=ACCEPTED.*:mailto:leila\.haddad@/);
    expect(folded).toContain('COMMENT:With boots');
    expect(folded.match(/ATTENDEE/g)).toHaveLength(1);
    await reader.request('PUT', `/api/invitations/${id}/proposals`, {
      times: [{ start: Date.UTC(2027, 5, 3, 8), end: Date.UTC(2027, 5, 3, 9) }],
      note: 'a day later',
    });
    const counter = (await answersFor(id)).find((one) => one.method === 'COUNTER');
    expect(counter).toMatchObject({ recipient: HOST });
    expect(counter!.calendar).toContain('DTSTART:20270603T080000Z');
    // Quietly is quietly.
    await reader.post(`/api/invitations/${id}/reply`, { reply: 'declined', tell: false });
    expect(await answersFor(id)).toHaveLength(2);
    expect((await detail('leila.haddad', uid)).myReply).toBe('declined');
  });

  it('follows its organizer: new times ask anew, words do not, what is older is put aside', async () => {
    const uid = fresh();
    await hand(calendarOf('REQUEST', vevent({ uid })));
    const id = (await eventOf(uid))!;
    const reader = await server.as('leila.haddad');
    await reader.post(`/api/invitations/${id}/reply`, { reply: 'accepted' });
    await hand(calendarOf('REQUEST', vevent({ uid, minute: 5, lines: ['COMMENT:New boots'] })));
    expect((await detail('leila.haddad', uid)).myReply).toBe('accepted');
    const moved = { uid, sequence: 1, minute: 6, start: '20270602T140000', end: '20270602T150000' };
    await hand(calendarOf('REQUEST', vevent(moved)));
    expect(await detail('leila.haddad', uid)).toMatchObject({
      myReply: 'needs-action',
      startsAt: '2027-06-02T14:00',
      sequence: 1,
    });
    const late = await hand(calendarOf('REQUEST', vevent({ uid, minute: 7 })));
    expect(late).toMatchObject({
      state: 'aside',
      reason: expect.stringContaining('older') as string,
    });
    expect((await detail('leila.haddad', uid)).startsAt).toBe('2027-06-02T14:00');
    // Whoever is left out has it no more.
    await hand(calendarOf('REQUEST', vevent({ ...moved, minute: 8, attendees: [HAL] })), {
      to: HAL,
    });
    expect((await reader.get(`/api/events/${id}`)).status).toBe(404);
    const gone = await hand(
      calendarOf('CANCEL', vevent({ ...moved, sequence: 2, minute: 9, attendees: [HAL] })),
      { to: HAL },
    );
    expect(gone.state).toBe('counted');
    const [claims] = await server.sql<{ count: number }>(
      `select count(*) as count from claim join occurrence on occurrence.id = occurrence_id
       where event_id = $1`,
      [id],
    );
    expect(claims!.count).toBe(0);
  });

  it('may be a series with dates of their own, each answered by itself', async () => {
    const uid = fresh();
    const weekly = ['RRULE:FREQ=WEEKLY;COUNT=4', 'EXDATE;TZID=Europe/Oslo:20270609T100000'];
    await hand(
      calendarOf(
        'REQUEST',
        vevent({ uid, lines: weekly }),
        vevent({
          uid,
          start: '20270616T130000',
          end: '20270616T140000',
          lines: ['RECURRENCE-ID;TZID=Europe/Oslo:20270616T100000'],
        }),
      ),
    );
    const id = (await eventOf(uid))!;
    const dates = async () =>
      (
        await server.sql<{ at: string; start: string }>(
          `select to_char(recurrence_at, 'MM-DD HH24') as at,
                  to_char(starts_at at time zone 'Europe/Oslo', 'MM-DD HH24') as start
           from occurrence where event_id = $1 order by recurrence_at`,
          [id],
        )
      ).map((one) => `${one.at} ${one.start}`);
    expect(await dates()).toEqual(['06-02 10 06-02 10', '06-16 10 06-16 13', '06-23 10 06-23 10']);
    const reader = await server.as('leila.haddad');
    await reader.post(`/api/invitations/${id}/reply`, {
      reply: 'declined',
      occurrence: '2027-06-23T10:00',
    });
    const [reply] = await answersFor(id);
    expect(reply!.calendar).toMatch(/RECURRENCE-ID;TZID=Europe\/Oslo:20270623T100000/);
    const off = vevent({
      uid,
      sequence: 1,
      minute: 4,
      lines: ['RECURRENCE-ID;TZID=Europe/Oslo:20270602T100000'],
    });
    expect((await hand(calendarOf('CANCEL', off))).state).toBe('counted');
    expect(await dates()).toEqual(['06-16 10 06-16 13', '06-23 10 06-23 10']);
  });

  it('is one, however many of here are invited at the same moment', async () => {
    const uid = fresh();
    const calendar = calendarOf('REQUEST', vevent({ uid }));
    const states = await Promise.all([hand(calendar), hand(calendar, { to: HAL }), hand(calendar)]);
    expect(states.map((one) => one.state)).toEqual(['counted', 'counted', 'counted']);
    const rows = await server.sql('select 1 from event where uid = $1', [uid]);
    expect(rows).toHaveLength(1);
    expect((await detail('hal.teague', uid)).attendees).toHaveLength(3);
  });
});

describe('what cannot be kept as it comes', () => {
  it('is asked for as a whole, once, where dates are added to a series (REFRESH)', async () => {
    const uid = fresh();
    await hand(calendarOf('REQUEST', vevent({ uid, lines: ['RRULE:FREQ=WEEKLY;COUNT=3'] })));
    const id = (await eventOf(uid))!;
    const add = (minute: number, start = '20270701T100000') =>
      calendarOf('ADD', vevent({ uid, sequence: 1, minute, start, end: '20270701T110000' }));
    expect(await hand(add(3))).toEqual({
      state: 'counted',
      reason: 'Its organizer is asked for the whole invitation once more.',
    });
    expect((await hand(add(4))).state).toBe('counted');
    const asked = await answersFor(id);
    expect(asked).toMatchObject([{ sender: LEILA, recipient: HOST, method: 'REFRESH' }]);
    const lines = asked[0]!.calendar.replaceAll('\r\n ', '');
    expect(lines).toContain(`UID:${uid}`);
    expect(lines).toContain(`mailto:${LEILA}`);
    expect(lines).not.toContain('DTSTART');
    // Nobody is written to for what is not theirs.
    expect(
      (await hand(add(5).replaceAll(HOST, 'thief@else.example'), { from: 'thief@else.example' }))
        .state,
    ).toBe('aside');
    expect(await answersFor(id)).toHaveLength(1);
  });

  it('is a series in the zone whose clock agrees, where its zone has a name of its own', async () => {
    const uid = fresh();
    const named = (name: string, calendar: string) =>
      calendar
        .replaceAll('TZID:Europe/Oslo', `TZID:${name}`)
        .replaceAll('TZID=Europe/Oslo', `TZID="${name}"`);
    const weekly = vevent({ uid, lines: ['RRULE:FREQ=WEEKLY;COUNT=3'] });
    expect((await hand(named('Harbour Time', calendarOf('REQUEST', weekly)))).state).toBe(
      'counted',
    );
    const event = await detail('leila.haddad', uid);
    expect(event.startsAt).toBe('2027-06-02T10:00');
    // 10:00 by the summer clock of the middle of Europe.
    expect(event.start).toBe(Date.UTC(2027, 5, 2, 8));
    const odd = calendarOf('REQUEST', vevent({ uid: fresh(), lines: ['RRULE:FREQ=WEEKLY'] }));
    expect(
      await hand(named('Nowhere', odd.replace('TZOFFSETTO:+0200', 'TZOFFSETTO:+0217'))),
    ).toMatchObject({ state: 'aside', reason: expect.stringContaining('Nowhere') as string });
  });

  it('lies with whoever it came to, who takes it by hand or leaves it out', async () => {
    const uid = fresh();
    const forwarded = { from: 'secretary@fjordworks.example' };
    expect((await hand(calendarOf('REQUEST', vevent({ uid })), forwarded)).state).toBe('aside');
    const reader = await server.as('leila.haddad');
    const mine = async () => (await reader.get<AsideList>('/api/incoming')).body.mails;
    const mail = (await mine()).find((one) => one.sender === forwarded.from)!;
    expect(mail).toMatchObject({ canCount: true, subject: 'Quay inspection' });
    const other = await server.as('hal.teague');
    expect((await other.post(`/api/incoming/${mail.id}/count`, {})).status).toBe(404);
    expect((await other.get<AsideList>('/api/incoming')).body.mails).toEqual([]);
    expect((await reader.post(`/api/incoming/${mail.id}/count`, {})).status).toBe(200);
    expect((await detail('leila.haddad', uid)).title).toBe('Quay inspection');
    expect((await mine()).map((one) => one.id)).not.toContain(mail.id);
    expect((await reader.post(`/api/incoming/${mail.id}/leave`, {})).status).toBe(404);
  });
});

describe('a partner', () => {
  it('invites people of here from their own calendar, which no colleague does', async () => {
    const [partner] = await server.sql<{ email: string }>(
      `select email from person join organization on organization.id = organization_id
       where not is_home order by subject_id limit 1`,
    );
    const uid = fresh();
    const { email } = partner!;
    const invitation = calendarOf('REQUEST', vevent({ uid, organizer: email }));
    expect(await hand(invitation, { from: email })).toEqual({ state: 'counted', reason: '' });
    expect((await detail('leila.haddad', uid)).organizer).toMatchObject({ id: null });
    const forged = calendarOf('REQUEST', vevent({ uid: fresh(), organizer: HAL }));
    expect(await hand(forged, { from: HAL })).toMatchObject({
      state: 'aside',
      reason: expect.stringContaining('somebody of here organizes it') as string,
    });
  });
});

describe('whoever writes for an organizer (SENT-BY)', () => {
  const HELPER = 'office@fjordworks.example';
  const sentBy = (text: string, who: string) =>
    text.replaceAll('ORGANIZER;CN=Sunniva Fjord', `ORGANIZER;SENT-BY="mailto:${who}"`);
  const request = (uid: string, who: string, more: Message = {}) =>
    sentBy(calendarOf('REQUEST', vevent({ uid, ...more })), who);

  it('is not believed for saying so: nobody moves or cancels a meeting of others', async () => {
    const uid = fresh();
    await hand(calendarOf('REQUEST', vevent({ uid })));
    const before = await detail('leila.haddad', uid);
    const thief = 'thief@elsewhere.example';
    for (const forged of [
      request(uid, thief, {
        sequence: 1,
        minute: 5,
        start: '20270602T230000',
        end: '20270602T233000',
      }),
      sentBy(calendarOf('CANCEL', vevent({ uid, sequence: 2, minute: 6 })), thief),
    ])
      expect(await hand(forged, { from: thief })).toMatchObject({
        state: 'aside',
        reason: expect.stringContaining(
          'no letter of sunniva@fjordworks.example named them before',
        ),
      });
    expect(await detail('leila.haddad', uid)).toEqual(before);
  });

  it('is believed once the organizer’s own letter named them, by whoever got that letter', async () => {
    const first = fresh();
    expect((await hand(request(first, HELPER))).state).toBe('counted');
    const moved = { sequence: 1, minute: 5, start: '20270603T100000', end: '20270603T110000' };
    expect((await hand(request(first, HELPER, moved), { from: HELPER })).state).toBe('counted');
    expect((await hand(request(fresh(), HELPER), { from: HELPER })).state).toBe('counted');
    // To somebody who never heard of them they are a stranger.
    expect((await hand(request(fresh(), HELPER), { from: HELPER, to: HAL })).state).toBe('aside');
  });

  it('is believed once the receiver counted a letter of theirs by hand', async () => {
    const other = 'desk@fjordworks.example';
    const uid = fresh();
    expect((await hand(request(uid, other), { from: other })).state).toBe('aside');
    const leilas = await server.as('leila.haddad');
    const { mails } = (await leilas.get<AsideList>('/api/incoming')).body;
    const mine = mails.find((one) => one.sender === other)!;
    expect((await leilas.post(`/api/incoming/${mine.id}/count`, {})).status).toBe(200);
    const next = request(uid, other, { sequence: 1, minute: 9 });
    expect((await hand(next, { from: other })).state).toBe('counted');
  });
});

describe('where the receiving server’s word on senders is needed', () => {
  const letterOf = (uid: string, results: string) =>
    readMail(
      Buffer.concat([
        Buffer.from(results && `Authentication-Results: ${results}\r\n`),
        mail(calendarOf('REQUEST', vevent({ uid }))),
      ]),
    );

  it('a letter without it, or of a sender it did not find true, is put aside', async () => {
    const platform = { ...server.running.platform, mailServer: 'mx.ternrock.example' };
    const take = async (uid: string, results: string) =>
      receiveMail(platform, await letterOf(uid, results), LEILA);
    const doubtful = {
      state: 'aside',
      reason: expect.stringContaining('did not find it to be from'),
    };
    expect(await take(fresh(), '')).toMatchObject(doubtful);
    expect(
      await take(fresh(), 'mx.evil.example; dmarc=pass header.from=fjordworks.example'),
    ).toMatchObject(doubtful);
    const uid = fresh();
    expect(
      await take(uid, 'mx.ternrock.example; dmarc=pass header.from=fjordworks.example'),
    ).toMatchObject({ state: 'counted' });
    expect((await detail('leila.haddad', uid)).title).toBe('Quay inspection');
  });
});

describe('what is forged, strange or too much', () => {
  const aside = async (calendar: string, reason: RegExp, more = {}) => {
    const answer = await hand(calendar, more);
    expect(answer.state).toBe('aside');
    expect(answer.reason).toMatch(reason);
  };

  it('is put aside with the reason, and changes nothing', async () => {
    const uid = fresh();
    await aside(calendarOf('REQUEST', vevent({ uid })), /came from thief@/, {
      from: 'thief@else.example',
    });
    await aside(calendarOf('REQUEST', vevent({ uid, attendees: [HAL] })), /not among those/);
    await aside(
      calendarOf('REQUEST', vevent({ uid, organizer: 'ines.aldabe@ternrock.example' })),
      /somebody of here organizes it/,
      { from: 'ines.aldabe@ternrock.example' },
    );
    expect(await eventOf(uid)).toBeUndefined();
    const ines = await server.as('ines.aldabe');
    const own = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Ours',
        times: bergenTimes('2027-06-10T10:00', '2027-06-10T11:00'),
        attendees: [{ personId: leila, role: 'required' }],
      }),
    );
    await aside(
      calendarOf('CANCEL', vevent({ uid: own.body.uid, sequence: 99 })),
      /organized here/,
    );
    await hand(calendarOf('REQUEST', vevent({ uid })));
    await aside(
      calendarOf('REQUEST', vevent({ uid, sequence: 5, organizer: 'thief@else.example' })),
      /organized by sunniva@/,
      { from: 'thief@else.example' },
    );
    expect((await detail('leila.haddad', uid)).sequence).toBe(0);
  });

  it('is refused with what is too much of it, in bounded time', async () => {
    const uid = fresh();
    const crowd = [LEILA, ...Array.from({ length: 10_000 }, (_, k) => `g${k}@crowd.example`)];
    await aside(calendarOf('REQUEST', vevent({ uid, attendees: crowd })), /at most 5000 people/);
    for (const rule of [
      'FREQ=SECONDLY',
      'FREQ=DAILY;COUNT=99999999',
      'FREQ=MINUTELY;BYSECOND=1,2,3',
    ])
      await aside(calendarOf('REQUEST', vevent({ uid, lines: [`RRULE:${rule}`] })), /\w/);
    await aside(
      calendarOf('REQUEST', vevent({ uid, start: '20270602T100000', end: '20290602T100000' })),
      /at most 62 days/,
    );
    await aside(calendarOf('ADD', vevent({ uid })), /nobody here was invited to/);
    expect(await eventOf(uid)).toBeUndefined();
    // A rule without an end is laid out as far as any other.
    await hand(calendarOf('REQUEST', vevent({ uid, lines: ['RRULE:FREQ=DAILY'] })));
    const [laid] = await server.sql<{ count: number }>(
      'select count(*) as count from occurrence where event_id = $1',
      [await eventOf(uid)],
    );
    expect(laid!.count).toBeLessThan(1_000);
  });
});
