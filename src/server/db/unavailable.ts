/** What the operating system says of a connection that cannot be made, or is lost. */
const SYSTEM = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  'EAI_AGAIN',
]);

/**
 * What PostgreSQL says when it is away, starting, recovering, full or ending a session, and when a
 * statement took longer, or waited longer for a lock, than it may (appendix A of its manual); and that a
 * plan which a connection kept is stale, with which the connection goes.
 */
const STATES = new Set([
  '53300',
  '57P01',
  '57P02',
  '57P03',
  '57P05',
  '25P03',
  '57014',
  '55P03',
  '0A000',
]);
const CONNECTION_CLASS = '08';

/** What node-postgres itself says, which gives these no code. */
const WORDS =
  /^(Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error|Query read timeout|Client was closed|Cannot use a pool after)/;

/** Whether something failed because the database is away or overwhelmed, and may do well in a moment. */
export function isUnavailable(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const code = 'code' in error ? String(error.code) : '';
  if (error instanceof AggregateError && error.errors.some(isUnavailable)) return true;
  return (
    SYSTEM.has(code) ||
    STATES.has(code) ||
    (code.length === 5 && code.startsWith(CONNECTION_CLASS)) ||
    WORDS.test(error.message)
  );
}
