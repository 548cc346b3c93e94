import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { expect, inject, it } from 'vitest';
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

async function sqlOf(url: string, text: string): Promise<object[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query<object>(text);
  await client.end();
  return rows;
}

it('what was dumped is restored with nothing missing, and serves', async () => {
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
    // As docs/OPERATIONS.md says it is done.
    const script = (name: string, url: string) =>
      spawnSync(process.execPath, [`scripts/${name}.mjs`, file], {
        encoding: 'utf8',
        env: { ...process.env, MARMOT_DATABASE_URL: url },
      });
    const written = script('backup', database.url);
    expect([written.status, written.stderr]).toEqual([0, '']);
    expect(written.stdout).toContain('read back');
    expect(statSync(file).mode & 0o777).toBe(0o600);
    await admin.query(`create database ${copy}`);
    // What was written down afterwards of when it was is not in it.
    const wasSaid = `delete from setting where key = 'last-backup' returning value`;
    expect((await sqlOf(database.url, wasSaid))[0]).toMatchObject({ value: { file } });
    const put = script('restore', copyUrl);
    expect([put.status, put.stderr]).toEqual([0, '']);
    const twice = script('restore', copyUrl);
    expect(twice.status).toBe(1);
    expect(twice.stderr).toContain('Nothing was changed');
    writeFileSync(file, readFileSync(file).subarray(0, 20_000));
    const broken = script('restore', copyUrl);
    expect(broken.status).toBe(1);
    expect(broken.stderr).toMatch(/cannot be read|no backup/);
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
