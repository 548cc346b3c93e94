import type { Transaction } from '../db/transaction.ts';
import { CHANNEL, liveNotices } from './subjects.ts';

/**
 * Tells the browsers that show these subjects, on every server process, that they changed. It is
 * sent when the transaction commits, and not at all when it does not.
 */
export function announce(tx: Transaction, subjects: readonly string[]): void {
  tx.send('select pg_notify($1, notice) from unnest($2::text[]) as notice', [
    CHANNEL,
    liveNotices(subjects),
  ]);
}
