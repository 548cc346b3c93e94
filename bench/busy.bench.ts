/** Busy times of 50 people over 4 weeks out of two million claims, through the API over HTTP. */
import type { BusyResponse } from '../src/contract/availability.ts';
import { readBusy } from '../src/server/availability/queries.ts';
import { DAY } from '../src/core/time/interval.ts';
import { startLargeServer } from './largeServer.ts';
import { medianMs, report } from './measure.ts';
import { SCALE } from './scaleData.ts';

const server = await startLargeServer();
const { client } = server;
const { rows } = await client.query<{ claims: number }>(
  'select count(*)::int as claims from claim',
);
const from = Date.UTC(2026, 3, 6);
const to = from + 28 * DAY;
let round = 0;
const people = () =>
  Array.from({ length: 50 }, (_, k) => ((round * 53 + k * 37) % SCALE.people) + 1);

let spans = 0;
const value = await medianMs(40, async () => {
  round++;
  const body = await server.post<BusyResponse>('/availability/busy', {
    subjects: people(),
    from,
    to,
  });
  spans = body.subjects.reduce((sum, one) => sum + one.busy.length, 0);
});
if (spans < 500) throw new Error(`only ${spans} busy times came back`);

const rooms = () =>
  Array.from(
    { length: 100 },
    (_, k) => SCALE.people + ((round * 13 + k * 3) % SCALE.resources) + 1,
  );
const ids = () => {
  round++;
  return [...people(), ...rooms()];
};
const inDatabase = await medianMs(40, () => readBusy(client, ids(), from, to));

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
report(
  'busy times in the database, 50 people and 100 rooms, 4 weeks',
  inDatabase,
  await medianMs(5, () => readBusy(client, ids(), from, to), 1),
  `the same statement reading ${rows[0]!.claims} claims through`,
);
await server.end();
