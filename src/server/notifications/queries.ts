import type { Notification } from '../../contract/notifications.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { CHANNEL } from '../live/index.ts';
import { MOST_NEWS, MOST_PEOPLE_A_NOTICE } from './limits.ts';

export interface NewNotification {
  person_id: number;
  kind: string;
  what: string;
  event_id: string;
  occurrence: string | null;
  version: number;
  details: Omit<
    Notification,
    'id' | 'kind' | 'what' | 'eventId' | 'occurrence' | 'at' | 'isRead' | 'for'
  > & { comment?: number };
}

/**
 * Keeps what people hear of, as they chose for each kind, and those who act for them as much of it as
 * they chose, and lets their windows know. What tells of a version that is undone, and
 * was not looked at, is taken back; whoever did not hear of a meeting does not hear of its end. What somebody
 * heard of an invitation is read once they have answered it.
 */
export function insertNotifications(
  tx: Transaction,
  rows: readonly NewNotification[],
  undone: readonly { event_id: string; version: number }[],
  answered: readonly { event_id: string; person_id: number }[],
  actorId: number | null,
  now: number,
): void {
  tx.send(
    `with asked as materialized (
       select * from jsonb_to_recordset($1) as new (
         person_id int, kind text, what text, event_id uuid, occurrence timestamp, version int,
         details jsonb)
     ), news as materialized (
       select * from asked
       union all
       select delegate_id, asked.kind, what, event_id, occurrence, version,
              details || jsonb_build_object('for', subject.name)
       from asked
       join delegate on delegate.principal_id = asked.person_id
         and (receives = 'everything' or receives = 'invitations' and asked.kind in ('invitations', 'changes'))
       join subject on subject.id = delegate.principal_id
       where delegate_id is distinct from $4
     ), taken_back as (
       delete from notification
       using jsonb_to_recordset($2) as undone (event_id uuid, version int)
       where notification.event_id = undone.event_id and notification.version = undone.version
         and notification.event_id = any($6::uuid[])
         and read_at is null and mailed_at is null
       returning notification.person_id, notification.event_id
     ), unheard as (
       delete from notification using news
       where news.what in ('uninvited', 'cancelled') and news.occurrence is null
         -- Whoever organizes it has heard other things that still stand.
         and not (news.details->>'mine')::boolean
         and notification.event_id = news.event_id and notification.person_id = news.person_id
         and notification.event_id = any($6::uuid[])
         and read_at is null and mailed_at is null
       returning notification.person_id, notification.event_id, notification.what
     ), told as (
       insert into notification (person_id, kind, what, event_id, occurrence, version, at, details,
                                 how)
       select person_id, kind, what, event_id, occurrence, version, $3, details,
              coalesce(preference.hearing->>kind, 'now')
       from news left join preference using (person_id)
       where coalesce(preference.hearing->>kind, 'now') <> 'never'
         and not exists (select 1 from taken_back
                         where person_id = news.person_id and event_id = news.event_id)
         and not exists (select 1 from unheard
                         where person_id = news.person_id and event_id = news.event_id
                           and unheard.what = 'invited')
       returning person_id
     ), answered as (
       update notification set read_at = $3
       from jsonb_to_recordset($5) as by (event_id uuid, person_id int)
       where notification.event_id = by.event_id and notification.person_id = by.person_id
         and notification.event_id = any($6::uuid[])
         and notification.kind = 'invitations' and notification.read_at is null
       returning notification.person_id
     ), concerned as (
       select person_id, row_number() over () / ${MOST_PEOPLE_A_NOTICE} as part
       from (select person_id from told union select person_id from taken_back
             union select person_id from unheard union select person_id from answered) people
     )
     select pg_notify('${CHANNEL}', string_agg('notifications:' || person_id, ' '))
     from concerned group by part`,
    [
      JSON.stringify(rows),
      JSON.stringify(undone),
      new Date(now),
      actorId,
      JSON.stringify(answered),
      // By these the planner sees that an index is the shorter way.
      [...new Set([...rows, ...undone, ...answered].map((one) => one.event_id))],
    ],
  );
}

