import { expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });

/** Whom something was made by is looked up from the thing, never the other way. */
const NEVER_SEARCHED = [
  'attachment.added_by',
  'event.created_by',
  'fact.actor_id',
  'person.organization_id',
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

it('what is forgotten by age, and who answers by mail, is found by an index', async () => {
  const { rows } = await server.running.platform.pool.query<{ indexdef: string }>(
    `select indexdef from pg_indexes where schemaname = 'public'`,
  );
  const definitions = rows.map((row) => row.indexdef).join('\n');
  for (const part of [
    'event_revision USING btree (at)',
    'session USING btree (expires_at)',
    'idempotency_key USING btree (created_at)',
    'attendee USING btree (lower(email))',
    'reminder USING btree (person_id)',
    'event_category USING btree (person_id)',
  ])
    expect(definitions).toContain(part);
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
