import type { DueReminder } from '../../contract/reminders.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** Where somebody has no preferences yet. */
const USUAL = `'[{"minutes": 10, "means": "popup"}]'`;
/** So long after the end of what it is about a reminder is still shown. */
const SHOWN_AFTER = `interval '1 hour'`;

/** Up to when reminders were looked for, held until the transaction ends; null where they never were. */
export async function lockRemindedUntil(tx: Transaction): Promise<number | null> {
  const { rows } = await tx.query<{ value: number | null }>(
    `select value from setting where key = 'reminded-until' for update`,
  );
  return rows[0]?.value ?? null;
}

export function setRemindedUntil(tx: Transaction, until: number): void {
  tx.send(`update setting set value = to_jsonb($1::float8) where key = 'reminded-until'`, [until]);
}

/** A reminder that has come due, with what a letter about it needs. */
export interface FoundReminder {
  id: number;
  personId: number;
  means: 'popup' | 'mail';
  dueAt: number;
}

/**
 * How long before its meeting somebody wants a reminder, each length once. Minutes.
 */
async function readLengths(db: Database): Promise<number[]> {
  const { rows } = await db.query<{ minutes: number }>(
    `with recursive used (minutes) as (
       (select minutes_before from reminder order by 1 limit 1)
       union all
       select (select minutes_before from reminder where minutes_before > minutes order by 1 limit 1)
       from used where minutes is not null
     )
     select minutes from used where minutes is not null
     union select (one->>'minutes')::int from preference, jsonb_array_elements(default_reminders) one
     union select 10`,
  );
  return rows.map((one) => one.minutes);
}

/**
 * Keeps every reminder that comes due after one instant and not after another, each once: of those who
 * take part and have not declined, by what they chose for the meeting, or by their preferences.
 * In three steps, each of which knows how much it deals with. Epoch milliseconds.
 */
export async function insertDue(
  tx: Transaction,
  after: number,
  until: number,
): Promise<FoundReminder[]> {
  const { rows: due } = await tx.query<{ id: number; minutes: number }>(
    `select occurrence.id, minutes
     from unnest($3::int[]) minutes
     join occurrence on occurrence.starts_at > $1::timestamptz + make_interval(mins => minutes)
                    and occurrence.starts_at <= $2::timestamptz + make_interval(mins => minutes)`,
    [new Date(after), new Date(until), await readLengths(tx)],
  );
  if (due.length === 0) return [];
  const { rows } = await tx.query<FoundReminder>(
    `with meant as (
       select shown.id, shown.event_id, shown.starts_at, due.minutes, reply.person_id,
              reply.role = 'organizer'
                or exists (select 1 from reminder_choice choice
                           where choice.event_id = shown.event_id
                             and choice.person_id = reply.person_id) as chose
       from unnest($1::bigint[], $2::int[]) due (id, minutes)
       join effective_occurrence shown on shown.id = due.id and shown.status = 'confirmed'
         and shown.visibility <> 'draft'
       join effective_reply reply on reply.occurrence_id = due.id
         and reply.person_id is not null and reply.reply <> 'declined'
         -- Whose access ended is reminded of nothing.
         and not exists (select from person where subject_id = reply.person_id
                         and account in ('ended', 'removed'))
     ), means as (
       select meant.*, reminder.means from meant
       join reminder on chose and reminder.event_id = meant.event_id
         and reminder.person_id = meant.person_id and reminder.minutes_before = meant.minutes
       union
       select meant.*, usual->>'means' from meant
       left join preference on preference.person_id = meant.person_id
       cross join jsonb_array_elements(coalesce(preference.default_reminders, ${USUAL})) usual
       where not chose and (usual->>'minutes')::int = minutes
     )
     insert into reminder_notice (person_id, occurrence_id, starts_at, minutes_before, means, due_at)
     select person_id, id, starts_at, minutes, means, starts_at - make_interval(mins => minutes)
     from means
     on conflict do nothing
     returning id, person_id as "personId", means, due_at as "dueAt"`,
    [due.map((one) => one.id), due.map((one) => one.minutes)],
  );
  return rows;
}

const SHOWN = `
  select notice.id, occurrence.event_id as "eventId", occurrence.recurrence_at as "recurrenceId",
         occurrence.title,
         concat_ws(', ', nullif(occurrence.place, ''),
           (select string_agg(subject.name, ', ' order by subject.name)
            from reservation join subject on subject.id = reservation.resource_id
            where reservation.occurrence_id = occurrence.id)) as place,
         occurrence.starts_at as start, occurrence.ends_at as "end",
         occurrence.all_day as "allDay", notice.due_at as "dueAt"
  from reminder_notice notice
  join effective_occurrence occurrence
    on occurrence.id = notice.occurrence_id and occurrence.starts_at = notice.starts_at
   and occurrence.status = 'confirmed'`;

/** Reminders of a person that are shown, or will be, by when they are. */
export async function readOpenReminders(
  db: Database,
  personId: number,
  now: number,
): Promise<DueReminder[]> {
  const { rows } = await db.query<DueReminder>(
    `${SHOWN}
     where notice.person_id = $1 and notice.dismissed_at is null and notice.means = 'popup'
       and occurrence.ends_at > $2::timestamptz - ${SHOWN_AFTER}
     order by notice.due_at, notice.id limit 100`,
    [personId, new Date(now)],
  );
  return rows;
}

/** A reminder that goes out as a letter, with its receiver. */
export interface MailedReminder extends DueReminder {
  name: string;
  email: string;
  zone: string;
  clock: '24' | '12';
}

export async function readMailed(db: Database, ids: readonly number[]): Promise<MailedReminder[]> {
  const { rows } = await db.query<MailedReminder>(
    `select shown.*, subject.name, person.email, person.zone, person.clock
     from (${SHOWN} where notice.id = any($1::bigint[])) shown
     join reminder_notice on reminder_notice.id = shown.id
     join person on person.subject_id = reminder_notice.person_id
     join subject on subject.id = person.subject_id
     order by shown.id`,
    [ids],
  );
  return rows;
}

/**
 * Puts reminders of a person off.
 * @param ids null for all that are shown
 * @param until when they are shown again, epoch milliseconds; null for when each meeting begins
 */
export async function putOff(
  tx: Transaction,
  personId: number,
  ids: readonly number[] | null,
  until: number | null,
  now: number,
): Promise<void> {
  await tx.query(
    `update reminder_notice set due_at = coalesce($3, greatest(starts_at, $4::timestamptz))
     where person_id = $1 and dismissed_at is null and means = 'popup'
       and ($2::bigint[] is null and due_at <= $4 or id = any($2))`,
    [personId, ids, until === null ? null : new Date(until), new Date(now)],
  );
}

/** @param ids null for all that are shown */
export async function dismissReminders(
  tx: Transaction,
  personId: number,
  ids: readonly number[] | null,
  now: number,
): Promise<void> {
  await tx.query(
    `update reminder_notice set dismissed_at = $3
     where person_id = $1 and dismissed_at is null and means = 'popup'
       and ($2::bigint[] is null and due_at <= $3 or id = any($2))`,
    [personId, ids, new Date(now)],
  );
}
