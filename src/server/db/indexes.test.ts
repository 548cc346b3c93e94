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
