/**
 * Pages of the ledger over two million bookings, through the API over HTTP: sorted, put together,
 * searched, and read on. The bookings stand beside the large organisation's, in one table with them, and
 * are taken away again.
 */
import type { LedgerResponse } from '../src/contract/ledger.ts';
import { startLargeServer } from './largeServer.ts';
import { medianMs, report } from './measure.ts';

const BOOKINGS = 2_000_000;
/** Series of many dates, since a date costs less than a meeting to be made here. */
const SERIES = 2_000;
const ALLOWED = 120;

const server = await startLargeServer();
const { client } = server;

/** Two years of bookings, a thousand of each series: in all places, at all hours of the day. */
async function fill(): Promise<void> {
  const { rows } = await client.query<{ there: number }>(
    'select count(*)::int as there from reservation',
  );
  const missing = BOOKINGS - rows[0]!.there;
  if (missing <= 0) return;
  process.stderr.write(`  making ${missing} more bookings …\n`);
  await client.query('set statement_timeout = 0; set synchronous_commit = off');
  await client.query(
    `insert into event (id, uid, organizer_id, created_by, title, visibility, starts_at, length_minutes,
                        zone, created_at, updated_at)
     select ('00000000-0000-4000-9000-' || lpad(to_hex(k), 12, '0'))::uuid, 'ledger-' || k,
            1 + k % 2000, 1 + k % 2000, 'Tide table ' || k,
            -- What half of them are for may be read by all.
            case when k % 2 = 0 then 'public' else 'default' end, '2026-01-05T08:00', 30, 'UTC',
            '2026-01-01', '2026-01-01'
     from generate_series(1, ${SERIES}) k`,
  );
  await client.query(
    `insert into attendee (event_id, person_id, role, reply, invited_at)
     select id, organizer_id, 'organizer', 'accepted', created_at from event where uid like 'ledger-%'`,
  );
  await client.query(
    `with made as (
       insert into occurrence (event_id, recurrence_at, starts_at, ends_at)
       select ('00000000-0000-4000-9000-' || lpad(to_hex(1 + n % ${SERIES}), 12, '0'))::uuid,
              timestamp '2025-01-06' + n * interval '1 minute',
              at, at + interval '15 minutes' * (1 + n % 8)
       from generate_series(1, ${missing}) n
       cross join lateral (select timestamptz '2025-01-06 06:00+00'
         + interval '1 day' * ((n::bigint * 7919) % 720) + interval '15 minutes' * (n % 44) as at) t
       returning id, event_id, starts_at, ends_at)
     insert into reservation (occurrence_id, event_id, resource_id, unit, state, since, starts_at, ends_at,
                              holder_id)
     select id, event_id, 2001 + id % 500, 1, 'held', starts_at, starts_at, ends_at, 1 + (id % ${SERIES}) % 2000
     from made`,
  );
  // What is not on the disk yet cannot be marked as seen by all, and would be looked at again each time.
  await client.query('checkpoint');
  for (const table of ['event', 'occurrence', 'reservation'])
    await client.query(`vacuum analyze ${table}`);
}

async function empty(): Promise<void> {
  // At once, not meeting by meeting: what is counted of them is taken away in one piece.
  await client.query(
    `delete from reservation where event_id in (select id from event where uid like 'ledger-%')`,
  );
  await client.query(`delete from event where uid like 'ledger-%'`);
}

await fill();
try {
  const { rows } = await client.query<{ total: number }>(
    'select count(*)::int as total from reservation',
  );
  const total = rows[0]!.total;
  if (total < BOOKINGS) throw new Error('there are too few bookings');
  let seen = 0;
  const page = async (query: string) => {
    const body = await server.get<LedgerResponse>(`/ledger?whose=all${query}`);
    seen = body.rows.length + body.groups.length;
  };
  await client.query(
    'set enable_indexscan = off; set enable_bitmapscan = off; set enable_indexonlyscan = off',
  );
  const through = await medianMs(
    3,
    () =>
      client.query(
        `select r.id from reservation r join occurrence o on o.id = r.occurrence_id
         where o.starts_at >= '2026-04-06' and o.starts_at < '2026-05-04'
         order by o.starts_at limit 60`,
      ),
    1,
  );
  const MONTH = '&from=2026-04-06&to=2026-05-03';
  const PAGES: [string, string][] = [
    ['four weeks by time', MONTH],
    ['everything there is, by time', ''],
    ['everything there is, the last first', '&order=down'],
    ['rooms of a site in four weeks by who has them', `${MONTH}&kind=room&site=1&sort=holder`],
    ['four weeks put together by place', `${MONTH}&group=place`],
    ['rooms in four weeks put together by week', `${MONTH}&kind=room&group=week`],
    [
      'a week with a word in it, put together by who has it',
      '&from=2026-04-06&to=2026-04-12&q=12&group=holder',
    ],
    ['four weeks with a word in them, by time', `${MONTH}&q=12`],
    [
      'eight weeks with a rare word in them, by time',
      '&from=2026-04-06&to=2026-05-31&q=table%20199',
    ],
    ['eight weeks by what they are for', '&from=2026-04-06&to=2026-05-31&sort=title'],
    ['one place’s two years by length', '&place=2100&sort=length'],
    ['everything there is put together by site', '&group=site'],
    ['everything there is put together by week', '&group=week'],
    ['everything there is by place', '&sort=place'],
    ['everything there is with a word that names one meeting', '&q=tide%20table%201999'],
  ];
  for (const [name, query] of PAGES) {
    const took = await medianMs(15, () => page(query));
    if (seen === 0) throw new Error(`${name}: nothing was found`);
    report(
      `ledger of ${total} bookings: ${name}`,
      took,
      through,
      `reading them all through, without HTTP; ${seen} rows; ${ALLOWED} ms are allowed`,
    );
  }
} finally {
  await client.query('set enable_indexscan = on; set enable_bitmapscan = on');
  await empty();
}
await server.end();