/** The latest that somebody hears of at once, and how many of all they have not read. */
export async function readNotifications(
  db: Database,
  personId: number,
): Promise<{ notifications: Notification[]; unread: number }> {
  const { rows } = await db.query<
    Omit<Notification, keyof NewNotification['details']> & {
      details: NewNotification['details'];
      unread: number;
    }
  >(
    `select id, kind, what, event_id as "eventId", occurrence, at, details - 'comment' as details,
            read_at is not null as "isRead",
            (select count(*) from notification
             where person_id = $1 and how = 'now' and read_at is null) as unread
     from notification where person_id = $1 and how = 'now'
     order by id desc limit ${MOST_NEWS}`,
    [personId],
  );
  return {
    notifications: rows.map(({ details, unread: _, ...row }) => ({
      ...row,
      // What is older than these says neither.
      ...{ for: null, isBooking: false, where: '' },
      ...details,
    })),
    unread: Number(rows[0]?.unread ?? 0),
  };
}

/** Marks those up to a number as read, on whatever device they are looked at. */
export async function markRead(
  tx: Transaction,
  personId: number,
  upTo: number,
  now: number,
): Promise<void> {
  await tx.query(
    `update notification set read_at = $3
     where person_id = $1 and how = 'now' and read_at is null and id <= $2`,
    [personId, upTo, new Date(now)],
  );
}

/** Somebody whose daily letter is due. */
export interface Subscriber {
  id: number;
  name: string;
  email: string;
  zone: string;
  clock: '24' | '12';
}

/**
 * Takes people whose daily letter is due, and keeps that they have it: on their own clock it is past
 * the hour given, and they had none today. What another server takes is left out.
 */
export async function takeSubscribers(
  tx: Transaction,
  now: number,
  hour: number,
  most: number,
): Promise<Subscriber[]> {
  const { rows } = await tx.query<Subscriber>(
    `update person set daily_letter_on = ($1::timestamptz at time zone person.zone)::date
     from subject
     where subject.id = person.subject_id and person.subject_id in (
       select subject_id from person
       where account not in ('ended', 'removed')
         and exists (select 1 from notification
                     where person_id = person.subject_id and how = 'daily' and mailed_at is null)
         and ($1::timestamptz at time zone zone)::time >= make_time($2, 0, 0)
         and (daily_letter_on is null or daily_letter_on < ($1::timestamptz at time zone zone)::date)
       order by subject_id limit $3 for update skip locked)
     returning subject.id, subject.name, person.email, person.zone, person.clock`,
    [new Date(now), hour, most],
  );
  return rows;
}

/** What a daily letter tells of, by whose it is; it is marked as told. */
export async function takeDaily(
  tx: Transaction,
  personIds: readonly number[],
  now: number,
): Promise<(Omit<Notification, 'isRead'> & { personId: number })[]> {
  const { rows } = await tx.query<
    Omit<Notification, 'isRead' | keyof NewNotification['details']> & {
      personId: number;
      details: NewNotification['details'];
    }
  >(
    `update notification set mailed_at = $2
     where person_id = any($1::int[]) and how = 'daily' and mailed_at is null
     returning id, person_id as "personId", kind, what, event_id as "eventId", occurrence, at, details`,
    [personIds, new Date(now)],
  );
  return rows
    .map(({ details, ...row }) => ({ ...row, for: null, ...details }))
    .sort((a, b) => a.id - b.id);
}

/** Forgets what tells of a comment that was removed. */
export function forgetAbout(
  tx: Transaction,
  eventId: string,
  { comment }: { comment: number },
): void {
  tx.send(`delete from notification where event_id = $1 and (details->>'comment')::bigint = $2`, [
    eventId,
    comment,
  ]);
}
