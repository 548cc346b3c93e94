import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import { afterEach, describe, expect, it } from 'vitest';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import type { RepliesList } from '../../src/contract/invitations.ts';
import {
  LETTER_PAUSES_MINUTES,
  MailRefused,
  smtpTransport,
  type Envelope,
} from '../../src/server/mail/index.ts';
import { meetingRequest } from '../support/requests.ts';
import { eventually, useServer } from '../support/server.ts';
import { mailSink } from '../support/mailSink.ts';
import { fakeSmtp } from '../support/smtp.ts';

/** What the mail server of these tests does with a message; set by each test. */
let deliver: (envelope: Envelope, signal: AbortSignal) => Promise<void> = () => Promise.resolve();
const tried: string[] = [];
const server = useServer({
  transport: () => ({
    deliver(envelope, signal) {
      tried.push(envelope.to);
      return deliver(envelope, signal);
    },
  }),
});
afterEach(() => {
  deliver = () => Promise.resolve();
  tried.length = 0;
});

async function invite(title: string, emails: string[]) {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title,
      attendees: emails.map((email) => ({ email, name: '', role: 'required' as const })),
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

const jobsOf = (title: string) =>
  server.sql<{ tries: number; waits: boolean; failure: string }>(
    `select job.tries, job.due_at > now() as waits, job.failure
     from job join mail on mail.id::text = job.key
     where job.kind = 'letter' and mail.subject like '%' || $1 || '%'`,
    [title],
  );

const hurry = () => server.sql(`update job set due_at = now() where kind = 'letter'`);

describe('a mail server that is slow', () => {
  it('slows nothing else, however many letters hang', async () => {
    const hanging: (() => void)[] = [];
    deliver = (_, signal) =>
      new Promise((resolve) => {
        hanging.push(resolve);
        signal.addEventListener('abort', () => resolve());
      });
    // More than the pool has connections: were one held by each, nothing would be answered any more.
    const emails = Array.from({ length: 40 }, (_, k) => `guest${k}@slow.example`);
    await invite('Slow', emails);
    await eventually(async () => hanging.length >= 5);
    const ines = await server.as('ines.aldabe');
    const answers = await Promise.all(Array.from({ length: 40 }, () => ines.get('/api/places')));
    expect(answers.every((answer) => answer.status === 200)).toBe(true);
    expect(hanging).toHaveLength(5);
    deliver = () => Promise.resolve();
    for (const release of hanging) release();
    await eventually(async () => (await jobsOf('Slow')).length === 0);
    const sent = await server.sql(
      `select 1 from mail where subject like '%Slow%' and sent_at is not null`,
    );
    expect(sent).toHaveLength(40);
  });
});

describe('a letter that is not delivered', () => {
  it('is tried again for more than two days, ever more slowly', async () => {
    const hours = LETTER_PAUSES_MINUTES.reduce((sum, minutes) => sum + minutes, 0) / 60;
    expect(hours).toBeGreaterThanOrEqual(48);
    expect([...LETTER_PAUSES_MINUTES].sort((a, b) => a - b)).toEqual(LETTER_PAUSES_MINUTES);

    deliver = () => Promise.reject(new Error('421 try again later'));
    await invite('Patience', ['late@busy.example']);
    const [job] = await eventually(async () => {
      const jobs = await jobsOf('Patience');
      return jobs[0]?.tries === 1 && jobs;
    });
    expect(job).toMatchObject({ waits: true, failure: '421 try again later' });
    deliver = () => Promise.resolve();
    await hurry();
    await eventually(async () => (await jobsOf('Patience')).length === 0);
    expect(tried).toEqual(['late@busy.example', 'late@busy.example']);
  });

  it('because it was refused for good is not tried again, and the organizer is told whom', async () => {
    deliver = ({ to }) =>
      to === 'gone@nowhere.example'
        ? Promise.reject(new MailRefused('550 No such user here'))
        : Promise.resolve();
    const event = await invite('Refused', ['gone@nowhere.example', 'there@somewhere.example']);
    const [told] = await eventually(async () => {
      const rows = await server.sql<{ recipient_email: string; body_text: string }>(
        `select recipient_email, body_text from mail where subject like 'Not delivered to%Refused%'`,
      );
      return rows.length > 0 && rows;
    });
    expect(told!.recipient_email).toBe('ines.aldabe@ternrock.example');
    expect(told!.body_text).toContain('gone@nowhere.example');
    expect(told!.body_text).toContain('550 No such user here');
    // Its job ends with the try, a moment after the mail is marked.
    await eventually(async () => (await jobsOf('Invitation: Refused')).length === 0);
    expect(tried.filter((to) => to === 'gone@nowhere.example')).toHaveLength(1);
    // It is seen where the answers are looked for, too.
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(body.attendees.map((one) => [one.email, one.undelivered])).toEqual([
      ['ines.aldabe@ternrock.example', null],
      ['gone@nowhere.example', '550 No such user here'],
      ['there@somewhere.example', null],
    ]);
    const replies = await ines.get<RepliesList>(`/api/replies?event=${event.id}`);
    const mine = replies.body.meetings[0]!;
    expect(mine.replies.map((one) => one.undelivered)).toEqual(['550 No such user here', null]);
  });

  it('after the last try is given up, and the organizer is told', async () => {
    deliver = ({ to }) =>
      to.endsWith('@dead.example') ? Promise.reject(new Error('no answer')) : Promise.resolve();
    await invite('Given up', ['x@dead.example']);
    await eventually(async () => (await jobsOf('Given up'))[0]?.tries === 1);
    await server.sql(`update job set tries = $1 where kind = 'letter'`, [
      LETTER_PAUSES_MINUTES.length,
    ]);
    await hurry();
    await eventually(
      async () =>
        (await server.sql(`select 1 from mail where subject like 'Not delivered to%Given up%'`))
          .length === 1,
    );
    await eventually(async () => (await jobsOf('Invitation: Given up')).length === 0);
  });

  it('that a server was sending when it died is sent by another, without a restart', async () => {
    let dies = true;
    deliver = () => (dies ? Promise.reject(new Error('held')) : Promise.resolve());
    await invite('Orphan', ['y@harbour.example']);
    await eventually(async () => (await jobsOf('Orphan'))[0]?.tries === 1);
    dies = false;
    // As a server leaves it that was killed at this moment, with its lease about to run out.
    await server.sql(
      `update job set due_at = now(), leased_until = now() + interval '1 second'
       where kind = 'letter'`,
    );
    await eventually(async () => (await jobsOf('Orphan')).length === 0, 20);
    expect(tried.filter((to) => to === 'y@harbour.example')).toHaveLength(2);
  });
});

describe('the way to a real mail server', () => {
  const envelope: Envelope = {
    mailId: '1',
    from: 'a@x.example',
    to: 'b@y.example',
    subject: 'x',
    source: Buffer.from('Subject: x\r\n\r\ny\r\n'),
  };
  const send = async (replies: Record<string, string | null>) => {
    const smtp = await fakeSmtp(replies);
    // Only what says nothing is waited for until the limit; what answers may take its time.
    const most = Object.values(replies).includes(null) ? 300 : 20_000;
    const limits = { greetingTimeout: most, socketTimeout: most, connectionTimeout: most };
    try {
      return await smtpTransport(smtp.url, limits)
        .deliver(envelope, new AbortController().signal)
        .then(
          () => 'taken',
          (error: Error) => (error instanceof MailRefused ? 'refused' : 'later'),
        );
    } finally {
      smtp.end();
    }
  };

  it.each([
    ['takes it', {}, 'taken'],
    ['refuses the receiver for good', { RCPT: '550 no such user' }, 'refused'],
    ['refuses the message for good', { end: '554 no spam' }, 'refused'],
    ['is busy', { RCPT: '450 mailbox busy' }, 'later'],
    ['closes for maintenance', { MAIL: '421 closing' }, 'later'],
    ['never greets', { greeting: null }, 'later'],
    ['falls silent in the middle', { DATA: null }, 'later'],
  ])('that %s', async (_, replies: Record<string, string | null>, outcome) => {
    expect(await send(replies)).toBe(outcome);
  });

  it('that reads other scripts takes a letter to an address in one, and one that does not is named to the sender', async () => {
    const to = 'blåskjell@fjord.example';
    const source = await new MailComposer({
      from: 'a@x.example',
      to: { name: 'Blå Skjell', address: to },
      subject: 'Skjell',
      text: 'y',
    })
      .compile()
      .build();
    const reading = await mailSink();
    const { signal } = new AbortController();
    await smtpTransport(reading.url).deliver({ ...envelope, to, source }, signal);
    expect(reading.taken.map((one) => one.to)).toEqual([to]);
    await reading.end();
    // A server that does not read it (RFC 6531 section 3.5) refuses it for good.
    const plain = await fakeSmtp({ RCPT: '553 5.6.7 such an address is not read here' });
    await expect(
      smtpTransport(plain.url).deliver({ ...envelope, to, source }, signal),
    ).rejects.toThrow(MailRefused);
    plain.end();
  });
});
