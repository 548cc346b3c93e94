import type { EventTiming } from '../../../core/recurrence/series.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import type {
  Answer,
  Meeting,
  OccurrenceDetails,
  OccurrenceOverride,
  Participant,
} from '../../../core/meetings/meeting.ts';
import { DATE_FIELD_NAMES, FIELD_NAMES } from '../../../core/meetings/fields.ts';
import { instantJson, wallTimeJson } from '../../db/json.ts';
import type { Database, Transaction } from '../../db/transaction.ts';
import { MOST_SINGLE_DATES } from '../limits.ts';
import { fieldsJson, selectedFields } from './fields.ts';

/** A meeting as it is kept, with what the database knows beside it. */
export interface StoredMeeting extends Meeting {
  createdBy: number;
  /** Occurrences that start before this are laid out; null for what happens once. Epoch milliseconds. */
  expandedUntil: number | null;
}

type OverrideRow = OccurrenceDetails &
  Omit<EventTiming, 'startsAt'> & { recurrenceId: WallTime; startsAt: WallTime | null };

type Row = Omit<StoredMeeting, 'timing' | 'overrides' | 'participants'> &
  EventTiming & {
    overrides: OverrideRow[];
    participants: Omit<Participant, 'occurrences'>[];
    answers: (Answer & { attendeeId: number; at: WallTime })[];
  };

const ANSWER = (askedAt: string) => `
  'reply', reply, 'note', note, 'askedAt', ${instantJson(askedAt)},
  'repliedAt', ${instantJson('replied_at')}, 'stamp', ${instantJson('stamp')}`;

const MEETING_SQL = `
  select event.id, event.uid, event.sequence, event.replies_from as "minReplySequence", event.version,
         event.organizer_id as "organizerId", event.created_by as "createdBy",
         ${selectedFields('event', FIELD_NAMES)}, event.status, event.draft, event.date_of as "dateOf",
         json_build_object('change', event.invitees_change, 'invite', event.invitees_invite,
                           'list', event.invitees_list, 'count', event.outsiders_count) as rights,
         event.cancelled_at as "cancelledAt", event.kept_until as "expandedUntil",
         event.starts_at as "startsAt", event.zone, event.fold,
         event.length_minutes as "lengthMinutes", event.all_day as "allDay",
         event.end_zone as "endZone", event.rule,
         array(select ${wallTimeJson('wall')} from unnest(event.except_at) wall order by wall)
           as except,
         array(select resource_id from event_resource
               where event_id = event.id order by resource_id) as resources,
         coalesce((select json_agg(json_build_object(
             'recurrenceId', ${wallTimeJson('recurrence_at')},
             'cancelledAt', ${instantJson('own.cancelled_at')},
             'startsAt', ${wallTimeJson('own.starts_at')}, 'zone', own.zone,
             'endZone', own.end_zone, 'fold', coalesce(own.fold, 'earlier'),
             'lengthMinutes', own.length_minutes, 'allDay', coalesce(own.all_day, false),
             ${fieldsJson('own', DATE_FIELD_NAMES)},
             'resources', own.resources, 'minReplySequence', own.replies_from)
           order by recurrence_at)
           from occurrence_override own where own.event_id = event.id), '[]') as overrides,
         coalesce((select json_agg(json_build_object(
             'id', id, 'personId', person_id, 'name', name, 'email', email, 'role', role,
             'nudgedAt', ${instantJson('nudged_at')}, 'proposals', proposals,
             ${ANSWER('invited_at')})
           order by role = 'organizer' desc, role = 'required' desc, name, id)
           from participant where event_id = event.id), '[]') as participants,
         coalesce((select json_agg(json_build_object(
             'attendeeId', attendee_id, 'at', ${wallTimeJson('recurrence_at')},
             ${ANSWER('asked_at')}))
           from occurrence_reply where event_id = event.id), '[]') as answers
  from event where event.id = any($1::uuid[])`;

