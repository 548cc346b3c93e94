import type { Keeping } from '../../contract/keeping.ts';
import { DAY } from '../../core/time/interval.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { replacing, type NamedIn, type Patterns } from './names.ts';
import { AGED, type Aged, type KeepDays } from './tables.ts';
import { MOST_STATEMENTS_A_RUN, ROWS_FORGOTTEN_AT_ONCE } from './limits.ts';

const statementOf = ({ name, since, only }: Aged): string =>
  `delete from ${name} where ctid = any(array(
     select ctid from ${name} where ${since} < $1${only ? ` and ${only}` : ''}
     order by ${since} limit ${ROWS_FORGOTTEN_AT_ONCE}))`;

/**
 * Forgets what is older than it is kept, a part at a time.
 * @returns how many rows of each table
 */
export async function forgetOld(
  db: Database,
  keep: KeepDays,
  now: number,
  signal?: AbortSignal,
): Promise<Partial<Record<Aged['name'], number>>> {
  const forgotten: Partial<Record<Aged['name'], number>> = {};
  for (const aged of AGED) {
    const before = new Date(now - keep[aged.name] * DAY);
    for (let run = 0; run < MOST_STATEMENTS_A_RUN && !signal?.aborted; run++) {
      const { rowCount } = await db.query(statementOf(aged), [before]);
      if (rowCount) forgotten[aged.name] = (forgotten[aged.name] ?? 0) + rowCount;
      if ((rowCount ?? 0) < ROWS_FORGOTTEN_AT_ONCE) break;
    }
  }
  return forgotten;
}

/** Somebody who is to be forgotten. */
export interface Remembered {
  name: string;
  email: string;
  /** Whether somebody else is called the same. */
  hasNamesake: boolean;
}

export async function readRemembered(db: Database, id: number): Promise<Remembered | null> {
  const { rows } = await db.query<Remembered>(
    `select subject.name, person.email,
            exists (select from subject other where lower(other.name) = lower(subject.name)
                      and other.id <> subject.id) as "hasNamesake"
     from person join subject on subject.id = person.subject_id
     where subject.id = $1 and person.forget_at is not null and person.account = 'ended'`,
    [id],
  );
  return rows[0] ?? null;
}

/** Puts a text in the place of another in a part of a table. @returns in how many rows */
export async function replaceIn(
  db: Database,
  where: NamedIn,
  { json, text }: Patterns,
  to: string,
): Promise<number> {
  const { rowCount } = await db.query(replacing(where), [json, text, to, ROWS_FORGOTTEN_AT_ONCE]);
  return rowCount ?? 0;
}

/** Lets go what an entry of somebody says of them, and what could bring it back. */
export function anonymize(tx: Transaction, id: number, name: string, address: string): void {
  tx.send(
    `with called as (update subject set name = $2 where id = $1),
          keys as (delete from passkey where person_id = $1),
          vouched as (delete from provider_identity where person_id = $1),
          browsers as (delete from device where person_id = $1),
          undo as (delete from revision where thing = 'person' and thing_id = $1)
     update person set email = $3, job_title = '', account = 'removed', password_hash = null, external_id = null,
                       user_name = null, is_unlisted = true, forget_at = null, version = version + 1
     where subject_id = $1`,
    [id, name, address],
  );
}

const KEEPING = 'keeping';

export async function readKeepingSetting(db: Database): Promise<Partial<Keeping>> {
  const { rows } = await db.query<{ value: Partial<Keeping> }>(
    'select value from setting where key = $1',
    [KEEPING],
  );
  return rows[0]?.value ?? {};
}

export function writeKeepingSetting(tx: Transaction, keeping: Keeping): void {
  tx.send(
    `insert into setting (key, value) values ($1, $2)
     on conflict (key) do update set value = excluded.value`,
    [KEEPING, JSON.stringify(keeping)],
  );
}

/** What is past: what has no date that ends later, nor one to come that is not laid out yet, and was let alone since. */
const FORGET_PAST = `
  delete from event where id = any(array(
    select id from event
    where updated_at < $1 and (rule is null or is_laid_out_whole)
      and exists (select from occurrence where event_id = event.id)
      and not exists (select from occurrence where event_id = event.id and ends_at >= $1)
    limit ${ROWS_FORGOTTEN_AT_ONCE}))`;
const FORGET_COMMENTS = `
  delete from comment where id = any(array(
    select id from comment where at < $1 limit ${ROWS_FORGOTTEN_AT_ONCE}))`;

/**
 * Forgets meetings and bookings that are past, and what was said about any, a part at a time.
 * @param before epoch milliseconds; null where it is kept for ever
 */
export async function forgetPast(
  db: Database,
  { past, comments }: { past: number | null; comments: number | null },
  signal?: AbortSignal,
): Promise<void> {
  for (const [statement, before] of [
    [FORGET_PAST, past],
    [FORGET_COMMENTS, comments],
  ] as const) {
    if (before === null) continue;
    for (let run = 0; run < MOST_STATEMENTS_A_RUN && !signal?.aborted; run++) {
      const { rowCount } = await db.query(statement, [new Date(before)]);
      if ((rowCount ?? 0) < ROWS_FORGOTTEN_AT_ONCE) break;
    }
  }
}
