/**
 * Bookings made, moved and cancelled by 64 clients on ten resources at once, by a server process of its
 * own, beside what the bare constraint takes in the same run; and where the rest of the time goes.
 */
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { pino } from 'pino';
import { loadDemonstration } from '../demo/data/index.ts';
import { partnerCalendars } from '../demo/stand-ins/partnerCalendars/calendars.ts';
import type { EventDetail } from '../src/contract/eventDetail.ts';
import { readConfig } from '../src/server/config.ts';
import { migrate } from '../src/server/db/migrate.ts';
import { webCalendars } from '../src/server/published/index.ts';
import { createPlatform } from '../src/server/server.ts';
import { Client } from '../tests/support/client.ts';
import { TEST_NOW } from '../tests/support/cluster.ts';
import { ServerProcess } from '../tests/support/process.ts';
import { report } from './measure.ts';
import { CodeProfile, processorTimes, statementShares } from './profile.ts';

const CLIENTS = 64;
const RESOURCES = 10;
/** Until the server's code is compiled for speed, as that of one that runs for days. */
const WARM_MS = 60_000;
const MEASURED_MS = 15_000;
/** Lines of the profile. */
const MOST_SHOWN = 14;
const DATABASE = 'marmot_throughput';

const adminUrl = process.env.MARMOT_DATABASE_URL!.replace(/\/[^/]+$/, '/postgres');
const url = adminUrl.replace(/\/postgres$/, `/${DATABASE}`);

async function prepare(): Promise<void> {
  const admin = new pg.Client({ connectionString: adminUrl });
  await admin.connect();
  await admin.query(`drop database if exists ${DATABASE} with (force)`);
  await admin.query(`create database ${DATABASE}`);
  await admin.end();
  await migrate(url);
  const config = readConfig({ MARMOT_DATABASE_URL: url, MARMOT_NOW: TEST_NOW });
  const platform = createPlatform(
    config,
    pino({ level: 'error' }),
    partnerCalendars(config.clock, webCalendars),
  );
  await loadDemonstration(platform);
  await platform.pool.end();
}

const two = (value: number) => String(value).padStart(2, '0');
/** A quarter hour of its own for every booking, so that few of them are refused. */
function slot(k: number): { day: string; hour: number; minute: number } {
  const day = new Date(Date.UTC(2027, 0, 1) + Math.floor(k / 64) * 86_400_000);
  return {
    day: day.toISOString().slice(0, 10),
    hour: 5 + (Math.floor(k / 4) % 16),
    minute: (k % 4) * 15,
  };
}

function timesOf(k: number) {
  const { day, hour, minute } = slot(k);
  return {
    startsAt: `${day}T${two(hour)}:${two(minute)}`,
    endsAt: `${day}T${two(hour)}:${two(minute + 14)}`,
    zone: 'Europe/Oslo',
  };
}

const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });

/**
 * Asks without any of what a browser's request does besides, since whoever asks has the same two cores
 * as the server.
 */
function ask<Body>(
  { base, cookie }: Client,
  method: string,
  address: string,
  body: unknown,
  headers: Record<string, string> = {},
): Promise<{ status: number; body: Body }> {
  const content = JSON.stringify(body);
  return new Promise((resolve, reject) => {
    const asking = request(
      base + address,
      {
        method,
        agent,
        headers: {
          Cookie: cookie,
          'Content-Type': 'application/json',
          'Content-Length': Buffer.byteLength(content),
          ...headers,
        },
      },
      (answer) => {
        const parts: Buffer[] = [];
        answer.on('data', (part: Buffer) => parts.push(part));
        answer.on('end', () =>
          resolve({
            status: answer.statusCode!,
            body: JSON.parse(Buffer.concat(parts).toString()) as Body,
          }),
        );
      },
    );
    asking.on('error', reject);
    asking.end(content);
  });
}

/** What came of a load: how long each request took, milliseconds in order, and what was refused. */
interface Load {
  took: number[];
  conflicts: number;
}

