import { randomUUID } from 'node:crypto';
import nodemailer from 'nodemailer';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { noteLoad } from '../support/load.ts';
import { mailSink } from '../support/mailSink.ts';
import { freePort } from '../support/port.ts';
import { hasPostfix, Postfix } from '../support/postfix.ts';
import { startProcess } from '../support/process.ts';
import { eventually } from '../support/server.ts';

/*
 * Debian's mail server beside Marmot: letters each way, and one restart of each in the middle. The long form alone,
 * where the machine has it.
 */

const LETTERS = 500;
const isTried = process.env.MARMOT_LOAD === 'long' && hasPostfix();

describe.skipIf(!isTried)('letters through Postfix', () => {
  const postfix = new Postfix();
  let sink: Awaited<ReturnType<typeof mailSink>>;
  let marmot: Awaited<ReturnType<typeof startProcess>>;
  let pool: pg.Pool;
  beforeAll(async () => {
    sink = await mailSink();
    const lmtpPort = await freePort();
    await postfix.start(lmtpPort, Number(new URL(sink.url).port));
    marmot = await startProcess({
      MARMOT_SMTP_URL: `smtp://127.0.0.1:${postfix.port}`,
      MARMOT_LMTP_PORT: String(lmtpPort),
      MARMOT_ANSWER_DOMAIN: 'ternrock.example',
      MARMOT_HOLD_SECONDS: '0',
    });
    pool = new pg.Pool({ connectionString: marmot.database.url });
  });
  afterAll(async () => {
    await pool.end();
    await marmot.end();
    postfix.end();
    await sink.end();
  });
  const sql = async <Row extends pg.QueryResultRow>(text: string): Promise<Row[]> =>
    (await pool.query<Row>(text)).rows;
  const restartMarmot = async () => {
    await marmot.server.end('SIGTERM');
    await marmot.server.start();
  };

  it('out: each arrives once', async () => {
    const began = Date.now();
    await pool.query(
      `with posted as (
         insert into mail (sender_name, sender_email, recipient_name, recipient_email, subject,
                           body_text, body_html, created_at)
         select 'Ines Aldabe', 'ines.aldabe@ternrock.example', 'Guest ' || k,
                'guest' || k || '@elsewhere.example', 'Letter ' || k, 'Come.', '<p>Come.</p>', now()
         from generate_series(1, ${LETTERS}) k
         returning id
       )
       insert into job (kind, key, due_at) select 'letter', id::text, now() from posted`,
    );
    const mine = () => sink.taken.filter((one) => one.to.startsWith('guest'));
    await eventually(async () => mine().length >= LETTERS / 5, 60);
    postfix.restart();
    await eventually(async () => mine().length >= (LETTERS * 3) / 5, 60);
    await restartMarmot();
    await eventually(async () => mine().length >= LETTERS && postfix.queued() === 0, 120);
    expect(mine()).toHaveLength(LETTERS);
    expect(new Set(mine().map((one) => one.messageId)).size).toBe(LETTERS);
    expect(new Set(mine().map((one) => one.to)).size).toBe(LETTERS);
    noteLoad(`${LETTERS} letters out through Postfix`, `${Date.now() - began} ms, all once`);
  }, 300_000);

  it('in: each invitation stands in a calendar once', async () => {
    const began = Date.now();
    const transport = nodemailer.createTransport({
      host: '127.0.0.1',
      port: postfix.port,
      ignoreTLS: true,
      pool: true,
      maxConnections: 5,
    });
    const send = (k: number) =>
      transport.sendMail({
        from: 'sunniva@fjordworks.example',
        to: 'leila.haddad@ternrock.example',
        subject: `Invitation ${k}`,
        messageId: `<${randomUUID()}@fjordworks.example>`,
        icalEvent: {
          method: 'REQUEST',
          content: [
            'BEGIN:VCALENDAR',
            'VERSION:2.0',
            'PRODID:-//Elsewhere//EN',
            'METHOD:REQUEST',
            'BEGIN:VEVENT',
            `UID:through-postfix-${k}@fjordworks.example`,
            'DTSTAMP:20261124T080000Z',
            'ORGANIZER:mailto:sunniva@fjordworks.example',
            'ATTENDEE:mailto:leila.haddad@ternrock.example',
            `DTSTART:20270${1 + (k % 9)}02T080000Z`,
            `DTEND:20270${1 + (k % 9)}02T090000Z`,
            `SUMMARY:Invitation ${k}`,
            'END:VEVENT',
            'END:VCALENDAR',
            '',
          ].join('\r\n'),
        },
      });
    const handOver = async () => {
      for (let from = 0; from < LETTERS; from += 20)
        await Promise.all(
          Array.from({ length: 20 }, async (_, k) => {
            // A mail server that restarts is asked again, as mail programs do.
            for (let tries = 0; ; tries++)
              try {
                await send(from + k);
                return;
              } catch (error) {
                if (tries > 20) throw error;
                await new Promise((resolve) => setTimeout(resolve, 500));
              }
          }),
        );
    };
    const count = async () => {
      const [row] = await sql<{ mails: number; events: number }>(
        `select (select count(*)::int from incoming_mail where sender = 'sunniva@fjordworks.example') as mails,
                (select count(*)::int from event where uid like 'through-postfix-%') as events`,
      );
      return row!;
    };
    const handing = handOver();
    await eventually(async () => (await count()).mails >= LETTERS / 5, 120);
    postfix.restart();
    await eventually(async () => (await count()).mails >= (LETTERS * 2) / 5, 120);
    await restartMarmot();
    await handing;
    await eventually(async () => (await count()).events >= LETTERS && postfix.queued() === 0, 180);
    transport.close();
    const states = await sql<{ state: string; count: number }>(
      `select state, count(*)::int from incoming_mail where sender = 'sunniva@fjordworks.example'
       group by state`,
    );
    const { events } = await count();
    expect(events).toBe(LETTERS);
    expect(states.map((one) => one.state)).toEqual(['counted']);
    const [told] = await sql<{ told: number }>(
      `select count(*)::int as told from notification join event on event.id = event_id
       where uid like 'through-postfix-%'`,
    );
    expect(told!.told).toBe(LETTERS);
    noteLoad(`${LETTERS} letters in through Postfix`, `${Date.now() - began} ms, all once`);
  }, 600_000);
});
