import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Transaction } from '../db/transaction.ts';

interface OccurrenceSpan extends Interval {
  recurrenceId: WallTime | null;
}

/**
 * Makes an event's occurrences those given; one that is named the same stays the same row.
 * @param from occurrences that start earlier are left as they are; null for all
 */
export async function syncOccurrences(
  tx: Transaction,
  eventId: string,
  wanted: readonly OccurrenceSpan[],
): Promise<void> {
  const ids = wanted.map((one) => one.recurrenceId);
  await tx.query(
    `delete from occurrence where event_id = $1 and not exists (
       select 1 from unnest($2::timestamp[]) as wanted (recurrence_at)
       where wanted.recurrence_at is not distinct from occurrence.recurrence_at)`,
    [eventId, ids],
  );
  await addOccurrences(tx, eventId, wanted);
}

/** Adds occurrences, or gives those that are named the same the times given. */
export async function addOccurrences(
  tx: Transaction,
  eventId: string,
  wanted: readonly OccurrenceSpan[],
): Promise<void> {
  await tx.query(
    `insert into occurrence (event_id, recurrence_at, starts_at, ends_at)
     select $1, recurrence_at, starts_at, ends_at
     from unnest($2::timestamp[], $3::timestamptz[], $4::timestamptz[])
       as wanted (recurrence_at, starts_at, ends_at)
     on conflict (event_id, recurrence_at)
       do update set starts_at = excluded.starts_at, ends_at = excluded.ends_at`,
    [
      eventId,
      wanted.map((one) => one.recurrenceId),
      wanted.map((one) => new Date(one.start)),
      wanted.map((one) => new Date(one.end)),
    ],
  );
}

export async function deleteClaims(tx: Transaction, eventId: string): Promise<void> {
  await tx.query(
    `delete from claim using occurrence
     where claim.occurrence_id = occurrence.id and occurrence.event_id = $1`,
    [eventId],
  );
}

/** A resource that an occurrence is to have, by the event's reservations or its own. */
export interface WantedResource extends Interval {
  occurrenceId: number;
  recurrenceId: WallTime | null;
  resourceId: number;
}

/**
 * Resources wanted by those occurrences of an event that have no claims yet.
 * @param since recurrence ids from this one on; null for all
 */
export async function readWantedResources(
  tx: Transaction,
  eventId: string,
  since: WallTime | null = null,
): Promise<WantedResource[]> {
  const { rows } = await tx.query<WantedResource>(
    `select occurrence.id as "occurrenceId", occurrence.recurrence_at as "recurrenceId",
            occurrence.starts_at as start, occurrence.ends_at as "end",
            wanted.resource_id as "resourceId"
     from occurrence
     left join occurrence_override own
       on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at
     cross join lateral (
       select unnest(own.resources) as resource_id
       union all
       select reservation.resource_id from reservation
       where reservation.event_id = occurrence.event_id and own.resources is null
     ) wanted
     where occurrence.event_id = $1 and ($2::timestamp is null or occurrence.recurrence_at >= $2)
     order by occurrence.starts_at, wanted.resource_id`,
    [eventId, since],
  );
  return rows;
}

export interface ResourceClaim extends Interval {
  occurrenceId: number;
  resourceId: number;
  unit: number;
}

/** Claims resources, buffers included in the spans given; the constraint refuses what is taken. */
export async function insertResourceClaims(
  tx: Transaction,
  claims: readonly ResourceClaim[],
): Promise<void> {
  if (claims.length === 0) return;
  await tx.query(
    `insert into claim (subject_id, unit, during, occupancy, occurrence_id, exclusive)
     select resource_id, unit, tstzrange(starts_at, ends_at), 'busy', occurrence_id, true
     from unnest($1::int[], $2::int[], $3::timestamptz[], $4::timestamptz[], $5::bigint[])
       as new (resource_id, unit, starts_at, ends_at, occurrence_id)`,
    [
      claims.map((one) => one.resourceId),
      claims.map((one) => one.unit),
      claims.map((one) => new Date(one.start)),
      claims.map((one) => new Date(one.end)),
      claims.map((one) => one.occurrenceId),
    ],
  );
}

/**
 * Claims what of the events' time each of their people keeps: nothing after declining.
 * @param part one person only, or occurrences from one on only
 */
export async function insertPeopleClaims(
  tx: Transaction,
  eventIds: readonly string[],
  part: { personId?: number; since?: WallTime } = {},
): Promise<void> {
  await tx.query(
    `insert into claim (subject_id, during, occupancy, occurrence_id)
     select attendee.person_id, tstzrange(occurrence.starts_at, occurrence.ends_at),
            case
              when coalesce(own.shows_as, event.shows_as) = 'free' then 'free'
              when attendee.role = 'organizer' or coalesce(answer.reply, attendee.reply) = 'accepted'
                then coalesce(own.shows_as, event.shows_as)
              else 'tentative'
            end,
            occurrence.id
     from occurrence
     join event on event.id = occurrence.event_id and event.status = 'confirmed'
     join attendee on attendee.event_id = event.id
     left join occurrence_override own
       on own.event_id = event.id and own.recurrence_at = occurrence.recurrence_at
     left join occurrence_reply answer
       on answer.attendee_id = attendee.id and answer.recurrence_at = occurrence.recurrence_at
     where event.id = any($1) and attendee.person_id is not null
       and coalesce(answer.reply, attendee.reply) <> 'declined'
       and ($2::int is null or attendee.person_id = $2)
       and ($3::timestamp is null or occurrence.recurrence_at >= $3)`,
    [eventIds, part.personId ?? null, part.since ?? null],
  );
}

/** Claims one person's time anew, after their reply changed. */
export async function replacePersonClaims(
  tx: Transaction,
  eventId: string,
  personId: number,
): Promise<void> {
  await tx.query(
    `delete from claim using occurrence
     where claim.occurrence_id = occurrence.id and occurrence.event_id = $1 and claim.subject_id = $2`,
    [eventId, personId],
  );
  await insertPeopleClaims(tx, [eventId], { personId });
}
