import pg from 'pg';
import { vi } from 'vitest';

/** The statement, given as text or with a name. */
const textOf = (asked: unknown): string =>
  typeof asked === 'object' && asked !== null && 'text' in asked
    ? String(asked.text)
    : String(asked);

/** The different statements that some work sends, beginnings and ends of transactions left out. */
export async function statementsOf(work: () => Promise<unknown>): Promise<string[]> {
  const spy = vi.spyOn(pg.Client.prototype, 'query');
  try {
    await work();
    const sent = spy.mock.calls.map(([asked]) => textOf(asked));
    return [...new Set(sent)].filter((text) =>
      /^\s*(select|with|update|delete|insert)\b/i.test(text),
    );
  } finally {
    spy.mockRestore();
  }
}
