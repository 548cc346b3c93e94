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
/** A plan that a connection kept does not fit the tables any more, which a newer server brought up to date. */
const STALE_PLAN = '0A000';
/** How often work is tried that failed so. Of stale plans every connection of the pool may have one. */
const MOST_TRIES: Record<string, number> = {
  [DEADLOCK]: 4,
  [SERIALIZATION_FAILURE]: 4,
  [STALE_PLAN]: 32,
};

export const sqlState = (error: unknown): string | undefined =>
  error instanceof Error && 'code' in error ? String(error.code) : undefined;

/**
 * Runs `work` in one transaction: all of it is kept, or, when it throws, nothing.
 * Work that lost a deadlock, or met a plan that is stale, is run again from its beginning, so it must
 * have no effect outside the database.
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
      const state = sqlState(error) ?? '';
      await rollBack(client, state === STALE_PLAN);
      if (tries >= (MOST_TRIES[state] ?? 0)) throw error;
      // The connection is gone, and with it the reason.
      if (state === STALE_PLAN) continue;
      await pause(Math.random() * 20 * tries);
    }
  }
}

/** @param isSpent whether the connection is of no more use */
async function rollBack(client: PoolClient, isSpent: boolean) {
  try {
    await client.query('rollback');
    client.release(isSpent);
  } catch (error) {
    // The connection is lost; the pool must not hand it out again.
    client.release(error instanceof Error ? error : true);
  }
}
