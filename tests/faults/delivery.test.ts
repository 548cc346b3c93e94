import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { isLong, often } from '../support/effort.ts';
import { Client } from '../support/client.ts';
import { createTestDatabase, type TestDatabase } from '../support/database.ts';
import { mailSink } from '../support/mailSink.ts';
import { ServerProcess } from '../support/process.ts';
import { meetingRequest } from '../support/requests.ts';
import { eventually } from '../support/server.ts';

/* Letters and reminders through servers that are killed in the middle of them. */

const INVITED = often(500);
/** Letters that one server has under way at once. */
const AT_ONCE = 5;

let database: TestDatabase;
let sql: pg.Client;
let sink: Awaited<ReturnType<typeof mailSink>>;
let server: ServerProcess;
beforeAll(async () => {
  database = await createTestDatabase();
  sql = new pg.Client({ connectionString: database.url });
  await sql.connect();
  sink = await mailSink();
  server = new ServerProcess(database.url, {
    MARMOT_SMTP_URL: sink.url,
    MARMOT_ANSWER_DOMAIN: 'answers.example',
  });
  await server.start();
});
afterAll(async () => {
  await server.end();
  await sql.end();
  await sink.end();
  await database.drop();
});

it(`${INVITED} invitations all leave, whoever is killed on the way; what was handed over just then is known by its number`, async () => {
  const ines = await Client.signIn(server.base, 'ines.aldabe');
  // Letters of the demonstration that went before are none of these.
  const isGuest = (to: string) => to.endsWith('@fleet.example');
  const emails = Array.from({ length: INVITED }, (_, k) => `guest${k}@fleet.example`);
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Whole fleet',
      attendees: emails.map((email) => ({ email, name: '', role: 'required' as const })),
    }),
  );
  expect(made.status).toBe(201);
  const guests = () => sink.taken.filter(({ to }) => isGuest(to));
  const kills = [0.12, 0.36, 0.64].map((part) => Math.round(INVITED * part));
  for (const count of kills) {
    await eventually(async () => guests().length >= count, 60);
    await server.end('SIGKILL');
    await server.start();
  }
  await eventually(async () => {
    const { rowCount } = await sql.query(
      'select 1 from mail where event_id = $1 and sent_at is null limit 1',
      [made.body.id],
    );
    return rowCount === 0;
  }, 90);
  const byReceiver = new Map<string, Set<string>>();
  for (const { to, messageId } of guests())
    byReceiver.set(to, (byReceiver.get(to) ?? new Set()).add(messageId));
  expect([...byReceiver.keys()].sort()).toEqual([...emails].sort());
  // One that a mail server had taken when its sender died comes again under the same Message-ID, by
  // which it is known; no more than were under way, and never as a second letter.
  expect([...byReceiver.values()].filter((ids) => ids.size > 1)).toEqual([]);
  expect(guests().length - INVITED).toBeLessThanOrEqual(AT_ONCE * kills.length);
}, 240_000);

it('reminders that are due are kept once each, whoever is killed while looking for them', async () => {
  await server.end('SIGKILL');
  // Everybody has a reminder in the same minute, which was looked for last an hour ago.
  const { rows: due } = await sql.query<{ count: number }>(
    `with chosen as (
       select occurrence.id, occurrence.event_id, occurrence.starts_at
       from occurrence join event on event.id = occurrence.event_id
       where event.title = 'Whole fleet' limit 1
     ), asked as (
       insert into attendee (event_id, person_id, name, email, role, reply, invited_at)
       select event_id, person.subject_id, null, null, 'required', 'accepted', now()
       from chosen, person
       where not exists (select 1 from attendee
                         where attendee.event_id = chosen.event_id and person_id = person.subject_id)
       returning 1
     )
     select count(*)::int as count from asked`,
  );
  const { rows: occurrences } = await sql.query<{ starts_at: Date }>(
    `select occurrence.starts_at from occurrence join event on event.id = event_id
     where event.title = 'Whole fleet'`,
  );
  const start = occurrences[0]!.starts_at.getTime();
  await sql.query(`update setting set value = to_jsonb($1::float8) where key = 'reminded-until'`, [
    start - 3_600_000,
  ]);
  const reminding = new ServerProcess(database.url, {
    MARMOT_SMTP_URL: sink.url,
    MARMOT_NOW: new Date(start - 5 * 60_000).toISOString(),
  });
  for (const patience of isLong ? [0, 150, 300, 600] : [0, 300]) {
    await reminding.start();
    await new Promise((resolve) => setTimeout(resolve, patience));
    await reminding.end('SIGKILL');
  }
  await reminding.start();
  const notices = async () =>
    (
      await sql.query<{ person_id: number; times: number }>(
        `select person_id, count(*)::int as times
         from reminder_notice join occurrence on occurrence.id = occurrence_id
         join event on event.id = occurrence.event_id
         where event.title = 'Whole fleet' group by person_id`,
      )
    ).rows;
  const found = await eventually(async () => {
    const rows = await notices();
    return rows.length >= due[0]!.count && rows;
  }, 60);
  await reminding.end('SIGKILL');
  expect(due[0]!.count).toBeGreaterThan(50);
  expect(found.every((one) => one.times === 1)).toBe(true);
}, 240_000);
