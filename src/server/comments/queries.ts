import type { Belonging } from '../events/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** Where what follows of a series goes its own way, what was said goes along. */
export const commentBelonging: Belonging = {
  table: 'comment',
  columns: ['author_id', 'words', 'mentions', 'at', 'changed_at', 'removed_at'],
  identity: ['author_id', 'at', 'words'],
};

export interface StoredComment {
  id: number;
  authorId: number;
  author: string;
  words: string;
  mentions: string[];
  at: number;
  changedAt: number | null;
  removed: boolean;
}

const COMMENT_SQL = `
  select comment.id, comment.author_id as "authorId", subject.name as author, comment.words,
         array(select name from subject spoken where spoken.id = any(comment.mentions) order by name)
           as mentions,
         comment.at, comment.changed_at as "changedAt", comment.removed_at is not null as removed
  from comment join subject on subject.id = comment.author_id`;

export async function readComments(db: Database, eventId: string): Promise<StoredComment[]> {
  const { rows } = await db.query<StoredComment>(
    `${COMMENT_SQL} where comment.event_id = $1 and comment.removed_at is null order by comment.id`,
    [eventId],
  );
  return rows;
}

/** One of them, be it removed; null when there is none. */
export async function readComment(
  db: Database,
  eventId: string,
  id: number,
): Promise<StoredComment | null> {
  const { rows } = await db.query<StoredComment>(
    `${COMMENT_SQL} where comment.event_id = $1 and comment.id = $2`,
    [eventId, id],
  );
  return rows[0] ?? null;
}

/** How many there are, those that were removed among them. */
export async function countComments(db: Database, eventId: string): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    'select count(*) from comment where event_id = $1',
    [eventId],
  );
  return Number(rows[0]!.count);
}

/** @returns its number */
export async function insertComment(
  tx: Transaction,
  eventId: string,
  authorId: number,
  { words, mentions }: { words: string; mentions: readonly number[] },
  now: number,
): Promise<number> {
  const { rows } = await tx.query<{ id: number }>(
    `insert into comment (event_id, author_id, words, mentions, at)
     values ($1, $2, $3, $4, $5) returning id`,
    [eventId, authorId, words, mentions, new Date(now)],
  );
  return rows[0]!.id;
}

export function changeComment(tx: Transaction, id: number, words: string, now: number): void {
  tx.send('update comment set words = $2, changed_at = $3 where id = $1', [
    id,
    words,
    new Date(now),
  ]);
}

/** @param removedAt null brings it back. Epoch milliseconds. */
export function markRemoved(tx: Transaction, id: number, removedAt: number | null): void {
  tx.send('update comment set removed_at = $2 where id = $1', [
    id,
    removedAt === null ? null : new Date(removedAt),
  ]);
}
