import net from 'node:net';
import nodemailer from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import PostalMime from 'postal-mime';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { AsideList } from '../../contract/incoming.ts';
import type { MailroomList } from '../../contract/mailroom.ts';
import { composeReply } from '../../core/icalendar/reply.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { eventually, useServer } from '../../../tests/support/server.ts';
import { startListener, type MailListener } from './index.ts';

/* Answers of ordinary mail programs, handed over by a mail server. */

const server = useServer();
const GUEST = 'ola@drones.example';
const HOUR = 3_600_000;
let listener: MailListener;
beforeAll(async () => {
  listener = await startListener(server.running.platform, 0);
});
afterAll(() => listener.end());

/** Ines asks Leila and somebody outside; what each of their letters says of where answers go. */
async function asked(title: string, more = {}) {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title,
      times: bergenTimes('2027-09-07T10:00', '2027-09-07T11:00'),
      attendees: [
        { personId: await server.id('Leila Haddad'), role: 'required' },
        { email: GUEST, role: 'required' },
      ],
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  const letterTo = (to: string) =>
    eventually(async () => {
      const list = await ines.get<MailroomList>(
        `/api/mailroom?recipient=${to}&q=${encodeURIComponent(title)}`,
      );
      const [entry] = list.body.entries;
      if (!entry) return;
      const source = await ines.get<string>(`/api/mailroom/${entry.id}/source`);
      const mail = await PostalMime.parse(source.body);
      const part = mail.attachments.find((one) => one.mimeType === 'text/calendar')!;
      const calendar =
        typeof part.content === 'string' ? part.content : new TextDecoder().decode(part.content);
      return { to: mail.replyTo![0]!.address!, calendar };
    });
  return { event: made.body, letterTo };
}

interface Sent {
  from?: string;
  to: string;
  text?: string;
  calendar?: string;
  headers?: Record<string, string>;
  raw?: Buffer;
}

let number = 0;
/** Hands a mail over as a mail server does. */
async function handOver({ from = GUEST, to, text = '', calendar, headers = {}, raw }: Sent) {
  const transport = nodemailer.createTransport({
    host: '127.0.0.1',
    port: listener.port,
    lmtp: true,
    ignoreTLS: true,
  });
  const source =
    raw ??
    (await new MailComposer({
      from,
      to,
      subject: 'Re: it',
      text,
      headers,
      messageId: `<${++number}@drones.example>`,
      ...(calendar && {
        icalEvent: { method: /METHOD:(\w+)/.exec(calendar)![1]!, content: calendar },
      }),
    })
      .compile()
      .build());
  const info = await transport.sendMail({ envelope: { from, to: [to] }, raw: source });
  const [refused] = (info as { rejectedErrors?: Error[] }).rejectedErrors ?? [];
  if (refused) throw refused;
  return source;
}

const answerTo = (calendar: string, more: Partial<Parameters<typeof composeReply>[1]> = {}) =>
  composeReply(calendar, {
    email: GUEST,
    reply: 'accepted',
    comment: '',
    stamp: Date.UTC(2026, 10, 24, 8, 12),
    ...more,
  });

const guestOf = async (id: string) => {
  const ines = await server.as('ines.aldabe');
  const detail = await ines.get<EventDetail>(`/api/events/${id}`);
  return detail.body.attendees.find((one) => one.email === GUEST)!;
};
const asideOf = async (id: string) =>
  (await (await server.as('ines.aldabe')).get<AsideList>(`/api/replies/${id}/aside`)).body.mails;

