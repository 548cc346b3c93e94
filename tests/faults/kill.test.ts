import { spawn, type ChildProcess } from 'node:child_process';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { Client } from '../support/client.ts';
import { TEST_NOW } from '../support/cluster.ts';
import { createTestDatabase, type TestDatabase } from '../support/database.ts';
import { freePort } from '../support/port.ts';
import { meetingRequest } from '../support/requests.ts';
import { brokenRules } from '../support/rules.ts';
import { eventually } from '../support/server.ts';

const CLIENTS = 16;

let database: TestDatabase;
let child: ChildProcess;
let sql: pg.Client;
let base: string;

const START_SECONDS = 60;

async function start() {
  const port = await freePort();
  base = `http://127.0.0.1:${port}`;
  child = spawn(process.execPath, ['--import', 'tsx', 'src/server/main.ts'], {
    env: {
      ...process.env,
      MARMOT_DATABASE_URL: database.url,
      MARMOT_NOW: TEST_NOW,
      PORT: String(port),
    },
    stdio: 'ignore',
  });
  // All of the server is read and made sense of first, beside whatever else the machine does.
  await eventually(
    () =>
      fetch(`${base}/api/health`).then(
        (answer) => answer.ok,
        () => false,
      ),
    START_SECONDS,
  );
}

const kill = () =>
  new Promise<void>((resolve) => {
    child.once('exit', () => resolve());
    child.kill('SIGKILL');
  });

beforeAll(async () => {
  database = await createTestDatabase();
  sql = new pg.Client({ connectionString: database.url });
  await sql.connect();
  await start();
});
afterAll(async () => {
  await sql.end();
  await kill();
  await database.drop();
});

it('a killed server leaves whole meetings and nothing else, and mails that were promised still go out', async () => {
  const ines = await Client.signIn(base, 'ines.aldabe');
  const guest = (
    await sql.query<{ id: number }>(`select id from subject where name = 'Tomas Okafor'`)
  ).rows[0]!.id;
  const made: string[] = [];
  let killed = false;
  const client = async (k: number) => {
    for (let n = 0; !killed; n++) {
      const answer = await ines
        .post<EventDetail>(
          '/api/events',
          meetingRequest({
            title: `Killed ${k}/${n}`,
            attendees: [{ personId: guest, role: 'required' }],
          }),
        )
        .catch(() => null);
      if (answer?.status === 201) made.push(answer.body.id);
      else if (answer) throw new Error(`answered ${answer.status}`);
    }
  };
  const working = Promise.all(Array.from({ length: CLIENTS }, (_, k) => client(k)));
  await eventually(async () => made.length >= 60);
  await kill();
  killed = true;
  await working;
  await start();

  const { rows } = await sql.query<{ id: string; whole: boolean }>(
    `select event.id,
            (select count(*) from occurrence where event_id = event.id) = 1
            and (select count(*) from attendee where event_id = event.id) = 2
            and (select count(*) from claim join occurrence on occurrence.id = claim.occurrence_id
                 where event_id = event.id) = 2
            and (select count(*) from mail where event_id = event.id) = 1
            and (select count(*) from fact where event_id = event.id) = 1 as whole
     from event where title like 'Killed %'`,
  );
  expect(rows.filter((row) => !row.whole)).toEqual([]);
  const kept = new Set(rows.map((row) => row.id));
  expect(made.filter((id) => !kept.has(id))).toEqual([]);
  expect(
    await brokenRules(async (text) => (await sql.query<{ rule: string; what: string }>(text)).rows),
  ).toEqual([]);

  await eventually(async () => {
    const waiting = await sql.query(
      `select 1 from mail join event on event.id = mail.event_id
       where event.title like 'Killed %' and sent_at is null limit 1`,
    );
    return waiting.rowCount === 0;
    // What the killed server was sending is free again when its leases run out.
  }, 40);
  const twice = await sql.query(
    'select mail_id from mailroom_message group by mail_id having count(*) > 1',
  );
  expect(twice.rowCount).toBe(0);
}, 120_000);
