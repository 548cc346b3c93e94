import { MOST_FAILED_LETTERS } from '../../contract/limits.ts';
import type { FailedLetter } from '../../contract/running.ts';
import { addressKey } from '../../core/mailAddress.ts';
import type { ItipMethod } from '../../core/icalendar/message.ts';
import { isoInstant } from '../db/json.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { MOST_HOLDS } from './limits.ts';

export interface OutgoingMail {
  eventId: string | null;
  /** The attendee who is written to; null where it is somebody else. */
  attendeeId: number | null;
  from: { name: string; email: string };
  to: { name: string; email: string };
  subject: string;
  text: string;
  html: string;
  calendar: { method: ItipMethod; content: string } | null;
  /** What it tells of a meeting and of which version, where it may be taken back before it leaves. */
  tells?: { occasion: string; version: number };
  /** What it is for, where that is no meeting, and to whom of here. */
  purpose?: { kind: 'welcome' | 'password' | 'trial'; personId: number };
  /** What only its receiver reads, which stands in its texts as `SECRET`; kept until the letter has left. */
  secret?: string;
  /** Of which meeting it tells, and what its receiver last heard, where it is written anew before it leaves. */
  held?: {
    eventId: string;
    beforeVersion: number | null;
    said: string;
    /** Since when letters are held for them, epoch milliseconds; not for ever, however often it changes. */
    since: number;
  };
}

/** What stands in a letter that is kept, where its receiver reads something that nobody else is to know. */
export const SECRET = 'kept-by-nobody';

/** The kind of job that delivers a mail; its key is the mail's id. */
export const LETTER_JOB = 'letter';

/** The setting by which letters leave: that somebody saw one arrive, and when. */
const LETTERS_ARRIVE = 'letters-arrive';

/** When somebody saw a letter arrive, epoch milliseconds; null where nobody did, and letters wait. */
export async function lettersArriveSince(db: Database): Promise<number | null> {
  const { rows } = await db.query<{ value: number }>('select value from setting where key = $1', [
    LETTERS_ARRIVE,
  ]);
  return rows[0]?.value ?? null;
}

/** Notes that letters arrive, and lets go those that waited for it. @returns how many */
export async function letLettersLeave(tx: Transaction, now: number): Promise<number> {
  const { rowCount } = await tx.query(
    `with noted as (
       insert into setting (key, value) values ($1, $2) on conflict (key) do nothing returning key
     )
     insert into job (kind, key)
     select '${LETTER_JOB}', mail.id::text from noted cross join mail
     where sent_at is null and failed_at is null
       and not exists (select from job where kind = '${LETTER_JOB}' and job.key = mail.id::text)
     order by number`,
    [LETTERS_ARRIVE, JSON.stringify(now)],
  );
  return rowCount ?? 0;
}

/**
 * Puts mails into the outbox, each with the job that delivers it: one statement for all.
 * @param holdSeconds so long they are held back
 */
export function insertMails(
  tx: Transaction,
  mails: readonly OutgoingMail[],
  now: number,
  holdSeconds = 0,
): void {
  const rows = mails.map((mail) => ({
    event_id: mail.eventId,
    attendee_id: mail.attendeeId,
    sender_name: mail.from.name,
    sender_email: mail.from.email,
    recipient_name: mail.to.name,
    recipient_email: mail.to.email,
    subject: mail.subject,
    body_text: mail.text,
    body_html: mail.html,
    calendar: mail.calendar?.content ?? null,
    method: mail.calendar?.method ?? null,
    occasion: mail.tells?.occasion ?? null,
    version: mail.tells?.version ?? null,
    held_of: mail.held?.eventId ?? null,
    before_version: mail.held?.beforeVersion ?? null,
    said: mail.held?.said ?? '',
    held_since: isoInstant(mail.held ? mail.held.since : null),
    secret: mail.secret ?? null,
    purpose: mail.purpose?.kind ?? null,
    person_id: mail.purpose?.personId ?? null,
  }));
  tx.send(
    `with posted as (
       insert into mail (event_id, attendee_id, sender_name, sender_email, recipient_name,
                         recipient_email, subject, body_text, body_html, calendar, method, occasion,
                         version, held_of, before_version, said, held_since, secret, purpose, person_id,
                         created_at)
       select new.*, $2 from jsonb_to_recordset($1) as new (
         event_id uuid, attendee_id bigint, sender_name text, sender_email text,
         recipient_name text, recipient_email text, subject text, body_text text, body_html text,
         calendar text, method text, occasion text, version int, held_of uuid, before_version int,
         said text, held_since timestamptz, secret text, purpose text, person_id int)
       returning id, number, held_since, purpose
     )
     insert into job (kind, key, due_at)
     select '${LETTER_JOB}', id::text,
            -- What changes again and again does not hold a letter for ever.
            now() + make_interval(secs => greatest(0, least($3::float8,
              $3::float8 * ${MOST_HOLDS} - extract(epoch from $2::timestamptz - coalesce(held_since, $2)))))
              -- Jobs are taken by when they are due: letters in the order in which they were written.
              + row_number() over (order by number) * interval '1 microsecond'
     from posted
     -- Before somebody has seen that letters arrive, all others wait.
     where purpose in ('trial', 'password') or exists (select from setting where key = '${LETTERS_ARRIVE}')`,
    [JSON.stringify(rows), new Date(now), holdSeconds],
  );
}

