import type { Edit } from '../../core/edits.ts';
import type { Fact, ThingKind } from '../../core/facts.ts';
import type { MeetingFactKind } from '../../core/meetings/meetingFacts.ts';
import { participantKey } from '../../core/meetings/people.ts';
import type { Revision } from '../../core/meetings/undo.ts';
import { sendBehind, type StatementPart } from '../db/parts.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { liveNotices, CHANNEL } from '../live/index.ts';

/** A change of a meeting that can be taken back. */
export interface Revised extends Omit<Revision, 'later'> {
  eventId: string;
}

/** A change of a meeting, by the version that it made. */
export interface ChangeOf {
  id: string;
  version: number;
}

/** What happened, and by which revision it is taken back. */
type Noted = Fact & { revisionId?: number | null };

interface Recorded {
  facts: readonly Noted[];
  actorId: number | null;
  /** In whose name it was done, where the actor acted for somebody. */
  actedFor: number | null;
  /** How each meeting that was changed is taken back to what it was. */
  revisions: readonly Revised[];
  /** What of others' windows shows something else now, such as `calendar:42`. */
  subjects: readonly string[];
  /** Epoch milliseconds. */
  now: number;
}

/**
 * Writes down what happened and how to take it back, and lets all servers' browsers know; the notice
 * goes out when the transaction commits.
 */
export function recordFacts(tx: Transaction, recorded: Recorded): void {
  const { facts, revisions, actorId, now, subjects } = recorded;
  sendBehind(tx, [
    factsPart(facts, recorded),
    ...(revisions.length > 0 ? [revisedPart(revisions, actorId, now)] : []),
    {
      text: `told as (select pg_notify('${CHANNEL}', notice) from unnest($1::text[]) as notice)`,
      values: [liveNotices(subjects)],
      gives: '(select count(*) from told)',
    },
  ]);
}

const factsPart = (
  facts: readonly Noted[],
  { actorId, actedFor, now }: Pick<Recorded, 'actorId' | 'actedFor' | 'now'>,
): StatementPart => ({
  text: `noted as (
       insert into fact (at, actor_id, kind, event_id, occurrence, thing, thing_id, revision_id, details)
       select $1, $2, new.* from jsonb_to_recordset($3) as new (
         kind text, event_id uuid, occurrence timestamp, thing text, thing_id bigint,
         revision_id bigint, details jsonb)
     )`,
  values: [new Date(now), actorId, JSON.stringify(facts.map((fact) => rowOf(fact, actedFor)))],
});

function rowOf(fact: Noted, actedFor: number | null) {
  const inName = actedFor !== null && { for: actedFor };
  if ('thing' in fact) {
    const { kind, thing, thingId, revisionId = null, details } = fact;
    return {
      ...{ kind, thing, thing_id: thingId, revision_id: revisionId },
      details: { ...inName, ...details },
    };
  }
  const { kind, meetingId, occurrence, tell, message, people, details } = fact;
  return {
    ...{ kind, event_id: meetingId, occurrence },
    details: {
      tell,
      ...(message && { message }),
      ...inName,
      // Whom alone it was told; a message to them is nobody else's.
      ...(people && { to: people.map(participantKey) }),
      ...details,
    },
  };
}

const revisedPart = (
  revisions: readonly Revised[],
  actorId: number | null,
  now: number,
): StatementPart => ({
  text: `revised as (
       insert into revision (event_id, version, at, edits, split_off, by_id)
       select event_id, version, $1, edits, split_off, $2
       from jsonb_to_recordset($3) as made (event_id uuid, version int, edits jsonb, split_off jsonb)
     )`,
  values: [
    new Date(now),
    actorId,
    JSON.stringify(
      revisions.map(({ eventId, version, edits, splitOff }) => ({
        event_id: eventId,
        version,
        edits,
        split_off: splitOff,
      })),
    ),
  ],
});

/** How a change of something that is no meeting is taken back. */
export interface ThingRevision {
  id: number;
  thing: ThingKind;
  thingId: number;
  edits: readonly Edit[];
  /** Changes of meetings that were made with it. */
  meetings: readonly ChangeOf[];
}

/** Keeps how changes of things are taken back. @returns the number of each, in that order */
export async function insertThingRevisions(
  tx: Transaction,
  revisions: readonly Omit<ThingRevision, 'id'>[],
  actorId: number | null,
  now: number,
): Promise<number[]> {
  if (revisions.length === 0) return [];
  const { rows } = await tx.query<{ id: number }>(
    `with given as materialized (
       select nextval(pg_get_serial_sequence('revision', 'id')) as id, made.*
       from jsonb_to_recordset($3) as made (
         place int, thing text, thing_id bigint, edits jsonb, meetings jsonb)
     ), kept as (
       insert into revision (id, thing, thing_id, at, edits, meetings, by_id)
       overriding system value
       select id, thing, thing_id, $1, edits, meetings, $2 from given
     )
     select id::int from given order by place`,
    [
      new Date(now),
      actorId,
      JSON.stringify(
        revisions.map(({ thing, thingId, edits, meetings }, place) => ({
          ...{ place, thing, thing_id: thingId, edits },
          meetings: meetings.map(({ id, version }) => [id, version]),
        })),
      ),
    ],
  );
  return rows.map((row) => row.id);
}

/** How changes of things are taken back, the latest first, held against others who would. */
export async function lockThingRevisions(
  tx: Transaction,
  ids: readonly number[],
): Promise<ThingRevision[]> {
  const { rows } = await tx.query<
    Omit<ThingRevision, 'meetings'> & { meetings: [id: string, version: number][] | null }
  >(
    `select id::int, thing, thing_id::int as "thingId", edits, meetings
     from revision where id = any($1) and thing is not null order by id desc for update`,
    [ids],
  );
  return rows.map(({ meetings, ...row }) => ({
    ...row,
    meetings: (meetings ?? []).map(([id, version]) => ({ id, version })),
  }));
}

/** Takes them off the pile. */
export function deleteThingRevisions(tx: Transaction, ids: readonly number[]): void {
  if (ids.length > 0) tx.send('delete from revision where id = any($1)', [ids]);
}

/** Something that happened to a thing, as the log says it. */
export interface LoggedFact {
  id: number;
  at: number;
  kind: string;
  details: Record<string, unknown>;
  actor: string | null;
  actedFor: string | null;
  /** By which it is taken back, while it can be. */
  change: number | null;
}

/** What happened to a thing, the latest first. @param before only what was written before this number */
export async function readThingFacts(
  db: Database,
  thing: ThingKind,
  thingId: number,
  { before, most }: { before: number | null; most: number },
): Promise<LoggedFact[]> {
  const { rows } = await db.query<LoggedFact>(
    `select fact.id::int, fact.at, fact.kind, fact.details, actor.name as actor,
            principal.name as "actedFor", fact.revision_id::int as change
     from fact
     left join subject actor on actor.id = fact.actor_id
     left join subject principal on principal.id = (fact.details->>'for')::int
     where thing = $1 and thing_id = $2 and ($3::bigint is null or fact.id < $3)
     order by fact.id desc limit $4`,
    [thing, thingId, before, most],
  );
  return rows;
}

/** How often something of a kind happened to a meeting since an instant. */
export async function countFacts(
  db: Database,
  eventId: string,
  kind: MeetingFactKind,
  since: number,
): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    'select count(*) from fact where event_id = $1 and kind = $2 and at > $3',
    [eventId, kind, new Date(since)],
  );
  return Number(rows[0]!.count);
}
