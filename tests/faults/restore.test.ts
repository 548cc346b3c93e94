import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { expect, inject, it } from 'vitest';
import { ensurePostgres } from '../../scripts/lib/programs.mjs';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { Client } from '../support/client.ts';
import { ServerProcess, startProcess } from '../support/process.ts';
import { meetingRequest } from '../support/requests.ts';

/** How many rows each table has, and a sum over all that stands in them. */
async function contents(url: string) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const tables = await client.query<{ name: string }>(
    `select tablename as name from pg_tables where schemaname = 'public' order by 1`,
  );
  const found: Record<string, unknown> = {};
  for (const { name } of tables.rows) {
    const { rows } = await client.query(
      `select count(*) as count, sum(hashtext(t::text)::bigint) as sum from "${name}" t`,
    );
    found[name] = rows[0];
  }
  await client.end();
  return found;
}

it('what was dumped is restored with nothing missing, and serves', async () => {
  const bin = await ensurePostgres(() => undefined);
  const { server, database, end } = await startProcess();
  const folder = mkdtempSync(path.join(tmpdir(), 'marmot-dump-'));
  const file = path.join(folder, 'marmot.dump');
  const admin = new pg.Client({ connectionString: inject('adminUrl') });
  await admin.connect();
  const copy = `${new URL(database.url).pathname.slice(1)}_copy`;
  const copyUrl = database.url.replace(/\/[^/]+$/, `/${copy}`);
  let restored: ServerProcess | null = null;
  try {
    const ines = await Client.signIn(server.base, 'ines.aldabe');
    const made = await ines.post<EventDetail>('/api/events', meetingRequest({ title: 'Kept' }));
    await server.end('SIGTERM');
    const tool = (name: string, args: string[]) => {
      const run = spawnSync(path.join(bin, name), args, { encoding: 'utf8' });
      expect([run.status, run.stderr]).toEqual([0, '']);
    };
    // As docs/OPERATIONS.md says it is done.
    tool('pg_dump', ['-Fc', '-f', file, database.url]);
    await admin.query(`create database ${copy}`);
    tool('pg_restore', ['--no-owner', '--exit-on-error', '-d', copyUrl, file]);
    expect(await contents(copyUrl)).toEqual(await contents(database.url));

    restored = new ServerProcess(copyUrl);
    await restored.start();
    const again = await Client.signIn(restored.base, 'ines.aldabe');
    const { body } = await again.get<EventDetail>(`/api/events/${made.body.id}`);
    expect(body.title).toBe('Kept');
  } finally {
    await restored?.end();
    await admin.query(`drop database if exists ${copy} with (force)`);
    await admin.end();
    rmSync(folder, { recursive: true });
    await end();
  }
}, 90_000);
