import type { MailroomEntry, MailroomList, MailroomQuery } from '../../../src/contract/mailroom.ts';
import { holding } from '../../../src/server/db/like.ts';
import type { Database } from '../../../src/server/db/transaction.ts';

const ORDER = 'received_at desc, subject, recipient, id';

/** A part of the messages to one address or to anyone, newest first, and how many there are. */
export async function readEntries(
  db: Database,
  recipient: string | null,
  { q, after, limit }: Pick<MailroomQuery, 'q' | 'after' | 'limit'>,
): Promise<MailroomList> {
  const { rows } = await db.query<MailroomEntry & { place: number; total: number }>(
    `with listed as materialized (
       select id, sender, recipient, subject, received_at as "receivedAt",
              row_number() over (order by ${ORDER}) as place, count(*) over () as total
       from mailroom_message
       where ($1::text is null or lower(recipient) = lower($1))
         and concat_ws(' ', recipient, subject) ilike $2)
     select * from listed
     where $3::uuid is null or place > (select place from listed where id = $3)
     order by place limit $4`,
    [recipient, holding(q), after ?? null, limit],
  );
  const entries = rows.map(({ place: _place, total: _total, ...entry }) => entry);
  return { entries, total: rows[0]?.total ?? 0 };
}

export async function readMessage(
  db: Database,
  id: string,
): Promise<(MailroomEntry & { source: Buffer }) | null> {
  const { rows } = await db.query<MailroomEntry & { source: Buffer }>(
    `select id, sender, recipient, subject, received_at as "receivedAt", source
     from mailroom_message where id = $1`,
    [id],
  );
  return rows[0] ?? null;
}

/** Whether somebody reads everybody's mail: in the demonstration its own people do, on purpose. */
export async function readsEverything(db: Database, personId: number): Promise<boolean> {
  const { rowCount } = await db.query(
    `select 1 from setting, person
     join organization on organization.id = person.organization_id and organization.is_home
     where key = 'demonstration' and person.subject_id = $1`,
    [personId],
  );
  return rowCount === 1;
}
