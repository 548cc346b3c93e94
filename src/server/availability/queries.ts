import type { BusySpan } from '../../contract/availability.ts';
import type { Database } from '../db/transaction.ts';

export interface SubjectRow {
  id: number;
  kind: 'person' | 'resource';
  name: string;
  detail: string;
  zone: string;
  email: string | null;
  seats: number | null;
  units: number;
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
            coalesce(person.zone, site.zone) as zone, person.email,
            nullif(resource.capacity, 0) as seats, coalesce(resource.units, 1) as units
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

/**
 * The claims of subjects that overlap a window, read from claims alone, by subject and start.
 * Starts and ends come as arrays, which is several times less work than a row for each.
 */
export async function readBusy(
  db: Database,
  ids: readonly number[],
  from: number,
  to: number,
): Promise<Map<number, { spans: BusySpan[]; units: number[] }>> {
  const { rows } = await db.query<{
    subject_id: number;
    starts: string[];
    ends: string[];
    occupancies: BusySpan[2][];
    units: number[];
  }>(
    `select subject_id,
            array_agg(extract(epoch from lower(during))::float8 order by lower(during)) as starts,
            array_agg(extract(epoch from upper(during))::float8 order by lower(during)) as ends,
            array_agg(occupancy order by lower(during)) as occupancies,
            array_agg(unit order by lower(during)) as units
     from claim
     where subject_id = any($1) and during && tstzrange($2, $3) and occupancy <> 'free'
     group by subject_id`,
    [ids, new Date(from), new Date(to)],
  );
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
