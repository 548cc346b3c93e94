import { addressKey } from '../../core/mailAddress.ts';
import type { Answer, Meeting, Participant } from '../../core/meetings/meeting.ts';
import { participantKey, peopleChange } from '../../core/meetings/people.ts';
import { timingInterval } from '../../core/recurrence/series.ts';
import { same } from '../../core/same.ts';
import { isoInstant } from '../db/json.ts';
import { sendTogether, type StatementPart } from '../db/parts.ts';
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

/** People who are new to a meeting. */
interface Coming {
  eventId: string;
  participants: readonly Participant[];
}

/**
 * People who are new to meetings, with their answers to single occurrences, as a part of a statement; it gives
 * their numbers in the order of the people.
 */
export function newParticipants(coming: readonly Coming[]): StatementPart {
  const all = coming.flatMap(({ eventId, participants }) =>
    participants.map((one) => ({ event_id: eventId, one })),
  );
  const rows = all.map(({ event_id, one }, place) => ({ place, event_id, ...participantRow(one) }));
  const alone = all.flatMap(({ one }, place) => occurrenceRows(one, place));
  return {
    text: `new_attendee as (
       select nextval(pg_get_serial_sequence('attendance', 'id')) as id, given.*
       from jsonb_to_recordset($1) as given (place int, event_id uuid, person_id int, email text,
                                             name text, role text, nudged_at timestamptz,
                                             proposals jsonb, ${ANSWER_COLUMNS})
     ), made_attendee as (
       insert into attendee (id, event_id, person_id, email, name, role, reply, note, invited_at,
                             replied_at, stamp, nudged_at, proposals)
       overriding system value
       select id, event_id, person_id, email, name, role, reply, note, asked_at, replied_at, stamp,
              nudged_at, proposals
       from new_attendee
     ), made_reply as (
       insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, note, asked_at,
                                     replied_at, stamp)
       select new_attendee.event_id, recurrence_at, new_attendee.id, given.reply, given.note,
              given.asked_at, given.replied_at, given.stamp
       from jsonb_to_recordset($2) as given (recurrence_at timestamp, attendee_id int,
                                             ${ANSWER_COLUMNS})
       join new_attendee on new_attendee.place = given.attendee_id
     )`,
    values: [JSON.stringify(rows), JSON.stringify(alone)],
    gives: `coalesce((select json_agg(id order by place) from new_attendee), '[]')`,
  };
}

/** People with their numbers. @param ids as `newParticipants` gives them, for one meeting after another */
export function withNumbers(coming: readonly Coming[], ids: unknown): Participant[][] {
  const left = [...(ids as number[])];
  return coming.map(({ participants }) =>
    participants.map((one) => ({ ...one, id: left.shift()! })),
  );
}

/**
 * Writes what is different about the people of meetings: who came and who left, roles and answers, to all
 * of it and to single occurrences. Whoever is the same is not touched. Three statements, however many.
 * @returns them with their numbers, meeting by meeting
 */
export async function updateParticipants(
  tx: Transaction,
  changes: readonly { before: Meeting; after: Meeting; leftAt?: number }[],
): Promise<Participant[][]> {
  const people = changes.map(({ before, after }) => ({
    before,
    after,
    ...peopleChange(before, after),
  }));
  const eventIds = changes.map(({ after }) => after.id);
  const leaving = people.flatMap((one, k) => {
    const { leftAt } = changes[k]!;
    // Of what is all to come nothing is theirs.
    return leftAt !== undefined && timingInterval(one.before.timing).start < leftAt
      ? one.removed.map(({ id }) => ({ id, left_at: isoInstant(leftAt) }))
      : [];
  });
  if (leaving.length > 0)
    tx.send(
      `update attendance set left_at = new.left_at
       from jsonb_to_recordset($2) as new (id bigint, left_at timestamptz)
       where attendance.id = new.id and event_id = any($1::uuid[])`,
      [eventIds, JSON.stringify(leaving)],
    );
  const stays = new Set(leaving.map(({ id }) => id));
  const removed = people
    .flatMap((one) => one.removed.map(({ id }) => id))
    .filter((id) => !stays.has(id));
  if (removed.length > 0)
    tx.send('delete from attendee where event_id = any($1::uuid[]) and id = any($2)', [
      eventIds,
      removed,
    ]);
  const back = people.flatMap(({ after, added }) =>
    added.flatMap(({ personId }) => (personId === null ? [] : { eventId: after.id, personId })),
  );
  // Whoever had left is there again for all of it.
  if (back.length > 0)
    tx.send(
      `delete from attendance using unnest($1::uuid[], $2::int[]) as back (event_id, person_id)
       where left_at is not null and attendance.event_id = back.event_id
         and attendance.person_id = back.person_id`,
      [back.map((one) => one.eventId), back.map((one) => one.personId)],
    );
  const rewritten = people.map(rewriteOf);
  writeAnswers(tx, eventIds, {
    changed: rewritten.flatMap((one) => one.changed),
    gone: rewritten.flatMap((one) => one.gone),
    kept: rewritten.flatMap((one) => one.kept),
  });
  const coming = people.map(({ after, added }) => ({ eventId: after.id, participants: added }));
  if (coming.every((one) => one.participants.length === 0))
    return changes.map(({ after }) => after.participants);
  const [ids] = await sendTogether(tx, [newParticipants(coming)]);
  const numbered = withNumbers(coming, ids);
  return people.map(({ after }, k) => {
    const made = new Map(numbered[k]!.map((one) => [participantKey(one), one]));
    return after.participants.map((one) => made.get(participantKey(one)) ?? one);
  });
}

