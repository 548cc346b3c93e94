import type { Attachment, EventDetail, Reminder } from '../../contract/events.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** What one person has of their own about an event. */
export async function readPersonal(
  db: Database,
  eventId: string,
  personId: number,
): Promise<Pick<EventDetail, 'categoryId' | 'reminders'>> {
  const { rows } = await db.query<{ categoryId: number | null; reminders: Reminder[] }>(
    `select (select category_id from event_category
             where event_id = $1 and person_id = $2) as "categoryId",
            coalesce((select json_agg(json_build_object('minutes', minutes_before, 'means', means)
                                      order by minutes_before, means)
                      from reminder where event_id = $1 and person_id = $2), '[]') as reminders`,
    [eventId, personId],
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
  await tx.query('delete from reminder where event_id = $1 and person_id = $2', [
    eventId,
    personId,
  ]);
  await tx.query(
    `insert into reminder (event_id, person_id, minutes_before, means)
     select $1, $2, * from unnest($3::int[], $4::text[])`,
    [eventId, personId, reminders.map((one) => one.minutes), reminders.map((one) => one.means)],
  );
}

/** The reminders a person wants for everything they have not said otherwise of. */
export async function readDefaultReminders(db: Database, personId: number): Promise<Reminder[]> {
  const { rows } = await db.query<{ reminders: Reminder[] }>(
    'select default_reminders as reminders from preference where person_id = $1',
    [personId],
  );
  return rows[0]?.reminders ?? [{ minutes: 10, means: 'popup' }];
}

export async function readAttachments(db: Database, eventId: string): Promise<Attachment[]> {
  const { rows } = await db.query<Attachment>(
    `select attachment.id, attachment.name, stored_file.type, stored_file.size,
            subject.name as "addedBy", attachment.added_at as "addedAt"
     from attachment
     join stored_file on stored_file.id = attachment.file_id
     join subject on subject.id = attachment.added_by
     where attachment.event_id = $1 order by attachment.added_at, attachment.name`,
    [eventId],
  );
  return rows;
}
