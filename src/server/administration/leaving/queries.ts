import type { Holdings } from '../../../contract/leaving.ts';
import type { Unprojected } from '../../access/index.ts';
import type { Database, Transaction } from '../../db/transaction.ts';
import { MOST_DATES_TRIED } from '../limits.ts';

/** Something to come that somebody has a part in. */
export interface ComingEvent {
  id: string;
  /** Whether they organize it. */
  isTheirs: boolean;
  title: Unprojected<string>;
  places: string[];
  start: number;
  recurring: boolean;
  draft: boolean;
  others: number;
  /** Whether it is nobody's but theirs who take part. */
  isPrivate: boolean;
  /** Who of this installation takes part, or would be asked. */
  people: number[];
}

/** Everything to come that names somebody, the soonest first; what has begun by now is over for this. */
export async function readComing(
  db: Database,
  personId: number,
  now: number,
  most: number,
): Promise<ComingEvent[]> {
  const { rows } = await db.query<ComingEvent>(
    `with named as (
       select event_id as id from attendee where person_id = $1
       union select id from event where organizer_id = $1
       union select id from event
       where draft is not null and draft->'invited' @> jsonb_build_array(jsonb_build_object('personId', $1::int))
     )
     select event.id, coalesce(event.organizer_id = $1, false) as "isTheirs", next.title,
            array(select distinct subject.name from reservation join subject on subject.id = resource_id
                  where reservation.event_id = event.id and reservation.starts_at >= $2
                  order by subject.name limit 5) as places,
            next.starts_at as start, event.rule is not null as recurring, event.draft is not null as draft,
            ((select count(*) from attendee where event_id = event.id and role <> 'organizer')
              + coalesce(jsonb_array_length(event.draft->'invited'), 0))::int as others,
            event.visibility in ('private', 'hidden') as "isPrivate",
            array(select person_id from attendee where event_id = event.id and person_id is not null) as people
     from named join event on event.id = named.id and event.status = 'confirmed'
     join lateral (select title, starts_at from effective_occurrence
                   where event_id = event.id and status = 'confirmed' and starts_at >= $2
                   order by starts_at limit 1) next on true
     order by next.starts_at, event.id limit $3`,
    [personId, new Date(now), most],
  );
  return rows;
}

/** Who of some people has something else at one of the next dates of events, by the event's id. */
export async function readBusyAt(
  db: Database,
  eventIds: readonly string[],
  personIds: readonly number[],
  now: number,
): Promise<Map<string, Set<number>>> {
  const busy = new Map(eventIds.map((id) => [id, new Set<number>()]));
  if (eventIds.length === 0 || personIds.length === 0) return busy;
  const { rows } = await db.query<{ id: string; person: number }>(
    `select distinct date.event_id as id, person
     from unnest($1::uuid[]) as wanted (event_id)
     cross join lateral (select event_id, starts_at, ends_at from occurrence
                         where event_id = wanted.event_id and starts_at >= $3
                         order by starts_at limit ${MOST_DATES_TRIED}) date
     cross join unnest($2::int[]) as person
     where exists (select from claim join occurrence on occurrence.id = claim.occurrence_id
                   where claim.subject_id = person and claim.occupancy in ('busy', 'away')
                     and claim.during && tstzrange(date.starts_at, date.ends_at)
                     and occurrence.event_id <> date.event_id)`,
    [eventIds, personIds, new Date(now)],
  );
  for (const { id, person } of rows) busy.get(id)!.add(person);
  return busy;
}

/** Somebody who can have something: by name, address and zone. */
export interface Heir {
  id: number;
  name: string;
  email: string;
}

/** Of a person or a team, those who are here and can sign in, by name; whoever leaves is none. */
export async function readHeirs(
  db: Database,
  of: { personId: number } | { teamId: number },
  leaverId: number,
): Promise<Heir[]> {
  const { rows } = await db.query<Heir>(
    `select subject.id, subject.name, person.email
     from person join subject on subject.id = person.subject_id
     join organization on organization.id = person.organization_id and organization.is_home
     where person.account in ('active', 'invited') and subject.id <> $3
       and (subject.id = $1 or subject.id in (select person_id from team_member where team_id = $2))
     order by lower(subject.name), subject.id`,
    ['personId' in of ? of.personId : null, 'teamId' in of ? of.teamId : null, leaverId],
  );
  return rows;
}

/** What somebody has besides meetings and bookings. */
export type Belongings = Pick<
  Holdings,
  'desks' | 'waiting' | 'actsFor' | 'actedForBy' | 'leads' | 'teams' | 'sessions'
>;

export async function readBelongings(db: Database, personId: number): Promise<Belongings> {
  const list = (from: string) =>
    `coalesce((select json_agg(json_build_object('id', subject.id, 'name', subject.name) order by subject.name)
               from ${from}), '[]')`;
  const { rows } = await db.query<Belongings>(
    `select ${list('resource join subject on subject.id = subject_id where owner_id = $1 and retired_at is null')} as desks,
            (select count(*)::int from waiting where person_id = $1) as waiting,
            ${list('delegate join subject on subject.id = principal_id where delegate_id = $1')} as "actsFor",
            ${list('delegate join subject on subject.id = delegate_id where principal_id = $1')} as "actedForBy",
            coalesce((select json_agg(json_build_object('id', id, 'name', name) order by name)
                      from team where lead_id = $1 and removed_at is null), '[]') as leads,
            (select count(*)::int from team_member where person_id = $1) as teams,
            (select count(*)::int from session where person_id = $1) as sessions`,
    [personId],
  );
  return rows[0]!;
}

/** Takes the lead of teams from somebody. */
export function dropLeads(tx: Transaction, personId: number): void {
  tx.send('update team set lead_id = null, version = version + 1 where lead_id = $1', [personId]);
}

/** Lets somebody lead teams again that nobody leads by now. @returns those */
export async function putLeads(
  tx: Transaction,
  personId: number,
  teams: readonly number[],
): Promise<number[]> {
  const { rows } = await tx.query<{ id: number }>(
    `update team set lead_id = $1, version = version + 1
     where id = any($2) and lead_id is null and removed_at is null returning id`,
    [personId, teams],
  );
  return rows.map((row) => row.id);
}
