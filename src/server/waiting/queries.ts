import type { Waited, WaitRequest } from '../../contract/waiting.ts';
import type { Waiter } from '../../core/booking/waiting.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** Somebody who waits, as the clock looks at them. */
export interface Waiting extends Waiter {
  personId: number;
  place: string;
  title: string;
  wants: Waited['wants'];
  eventId: string | null;
  offeredUntil: number | null;
}

const WAITING_SQL = `
  select waiting.id, waiting.resource_id as "placeId", waiting.person_id as "personId",
         subject.name as place, starts_at as start, ends_at as "end", title, wants,
         asked_at as "askedAt", event_id as "eventId", offered_until as "offeredUntil"
  from waiting join subject on subject.id = waiting.resource_id`;

/** Those who wait, whoever asked first, first. */
export async function readWaiting(db: Database, most: number): Promise<Waiting[]> {
  const { rows } = await db.query<Waiting>(
    `${WAITING_SQL} order by asked_at, waiting.id limit $1`,
    [most],
  );
  return rows;
}

/** One that waits, held until the transaction ends; null where it is gone. */
export async function lockWaiting(tx: Transaction, id: number): Promise<Waiting | null> {
  const { rows } = await tx.query<Waiting>(
    `${WAITING_SQL} where waiting.id = $1 for update of waiting`,
    [id],
  );
  return rows[0] ?? null;
}

/** What somebody waits for, by when it is. */
export async function readWaited(db: Database, personId: number): Promise<Waited[]> {
  const { rows } = await db.query<Waited>(
    `select waiting.id, waiting.resource_id as "placeId", subject.name as place, site.name as site,
            site.zone, waiting.starts_at as start, waiting.ends_at as "end", waiting.title,
            waiting.wants, waiting.offered_until as "offeredUntil", waiting.event_id as "eventId",
            (select count(*)::int from waiting other
             where other.resource_id = waiting.resource_id and other.person_id <> $1
               and (other.asked_at, other.id) < (waiting.asked_at, waiting.id)
               and other.starts_at < waiting.ends_at and other.ends_at > waiting.starts_at) as before
     from waiting
     join subject on subject.id = waiting.resource_id
     join resource on resource.subject_id = waiting.resource_id
     join site on site.id = resource.site_id
     where waiting.person_id = $1
     order by waiting.starts_at, waiting.id`,
    [personId],
  );
  return rows;
}

/** @returns its id; null where they wait for just that already */
export async function insertWaiting(
  tx: Transaction,
  personId: number,
  { placeId, start, end, title = '', wants }: WaitRequest & Interval,
  now: number,
): Promise<number | null> {
  const { rows } = await tx.query<{ id: number }>(
    `insert into waiting (resource_id, person_id, starts_at, ends_at, title, wants, asked_at)
     values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing returning id`,
    [placeId, personId, new Date(start), new Date(end), title, wants, new Date(now)],
  );
  return rows[0]?.id ?? null;
}

/** Keeps what holds a time for whoever waited for it, and until when. */
export function keepOffer(tx: Transaction, id: number, eventId: string, until: number): void {
  tx.send('update waiting set event_id = $2, offered_until = $3 where id = $1', [
    id,
    eventId,
    new Date(until),
  ]);
}

export function deleteWaiting(tx: Transaction, id: number): void {
  tx.send('delete from waiting where id = $1', [id]);
}

/** What somebody waited for. */
export interface WaitingRow extends Interval {
  personId: number;
  placeId: number;
  title: string;
  wants: Waited['wants'];
  askedAt: number;
}

/** Lets somebody wait for nothing any more. @returns what they waited for */
export async function dropWaiting(tx: Transaction, personId: number): Promise<WaitingRow[]> {
  const { rows } = await tx.query<WaitingRow>(
    `delete from waiting where person_id = $1
     returning person_id as "personId", resource_id as "placeId", starts_at as start, ends_at as "end",
               title, wants, asked_at as "askedAt"`,
    [personId],
  );
  return rows;
}

/** Lets people wait again, behind nobody who asked after them, for what is still to come. */
export function putWaiting(tx: Transaction, rows: readonly WaitingRow[], now: number): void {
  if (rows.length === 0) return;
  tx.send(
    `insert into waiting (person_id, resource_id, starts_at, ends_at, title, wants, asked_at)
     select "personId", "placeId", to_timestamp(start / 1000), to_timestamp("end" / 1000), title, wants,
            to_timestamp("askedAt" / 1000)
     from jsonb_to_recordset($1) as back ("personId" int, "placeId" int, start float8, "end" float8, title text,
                                          wants text, "askedAt" float8)
     where to_timestamp("end" / 1000) > $2
     on conflict do nothing`,
    [JSON.stringify(rows), new Date(now)],
  );
}
