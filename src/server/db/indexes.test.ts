import { expect, it } from 'vitest';
import { bookingsJob } from '../bookings/index.ts';
import { horizonJob } from '../events/index.ts';
import { housekeepingJob } from '../keeping/index.ts';
import { tallyJob } from '../ledger/index.ts';
import { dailyLetterJob } from '../notifications/index.ts';
import { publishedJob } from '../published/index.ts';
import { reminderJob } from '../reminders/index.ts';
import { waitingJob } from '../waiting/index.ts';
import { useServer } from '../../../tests/support/server.ts';
import { statementsOf } from '../../../tests/support/statements.ts';

const server = useServer({ works: false });

/** Whom something was made by is looked up from the thing, never the other way. */
const NEVER_SEARCHED = [
  'attachment.added_by',
  'event.created_by',
  'person.site_id',
  'layer.subject_id',
  'layer.team_id',
];

it('every reference to another table can be followed back by an index', async () => {
  const missing = await server.sql<{ reference: string }>(
    `select conrelid::regclass || '.' || attname as reference
     from pg_constraint
     join pg_attribute on attrelid = conrelid and attnum = conkey[1]
     where contype = 'f' and connamespace = 'public'::regnamespace
       and not exists (select 1 from pg_index
                       where indrelid = conrelid and indkey[0] = conkey[1]
                         and (indpred is null or pg_get_expr(indpred, indrelid)
                                                  = format('(%I IS NOT NULL)', attname)))
     order by 1`,
  );
  expect(missing.map((row) => row.reference)).toEqual([...NEVER_SEARCHED].sort());
});

/** Tables with few rows whatever the organization: they may be read through. */
const SMALL = [
  'setting',
  'site',
  'organization',
  'team',
  'category',
  'preference',
  'published_calendar',
  'job',
  'waiting',
  'resource',
];

/** Statements that may read a large table through, by how they begin, and why. */
const READ_THROUGH = [
  // Once an hour, and there are no more files than were attached; each is looked for by an index.
  'delete from stored_file where not exists',
  // Of people with a published calendar alone, who are few.
  'update published_calendar set tried_at',
  // Whatever is in it is taken out of it, so many rows at a time.
  'with changed as ( delete from booking_tally_change',
];

interface PlanNode {
  'Node Type': string;
  'Relation Name'?: string;
  'Index Cond'?: string;
  Plans?: PlanNode[];
}

/** The tables that a plan reads from one end to the other. */
function readThrough(node: PlanNode, isLimited = false): string[] {
  const below = (node.Plans ?? []).flatMap((one) =>
    readThrough(one, isLimited || node['Node Type'] === 'Limit'),
  );
  const isWhole =
    node['Node Type'] === 'Seq Scan' ||
    (/^Index (Only )?Scan$/.test(node['Node Type']) && !node['Index Cond'] && !isLimited);
  return isWhole && node['Relation Name'] ? [node['Relation Name'], ...below] : below;
}

it('whatever runs by itself finds what it looks for by an index: every statement that it sends', async () => {
  const { platform } = server.running;
  const quiet = { ...platform, log: platform.log.child({}, { level: 'silent' }) };
  const { signal } = new AbortController();
  const statements = await statementsOf(async () => {
    for (const job of [
      housekeepingJob,
      horizonJob,
      reminderJob,
      dailyLetterJob,
      bookingsJob,
      waitingJob,
      publishedJob,
      tallyJob,
    ])
      await job.work(quiet, '', signal);
  });
  // All kinds of work are among them.
  for (const part of [
    'delete from idempotency_key',
    'delete from reminder_notice',
    'from waiting',
    'is_laid_out_whole',
    'believed_sender',
  ])
    expect([part, statements.some((text) => text.includes(part))]).toEqual([part, true]);
  const client = await platform.pool.connect();
  const found: string[] = [];
  try {
    await client.query('begin');
    // A table of a few rows is read through; of millions it is not.
    await client.query('set local enable_seqscan = off');
    // Joins that read one side through are for tables of a few rows, too.
    await client.query('set local enable_mergejoin = off');
    await client.query('set local enable_hashjoin = off');
    for (const [k, text] of statements.entries()) {
      const count = new Set(text.match(/\$\d+/g) ?? []).size;
      await client.query(`prepare looked_at_${k} as ${text}`);
      const values = count > 0 ? `(${Array(count).fill('null').join(', ')})` : '';
      const { rows } = await client.query<{ 'QUERY PLAN': { Plan: PlanNode }[] }>(
        `explain (format json) execute looked_at_${k}${values}`,
      );
      const tables = readThrough(rows[0]!['QUERY PLAN'][0]!.Plan).filter(
        (one) => !SMALL.includes(one),
      );
      const isMeant = READ_THROUGH.some((begin) =>
        text.replace(/\s+/g, ' ').trim().startsWith(begin),
      );
      if (tables.length > 0 && !isMeant)
        found.push(`${tables.join(', ')}: ${text.replace(/\s+/g, ' ').slice(0, 160)}`);
    }
  } finally {
    await client.query('rollback');
    client.release();
  }
  expect(found).toEqual([]);
});

it('free places, a page of the ledger and its groups are read by index, however many there are', async () => {
  const planOf = async (statement: string, values: unknown[]) => {
    const client = await server.running.platform.pool.connect();
    try {
      await client.query('begin');
      // A table of a few rows is read through; of millions it is not.
      await client.query('set local enable_seqscan = off');
      const { rows } = await client.query<{ 'QUERY PLAN': string }>(`explain ${statement}`, values);
      return rows.map((row) => row['QUERY PLAN']).join('\n');
    } finally {
      await client.query('rollback');
      client.release();
    }
  };
  const from = new Date(Date.UTC(2026, 10, 26, 9));
  const to = new Date(Date.UTC(2026, 10, 26, 10));
  expect(
    await planOf(
      `select id from unnest($1::int[]) as place (id)
       where not exists (select 1 from claim where claim.subject_id = place.id and claim.exclusive
                           and claim.during && tstzrange($2, $3))`,
      [[1, 2, 3], from, to],
    ),
  ).toMatch(
    /Index (Only )?Scan using claim_(subject_during|never_twice)|Bitmap Index Scan on claim/,
  );
  expect(
    await planOf(
      `select id from reservation r where r.state <> 'released' and r.starts_at >= $1
       order by r.starts_at, r.id limit 61`,
      [from],
    ),
  ).toMatch(/Index (Only )?Scan using reservation_start/);
  expect(
    await planOf(
      `select id from reservation r where r.holder_id = $1 and r.starts_at >= $2
       order by r.starts_at, r.id limit 61`,
      [1, from],
    ),
  ).toContain('reservation_holder');
});