let next = 0;
/** All clients at once, until the measured time is over. */
async function load(
  server: ServerProcess,
  sql: pg.Client,
  onMeasuring: (begins: boolean) => Promise<void> = () => Promise.resolve(),
): Promise<Load> {
  const people = await sql.query<{ mailbox: string }>(
    `select split_part(email, '@', 1) as mailbox from person where password_hash is not null limit 32`,
  );
  const clients = await Promise.all(
    people.rows.map(({ mailbox }) => Client.signIn(server.base, mailbox)),
  );
  const resources = (
    await sql.query<{ id: number }>(
      `select subject_id as id from resource where units = 1 order by 1 limit ${RESOURCES}`,
    )
  ).rows.map((row) => row.id);

  let measuring = false;
  let ended = false;
  const took: number[] = [];
  const refused = { conflicts: 0, failures: [] as number[] };
  const timed = async (work: () => Promise<{ status: number }>) => {
    const began = performance.now();
    const { status } = await work();
    if (!measuring) return;
    took.push(performance.now() - began);
    if (status === 409) refused.conflicts++;
    else if (status >= 400) refused.failures.push(status);
  };
  const worker = async (client: Client, at: number) => {
    const resource = resources[at % RESOURCES]!;
    while (!ended) {
      let event: EventDetail | null = null;
      await timed(async () => {
        const answer = await ask<EventDetail>(
          client,
          'POST',
          '/api/events',
          { title: 'Bench', times: timesOf(next++), resources: [resource] },
          { 'Idempotency-Key': randomUUID() },
        );
        if (answer.status === 201) event = answer.body;
        return answer;
      });
      const made = event as EventDetail | null;
      if (!made) continue;
      await timed(() =>
        ask(client, 'PATCH', `/api/events/${made.id}`, {
          version: made.version,
          times: timesOf(next++),
        }),
      );
      await timed(() =>
        ask(client, 'POST', `/api/events/${made.id}/cancel`, { version: made.version + 1 }),
      );
    }
  };
  const workers = Array.from({ length: CLIENTS }, (_, k) =>
    worker(clients[k % clients.length]!, k),
  );
  await new Promise((resolve) => setTimeout(resolve, WARM_MS));
  await onMeasuring(true);
  measuring = true;
  await new Promise((resolve) => setTimeout(resolve, MEASURED_MS));
  measuring = false;
  await onMeasuring(false);
  ended = true;
  await Promise.all(workers);
  if (refused.failures.length > 0) throw new Error(`failed: ${refused.failures.join(', ')}`);
  return { took: took.sort((a, b) => a - b), conflicts: refused.conflicts };
}

await prepare();
const sql = new pg.Client({ connectionString: url });
await sql.connect();
const server = new ServerProcess(url);
try {
  await server.start();
  const { took, conflicts } = await load(server, sql);
  const rate = took.length / (MEASURED_MS / 1000);
  const p95 = took[Math.floor(took.length * 0.95)]!;
  await sql.query(
    `create table bare_claim (subject_id int, unit smallint, during tstzrange,
       exclude using gist (subject_id with =, unit with =, during with &&))`,
  );
  const bare = bareInserts(url);
  report(
    `a booking, a move or a cancellation, ${CLIENTS} clients on ${RESOURCES} resources`,
    1000 / rate,
    1000 / bare,
    `a bare exclusive insert of pgbench; ${rate.toFixed(0)} requests a second against ${bare.toFixed(0)}, half of them within ${took[Math.floor(took.length / 2)]!.toFixed(0)} ms, 95 of 100 within ${p95.toFixed(0)} ms, ${conflicts} in conflict`,
  );
} finally {
  await server.end();
}

// Where the rest of the time goes, in a run of its own since looking takes time too.
const code = new CodeProfile();
const looked = new ServerProcess(url, {}, code.flags);
try {
  await sql.query('create extension if not exists pg_stat_statements');
  await looked.start();
  let before = { server: 0, database: 0, clients: 0 };
  const spent = { ...before };
  const { took } = await load(looked, sql, async (begins) => {
    if (begins) await sql.query('select pg_stat_statements_reset()');
    const now = await processorTimes(sql, looked.child.pid!);
    for (const part of ['server', 'database', 'clients'] as const)
      spent[part] = now[part] - before[part];
    before = now;
  });
  const statements = await statementShares(sql, MOST_SHOWN);
  // It writes what it did when it ends by itself.
  await looked.end('SIGTERM');
  const share = (part: number) => `${(part * 100).toFixed(1)} of 100`;
  const per = (seconds: number) => `${((seconds / took.length) * 1000).toFixed(2)} ms a request`;
  process.stdout.write(
    [
      'Where the time goes, by the processors:',
      `  database ${per(spent.database)}, server ${per(spent.server)}, clients ${per(spent.clients)}`,
      'The database’s by statement, waiting for one another’s locks included:',
      ...statements.map(
        (one) =>
          `  ${share(one.share)}: ${one.ms.toFixed(3)} ms, ${(one.calls / took.length).toFixed(2)} a request: ${one.statement}`,
      ),
      'The server’s, by whose code it is in:',
      ...code
        .shares()
        .slice(0, MOST_SHOWN)
        .map(({ part, share: of }) => `  ${share(of)}: ${part}`),
      '',
    ].join('\n'),
  );
} finally {
  await looked.end();
  agent.destroy();
  await sql.end();
}

/** How many rows a second pgbench puts under the bare constraint by 16 connections. */
function bareInserts(database: string): number {
  const folder = mkdtempSync(path.join(tmpdir(), 'marmot-pgbench-'));
  const file = path.join(folder, 'insert.sql');
  writeFileSync(
    file,
    `\\set resource random(1, ${RESOURCES})
\\set minute random(0, 50000000)
insert into bare_claim (subject_id, unit, during)
values (:resource, 1, tstzrange('2100-01-01'::timestamptz + make_interval(mins => :minute),
                                '2100-01-01'::timestamptz + make_interval(mins => :minute + 1)))
on conflict do nothing;
`,
  );
  const pgbench = spawnSync(
    '/usr/lib/postgresql/15/bin/pgbench',
    ['-n', '-c', '16', '-j', '2', '-T', '6', '-f', file, database],
    { encoding: 'utf8' },
  );
  rmSync(folder, { recursive: true });
  const rate = /tps = ([\d.]+)/.exec(pgbench.stdout)?.[1];
  if (!rate) throw new Error(`pgbench: ${pgbench.stderr}`);
  return Number(rate);
}
