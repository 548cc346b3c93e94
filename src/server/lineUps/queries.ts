import type { LineUpRequest, MetPerson, RememberedLineUp } from '../../contract/lineUps.ts';
import type { Database, Transaction } from '../db/transaction.ts';

export async function readLineUps(db: Database, ownerId: number): Promise<RememberedLineUp[]> {
  const { rows } = await db.query<RememberedLineUp>(
    'select id, name, members from line_up where owner_id = $1 order by lower(name), id',
    [ownerId],
  );
  return rows;
}

/** Keeps a line-up under its name, in place of the one that had it. */
export async function upsertLineUp(
  tx: Transaction,
  ownerId: number,
  { name, members }: LineUpRequest,
): Promise<void> {
  await tx.query(
    `insert into line_up (owner_id, name, members) values ($1, $2, $3)
     on conflict (owner_id, name) do update set members = excluded.members`,
    [ownerId, name, JSON.stringify(members)],
  );
}

/** @returns whether there was one */
export async function deleteLineUp(tx: Transaction, ownerId: number, id: number): Promise<boolean> {
  const { rowCount } = await tx.query('delete from line_up where owner_id = $1 and id = $2', [
    ownerId,
    id,
  ]);
  return rowCount === 1;
}

/** Ids of subjects among some that exist. */
export async function existing(db: Database, ids: readonly number[]): Promise<Set<number>> {
  const { rows } = await db.query<{ id: number }>('select id from subject where id = any($1)', [
    ids,
  ]);
  return new Set(rows.map((row) => row.id));
}

/** People who stood in the same events as somebody in a window, the most often first. */
export async function readMet(
  db: Database,
  personId: number,
  from: number,
  to: number,
  limit: number,
): Promise<MetPerson[]> {
  const { rows } = await db.query<MetPerson>(
    `select subject.id, subject.name, coalesce(site.city, organization.name) as detail
     from claim
     join occurrence on occurrence.id = claim.occurrence_id
     join attendee on attendee.event_id = occurrence.event_id and attendee.reply <> 'declined'
     join event on event.id = attendee.event_id
       -- Who else is asked is not everybody's to know.
       and (event.invitees_list or event.invitees_change or event.organizer_id = $1
            or attendee.role = 'organizer')
     join subject on subject.id = attendee.person_id
     join person on person.subject_id = subject.id
     join organization on organization.id = person.organization_id
     left join site on site.id = person.site_id
     where claim.subject_id = $1 and claim.during && tstzrange($2, $3) and subject.id <> $1
     group by subject.id, subject.name, site.city, organization.name
     order by count(*) desc, subject.name limit $4`,
    [personId, new Date(from), new Date(to), limit],
  );
  return rows;
}