describe('mail that comes back', () => {
  it('is counted as an answer, and one that comes twice once', async () => {
    const { event, letterTo } = await asked('Reef survey');
    const { to, calendar } = await letterTo(GUEST);
    expect(to).toMatch(/^answers\+[0-9a-z]+-[0-9a-f]{32}@marmot\.example$/);
    const source = await handOver({
      to,
      calendar: answerTo(calendar, { comment: 'With pleasure' }),
    });
    expect(await guestOf(event.id)).toMatchObject({ reply: 'accepted', note: 'With pleasure' });
    await handOver({ to, raw: source });
    const rows = await server.sql('select state from incoming_mail where event_id = $1', [
      event.id,
    ]);
    expect(rows).toEqual([{ state: 'counted' }]);
  });

  it('asks for another time as a COUNTER, says who answered and who is sent instead', async () => {
    const { event, letterTo } = await asked('Reef survey two');
    const { to, calendar } = await letterTo(GUEST);
    const instead = { start: event.start + HOUR, end: event.end + HOUR };
    const counter = answerTo(calendar, { instead, reply: 'tentative', comment: 'Later?' });
    expect(counter).toContain('METHOD:COUNTER');
    await handOver({ to, calendar: counter });
    expect((await guestOf(event.id)).proposals).toMatchObject([{ ...instead, note: 'Later?' }]);
    const delegated = answerTo(calendar, { reply: 'declined' }).replace(
      /ATTENDEE;PARTSTAT=DECLINED:/,
      'ATTENDEE;PARTSTAT=DELEGATED;DELEGATED-TO="mailto:kim@drones.example";\r\n SENT-BY="mailto:desk@drones.example":',
    );
    await handOver({ to, calendar: delegated });
    expect(await guestOf(event.id)).toMatchObject({
      reply: 'declined',
      note: 'Sends kim@drones.example instead. (answered by desk@drones.example)',
    });
  });

  it('asks for the invitation once more, and gets it, but not for ever', async () => {
    const { event, letterTo } = await asked('Reef survey eight');
    const { to, calendar } = await letterTo(GUEST);
    const refresh = answerTo(calendar).replace('METHOD:REPLY', 'METHOD:REFRESH');
    await handOver({ to, calendar: refresh });
    const letters = async () =>
      (
        await server.sql<{ body: string }>(
          `select body_text as body from mail where event_id = $1 and recipient_email = $2
             and occasion = 'resent'`,
          [event.id, GUEST],
        )
      ).map((one) => one.body);
    expect(await letters()).toHaveLength(1);
    expect((await letters())[0]).toContain('once more');
    const ines = await server.as('ines.aldabe');
    const resend = () => ines.post(`/api/events/${event.id}/resend`, { attendees: 'all' });
    for (let k = 0; k < 9; k++) expect((await resend()).status).toBe(200);
    expect((await resend()).status).toBe(429);
    await handOver({ to, calendar: refresh });
    expect(await letters()).toHaveLength(10);
    expect((await asideOf(event.id))[0]!.reason).toContain('at most 10 times');
  });

  it('that is doubtful is put aside with the reason, and counted by hand', async () => {
    const { event, letterTo } = await asked('Reef survey three');
    const [leila, guest] = [await letterTo('leila.haddad@ternrock.example'), await letterTo(GUEST)];
    // Somebody answers for another on their own letter.
    await handOver({ to: leila.to, calendar: answerTo(guest.calendar) });
    expect((await guestOf(event.id)).reply).toBe('needs-action');
    await handOver({ to: guest.to, text: 'I will come, I think.\n> You are asked' });
    // The clock stands still, so either may come first.
    const mails = await asideOf(event.id);
    const words = mails.find((one) => !one.canCount);
    const forged = mails.find((one) => one.canCount);
    expect(words).toMatchObject({ canCount: false, words: 'I will come, I think.' });
    expect(forged).toMatchObject({ canCount: true, sender: GUEST });
    expect(forged!.reason).toContain(`It answers for ${GUEST}`);
    const others = await server.as('leila.haddad');
    expect((await others.post(`/api/incoming/${forged!.id}/count`, {})).status).toBe(404);
    const ines = await server.as('ines.aldabe');
    const counted = await ines.post<AsideList>(`/api/incoming/${forged!.id}/count`, {});
    expect(counted.body.mails.map((one) => one.id)).toEqual([words!.id]);
    expect((await guestOf(event.id)).reply).toBe('accepted');
    await ines.post(`/api/incoming/${words!.id}/leave`, {});
    expect(await asideOf(event.id)).toEqual([]);
  });

  it('tells of automatic answers and of letters that did not arrive', async () => {
    const { event, letterTo } = await asked('Reef survey four');
    const { to, calendar } = await letterTo(GUEST);
    await handOver({ to, text: 'I am at sea.', headers: { 'Auto-Submitted': 'auto-replied' } });
    expect((await guestOf(event.id)).reply).toBe('needs-action');
    expect(await asideOf(event.id)).toEqual([]);
    // A program that answers with a calendar part says so too, and is counted.
    const generated = { 'Auto-Submitted': 'auto-generated' };
    await handOver({ to, calendar: answerTo(calendar), headers: generated });
    expect((await guestOf(event.id)).reply).toBe('accepted');
    const report = [
      'From: MAILER-DAEMON@drones.example',
      `To: ${to}`,
      'Subject: Undelivered',
      `Message-ID: <${++number}@drones.example>`,
      'MIME-Version: 1.0',
      'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
      '',
      '--b',
      'Content-Type: text/plain',
      '',
      'It did not go.',
      '--b',
      'Content-Type: message/delivery-status',
      '',
      'Final-Recipient: rfc822; ola@drones.example',
      'Diagnostic-Code: smtp; 550 no such mailbox here',
      '--b--',
      '',
    ].join('\r\n');
    await handOver({ to, raw: Buffer.from(report) });
    expect((await guestOf(event.id)).undelivered).toBe('550 no such mailbox here');
    const states = await server.sql<{ state: string; reason: string }>(
      'select state, reason from incoming_mail where event_id = $1 order by state',
      [event.id],
    );
    expect(states).toEqual([
      { state: 'automatic', reason: 'I am at sea.' },
      { state: 'bounced', reason: '550 no such mailbox here' },
      { state: 'counted', reason: '' },
    ]);
  });

  it('is refused at an address that is no letter’s, or too large, and the next is taken', async () => {
    const { event, letterTo } = await asked('Reef survey five');
    const { to, calendar } = await letterTo(GUEST);
    const other = to.replace(/-[0-9a-f]/, (text) => (text === '-0' ? '-1' : '-0'));
    await expect(handOver({ to: other, text: 'x' })).rejects.toThrow(/550/);
    await expect(handOver({ to, raw: Buffer.alloc(3 * 1024 * 1024, 'a b c\r\n') })).rejects.toThrow(
      /552/,
    );
    // Parts within parts, and nonsense, end in a word and not in a fall.
    const nested = Array.from(
      { length: 60 },
      (_, k) => `Content-Type: multipart/mixed; boundary=b${k}\r\n\r\n--b${k}\r\n`,
    );
    await handOver({ to, raw: Buffer.from(nested.join('')) }).catch(() => undefined);
    await handOver({ to, raw: Buffer.from('\u0000\u0001 no mail') }).catch(() => undefined);
    await handOver({ to, calendar: answerTo(calendar) });
    expect((await guestOf(event.id)).reply).toBe('accepted');
  });

  it('does not wait for a neighbour who is silent', async () => {
    const { event, letterTo } = await asked('Reef survey six');
    const { to, calendar } = await letterTo(GUEST);
    const silent = net.connect(listener.port, '127.0.0.1');
    await new Promise((resolve) => silent.once('data', resolve));
    await handOver({ to, calendar: answerTo(calendar) });
    expect((await guestOf(event.id)).reply).toBe('accepted');
    silent.destroy();
  });
});

