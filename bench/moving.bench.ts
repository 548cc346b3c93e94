/**
 * Moving in and out: 2,000 people, 60 teams and 12 sites from a file while others go on working, and somebody who
 * leaves with 200 meetings. By a server process of its own, beside the same things done one by one in the same run.
 */
import pg from 'pg';
import { pino } from 'pino';
import { loadDemonstration } from '../demo/data/index.ts';
import { partnerCalendars } from '../demo/stand-ins/partnerCalendars/calendars.ts';
import type { EventDetail } from '../src/contract/eventDetail.ts';
import type { Holdings, Left } from '../src/contract/leaving.ts';
import { readConfig } from '../src/server/config.ts';
import { migrate } from '../src/server/db/migrate.ts';
import { webCalendars } from '../src/server/published/index.ts';
import { createPlatform } from '../src/server/server.ts';
import { Client } from '../tests/support/client.ts';
import { TEST_NOW } from '../tests/support/cluster.ts';
import { ServerProcess } from '../tests/support/process.ts';
import { meetingRequest } from '../tests/support/requests.ts';
import { report } from './measure.ts';

const PEOPLE = 2_000;
const MEETINGS = 200;
const DATABASE = 'marmot_moving';

const adminUrl = process.env.MARMOT_DATABASE_URL!.replace(/\/[^/]+$/, '/postgres');
const url = adminUrl.replace(/\/postgres$/, `/${DATABASE}`);
const admin = new pg.Client({ connectionString: adminUrl });
await admin.connect();
await admin.query(`drop database if exists ${DATABASE} with (force)`);
await admin.query(`create database ${DATABASE}`);
await migrate(url);
const platform = createPlatform(
  readConfig({ MARMOT_DATABASE_URL: url, MARMOT_NOW: TEST_NOW }),
  pino({ level: 'error' }),
  partnerCalendars(
    readConfig({ MARMOT_DATABASE_URL: url, MARMOT_NOW: TEST_NOW }).clock,
    webCalendars,
  ),
);
await loadDemonstration(platform);
const sql = new pg.Client({ connectionString: url });
await sql.connect();
const server = new ServerProcess(url);
await server.start();
const administrator = await Client.signIn(server.base, 'aksel.nordvik');
const other = await Client.signIn(server.base, 'tomas.okafor');

await leaving();
await importing();
await server.end('SIGTERM');
await sql.end();
await platform.pool.end();
await admin.query(`drop database ${DATABASE} with (force)`);
await admin.end();

async function leaving() {
  const host = await Client.signIn(server.base, 'robine.thys');
  const idOf = async (name: string) =>
    (await sql.query<{ id: number }>('select id from subject where name = $1', [name])).rows[0]!.id;
  const [id, heir, guest] = [
    await idOf('Robine Thys'),
    await idOf('Tomas Okafor'),
    await idOf('Mei Tanaka'),
  ];
  const made: string[] = [];
  const alone = performance.now();
  for (let k = 0; k < MEETINGS; k++) {
    const day = String(1 + (k % 28)).padStart(2, '0');
    const answer = await host.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: `Handed over ${k}`,
        times: {
          startsAt: `2027-0${1 + (Math.floor(k / 28) % 8)}-${day}T09:00`,
          endsAt: `2027-0${1 + (Math.floor(k / 28) % 8)}-${day}T10:00`,
          zone: 'Europe/Oslo',
        },
        attendees: [{ personId: guest, role: 'required' }],
      }),
    );
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    made.push(answer.body.id);
  }
  const baseline = performance.now() - alone;
  const held = (await administrator.get<Holdings>(`/api/administration/people/${id}/holdings`))
    .body;
  const began = performance.now();
  const left = await administrator.post<Left>(`/api/administration/people/${id}/leave`, {
    version: held.person.version,
    seen: { meetings: held.meetings.length, bookings: held.bookings.length },
    meetings: { to: { personId: heir } },
    bookings: { end: true },
  });
  const took = performance.now() - began;
  if (left.status !== 200 || left.body.handedOver < MEETINGS)
    throw new Error(JSON.stringify(left.body));
  report(
    `leaving with ${held.meetings.length} meetings handed over (3 s allowed)`,
    took,
    baseline,
    'making them one by one',
  );
  const back = performance.now();
  await administrator.post('/api/changes/undo', { changes: [left.body.change] });
  report('leaving taken back', performance.now() - back, baseline, 'making them one by one');
}

async function importing() {
  const rows = Array.from({ length: PEOPLE }, (_, k) => ({
    name: `Somebody ${k}`,
    address: `somebody${k}@moving.example`,
    zone: 'Europe/Oslo',
    teams: `Crew ${k % 60}`,
    site: `Harbour ${k % 12}`,
  }));
  const ok = <Answer extends { status: number; body: unknown }>(answer: Answer): Answer => {
    if (answer.status >= 300) throw new Error(JSON.stringify(answer.body).slice(0, 500));
    return answer;
  };
  for (let k = 0; k < 60; k++)
    ok(await administrator.post('/api/administration/teams', { name: `Crew ${k}` }));
  const hours = Array.from({ length: 7 }, () => [{ start: 540, end: 1020 }]);
  for (let k = 0; k < 12; k++)
    ok(
      await administrator.post('/api/administration/sites', {
        ...{ name: `Harbour ${k}`, city: 'Bergen', zone: 'Europe/Oslo', hours },
      }),
    );
  const single = performance.now();
  for (const row of rows.slice(0, 50))
    ok(
      await administrator.post('/api/administration/people', {
        people: [{ name: row.name, email: `one-${row.address}`, zone: row.zone }],
      }),
    );
  const baseline = ((performance.now() - single) * PEOPLE) / 50;
  const looked = performance.now();
  ok(await administrator.post('/api/administration/import', { rows, check: true }));
  report(
    `${PEOPLE} people looked at (2 s allowed)`,
    performance.now() - looked,
    baseline,
    'adding them one by one',
  );
  const waits: number[] = [];
  let isDone = false;
  const working = (async () => {
    while (!isDone) {
      const asked = performance.now();
      await other.get('/api/calendar?from=1795392000000&to=1795996800000');
      waits.push(performance.now() - asked);
    }
  })();
  const began = performance.now();
  const done = ok(
    await administrator.post<{ changes: number[] }>('/api/administration/import', {
      rows,
      check: false,
    }),
  );
  const took = performance.now() - began;
  isDone = true;
  await working;
  waits.sort((a, b) => a - b);
  report(`${PEOPLE} people taken in (10 s allowed)`, took, baseline, 'adding them one by one');
  const back = performance.now();
  ok(await administrator.post('/api/changes/undo', { changes: done.body.changes }));
  report(`${PEOPLE} people taken back as one`, performance.now() - back, took, 'taking them in');
  report(
    `what others wait for meanwhile, the 95th of 100 (200 ms allowed), of ${waits.length} answers`,
    waits[Math.floor(waits.length * 0.95)]!,
    took,
    'the whole of it',
  );
}
