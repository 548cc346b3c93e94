/** A day of the board out of two million claims, through the API over HTTP. */
import type { BoardResponse } from '../src/contract/places.ts';
import { DAY } from '../src/core/time/interval.ts';
import { startLargeServer } from './largeServer.ts';
import { medianMs, report } from './measure.ts';

const PLACES = 120;

const server = await startLargeServer();
const { client } = server;
const { rows } = await client.query<{ id: number; site: number }>(
  'select subject_id as id, site_id as site from resource order by site_id, subject_id',
);
const site = rows[0]!.site;
const own = rows.filter((one) => one.site === site).length;
// A few of another site's are taken along, and given back at the end.
const borrowed = rows.filter((one) => one.site !== site).slice(0, Math.max(0, PLACES - own));
const put = (ids: readonly { id: number }[], to: number) =>
  client.query('update resource set site_id = $2 where subject_id = any($1)', [
    ids.map((one) => one.id),
    to,
  ]);
await put(borrowed, site);
try {
  let round = 0;
  let shown = { places: 0, bookings: 0 };
  const board = async (query: string) => {
    round++;
    const day = new Date(Date.UTC(2026, 3, 6) + (round % 5) * DAY).toISOString().slice(0, 10);
    const body = await server.get<BoardResponse>(`/places/board?date=${day}${query}`);
    shown = { places: body.places.length, bookings: body.bookings.length };
  };
  const ofSite = await medianMs(40, () => board(`&site=${site}`));
  const some = { ...shown };
  if (some.places < PLACES || some.bookings < PLACES / 2) throw new Error('the board is too empty');
  const ofAll = await medianMs(20, () => board(''));
  const free = (hour: number) =>
    client.query(
      `select id from unnest($1::int[]) as place (id)
       where not exists (select 1 from claim where claim.subject_id = place.id and claim.exclusive
                           and claim.during && tstzrange($2, $3))`,
      [rows.map((one) => one.id), new Date(hour), new Date(hour + 3_600_000)],
    );
  const hourOf = (k: number) => Date.UTC(2026, 3, 6 + (k % 5), 8 + (k % 8));
  let turn = 0;
  const freeOfAll = await medianMs(60, () => free(hourOf(turn++)));
  await client.query(
    'set enable_indexscan = off; set enable_bitmapscan = off; set enable_indexonlyscan = off',
  );
  const freeThrough = await medianMs(3, () => free(hourOf(turn++)), 1);
  report(
    `the free ones of ${rows.length} places for an hour, in the database`,
    freeOfAll,
    freeThrough,
    'reading all claims through; 25 ms are allowed',
  );
  const ids = rows.map((one) => one.id);
  const through = (some: readonly number[]) =>
    medianMs(
      3,
      () =>
        client.query(
          'select * from claim where subject_id = any($1) and exclusive and during && tstzrange($2, $3)',
          [some, new Date(Date.UTC(2026, 3, 6)), new Date(Date.UTC(2026, 3, 7))],
        ),
      1,
    );
  report(
    `the board of a site with ${some.places} places, a day`,
    ofSite,
    await through(ids.slice(0, PLACES)),
    `reading all claims through, without HTTP; ${some.bookings} bookings; 60 ms are allowed`,
  );
  report(
    `the board of ${shown.places} places, a day`,
    ofAll,
    await through(ids),
    `reading all claims through, without HTTP; ${shown.bookings} bookings`,
  );
} finally {
  for (const at of new Set(borrowed.map((one) => one.site)))
    await put(
      borrowed.filter((one) => one.site === at),
      at,
    );
}
await server.end();