describe('a file that is dropped on the Mailroom', () => {
  it('goes the same road: a calendar file is put aside, what is nothing is said to be', async () => {
    const { event, letterTo } = await asked('Reef survey seven');
    const { calendar } = await letterTo(GUEST);
    const ines = await server.as('ines.aldabe');
    const drop = (body: Buffer) =>
      ines.request<{ state: string; reason: string }>(
        'POST',
        '/api/mailroom/drop',
        body.toString('utf8'),
        { 'Content-Type': 'application/octet-stream' },
      );
    const dropped = await drop(Buffer.from(answerTo(calendar)));
    expect(dropped.body).toMatchObject({ state: 'aside' });
    const [mail] = await asideOf(event.id);
    await ines.post(`/api/incoming/${mail!.id}/count`, {});
    expect((await guestOf(event.id)).reply).toBe('accepted');
    expect((await drop(Buffer.from('nonsense'))).status).toBeLessThan(500);
  });
});

describe('an address that changed since', () => {
  const renamed = async (name: string, email: string) => {
    const admin = await server.as('aksel.nordvik');
    const id = await server.id(name);
    const [row] = await server.sql<{ version: number; email: string }>(
      'select version, email from person where subject_id = $1',
      [id],
    );
    const changed = await admin.patch('/api/administration/people', {
      people: [{ id, version: row!.version }],
      change: { email },
    });
    expect(changed.status).toBe(200);
    return row!.email;
  };

  it('of whoever asks leaves answers where they were asked to go', async () => {
    const { event, letterTo } = await asked('Answered to a former address');
    const { to, calendar } = await letterTo(GUEST);
    const former = await renamed('Ines Aldabe', 'ines.nowadays@ternrock.example');
    expect(calendar).toContain(former);
    await handOver({ to, calendar: answerTo(calendar) });
    await eventually(async () => (await guestOf(event.id)).reply === 'accepted' || undefined);
    await renamed('Ines Aldabe', former);
  });

  it('of whoever is asked leaves their answer by the letter that they have', async () => {
    const { event, letterTo } = await asked('Answered from a former address');
    const { to, calendar } = await letterTo('leila.haddad@ternrock.example');
    const former = await renamed('Leila Haddad', 'leila.nowadays@ternrock.example');
    await handOver({
      from: former,
      to,
      calendar: answerTo(calendar, { email: former, reply: 'tentative' }),
    });
    await eventually(async () => {
      const ines = await server.as('ines.aldabe');
      const { body } = await ines.get<EventDetail>(`/api/events/${event.id}`);
      return (
        body.attendees.find(({ name }) => name === 'Leila Haddad')?.reply === 'tentative' ||
        undefined
      );
    });
    await renamed('Leila Haddad', former);
  });
});
