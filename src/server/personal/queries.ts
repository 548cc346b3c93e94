import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Reminder } from '../../contract/eventParts.ts';
import type { Transaction } from '../db/transaction.ts';

/** What one person has of their own about an event. */
export type Personal = Pick<EventDetail, 'categoryId' | 'reminders'>;

/**
 * Keeps what a person has of their own about an event that is new to them.
 * @param reminders those of their preferences where they are not given
 * @returns what was kept; a category that is not theirs is not
 */
export async function insertPersonal(
  tx: Transaction,
  eventId: string,
  personId: number,
  { categoryId, reminders }: { categoryId: number | null; reminders: readonly Reminder[] | null },
): Promise<Personal> {
  const { rows } = await tx.query<Personal>(
    `with wanted as (
       select coalesce($4::jsonb,
                       (select default_reminders from preference where person_id = $2),
                       '[{"minutes": 10, "means": "popup"}]') as list
     ), reminded as (
       insert into reminder (event_id, person_id, minutes_before, means)
       select $1, $2, minutes, means
       from wanted, jsonb_to_recordset(list) as given (minutes int, means text)
       returning minutes_before, means
     ), sorted as (
       insert into event_category (event_id, person_id, category_id)
       select $1, $2, id from category where id = $3 and owner_id = $2
       returning category_id
     )
     select (select category_id from sorted) as "categoryId",
            coalesce((select json_agg(json_build_object('minutes', minutes_before, 'means', means)
                                      order by minutes_before, means)
                      from reminded), '[]') as reminders`,
    [eventId, personId, categoryId, reminders && JSON.stringify(reminders)],
  );
  return rows[0]!;
}

/**
 * Puts an event into a category of a person's own; null takes it out.
 * @returns false when the person has no such category
 */
export async function putInCategory(
  tx: Transaction,
  eventId: string,
  personId: number,
  categoryId: number | null,
): Promise<boolean> {
  if (categoryId === null) {
    await tx.query('delete from event_category where event_id = $1 and person_id = $2', [
      eventId,
      personId,
    ]);
    return true;
  }
  const { rowCount } = await tx.query(
    `insert into event_category (event_id, person_id, category_id)
     select $1, $2, id from category where id = $3 and owner_id = $2
     on conflict (event_id, person_id) do update set category_id = excluded.category_id`,
    [eventId, personId, categoryId],
  );
  return rowCount === 1;
}

export async function replaceReminders(
  tx: Transaction,
  eventId: string,
  personId: number,
  reminders: readonly Reminder[],
): Promise<void> {
  await tx.query(
    `with gone as (
       delete from reminder where event_id = $1 and person_id = $2
         and (minutes_before, means) not in (select * from unnest($3::int[], $4::text[]))
     ), choice as (
       insert into reminder_choice (event_id, person_id) values ($1, $2) on conflict do nothing
     )
     insert into reminder (event_id, person_id, minutes_before, means)
     select $1, $2, * from unnest($3::int[], $4::text[])
     on conflict do nothing`,
    [eventId, personId, reminders.map((one) => one.minutes), reminders.map((one) => one.means)],
  );
}
