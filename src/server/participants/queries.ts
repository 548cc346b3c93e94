import { addressKey } from '../../core/mailAddress.ts';
import type { Answer, Meeting, Participant } from '../../core/meetings/meeting.ts';
import { participantKey, peopleChange } from '../../core/meetings/people.ts';
import { same } from '../../core/same.ts';
import { isoInstant } from '../db/json.ts';
import type { Database, Transaction } from '../db/transaction.ts';

const answerRow = ({ reply, note, askedAt, repliedAt, stamp }: Answer) => ({
  reply,
  note,
  asked_at: isoInstant(askedAt),
  replied_at: isoInstant(repliedAt),
  stamp: isoInstant(stamp),
});

const participantRow = (one: Participant) => ({
  person_id: one.personId,
  email: one.personId === null ? one.email : null,
  name: one.personId === null ? one.name : null,
  role: one.role,
  nudged_at: isoInstant(one.nudgedAt),
  proposals: one.proposals,
  ...answerRow(one),
});

const occurrenceRows = (one: Participant, id: number) =>
  Object.entries(one.occurrences).map(([at, answer]) => ({
    recurrence_at: at,
    attendee_id: id,
    ...answerRow(answer),
  }));

const ANSWER_COLUMNS =
  'reply text, note text, asked_at timestamptz, replied_at timestamptz, stamp timestamptz';

/**
 * Writes the people of a meeting that is new, with their answers to single occurrences.
 * @returns them with their numbers
 */
export async function insertParticipants(
  tx: Transaction,
  eventId: string,
  participants: readonly Participant[],
): Promise<Participant[]> {
  const rows = participants.map((one, place) => ({ place, ...participantRow(one) }));
  const alone = participants.flatMap((one, place) => occurrenceRows(one, place));
  const made = await tx.query<{ place: number; id: number }>(
    `with new as (
       select nextval(pg_get_serial_sequence('attendee', 'id')) as id, given.*
       from jsonb_to_recordset($2) as given (place int, person_id int, email text, name text,
                                             role text, nudged_at timestamptz, proposals jsonb,
                                             ${ANSWER_COLUMNS})
     ), made as (
       insert into attendee (id, event_id, person_id, email, name, role, reply, note, invited_at,
                             replied_at, stamp, nudged_at, proposals)
       overriding system value
       select id, $1, person_id, email, name, role, reply, note, asked_at, replied_at, stamp, nudged_at,
              proposals
       from new
     ), alone as (
       insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, note, asked_at,
                                     replied_at, stamp)
       select $1, recurrence_at, new.id, given.reply, given.note, given.asked_at, given.replied_at,
              given.stamp
       from jsonb_to_recordset($3) as given (recurrence_at timestamp, attendee_id int,
                                             ${ANSWER_COLUMNS})
       join new on new.place = given.attendee_id
     )
     select place, id from new`,
    [eventId, JSON.stringify(rows), JSON.stringify(alone)],
  );
  const ids = new Map(made.rows.map((row) => [row.place, row.id]));
  return participants.map((one, place) => ({ ...one, id: ids.get(place)! }));
}

/**
 * Writes what is different about a meeting's people: who came and who left, roles and answers, to all
 * of it and to single occurrences. Whoever is the same is not touched.
 * @returns them with their numbers
 */
export async function updateParticipants(
  tx: Transaction,
  before: Meeting,
  after: Meeting,
): Promise<Participant[]> {
  const { added, removed } = peopleChange(before, after);
  if (removed.length > 0) {
    tx.send('delete from attendee where event_id = $1 and id = any($2)', [
      after.id,
      removed.map((one) => one.id),
    ]);
  }
  const isNew = new Set(added.map(participantKey));
  const stay = (meeting: Meeting) => ({
    ...meeting,
    participants: meeting.participants.filter((one) => !isNew.has(participantKey(one))),
  });
  const left = new Set(removed.map((one) => one.id));
  rewriteParticipants(
    tx,
    { ...before, participants: before.participants.filter((one) => !left.has(one.id)) },
    stay(after),
  );
  if (added.length === 0) return after.participants;
  const made = await insertParticipants(tx, after.id, added);
  const ids = new Map(made.map((one) => [participantKey(one), one]));
  return after.participants.map((one) => ids.get(participantKey(one)) ?? one);
}

function rewriteParticipants(tx: Transaction, before: Meeting, after: Meeting): void {
  const old = new Map(before.participants.map((one) => [one.id, one]));
  const changed = after.participants.filter(
    (one) => !same(participantRow(one), participantRow(old.get(one.id)!)),
  );
  const rowsOf = (meeting: Meeting) =>
    new Map(
      meeting.participants
        .flatMap((one) => occurrenceRows(one, one.id))
        .map((row) => [`${row.attendee_id} ${row.recurrence_at}`, row]),
    );
  const [had, has] = [rowsOf(before), rowsOf(after)];
  const gone = [...had].filter(([key]) => !has.has(key)).map(([, row]) => row);
  const kept = [...has].filter(([key, row]) => !same(row, had.get(key))).map(([, row]) => row);
  if (changed.length + gone.length + kept.length === 0) return;
  tx.send(
    `with changed as (
       update attendee set role = new.role, reply = new.reply, note = new.note,
              invited_at = new.asked_at, replied_at = new.replied_at, stamp = new.stamp,
              nudged_at = new.nudged_at, proposals = new.proposals
       from jsonb_to_recordset($2) as new (id bigint, role text, nudged_at timestamptz,
                                           proposals jsonb,
                                           ${ANSWER_COLUMNS})
       where attendee.id = new.id and attendee.event_id = $1
     ), gone as (
       delete from occurrence_reply
       using jsonb_to_recordset($3) as old (recurrence_at timestamp, attendee_id bigint)
       where occurrence_reply.event_id = $1
         and occurrence_reply.recurrence_at = old.recurrence_at
         and occurrence_reply.attendee_id = old.attendee_id
     ), kept as (
       insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, note, asked_at,
                                     replied_at, stamp)
       select $1, recurrence_at, attendee_id, reply, note, asked_at, replied_at, stamp
       from jsonb_to_recordset($4) as new (recurrence_at timestamp, attendee_id bigint,
                                           ${ANSWER_COLUMNS})
       on conflict (event_id, recurrence_at, attendee_id) do update
         set reply = excluded.reply, note = excluded.note, asked_at = excluded.asked_at,
             replied_at = excluded.replied_at, stamp = excluded.stamp
     ) select 1`,
    [
      after.id,
      JSON.stringify(changed.map((one) => ({ id: one.id, ...participantRow(one) }))),
      JSON.stringify(gone),
      JSON.stringify(kept),
    ],
  );
}

/**
 * Who of a meeting answers from an address: by the address they have, or by one at which they were
 * written to about it, however it has changed since.
 */
export async function findByAddress(
  db: Database,
  eventId: string,
  email: string,
): Promise<number | null> {
  const { rows } = await db.query<{ id: number }>(
    `select id from (
       select id, 1 as rank from participant where event_id = $1 and lower(email) = $2
       union all
       select attendee_id, 2 from mail
       where event_id = $1 and lower(recipient_email) = $2 and attendee_id is not null
     ) found order by rank limit 1`,
    [eventId, addressKey(email)],
  );
  return rows[0]?.id ?? null;
}

/** The meeting that an attendee is asked to; null where they are asked no more. */
export async function meetingOfAttendee(db: Database, attendeeId: number): Promise<string | null> {
  const { rows } = await db.query<{ id: string }>(
    'select event_id as id from attendee where id = $1',
    [attendeeId],
  );
  return rows[0]?.id ?? null;
}
