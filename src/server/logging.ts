import { sqlState } from './db/transaction.ts';
import { MOST_FRAMES } from './limits.ts';

/**
 * What of an error goes into the log: where it happened and which kind it is. What people wrote never does;
 * the database quotes it in its messages, and so does whatever could not read a text.
 */
export function errorForLog(error: unknown): Record<string, unknown> {
  if (!(error instanceof Error)) return { type: typeof error };
  const state = sqlState(error);
  const { constraint, table, column, routine, code } = error as unknown as Partial<
    Record<string, unknown>
  >;
  return {
    type: error.name,
    ...(state === undefined && !(error instanceof SyntaxError) && { message: error.message }),
    ...(code !== undefined && { code }),
    ...(constraint !== undefined && { constraint }),
    ...(table !== undefined && { table, column, routine }),
    stack: framesOf(error),
    ...(error.cause instanceof Error && { cause: errorForLog(error.cause) }),
  };
}

/** The places of a stack, without the message that stands above them. */
const framesOf = ({ stack = '' }: Error): string[] =>
  stack
    .split('\n')
    .filter((line) => line.trimStart().startsWith('at '))
    .slice(0, MOST_FRAMES)
    .map((line) => line.trim());
