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
           when owner.organization_id = viewer.organization_id
             and owner.share_organization not in ('edit', 'acts')
             and exists (select from coordinated
                         where coordinator_id = viewer.subject_id and person_id = owner.subject_id)
             then 'coordinates'
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

/** A place as far as it is within somebody's reach, or not. */
interface Reached {
  /** Null where it is new. */
  id: number | null;
  siteId: number;
  floor: string;
  kind: string;
}

/** Which of some places somebody looks after, as they are to be: of stewards whose reach is bound. In order. */
export async function readReached(
  db: Database,
  stewardId: number,
  places: readonly Reached[],
): Promise<boolean[]> {
  const { rows } = await db.query<{ reached: boolean }>(
    `select exists (
       select from charge join person steward on steward.subject_id = charge.person_id
       where $1 in (steward.subject_id, steward.deputy_id) and steward.role = 'steward'
         and case when charge.place_id is not null then charge.place_id = place.id
                  else (charge.site_id is null or charge.site_id = place."siteId")
                   and (charge.floor is null or charge.floor = place.floor)
                   and (charge.kind is null or charge.kind = place.kind) end) as reached
     from jsonb_to_recordset($2) as place (at int, id int, "siteId" int, floor text, kind text)
     order by at`,
    [stewardId, JSON.stringify(places.map((one, at) => ({ at, ...one })))],
  );
  return rows.map((row) => row.reached);
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
