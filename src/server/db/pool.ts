import { setTimeout as pause } from 'node:timers/promises';
import pg from 'pg';
import type { Logger } from 'pino';
import { isUnavailable } from './unavailable.ts';
import {
  CONNECT_MS,
  IDLE_IN_TRANSACTION_MS,
  LOCK_MS,
  LONGEST_PAUSE_MS,
  MOST_PREPARED,
  SILENCE_MS,
  STATEMENT_MS,
} from './limits.ts';

const OID = { int8: 20, timestamp: 1114, timestamptz: 1184 } as const;

/** Instants are read as epoch milliseconds, wall times as `YYYY-MM-DDTHH:mm`, counts as numbers. */
function typeParser(oid: number, format?: 'text' | 'binary') {
  if (oid === OID.timestamptz) return (text: string) => Date.parse(text);
  if (oid === OID.timestamp) return (text: string) => text.slice(0, 16).replace(' ', 'T');
  if (oid === OID.int8) return Number;
  return pg.types.getTypeParser(oid, format);
}

const names = new Map<string, string>();

/**
 * Stands before a statement that is planned each time it is asked, being put together of what was asked for: it
 * is kept under no name, so that questions in many ways do not use up the names of all others.
 */
export const EACH_TIME = '/* planned each time */ ';

/** The name of a statement; null where there are too many, which then are planned every time. */
function nameOf(text: string): string | null {
  const known = names.get(text);
  if (known) return known;
  if (names.size >= MOST_PREPARED || text.startsWith(EACH_TIME)) return null;
  const name = `m${names.size}`;
  names.set(text, name);
  return name;
}

/**
 * A connection that keeps the plans of its statements: reading and planning ours takes the database
 * longer than doing them. What is asked at the same moment is sent in one piece.
 */
class PreparingClient extends pg.Client {
  private isHeld = false;

  // The library's own signatures are many; only statements as text with values are looked at.
  override query = ((...given: unknown[]) => {
    const [text, values, ...rest] = given;
    const name = typeof text === 'string' && Array.isArray(values) ? nameOf(text) : null;
    const asked = name ? [{ name, text, values }, ...rest] : given;
    this.holdUntilAllIsAsked();
    return (super.query as (...all: unknown[]) => unknown)(...asked);
  }) as pg.Client['query'];

  private holdUntilAllIsAsked() {
    if (this.isHeld) return;
    const { stream } = this.connection;
    this.isHeld = true;
    stream.cork();
    process.nextTick(() => {
      this.isHeld = false;
      stream.uncork();
    });
  }
}

/**
 * A pool of connections to the database. A connection that is lost, in use or not, is one request's
 * trouble and never the process's.
 * @param size the most connections; every transaction holds one
 */
export function createPool(connectionString: string, log: Logger, size = 16): pg.Pool {
  const pool = new pg.Pool({
    Client: PreparingClient,
    // A statement is sent without waiting for the answer to the one before.
    pipeline: true,
    connectionString,
    max: size,
    types: { getTypeParser: typeParser as typeof pg.types.getTypeParser },
    application_name: 'marmot',
    // Read here as UTC, so that text forms of instants are the same everywhere. Compiling a statement
    // takes the database a second and more, which none of ours takes to be done.
    options: '-c TimeZone=UTC -c plan_cache_mode=force_generic_plan -c jit=off',
    connectionTimeoutMillis: CONNECT_MS,
    statement_timeout: STATEMENT_MS,
    lock_timeout: LOCK_MS,
    idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
    query_timeout: SILENCE_MS,
    keepAlive: true,
  });
  // Whoever uses it is told by the statement that fails; without a listener the process would end.
  pool.on('connect', (client) => {
    client.on('error', (error) => log.warn({ error }, 'a connection was lost'));
  });
  pool.on('error', () => undefined);
  return pool;
}

/**
 * Waits for a database that is starting or recovering, and says so.
 * @param mostMs after so long its last error is thrown
 */
export async function untilAvailable(
  pool: pg.Pool,
  log: Logger,
  mostMs = Number.POSITIVE_INFINITY,
): Promise<void> {
  const began = Date.now();
  for (let tries = 0; ; tries++) {
    try {
      await pool.query('select 1');
      return;
    } catch (error) {
      if (!isUnavailable(error) || Date.now() - began > mostMs) throw error;
      log.warn({ why: (error as Error).message }, 'the database does not answer yet; waiting');
      await pause(Math.min(250 * 2 ** tries, LONGEST_PAUSE_MS));
    }
  }
}
