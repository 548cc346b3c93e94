import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Health } from '../../src/contract/health.ts';
import { Client } from '../support/client.ts';
import { isLong } from '../support/effort.ts';
import { noteLoad, percentile } from '../support/load.ts';
import { startProcess } from '../support/process.ts';
import { meetingRequest } from '../support/requests.ts';
import { eventually } from '../support/server.ts';
import { fakeSmtp } from '../support/smtp.ts';

const LETTERS = 40;
const ROUNDS = isLong ? 6 : 1;
const READS = isLong ? 100 : 20;
/** What is allowed on a machine with nothing else to do; npm test runs beside other tests, and holds no times. */
const MOST_TIMES = 1.5;
/** Below this, a clock says more about the machine than about Marmot. Milliseconds. */
const SLACK_MS = 3;

let smtp: Awaited<ReturnType<typeof fakeSmtp>>;
let process: Awaited<ReturnType<typeof startProcess>>;
let ines: Client;
let sql: pg.Client;
beforeAll(async () => {
  smtp = await fakeSmtp({ greeting: null });
  process = await startProcess({ MARMOT_SMTP_URL: smtp.url });
  ines = await Client.signIn(process.server.base, 'ines.aldabe');
  sql = new pg.Client({ connectionString: process.database.url });
  await sql.connect();
});
afterAll(async () => {
  await sql.end();
  await process.end();
  smtp.end();
});

const PATHS = [
  '/api/places',
  '/api/invitations',
  '/api/calendar/fullness?first=2026-11-01&days=60',
];

/** @returns how long each read took, in milliseconds */
async function reads(): Promise<number[]> {
  const times: number[] = [];
  for (let k = 0; k < READS; k++) {
    const began = performance.now();
    const { status } = await ines.get(PATHS[k % PATHS.length]!);
    times.push(performance.now() - began);
    expect(status).toBe(200);
  }
  return times;
}

const lettersWaiting = async () => (await ines.get<Health>('/api/health')).body.letters!.count;

it(`${LETTERS} letters before a mail server that is silent leave reads as they are`, async () => {
  await reads();
  const made = await ines.post(
    '/api/events',
    meetingRequest({
      title: 'Silence',
      attendees: Array.from({ length: LETTERS }, (_, k) => ({
        email: `guest${k}@silent.example`,
        name: '',
        role: 'required' as const,
      })),
    }),
  );
  expect(made.status).toBe(201);
  const without: number[] = [];
  const beside: number[] = [];
  // In turn, so that what else the machine does is in both.
  for (let round = 0; round < ROUNDS; round++) {
    await sql.query(`update job set due_at = now() + interval '1 hour' where kind = 'letter'`);
    await eventually(async () => smtp.open() === 0, 40);
    without.push(...(await reads()));
    await sql.query(`update job set due_at = now(), tries = 0 where kind = 'letter'`);
    await eventually(async () => smtp.open() > 0);
    beside.push(...(await reads()));
  }
  const [usual, now] = [percentile(without, 95), percentile(beside, 95)];
  noteLoad(
    `${LETTERS} letters before a silent mail server`,
    `reads p95 ${now.toFixed(1)} ms, ${usual.toFixed(1)} ms when none is due`,
    `within ${MOST_TIMES} times`,
  );
  expect(await lettersWaiting()).toBeGreaterThanOrEqual(LETTERS);
  // All reads were answered while the letters hung, and hang still.
  expect(beside).toHaveLength(ROUNDS * READS);
  expect(smtp.open()).toBeGreaterThan(0);
  if (isLong) expect(now).toBeLessThan(usual * MOST_TIMES + SLACK_MS);
}, 300_000);
