import { setTimeout as pause } from 'node:timers/promises';
import type { Pool, PoolClient, QueryResult, QueryResultRow } from 'pg';

/** Where SQL can be sent: the pool for a single read, a transaction for everything that writes. */
export interface Database {
  query<Row extends QueryResultRow>(text: string, values?: unknown[]): Promise<QueryResult<Row>>;
}

declare const insideTransaction: unique symbol;

/** A database within a transaction; functions that write ask for this one. */
export interface Transaction extends Database {
  readonly [insideTransaction]?: true;
}

const SERIALIZATION_FAILURE = '40001';
const DEADLOCK = '40P01';
const MOST_TRIES = 4;

export const sqlState = (error: unknown): string | undefined =>
  error instanceof Error && 'code' in error ? String(error.code) : undefined;

/**
 * Runs `work` in one transaction: all of it is kept, or, when it throws, nothing.
 * Work that lost a deadlock is run again from its beginning, so it must have no effect
 * outside the database.
 */
export async function transaction<T>(
  pool: Pool,
  work: (tx: Transaction) => Promise<T>,
): Promise<T> {
  for (let tries = 1; ; tries++) {
    const client = await pool.connect();
    try {
      await client.query('begin');
      const result = await work(client);
      await client.query('commit');
      client.release();
      return result;
    } catch (error) {
      await rollBack(client);
      const state = sqlState(error);
      if ((state !== DEADLOCK && state !== SERIALIZATION_FAILURE) || tries === MOST_TRIES)
        throw error;
      await pause(Math.random() * 20 * tries);
    }
  }
}

async function rollBack(client: PoolClient) {
  try {
    await client.query('rollback');
    client.release();
  } catch (error) {
    // The connection is lost; the pool must not hand it out again.
    client.release(error instanceof Error ? error : true);
  }
}
