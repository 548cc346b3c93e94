import nodemailer from 'nodemailer';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { FILES, LETTERS, OPENING_HOURS } from '../support/bombs.ts';
import { Client } from '../support/client.ts';
import { isLong } from '../support/effort.ts';
import { noteLoad, percentile } from '../support/load.ts';
import { freePort } from '../support/port.ts';
import { startProcess } from '../support/process.ts';
import { meetingRequest } from '../support/requests.ts';

/*
 * Whoever likes hands over letters and files that cost a reader seconds; somebody else works meanwhile. The
 * longest that the thread which answers everybody stood still is what its own metrics say.
 */

const LETTERS_SENT = isLong ? 500 : 28;
/** How many of each come before memory is looked at. */
const WARMING = isLong ? 6 : 1;
const FILES_SENT = isLong ? 200 : 14;
/** Times say nothing beside all other tests; npm run load holds them. */
const MOST_STALL_MS = 200;
const MOST_P95_MS = 250;
/** What the process holds when everything is over, against what it held once it had read one of each. */
const MOST_GROWTH = 0.1;
/** With a few of each the workers themselves are most of it; without a bound it would be many times as much. */
const MOST_GROWTH_BESIDE_OTHERS = 1;

let process: Awaited<ReturnType<typeof startProcess>>;
let ports: { lmtp: number; metrics: number };
let sql: pg.Client;
beforeAll(async () => {
  ports = { lmtp: await freePort(), metrics: await freePort() };
  process = await startProcess({
    MARMOT_LMTP_PORT: String(ports.lmtp),
    MARMOT_METRICS: String(ports.metrics),
  });
  sql = new pg.Client({ connectionString: process.database.url });
  await sql.connect();
});
afterAll(async () => {
  await sql.end();
  await process.end();
});

/** How long the server's thread stood still at most since this was asked before. Milliseconds. */
async function stall(): Promise<number> {
  const text = await (await fetch(`http://127.0.0.1:${ports.metrics}/metrics`)).text();
  return Number(/^nodejs_eventloop_lag_max_seconds (\S+)$/m.exec(text)![1]) * 1000;
}

/** Hands a letter over as a mail server does. @returns what it was answered */
async function handOver(source: Buffer): Promise<'taken' | 'refused'> {
  const transport = nodemailer.createTransport({
    host: '127.0.0.1',
    port: ports.lmtp,
    ...{ lmtp: true },
    ignoreTLS: true,
  });
  try {
    await transport.sendMail({
      envelope: { from: 'jon@harbour.example', to: ['leila.haddad@ternrock.example'] },
      raw: source,
    });
    return 'taken';
  } catch (error) {
    // For good: a letter that is not taken now must not come again and again.
    expect(String((error as { responseCode?: number }).responseCode)).toMatch(/^5/);
    return 'refused';
  } finally {
    transport.close();
  }
}

async function sendLetters(count: number) {
  const kinds = Object.values(LETTERS);
  for (let k = 0; k < count; k++) await handOver(kinds[k % kinds.length]!(k));
}

async function sendFiles(client: Client, eventId: string, count: number) {
  const files = Object.entries(FILES);
  for (let k = 0; k < count; k++) {
    const [name, content] = files[k % files.length]!;
    const { status } = await fetch(
      `${client.base}/api/events/${eventId}/attachments?name=${encodeURIComponent(name)}`,
      {
        method: 'POST',
        headers: { Cookie: client.cookie, 'Content-Type': 'application/octet-stream' },
        body: new Uint8Array(content),
      },
    );
    expect([name, [201, 400].includes(status)]).toEqual([name, true]);
  }
}

async function sendTexts(client: Client, steward: Client) {
  const emails = Array.from({ length: 500 }, (_, k) => `${'a'.repeat(60)}${k}@nobody.example`);
  for (let k = 0; k < 6; k++)
    expect((await client.post('/api/line-ups/addresses', { emails })).status).toBe(200);
  const rows = Array.from({ length: 200 }, (_, k) => ({
    name: `Place ${k}`,
    site: 'Skerry House',
    open: OPENING_HOURS[k % OPENING_HOURS.length]!,
  }));
  const { status } = await steward.post('/api/catalogue/import', { rows });
  expect(status).toBe(200);
}

it(`${LETTERS_SENT} letters and ${FILES_SENT} files made to be slow stop nobody`, async () => {
  const { server } = process;
  const [attacker, steward, other] = (await Promise.all(
    ['mika.sandoval', 'ines.aldabe', 'tomas.okafor'].map((one) => Client.signIn(server.base, one)),
  )) as [Client, Client, Client];
  const made = await attacker.post<{ id: string }>('/api/events', meetingRequest());
  // Some of each: what is loaded once is loaded by then, and what is kept for the next is kept.
  await sendLetters(WARMING * Object.keys(LETTERS).length);
  await sendFiles(attacker, made.body.id, Object.keys(FILES).length);
  await sendTexts(attacker, steward);
  const before = server.memory();
  await stall();

  let isOver = false;
  const times: number[] = [];
  let longest = 0;
  const watching = (async () => {
    while (!isOver) {
      const began = performance.now();
      const { status } = await other.get('/api/invitations');
      times.push(performance.now() - began);
      expect(status).toBe(200);
      longest = Math.max(longest, await stall());
    }
  })();
  await Promise.all([
    sendLetters(LETTERS_SENT),
    sendFiles(attacker, made.body.id, FILES_SENT),
    sendTexts(attacker, steward),
  ]);
  isOver = true;
  await watching;
  const grown = server.memory() / before - 1;
  const p95 = percentile(times, 95);
  noteLoad(
    `${LETTERS_SENT} letters and ${FILES_SENT} files made to be slow`,
    `longest stall ${Math.round(longest)} ms, others' p95 ${Math.round(p95)} ms, memory ${Math.round(grown * 100)} %`,
    `${MOST_STALL_MS} ms, ${MOST_P95_MS} ms, ${MOST_GROWTH * 100} %`,
  );
  expect(server.runs).toBe(true);
  expect(await server.healthy()).toBe(true);
  expect(times.length).toBeGreaterThan(10);
  // What could not be looked into lies with whoever it came to, with the reason.
  const { rows } = await sql.query<{ reason: string }>(
    `select distinct reason from incoming_mail where state = 'aside' order by 1`,
  );
  const reasons = rows.map((row) => row.reason).join('\n');
  for (const part of [
    'only yearly rules',
    'more than 60000 lines',
    'parameters of a thing',
    'at most 4 deep',
  ])
    expect(reasons).toContain(part);
  expect(grown).toBeLessThan(isLong ? MOST_GROWTH : MOST_GROWTH_BESIDE_OTHERS);
  if (isLong) {
    expect(longest).toBeLessThan(MOST_STALL_MS);
    expect(p95).toBeLessThan(MOST_P95_MS);
  }
}, 900_000);
