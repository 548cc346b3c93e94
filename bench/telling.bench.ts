/**
 * How fast people are told: 500 invitations through a real mail server, 10,000 reminders of one minute,
 * an answer on its organizer's screen while 500 streams are open. Each by a server process of its own,
 * beside the bare means in the same run.
 */
import { request } from 'node:http';
import nodemailer from 'nodemailer';
import pg from 'pg';
import { pino } from 'pino';
import { loadDemonstration } from '../demo/data/index.ts';
import { partnerCalendars } from '../demo/stand-ins/partnerCalendars/calendars.ts';
import type { EventDetail } from '../src/contract/eventDetail.ts';
import { readConfig } from '../src/server/config.ts';
import { migrate } from '../src/server/db/migrate.ts';
import { webCalendars } from '../src/server/published/index.ts';
import { remind } from '../src/server/reminders/index.ts';
import { createPlatform } from '../src/server/server.ts';
import { Client } from '../tests/support/client.ts';
import { TEST_NOW } from '../tests/support/cluster.ts';
import { mailSink } from '../tests/support/mailSink.ts';
import { ServerProcess } from '../tests/support/process.ts';
import { meetingRequest } from '../tests/support/requests.ts';
import { report } from './measure.ts';

const LETTERS = 500;
const AT_ONCE = 5;
const REMINDERS = 10_000;
const STREAMS = 500;
const ANSWERS = 30;
const DATABASE = 'marmot_telling';

const adminUrl = process.env.MARMOT_DATABASE_URL!.replace(/\/[^/]+$/, '/postgres');
const url = adminUrl.replace(/\/postgres$/, `/${DATABASE}`);
const admin = new pg.Client({ connectionString: adminUrl });
await admin.connect();
await admin.query(`drop database if exists ${DATABASE} with (force)`);
await admin.query(`create database ${DATABASE}`);
await migrate(url);
const config = readConfig({ MARMOT_DATABASE_URL: url, MARMOT_NOW: TEST_NOW });
const platform = createPlatform(
  config,
  pino({ level: 'error' }),
  partnerCalendars(config.clock, webCalendars),
);
await loadDemonstration(platform);
const sql = new pg.Client({ connectionString: url });
await sql.connect();
const sink = await mailSink();
const server = new ServerProcess(url, { MARMOT_SMTP_URL: sink.url, MARMOT_HOLD_SECONDS: '0' });
await server.start();

const until = async (holds: () => boolean | Promise<boolean>) => {
  while (!(await holds())) await new Promise((resolve) => setTimeout(resolve, 20));
};

await letters();
await answers();
await server.end('SIGTERM');
await reminders();
await sql.end();
await sink.end();
await platform.pool.end();
await admin.query(`drop database ${DATABASE} with (force)`);
await admin.end();

async function letters() {
  // What the demonstration sent is none of it.
  await until(
    async () => (await sql.query('select 1 from mail where sent_at is null')).rowCount === 0,
  );
  const emails = Array.from({ length: LETTERS }, (_, k) => `guest${k}@fleet.example`);
  const ines = await Client.signIn(server.base, 'ines.aldabe');
  sink.taken.length = 0;
  const began = performance.now();
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Whole fleet',
      attendees: emails.map((email) => ({ email, name: '', role: 'required' as const })),
    }),
  );
  await until(() => sink.taken.length >= LETTERS);
  const took = performance.now() - began;
  const { rows } = await sql.query<{ text: string; html: string; calendar: string }>(
    'select body_text as text, body_html as html, calendar from mail where event_id = $1 limit 1',
    [made.body.id],
  );
  const { text, html, calendar } = rows[0]!;
  sink.taken.length = 0;
  const left = [...emails];
  const bare = performance.now();
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      for (let to = left.pop(); to; to = left.pop()) {
        const transport = nodemailer.createTransport({ url: sink.url });
        await transport.sendMail({
          from: 'ines.aldabe@ternrock.example',
          to,
          subject: 'Whole fleet',
          text,
          html,
          icalEvent: { method: 'REQUEST', content: calendar },
        });
        transport.close();
      }
    }),
  );
  const baseline = performance.now() - bare;
  report(
    `${LETTERS} invitations sent and taken by a mail server (30 s allowed)`,
    took,
    baseline,
    `nodemailer alone, ${AT_ONCE} at once`,
  );
}

/** Opens a stream of one's own. @returns what tells of the next notice, and how to end it */
function listen({ cookie }: Client, path = '/api/live') {
  let heard: () => void = () => undefined;
  return new Promise<{ next: () => Promise<void>; end: () => void }>((resolve, reject) => {
    const asked = request(`${server.base}${path}`, { headers: { Cookie: cookie }, agent: false });
    asked.on('error', () => undefined);
    asked.on('response', (answer) => {
      if (answer.statusCode !== 200) reject(new Error(`the stream answered ${answer.statusCode}`));
      answer.on('error', () => undefined);
      answer.on('data', (part: Buffer) => {
        const text = part.toString();
        if (text.includes('event: ready'))
          resolve({
            next: () => new Promise<void>((done) => (heard = done)),
            end: () => asked.destroy(),
          });
        if (text.includes('event: changed')) heard();
      });
    });
    asked.end();
  });
}

