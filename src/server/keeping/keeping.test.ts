import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';
import { forgetOld } from './queries.ts';
import { readKeepDays, TABLES, tablesInWords, USUAL_DAYS } from './tables.ts';

const server = useServer({ works: false });
server.writesPastTheRules();

it('every table there is has an owner and an end, and none is named that is not there', async () => {
  const rows = await server.sql<{ name: string }>(
    `select table_name as name from information_schema.tables
     where table_schema = 'public' and table_type = 'BASE TABLE' order by 1`,
  );
  expect(rows.map((row) => row.name)).toEqual(Object.keys(TABLES).sort());
});

it('a table is written by whoever owns it, and by those alone who are named beside', () => {
  const folder = path.join(import.meta.dirname, '..');
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(
    (file) => file.endsWith('.ts') && !file.endsWith('.test.ts'),
  );
  const writers = new Map<string, Set<string>>();
  for (const file of files) {
    const text = readFileSync(path.join(folder, file), 'utf8');
    for (const [, table] of text.matchAll(/\b(?:insert into|update|delete from) ([a-z_]+)\b/g))
      writers.set(table!, (writers.get(table!) ?? new Set()).add(file.split(path.sep)[0]!));
  }
  const found = Object.keys(TABLES).flatMap((name) =>
    [...(writers.get(name) ?? [])].map((writer) => `${writer} writes ${name}`),
  );
  const tables: [string, { owner: string; also?: readonly string[] }][] = Object.entries(TABLES);
  const beside = tables.flatMap(([name, { also = [] }]) =>
    also.map((writer) => `${writer} writes ${name}`),
  );
  const owned = tables.map(([name, { owner }]) => `${owner} writes ${name}`);
  expect(found.filter((one) => !owned.includes(one) && !beside.includes(one))).toEqual([]);
  expect(beside.filter((one) => !found.includes(one))).toEqual([]);
});

it('what goes with another row is deleted with it', async () => {
  const rows = await server.sql<{ name: string; parent: string }>(
    `select conrelid::regclass::text as name, confrelid::regclass::text as parent
     from pg_constraint where contype = 'f' and confdeltype = 'c'`,
  );
  const cascades = new Set(rows.map((row) => `${row.name} ${row.parent}`));
  const claimed = Object.entries(TABLES).flatMap(([name, { end }]) =>
    'with' in end ? [`${name} ${end.with}`] : [],
  );
  expect(claimed.filter((one) => !cascades.has(one))).toEqual([]);
});

it('what is older than it is kept is forgotten, however much of it there is, and nothing else', async () => {
  const now = server.running.platform.clock.now();
  const at = (days: number) => new Date(now - days * 86_400_000);
  const place = await server.id('Gannet');
  for (const [days, count] of [
    [10, 3],
    [100, 12_000],
  ] as const) {
    await server.sql(
      `insert into no_show (resource_id, starts_at, ends_at, noted_at)
       select $1, $2, $2, $2 from generate_series(1, $3)`,
      [place, at(days), count],
    );
    await server.sql(
      `insert into mail (sender_name, sender_email, recipient_name, recipient_email, subject, body_text,
                         body_html, created_at, sent_at)
       select '', 'a@b.example', '', 'c@d.example', '', '', '', $1::timestamptz,
              case when k > 1 then $1::timestamptz end
       from generate_series(1, 3) k`,
      [at(days)],
    );
    await server.sql(
      `insert into fact (at, kind, details) select $1, 'changed', '{}' from generate_series(1, 2)`,
      [at(days)],
    );
  }
  const count = async (table: string, days: number) =>
    (
      await server.sql<{ count: number }>(
        `select count(*)::int as count from ${table}
         where ${{ no_show: 'noted_at', mail: 'created_at', fact: 'at' }[table]} = $1`,
        [at(days)],
      )
    )[0]!.count;
  const keep = { ...USUAL_DAYS, no_show: 50, mail: 50, fact: 50 };
  const forgotten = await forgetOld(server.running.platform.pool, keep, now);
  expect(forgotten).toMatchObject({ no_show: 12_000, mail: 2 });
  expect(forgotten.fact).toBeGreaterThanOrEqual(2);
  // A letter that has not gone out is not forgotten.
  expect([await count('no_show', 100), await count('mail', 100), await count('fact', 100)]).toEqual(
    [0, 1, 0],
  );
  expect([await count('no_show', 10), await count('mail', 10), await count('fact', 10)]).toEqual([
    3, 3, 2,
  ]);
});

it('the setting says what it may name, and how long', () => {
  expect(readKeepDays(undefined)).toEqual(USUAL_DAYS);
  expect(readKeepDays(' mail=90, fact = 3650 ')).toMatchObject({
    mail: 90,
    fact: 3650,
    no_show: 730,
  });
  expect(() => readKeepDays('letters=90')).toThrow(/names "letters"; it may name .*mail/);
  for (const wrong of ['mail=0', 'mail=ever', 'mail', 'mail=40000', 'mail=-1', 'mail=1.5'])
    expect(() => readKeepDays(wrong)).toThrow(/must give mail a number of days from 1 to 36500/);
});

it('OPERATIONS lists them as they are', () => {
  const file = path.join(import.meta.dirname, '../../../docs/OPERATIONS.md');
  const text = readFileSync(file, 'utf8');
  const listed = /<!-- tables -->\n\n([\s\S]*?)\n\n<!-- end of tables -->/.exec(text);
  if (process.env.MARMOT_WRITE_DOCS && listed) {
    writeFileSync(file, text.replace(listed[0], listed[0].replace(listed[1]!, tablesInWords())));
    return;
  }
  expect(listed?.[1]).toBe(tablesInWords());
});
