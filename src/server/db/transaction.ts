import { setTimeout as pause } from 'node:timers/promises';
import type { Pool, PoolClient, QueryResult, QueryResultRow } from 'pg';

/** Where SQL can be sent: the pool for a single read, a transaction for everything that writes. */
export interface Database {
  query<Row extends QueryResultRow>(text: string, values?: unknown[]): Promise<QueryResult<Row>>;
}

/** A database within a transaction; functions that write ask for this one. */
export interface Transaction extends Database {
  /**
   * Sends a statement of which nothing is read, without waiting for it: what follows is sent behind it,
   * and waiting for the database is what most of an action's time goes into. When it fails, so does the
   * transaction.
   */
  send(text: string, values?: unknown[]): void;
}

/**
 * Runs a part of a transaction of which nothing is kept where it throws, so that the rest can go on: a letter that
 * is refused is kept all the same.
 */
export const inPart = <T>(tx: Transaction, work: () => Promise<T>): Promise<T> =>
  tx instanceof OpenTransaction ? tx.part(work) : work();

/** Whether something is a transaction, within which what was read can be kept. */
export const isTransaction = (db: Database): boolean => db instanceof OpenTransaction;

const SERIALIZATION_FAILURE = '40001';
const DEADLOCK = '40P01';
/** What every statement is answered that comes after one that failed. */
const ABORTED = '25P02';
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

/** Transactions that were tried again, by why, since this process began. */
export const retries: Record<'deadlock' | 'serialization' | 'stale-plan', number> = {
  deadlock: 0,
  serialization: 0,
  'stale-plan': 0,
};
const WHY: Record<string, keyof typeof retries> = {
  [DEADLOCK]: 'deadlock',
  [SERIALIZATION_FAILURE]: 'serialization',
  [STALE_PLAN]: 'stale-plan',
};

class OpenTransaction implements Transaction {
  private readonly sent: Promise<unknown>[] = [];
  private isOver = false;

  constructor(private readonly client: PoolClient) {}

  async query<Row extends QueryResultRow>(
    text: string,
    values?: unknown[],
  ): Promise<QueryResult<Row>> {
    // What works on while its transaction has failed would write by itself, or into another's.
    if (this.isOver) throw new Error('the transaction is over');
    return this.client.query<Row>(text, values);
  }

  /** Takes no statement any more: the connection is another's from here on. */
  end(): void {
    this.isOver = true;
  }

  send(text: string, values?: unknown[]): void {
    const answer = this.query(text, values);
    // It is looked at in the end.
    answer.catch(() => undefined);
    this.sent.push(answer);
  }

  /**
   * Runs a part of this transaction of which nothing is kept where it throws, so that the rest can go on. What
   * throws because a statement failed takes the whole transaction with it all the same.
   */
  async part<T>(work: () => Promise<T>): Promise<T> {
    this.send('savepoint part');
    try {
      const result = await work();
      this.send('release savepoint part');
      return result;
    } catch (error) {
      this.send('rollback to savepoint part');
      throw error;
    }
  }

  /** @throws the first failure of a statement that was sent, which the others only follow */
  async allSent(): Promise<void> {
    const answers = await Promise.allSettled(this.sent);
    const failed = answers.find((answer) => answer.status === 'rejected');
    if (failed) throw failed.reason;
  }

  /** @throws the first failure of any statement; then nothing is kept */
  async commit(): Promise<void> {
    const ended = this.client.query('commit');
    // Where a statement failed, this does too, and its failure is of no interest.
    ended.catch(() => undefined);
    await this.allSent();
    if ((await ended).command !== 'COMMIT') throw new Error('the transaction was not committed');
  }

  /** Why something failed: the statement that did so, and not that others could follow it no more. */
  async causeOf(error: unknown): Promise<unknown> {
    if (sqlState(error) !== ABORTED) return error;
    return this.allSent().then(
      () => error,
      (cause: unknown) => cause,
    );
  }
}

/**
 * Runs `work` in one transaction: all of it is kept, or, when it throws, nothing.
 * Work that lost a deadlock, or met a plan that is stale, is run again from its beginning, so it must
 * have no effect outside the database.
 */
export async function transaction<T>(
  pool: Pool,
  work: (tx: Transaction) => T | Promise<T>,
): Promise<T> {
  for (let tries = 1; ; tries++) {
    const client = await pool.connect();
    const tx = new OpenTransaction(client);
    try {
      tx.send('begin');
      const result = await work(tx);
      await tx.commit();
      tx.end();
      client.release();
      return result;
    } catch (failure) {
      tx.end();
      const error = await tx.causeOf(failure);
      const state = sqlState(error) ?? '';
      await rollBack(client, state === STALE_PLAN);
      if (WHY[state]) retries[WHY[state]]++;
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
