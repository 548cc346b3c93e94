import type { Place } from '../../contract/places.ts';
import type { Visibility } from '../../core/availability/busy.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** A resource as it stands in the catalogue, without its state at a moment. */
export type ResourceFacts = Omit<Place, 'freeUnits' | 'until' | 'holder' | 'title'> & {
  prepareMinutes: number;
  clearMinutes: number;
};

const FACTS = `
  select subject.id, subject.name, resource.kind, site.id as "siteId", site.name as site, site.zone,
         resource.floor, resource.capacity, resource.units, resource.description, resource.features,
         resource.prepare_minutes as "prepareMinutes", resource.clear_minutes as "clearMinutes"
  from resource
  join subject on subject.id = resource.subject_id
  join site on site.id = resource.site_id`;

export async function readResources(
  db: Database,
  ids: readonly number[] | null,
): Promise<ResourceFacts[]> {
  const { rows } = await db.query<ResourceFacts>(
    `${FACTS} where $1::int[] is null or subject.id = any($1)
     order by site.id, resource.kind, subject.name`,
    [ids],
  );
  return rows;
}

/**
 * Holds resources against other bookings until the transaction ends. Without it two bookings that
 * insert at the same moment would wait for each other inside the constraint and one be a deadlock.
 * Always in the order of their ids, so that bookings of several never wait in a circle.
 */
export async function lockResources(tx: Transaction, ids: readonly number[]): Promise<void> {
  await tx.query(
    'select 1 from resource where subject_id = any($1) order by subject_id for no key update',
    [ids],
  );
}

interface ClaimRow {
  resourceId: number;
  unit: number;
  start: number;
  end: number;
}

/** Exclusive claims of resources that overlap a window, buffers included. */
export async function readClaims(
  db: Database,
  ids: readonly number[],
  from: number,
  to: number,
): Promise<ClaimRow[]> {
  const { rows } = await db.query<ClaimRow>(
    `select subject_id as "resourceId", unit, lower(during) as start, upper(during) as "end"
     from claim
     where subject_id = any($1) and during && tstzrange($2, $3) and exclusive
     order by subject_id, lower(during)`,
    [ids, new Date(from), new Date(to)],
  );
  return rows;
}

export interface BookingRow {
  eventId: string;
  resourceId: number;
  unit: number;
  start: number;
  end: number;
  title: string;
  visibility: Visibility;
  organizerId: number;
  organizer: string;
  /** Whether the viewer takes part. */
  takesPart: boolean;
}

/** Bookings whose claim on the resources overlaps a window, with the times of the booking itself. */
export async function readBookings(
  db: Database,
  viewerId: number,
  ids: readonly number[],
  from: number,
  to: number,
): Promise<BookingRow[]> {
  const { rows } = await db.query<BookingRow>(
    `select event.id as "eventId", claim.subject_id as "resourceId", claim.unit,
            occurrence.starts_at as start, occurrence.ends_at as "end", event.title,
            event.visibility, event.organizer_id as "organizerId", subject.name as organizer,
            exists (select 1 from attendee
                    where attendee.event_id = event.id and attendee.person_id = $1) as "takesPart"
     from claim
     join occurrence on occurrence.id = claim.occurrence_id
     join event on event.id = occurrence.event_id
     join subject on subject.id = event.organizer_id
     where claim.subject_id = any($2) and claim.during && tstzrange($3, $4) and claim.exclusive
     order by claim.subject_id, occurrence.starts_at`,
    [viewerId, ids, new Date(from), new Date(to)],
  );
  return rows;
}