/** A letter that was taken back before it left. */
export interface Withdrawn {
  eventId: string;
  /** Of whoever it was to, in lower case. */
  email: string;
  /** Whether it would have been the first that they heard of the meeting. */
  isFirst: boolean;
}

/** Which letters about a meeting: of one version alone, to some people alone, from somebody; else all. */
export interface Withdrawal {
  eventId: string;
  version?: number | undefined;
  emails?: readonly string[] | undefined;
  from?: string | undefined;
}

/**
 * Takes back letters that are still held back: none of them is being sent, and none will be. One statement,
 * however many meetings they are about.
 * @returns each that was taken back, once, in the order of `which` where it was asked for by several
 */
export async function withdrawLetters(
  tx: Transaction,
  which: readonly Withdrawal[],
): Promise<Withdrawn[]> {
  if (which.length === 0) return [];
  const rows = which.map(({ eventId, version, emails, from }) => ({
    event_id: eventId,
    version: version ?? null,
    emails: emails?.map((email) => addressKey(email)) ?? null,
    sender: from === undefined ? null : addressKey(from),
  }));
  const { rows: found } = await tx.query<Withdrawn>(
    `with asked as materialized (
       select * from jsonb_to_recordset($1) as asked (event_id uuid, version int, emails text[], sender text)
     ), freed as (
       delete from job using mail
       where job.kind = '${LETTER_JOB}' and job.key = mail.id::text
         and job.due_at > now() and job.leased_until is null
         and mail.event_id = any($2::uuid[]) and mail.sent_at is null and mail.failed_at is null
         and mail.occasion is not null
         and exists (select 1 from asked
                     where asked.event_id = mail.event_id
                       and (asked.version is null or asked.version = mail.version)
                       and (asked.emails is null or lower(mail.recipient_email) = any(asked.emails))
                       and (asked.sender is null or lower(mail.sender_email) = asked.sender))
       returning mail.id, mail.event_id, lower(mail.recipient_email) as email
     ), gone as (
       delete from mail using freed where mail.id = freed.id
     )
     select distinct event_id as "eventId", email,
            not exists (select 1 from mail
                        where mail.event_id = freed.event_id
                          and lower(recipient_email) = freed.email
                          and occasion is not null and id not in (select id from freed))
              as "isFirst"
     from freed`,
    [JSON.stringify(rows), [...new Set(which.map((one) => one.eventId))]],
  );
  return found;
}

/** A letter that was held, and is taken back to be written anew. */
export interface TakenLetter {
  eventId: string;
  /** Of whoever it was to, in lower case. */
  email: string;
  occasion: string;
  version: number;
  /** The version of which they last heard; null where they never did. */
  beforeVersion: number | null;
  said: string;
  /** Since when something is held for them, epoch milliseconds. */
  since: number;
}

/**
 * Takes back all held letters about meetings that tell what became of them, in the order in which they were written.
 * One that is being sent just now is not among them.
 */
