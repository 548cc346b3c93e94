import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { inject } from 'vitest';

export interface TestDatabase {
  url: string;
  drop(): Promise<void>;
}

async function admin(sql: string) {
  const client = new pg.Client({ connectionString: inject('adminUrl') });
  await client.connect();
  try {
    await client.query(sql);
  } finally {
    await client.end();
  }
}

/** A database of its own, copied from the template with the demonstration in it. */
export async function createTestDatabase(): Promise<TestDatabase> {
  const name = `test_${randomBytes(6).toString('hex')}`;
  await admin(`create database ${name} template ${inject('template')}`);
  return {
    url: inject('adminUrl').replace(/\/postgres$/, `/${name}`),
    drop: () => admin(`drop database ${name} with (force)`),
  };
}
