import type { SharingLevel, Shown } from '../../core/availability/busy.ts';
import type { Database } from '../db/transaction.ts';

/** What a viewer, whose id the parameter holds, may see of each person's calendar. */
export const sharingLevelSql = (viewer: string): string => `
  select owner.subject_id as person_id,
         case
           when owner.subject_id = viewer.subject_id then 'acts'
           when exists (select 1 from delegate
                        where principal_id = owner.subject_id and delegate_id = viewer.subject_id)
             then 'acts'
           when owner.organization_id = viewer.organization_id then owner.share_organization
           else owner.share_partners
         end as level
  from person owner, person viewer
  where viewer.subject_id = ${viewer}`;

export async function readLevels(
  db: Database,
  viewerId: number,
  ownerIds: readonly number[],
): Promise<Map<number, SharingLevel>> {
  const { rows } = await db.query<{ person_id: number; level: SharingLevel }>(
    `select person_id, level from (${sharingLevelSql('$1')}) shared where person_id = any($2)`,
    [viewerId, ownerIds],
  );
  return new Map(rows.map((row) => [row.person_id, row.level]));
}

/** What decides who may see a meeting, without the meeting itself. */
export interface MeetingFacts {
  id: string;
  organizerId: number | null;
  visibility: Shown;
  people: number[];
}

export async function readMeetingFacts(
  db: Database,
  ids: readonly string[],
): Promise<MeetingFacts[]> {
  const { rows } = await db.query<MeetingFacts>(
    `select id, organizer_id as "organizerId",
            case when draft is null then visibility else 'draft' end as visibility,
            array(select person_id from attendee
                  where event_id = event.id and person_id is not null) as people
     from event where id = any($1::uuid[])`,
    [ids],
  );
  return rows;
}