/** The meetings among some ids that there are, by id, in one statement. */
export async function readMeetings(
  db: Database,
  ids: readonly string[],
): Promise<Map<string, StoredMeeting>> {
  const { rows } = await db.query<Row>(MEETING_SQL, [ids]);
  return new Map(rows.map((row) => [row.id, meetingOf(row)]));
}

/** The meeting; null when there is none. */
export async function readMeeting(db: Database, id: string): Promise<StoredMeeting | null> {
  return (await readMeetings(db, [id])).get(id) ?? null;
}

/** The meeting, held against other changes until the transaction ends; null when there is none. */
export async function lockMeeting(tx: Transaction, id: string): Promise<StoredMeeting | null> {
  // In a statement of its own: what it waited for is seen by the next one.
  tx.send('select 1 from event where id = $1 for no key update', [id]);
  return readMeeting(tx, id);
}

/** Meetings, held against other changes until the transaction ends, by id; those that are gone are missing. */
export async function lockMeetings(
  tx: Transaction,
  ids: readonly string[],
): Promise<Map<string, StoredMeeting>> {
  if (ids.length === 0) return new Map();
  tx.send('select 1 from event where id = any($1) order by id for no key update', [ids]);
  return readMeetings(tx, ids);
}

function meetingOf(row: Row): StoredMeeting {
  const { startsAt, zone, fold, lengthMinutes, allDay, answers, ...rest } = row;
  const occurrences = new Map<number, Record<WallTime, Answer>>();
  for (const { attendeeId, at, ...answer } of answers) {
    occurrences.set(attendeeId, { ...occurrences.get(attendeeId), [at]: answer });
  }
  return {
    ...rest,
    timing: { startsAt, zone, fold, lengthMinutes, allDay },
    overrides: row.overrides.map(overrideOf),
    participants: row.participants.map((one) => ({
      ...one,
      occurrences: occurrences.get(one.id) ?? {},
    })),
  };
}

function overrideOf(row: OverrideRow): OccurrenceOverride {
  const { recurrenceId, startsAt, zone, fold, lengthMinutes, allDay, ...details } = row;
  return {
    recurrenceId,
    cancelled: details.cancelledAt !== null,
    timing: startsAt === null ? null : { startsAt, zone, fold, lengthMinutes, allDay },
    details,
  };
}

/** Ids of the meetings that have a UID. */
export async function findByUid(
  db: Database,
  uids: readonly string[],
): Promise<Map<string, string>> {
  const { rows } = await db.query<{ uid: string; id: string }>(
    'select uid, id from event where uid = any($1)',
    [uids],
  );
  return new Map(rows.map((row) => [row.uid, row.id]));
}

/** Ids of the meetings that are single dates of a series elsewhere which is not known here, by their order. */
export async function findDatesOf(db: Database, uid: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select id from event where date_of ->> 'uid' = $1 order by id limit $2`,
    [uid, MOST_SINGLE_DATES],
  );
  return rows.map((row) => row.id);
}

/** Lets others that take something about the same UIDs wait until the transaction ends. */
export function lockUids(tx: Transaction, uids: readonly string[]): void {
  tx.send(
    `select pg_advisory_xact_lock(key)
     from (select distinct hashtextextended(uid, 0) as key from unnest($1::text[]) uid order by 1) keys`,
    [uids],
  );
}

/**
 * The occurrence of a meeting that is next at an instant, or the last one, of those that are laid out; null when
 * there is none.
 */
export async function readNextOccurrence(
  db: Database,
  id: string,
  now: number,
): Promise<{ at: WallTime; isAhead: boolean } | null> {
  const { rows } = await db.query<{ at: WallTime; isAhead: boolean }>(
    `select recurrence_at as at, ends_at > $2 as "isAhead" from occurrence where event_id = $1
     order by ends_at > $2 desc, abs(extract(epoch from starts_at - $2)) limit 1`,
    [id, new Date(now)],
  );
  return rows[0] ?? null;
}