/** The median time from the sending of an answer until its organizer's stream tells of it. */
async function answerTimes(organizer: Client, guest: Client, id: string): Promise<number> {
  const stream = await listen(organizer);
  const times: number[] = [];
  for (let k = 0; k < ANSWERS; k++) {
    const told = stream.next();
    const began = performance.now();
    void guest.post(`/api/invitations/${id}/reply`, { reply: k % 2 ? 'accepted' : 'declined' });
    await told;
    times.push(performance.now() - began);
    // The rest of what the answer changed is told of, too.
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  stream.end();
  times.sort((a, b) => a - b);
  process.stderr.write(`  the slowest of ${ANSWERS}: ${Math.round(times.at(-1)!)} ms\n`);
  return times[Math.floor(times.length / 2)]!;
}

async function answers() {
  const ines = await Client.signIn(server.base, 'ines.aldabe');
  const hal = await Client.signIn(server.base, 'hal.teague');
  const { rows } = await sql.query<{ id: number }>(
    `select id from subject where name = 'Hal Teague'`,
  );
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({ title: 'Answered', attendees: [{ personId: rows[0]!.id, role: 'required' }] }),
  );
  const alone = await answerTimes(ines, hal, made.body.id);
  // One person has at most sixty streams on a server.
  const { rows: people } = await sql.query<{ mailbox: string }>(
    `select split_part(email, '@', 1) as mailbox from person
     where password_hash is not null and email not similar to '(ines.aldabe|hal.teague)@%'
     order by subject_id limit 20`,
  );
  const others: Client[] = [];
  for (const { mailbox } of people) others.push(await Client.signIn(server.base, mailbox));
  const open: (() => void)[] = [];
  for (let k = 0; k < STREAMS; k += 50)
    open.push(
      ...(
        await Promise.all(Array.from({ length: 50 }, (_, n) => listen(others[n % others.length]!)))
      ).map((one) => one.end),
    );
  const among = await answerTimes(ines, hal, made.body.id);
  for (const end of open) end();
  report(
    `an answer told to its organizer, ${STREAMS} streams open (1 s allowed)`,
    among,
    alone,
    'no other stream open',
  );
}

async function reminders() {
  // People enough that so many have a reminder of the same minute, half of them by mail.
  await sql.query(
    `with made as (
       insert into subject (kind, name)
       select 'person', 'Reminded ' || k from generate_series(1, $1) k returning id
     ), people as (
       insert into person (subject_id, email, zone, organization_id)
       select made.id, 'reminded' || made.id || '@fleet.example', 'Europe/Oslo', organization.id
       from made, (select id from organization limit 1) organization returning subject_id
     )
     insert into preference (person_id, default_reminders)
     select subject_id, case when subject_id % 2 = 0 then '[{"minutes": 10, "means": "mail"}]'::jsonb
                             else '[{"minutes": 10, "means": "popup"}]'::jsonb end
     from people`,
    [REMINDERS],
  );
  const { rows } = await sql.query<{ id: string; start: Date }>(
    `select event.id, occurrence.starts_at as start from event join occurrence on event_id = event.id
     where event.title = 'Answered'`,
  );
  const { id, start } = rows[0]!;
  await sql.query(
    `insert into attendee (event_id, person_id, role, reply, invited_at)
     select $1, subject_id, 'required', 'accepted', now() from person where email like 'reminded%'`,
    [id],
  );
  await sql.query('analyze');
  const due = start.getTime() - 10 * 60_000;
  await sql.query(`update setting set value = to_jsonb($1::float8) where key = 'reminded-until'`, [
    due - 1_000,
  ]);
  const began = performance.now();
  const found = await remind({ ...platform, clock: { now: () => due, fixed: true } });
  const took = performance.now() - began;
  if (found < REMINDERS) throw new Error(`only ${found} reminders were found`);
  const bare = performance.now();
  const { rows: people } = await sql.query<{ person: number; occurrence: number }>(
    'select person_id as person, occurrence_id as occurrence from reminder_notice order by id limit 1000',
  );
  for (const one of people)
    await sql.query(
      `insert into reminder_notice (person_id, occurrence_id, starts_at, minutes_before, means, due_at)
       values ($1, $2, now(), 1, 'popup', now())`,
      [one.person, one.occurrence],
    );
  const baseline = (performance.now() - bare) * (found / people.length);
  report(
    `${found} reminders of one minute, half of them letters (20 s allowed)`,
    took,
    baseline,
    'a statement for each, as for 1,000 of them',
  );
}