/** Rows of those who stay that are others by now, and of single dates answered otherwise or no more. */
interface Rewrite {
  changed: object[];
  gone: object[];
  kept: object[];
}

function rewriteOf({
  before,
  after,
  added,
  removed,
}: {
  before: Meeting;
  after: Meeting;
  added: readonly Participant[];
  removed: readonly Participant[];
}): Rewrite {
  const isNew = new Set(added.map(participantKey));
  const isGone = new Set(removed.map((one) => one.id));
  const were = before.participants.filter((one) => !isGone.has(one.id));
  const are = after.participants.filter((one) => !isNew.has(participantKey(one)));
  const old = new Map(were.map((one) => [one.id, participantRow(one)]));
  const rowsOf = (people: readonly Participant[]) =>
    new Map(
      people
        .flatMap((one) => occurrenceRows(one, one.id))
        .map((row) => [`${row.attendee_id} ${row.recurrence_at}`, { event_id: after.id, ...row }]),
    );
  const [had, has] = [rowsOf(were), rowsOf(are)];
  return {
    changed: are
      .filter((one) => !same(participantRow(one), old.get(one.id)!))
      .map((one) => ({ id: one.id, event_id: after.id, ...participantRow(one) })),
    gone: [...had].filter(([key]) => !has.has(key)).map(([, row]) => row),
    kept: [...has].filter(([key, row]) => !same(row, had.get(key))).map(([, row]) => row),
  };
}

/** @param eventIds whose people they are: by them the planner sees that an index is the shorter way */
function writeAnswers(
  tx: Transaction,
  eventIds: readonly string[],
  { changed, gone, kept }: Rewrite,
): void {
  if (changed.length + gone.length + kept.length === 0) return;
  tx.send(
    `with changed as (
       update attendee set role = new.role, reply = new.reply, note = new.note,
              invited_at = new.asked_at, replied_at = new.replied_at, stamp = new.stamp,
              nudged_at = new.nudged_at, proposals = new.proposals
       from jsonb_to_recordset($1) as new (id bigint, event_id uuid, role text,
                                           nudged_at timestamptz, proposals jsonb,
                                           ${ANSWER_COLUMNS})
       where attendee.id = new.id and attendee.event_id = new.event_id
         and attendee.event_id = any($4::uuid[])
     ), gone as (
       delete from occurrence_reply
       using jsonb_to_recordset($2) as old (event_id uuid, recurrence_at timestamp,
                                            attendee_id bigint)
       where occurrence_reply.event_id = old.event_id
         and occurrence_reply.recurrence_at = old.recurrence_at
         and occurrence_reply.attendee_id = old.attendee_id
         and occurrence_reply.event_id = any($4::uuid[])
     ), kept as (
       insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, note, asked_at,
                                     replied_at, stamp)
       select event_id, recurrence_at, attendee_id, reply, note, asked_at, replied_at, stamp
       from jsonb_to_recordset($3) as new (event_id uuid, recurrence_at timestamp,
                                           attendee_id bigint, ${ANSWER_COLUMNS})
       on conflict (event_id, recurrence_at, attendee_id) do update
         set reply = excluded.reply, note = excluded.note, asked_at = excluded.asked_at,
             replied_at = excluded.replied_at, stamp = excluded.stamp
     ) select 1`,
    [JSON.stringify(changed), JSON.stringify(gone), JSON.stringify(kept), eventIds],
  );
}

/**
 * Who of those asked to a meeting have some addresses, those to which they were written before among them.
 * @returns their numbers by address, as addressKey gives it
 */
export async function findByAddresses(
  db: Database,
  eventId: string,
  emails: readonly string[],
): Promise<Map<string, number>> {
  const { rows } = await db.query<{ email: string; id: number }>(
    `select distinct on (email) email, id from (
       select lower(email) as email, id, 1 as rank from participant
       where event_id = $1 and lower(email) = any($2::text[])
       union all
       select lower(recipient_email), attendee_id, 2 from mail
       where event_id = $1 and lower(recipient_email) = any($2::text[]) and attendee_id is not null
     ) found order by email, rank`,
    [eventId, emails.map(addressKey)],
  );
  return new Map(rows.map((row) => [row.email, row.id]));
}

/** The meeting that an attendee is asked to; null where they are asked no more. */
export async function meetingOfAttendee(db: Database, attendeeId: number): Promise<string | null> {
  const { rows } = await db.query<{ id: string }>(
    'select event_id as id from attendee where id = $1',
    [attendeeId],
  );
  return rows[0]?.id ?? null;
}

/** What the links of an installation are made with. */
export async function guestKey(db: Database): Promise<string> {
  const { rows } = await db.query<{ value: string }>(
    `select value from setting where key = 'guest-key'`,
  );
  return rows[0]!.value;
}