export async function takeHeldLetters(
  tx: Transaction,
  eventIds: readonly string[],
): Promise<TakenLetter[]> {
  if (eventIds.length === 0) return [];
  const { rows } = await tx.query<TakenLetter>(
    `with freed as (
       delete from job using mail
       where job.kind = '${LETTER_JOB}' and job.key = mail.id::text
         and job.due_at > now() and job.leased_until is null
         and mail.held_of = any($1::uuid[]) and mail.sent_at is null and mail.failed_at is null
       returning mail.id
     ), gone as (
       delete from mail using freed where mail.id = freed.id
       returning mail.number, mail.held_of, lower(mail.recipient_email) as email, mail.occasion,
                 mail.version, mail.before_version, mail.said, mail.held_since
     )
     select held_of as "eventId", email, occasion, version,
            before_version as "beforeVersion", said, held_since as since
     from gone order by number`,
    [eventIds],
  );
  return rows;
}

/** Whether a mail on an occasion was written about a meeting since an instant. */
export async function wasWritten(
  db: Database,
  eventId: string,
  occasion: string,
  since: number,
): Promise<boolean> {
  const { rowCount } = await db.query(
    'select 1 from mail where event_id = $1 and occasion = $2 and created_at > $3 limit 1',
    [eventId, occasion, new Date(since)],
  );
  return rowCount === 1;
}

/** How many mails each of some senders sent to people who are not here, since an instant; by their address. */
export async function countSentOutside(
  db: Database,
  senders: readonly string[],
  since: number,
): Promise<Map<string, number>> {
  const { rows } = await db.query<{ sender: string; count: number }>(
    `select sender_email as sender, count(*)::int as count from mail
     where sender_email = any($1) and created_at > $2
       and not exists (select from person where lower(person.email) = lower(recipient_email))
     group by sender_email`,
    [senders, new Date(since)],
  );
  return new Map(rows.map((row) => [row.sender, row.count]));
}

interface MailRow {
  id: string;
  event_id: string | null;
  attendee_id: number | null;
  sender_name: string;
  sender_email: string;
  recipient_name: string;
  recipient_email: string;
  subject: string;
  body_text: string;
  body_html: string;
  calendar: string | null;
  method: ItipMethod | null;
  secret: string | null;
}

/** A mail that has not been sent; null when it has been, or was given up. */
export async function readUnsent(
  db: Database,
  id: string,
): Promise<(OutgoingMail & { id: string }) | null> {
  const { rows } = await db.query<MailRow>(
    'select * from mail where id = $1 and sent_at is null and failed_at is null',
    [id],
  );
  const row = rows[0];
  if (!row) return null;
  return {
    id: row.id,
    eventId: row.event_id,
    attendeeId: row.attendee_id,
    from: { name: row.sender_name, email: row.sender_email },
    to: { name: row.recipient_name, email: row.recipient_email },
    subject: row.subject,
    text: row.body_text.replaceAll(SECRET, row.secret ?? SECRET),
    html: row.body_html.replaceAll(SECRET, row.secret ?? SECRET),
    calendar: row.calendar && row.method ? { method: row.method, content: row.calendar } : null,
  };
}

/**
 * What has become of another letter to the same receiver about the same meeting that was written before one, and has
 * not left.
 * @returns whether it is being sent just now; null where there is none
 */
export async function earlierLetter(
  db: Database,
  id: string,
): Promise<'sending' | 'waiting' | null> {
  const { rows } = await db.query<{ sending: boolean | null }>(
    `select bool_or(job.leased_until > now()) as sending from mail
     join mail earlier on earlier.event_id = mail.event_id and earlier.number < mail.number
       and earlier.recipient_email = mail.recipient_email
       and earlier.sent_at is null and earlier.failed_at is null
     left join job on job.kind = '${LETTER_JOB}' and job.key = earlier.id::text
     where mail.id = $1 group by mail.id`,
    [id],
  );
  if (rows.length === 0) return null;
  return rows[0]!.sending ? 'sending' : 'waiting';
}

export async function markSent(db: Database, id: string, now: number): Promise<void> {
  await db.query('update mail set sent_at = $2, secret = null where id = $1', [id, new Date(now)]);
}

