/** Busy times of 50 people over 4 weeks out of two million claims, through the API over HTTP. */
import { hash } from '@node-rs/argon2';
import pg from 'pg';
import type { BusyResponse } from '../src/contract/availability.ts';
import { readConfig } from '../src/server/config.ts';
import { startServer } from '../src/server/server.ts';
import { DAY } from '../src/core/time/interval.ts';
import { medianMs, report } from './measure.ts';
import { loadScaleData, SCALE } from './scaleData.ts';

const url = process.env.MARMOT_DATABASE_URL!;
await loadScaleData(url, (text) => process.stderr.write(`  ${text}\n`));

const client = new pg.Client({ connectionString: url });
await client.connect();
const { rows } = await client.query<{ claims: number }>(
  'select count(*)::int as claims from claim',
);
await client.query('update person set password_hash = $1 where subject_id = 1', [
  await hash('scale'),
]);

const server = await startServer(readConfig({ ...process.env, PORT: '0', MARMOT_LOG: 'error' }), {
  transport: { deliver: () => Promise.resolve() },
});
const base = `http://127.0.0.1:${server.port}/api`;
const json = { 'Content-Type': 'application/json' };
const signedIn = await fetch(`${base}/session`, {
  method: 'POST',
  headers: json,
  body: JSON.stringify({ email: 'person0@scale.example', password: 'scale' }),
});
const Cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
const from = Date.UTC(2026, 3, 6);
const to = from + 28 * DAY;
let round = 0;
const people = () =>
  Array.from({ length: 50 }, (_, k) => ((round * 53 + k * 37) % SCALE.people) + 1);

let spans = 0;
const value = await medianMs(40, async () => {
  round++;
  const answer = await fetch(`${base}/availability/busy`, {
    method: 'POST',
    headers: { ...json, Cookie },
    body: JSON.stringify({ subjects: people(), from, to }),
  });
  const body = (await answer.json()) as BusyResponse;
  spans = body.subjects.reduce((sum, one) => sum + one.busy.length, 0);
});
if (spans < 500) throw new Error(`only ${spans} busy times came back`);

await client.query(
  'set enable_indexscan = off; set enable_bitmapscan = off; set enable_indexonlyscan = off',
);
const baseline = await medianMs(
  5,
  () =>
    client.query('select * from claim where subject_id = any($1) and during && tstzrange($2, $3)', [
      people(),
      new Date(from),
      new Date(to),
    ]),
  1,
);
report(
  'busy times over HTTP, 50 people, 4 weeks',
  value,
  baseline,
  `reading ${rows[0]!.claims} claims through, without HTTP; ${spans} busy times in the last answer`,
);
await client.end();
await server.end();
