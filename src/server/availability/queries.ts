import type { BusySpan } from '../../contract/availability.ts';
import type { Buffers } from '../../core/booking/booking.ts';
import { holidayOf, type Holiday } from '../../core/time/workingHours.ts';
import type { RoomCandidate } from '../../core/planner/wishes.ts';
import type { Database } from '../db/transaction.ts';

export interface SubjectRow {
  id: number;
  kind: 'person' | 'resource';
  name: string;
  detail: string;
  zone: string;
  email: string | null;
  siteId: number | null;
  floor: string;
  isRoom: boolean;
  seats: number | null;
  units: number;
  prepareMinutes: number;
  clearMinutes: number;
  /** Of another organization than the installation's. */
  isPartner: boolean;
}

/** What a lane says of each subject; ids that nobody has are missing. */
export async function readSubjects(
  db: Database,
  ids: readonly number[],
): Promise<Map<number, SubjectRow>> {
  const { rows } = await db.query<SubjectRow>(
    `select subject.id, subject.kind, subject.name,
            case
              when resource.capacity > 0 then site.city || ', ' || resource.capacity || ' seats'
              else coalesce(site.city, organization.name, '')
            end as detail,
            coalesce(person.zone, site.zone) as zone, person.email, site.id as "siteId",
            coalesce(person.floor, resource.floor) as floor,
            coalesce(resource.kind = 'room', false) as "isRoom",
            nullif(resource.capacity, 0) as seats, coalesce(resource.units, 1) as units,
            coalesce(resource.prepare_minutes, 0) as "prepareMinutes",
            coalesce(resource.clear_minutes, 0) as "clearMinutes",
            coalesce(not organization.is_home, false) as "isPartner"
     from subject
     left join person on person.subject_id = subject.id
     left join organization on organization.id = person.organization_id
     left join resource on resource.subject_id = subject.id
     left join site on site.id = coalesce(person.site_id, resource.site_id)
     where subject.id = any($1)`,
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** What is not looked at: an event, or one occurrence of it. */
export interface Except {
  eventId: string;
  occurrence?: string | undefined;
}

export interface BusyRows {
  spans: BusySpan[];
  units: number[];
}

/** The statement of `readBusy`, so that a test can ask how the database carries it out. */
export const BUSY_SQL = `
  select subject_id,
         to_json(array_agg(extract(epoch from lower(during))::float8 order by lower(during))) as starts,
         to_json(array_agg(extract(epoch from upper(during))::float8 order by lower(during))) as ends,
         to_json(array_agg(occupancy order by lower(during))) as occupancies,
         to_json(array_agg(unit order by lower(during))) as units
  from claim
  where subject_id = any($1) and during && tstzrange($2, $3) and occupancy <> 'free'
    and ($4::uuid is null or occurrence_id is null or occurrence_id not in (
      select id from occurrence
      where event_id = $4 and ($5::timestamp is null or recurrence_at = $5)))
  group by subject_id`;

/**
 * The claims of subjects that overlap a window, read from claims alone, by subject and start.
 * Starts and ends come as lists, which is several times less work than a row for each; as JSON, which is read by
 * the engine itself and an array of the database letter by letter.
 */
export async function readBusy(
  db: Database,
  ids: readonly number[],
  from: number,
  to: number,
  except?: Except,
): Promise<Map<number, BusyRows>> {
  const { rows } = await db.query<{
    subject_id: number;
    starts: number[];
    ends: number[];
    occupancies: BusySpan[2][];
    units: number[];
  }>(BUSY_SQL, [
    ids,
    new Date(from),
    new Date(to),
    except?.eventId ?? null,
    except?.occurrence ?? null,
  ]);
  return new Map(
    rows.map((row) => [
      row.subject_id,
      {
        units: row.units,
        spans: row.starts.map((start, k): BusySpan => [
          Math.round(Number(start) * 1000),
          Math.round(Number(row.ends[k]) * 1000),
          row.occupancies[k]!,
        ]),
      },
    ]),
  );
}

/** Public holidays of sites between two dates (`YYYY-MM-DD`, both included), by site. */
export async function readSiteHolidays(
  db: Database,
  siteIds: readonly number[],
  first: string,
  last: string,
): Promise<Map<number, Holiday[]>> {
  const { rows } = await db.query<{
    siteId: number;
    date: string;
    name: string;
    start: number;
    end: number;
  }>(
    `select site_id as "siteId", to_char(date, 'YYYY-MM-DD') as date, name, off_from as start, off_until as "end" from holiday
     where site_id = any($1) and date between $2 and $3 order by date`,
    [siteIds, first, last],
  );
  const holidays = new Map<number, Holiday[]>(siteIds.map((id) => [id, []]));
  for (const { siteId, ...row } of rows) holidays.get(siteId)!.push(holidayOf(row));
  return holidays;
}

/** A room with what is kept free around its bookings, without when it is taken. */
export type RoomRow = Omit<RoomCandidate, 'busy'> & Buffers;

/** The rooms of some sites; `site` is the city. */
export async function readRooms(db: Database, siteIds: readonly number[]): Promise<RoomRow[]> {
  const { rows } = await db.query<RoomRow>(
    `select subject.id, subject.name, site.id as "siteId", site.city as site, resource.floor,
            resource.capacity as seats, resource.features,
            resource.prepare_minutes as "prepareMinutes", resource.clear_minutes as "clearMinutes"
     from resource
     join subject on subject.id = resource.subject_id
     join site on site.id = resource.site_id
     where resource.kind = 'room' and resource.retired_at is null and site.id = any($1)
     order by site.id, subject.name`,
    [siteIds],
  );
  return rows;
}
