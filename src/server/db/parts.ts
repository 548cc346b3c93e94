import type { QueryResultRow } from 'pg';
import type { Transaction } from './transaction.ts';

/**
 * What one capability adds to a statement that is sent once for all of them: asking the database costs more
 * than what it is asked to do.
 */
export interface StatementPart {
  /** Common table expressions, one after another; their names are no other part's. Values are numbered from $1. */
  text: string;
  values: readonly unknown[];
  /** What is read of it: an expression over its tables that gives JSON. */
  gives?: string;
}

/**
 * Sends parts as one statement. None of them sees what the others write; what refers to it is checked when all
 * of it is there.
 * @returns what is read of each, in their order; undefined where nothing is
 */
export async function sendTogether(
  tx: Transaction,
  parts: readonly StatementPart[],
): Promise<unknown[]> {
  const { text, values } = asOne(parts);
  const { rows } = await tx.query<QueryResultRow>(text, values);
  return parts.map((_, k) => rows[0]![`part${k}`] as unknown);
}

/** The same where nothing of them is read, and nobody waits for them. */
export function sendBehind(tx: Transaction, parts: readonly StatementPart[]): void {
  if (parts.length === 0) return;
  const { text, values } = asOne(parts);
  tx.send(text, values);
}

function asOne(parts: readonly StatementPart[]): { text: string; values: unknown[] } {
  const values: unknown[] = [];
  const texts = parts.map((part) => {
    const text = numberedFrom(part.text, values.length);
    values.push(...part.values);
    return text;
  });
  const read = parts.flatMap(({ gives }, k) => (gives ? [`${gives} as part${k}`] : []));
  return { text: `with ${texts.join(', ')} select ${read.join(', ') || '1'}`, values };
}

/** A part's text with its values numbered behind those before it, made once for each. */
const numbered = new Map<string, string[]>();

function numberedFrom(text: string, from: number): string {
  if (from === 0) return text;
  const made = numbered.get(text) ?? [];
  if (made.length === 0) numbered.set(text, made);
  return (made[from] ??= text.replace(/\$(\d+)/g, (_, k: string) => `$${Number(k) + from}`));
}