/** Notes that a mail will not be tried again, and why. @returns false when that was known */
export async function markFailed(
  db: Database,
  id: string,
  failure: string,
  now: number,
): Promise<boolean> {
  const { rowCount } = await db.query(
    `update mail set failed_at = $3, failure = $2, secret = null
     where id = $1 and sent_at is null and failed_at is null`,
    [id, failure.slice(0, 500), new Date(now)],
  );
  return rowCount === 1;
}

/** What became of the last letter for one purpose to each of some people. */
export interface LetterState {
  personId: number;
  id: string;
  at: number;
  state: 'waiting' | 'sent' | 'failed';
  failure: string | null;
}

/** The last letter for one purpose to each of some people; those who got none are missing. */
export async function readLetterStates(
  db: Database,
  purpose: 'welcome' | 'password' | 'trial',
  personIds: readonly number[],
): Promise<Map<number, LetterState>> {
  const { rows } = await db.query<LetterState>(
    `select distinct on (person_id) person_id as "personId", id, created_at as at, failure,
            case when failed_at is not null then 'failed'
                 when sent_at is not null then 'sent' else 'waiting' end as state
     from mail where person_id = any($1) and purpose = $2
     order by person_id, created_at desc, number desc`,
    [personIds, purpose],
  );
  return new Map(rows.map((row) => [row.personId, row]));
}

/** How many letters of welcome have not left. */
export async function countWaiting(db: Database): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    `select count(*) as count from mail
     where purpose = 'welcome' and sent_at is null and failed_at is null`,
  );
  return rows[0]!.count;
}

/** Takes back letters for a purpose that have not left and are not on their way. */
export function withdrawPurpose(
  tx: Transaction,
  purpose: 'welcome' | 'password',
  personIds: readonly number[],
): void {
  tx.send(
    `with gone as (
       delete from mail where person_id = any($1) and purpose = $2
         and sent_at is null and failed_at is null
         and not exists (select from job where kind = '${LETTER_JOB}' and key = mail.id::text
                         and leased_until > now())
       returning id)
     delete from job using gone where kind = '${LETTER_JOB}' and key = gone.id::text`,
    [personIds, purpose],
  );
}

/** How many letters wait, since when the first does whose time has come, and how many failed. */
export async function readLettersWaiting(
  db: Database,
): Promise<{ waiting: number; since: number | null; failed: number }> {
  const { rows } = await db.query<{ waiting: number; since: number | null; failed: number }>(
    `select count(*) filter (where failed_at is null)::int as waiting,
            min(job.due_at) filter (where failed_at is null and job.due_at <= now()) as since,
            count(*) filter (where failed_at is not null)::int as failed
     from mail left join job on job.kind = '${LETTER_JOB}' and job.key = mail.id::text
     where sent_at is null`,
  );
  return rows[0]!;
}

/**
 * Whether a letter that failed is worth another try, in SQL: one with a link has lost it, and what was told since is
 * not told once more as it was before.
 */
const CAN_RETRY = `(mail.purpose is null or mail.purpose = 'trial')
  and not exists (select from mail later
                  where later.event_id = mail.event_id and later.number > mail.number
                    and lower(later.recipient_email) = lower(mail.recipient_email))`;

/** Letters that failed, the latest first; what they say is nobody's but their receivers'. */
export async function readFailedLetters(db: Database): Promise<FailedLetter[]> {
  const { rows } = await db.query<FailedLetter>(
    `select mail.id, recipient_email as "to", failed_at as at, coalesce(failure, '') as failure,
            ${CAN_RETRY} as "canRetry"
     from mail where failed_at is not null and sent_at is null
     order by failed_at desc, number desc limit ${MOST_FAILED_LETTERS}`,
  );
  return rows;
}

/** Tries letters again that failed. @returns how many */
export async function retryLetters(tx: Transaction, ids: readonly string[]): Promise<number> {
  const { rowCount } = await tx.query(
    `with again as (
       update mail set failed_at = null, failure = null
       where id = any($1::uuid[]) and failed_at is not null and sent_at is null and ${CAN_RETRY}
       returning id
     )
     insert into job (kind, key) select '${LETTER_JOB}', id::text from again
     where not exists (select from job where kind = '${LETTER_JOB}' and job.key = again.id::text)`,
    [ids],
  );
  return rowCount ?? 0;
}
