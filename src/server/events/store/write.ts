import type { Meeting, OccurrenceOverride } from '../../../core/meetings/meeting.ts';
import { same } from '../../../core/same.ts';
import { isoInstant } from '../../db/json.ts';
import type { Transaction } from '../../db/transaction.ts';

const COLUMNS = `title text, description text, place text, agenda text, notes text, shows_as text,
  visibility text, status text, cancelled_at timestamptz, starts_at timestamp, zone text, fold text,
  length_minutes int, all_day boolean, end_zone text, rule text, except_at timestamp[],
  sequence int, replies_from int, version int, kept_until timestamptz`;
const NAMES = COLUMNS.split(',').map((column) => column.trim().split(' ')[0]!);

const OWN_COLUMNS = `recurrence_at timestamp, cancelled_at timestamptz, starts_at timestamp,
  zone text, end_zone text, fold text, length_minutes int, all_day boolean, title text,
  description text, place text, agenda text, notes text, shows_as text, resources int[],
  replies_from int`;
const OWN_NAMES = OWN_COLUMNS.split(',').map((column) => column.trim().split(' ')[0]!);

const eventRow = (meeting: Meeting, keptUntil: number | null) => ({
  title: meeting.title,
  description: meeting.description,
  place: meeting.place,
  agenda: meeting.agenda,
  notes: meeting.notes,
  shows_as: meeting.showsAs,
  visibility: meeting.visibility,
  status: meeting.status,
  cancelled_at: isoInstant(meeting.cancelledAt),
  starts_at: meeting.timing.startsAt,
  zone: meeting.timing.zone,
  fold: meeting.timing.fold,
  length_minutes: meeting.timing.lengthMinutes,
  all_day: meeting.timing.allDay,
  end_zone: meeting.endZone,
  rule: meeting.rule,
  except_at: meeting.except,
  sequence: meeting.sequence,
  replies_from: meeting.repliesFrom,
  version: meeting.version,
  kept_until: isoInstant(keptUntil),
});

const ownRow = ({ recurrenceId, timing, details }: OccurrenceOverride) => ({
  recurrence_at: recurrenceId,
  cancelled_at: isoInstant(details.cancelledAt),
  starts_at: timing?.startsAt ?? null,
  zone: timing?.zone ?? null,
  end_zone: details.endZone,
  fold: timing?.fold ?? null,
  length_minutes: timing?.lengthMinutes ?? null,
  all_day: timing?.allDay ?? null,
  title: details.title,
  description: details.description,
  place: details.place,
  agenda: details.agenda,
  notes: details.notes,
  shows_as: details.showsAs,
  resources: details.resources,
  replies_from: details.repliesFrom,
});

/** The parts that hang on an event by its id alone: overrides that differ, resources wanted. */
const PARTS = `
  gone as (
    delete from occurrence_override where event_id = $1 and recurrence_at = any($3::timestamp[])
  ), own as (
    insert into occurrence_override (event_id, ${OWN_NAMES.join(', ')})
    select $1, new.* from jsonb_to_recordset($4) as new (${OWN_COLUMNS})
    on conflict (event_id, recurrence_at) do update
      set ${OWN_NAMES.slice(1)
        .map((name) => `${name} = excluded.${name}`)
        .join(', ')}
  ), unwanted as (
    delete from event_resource where event_id = $1 and resource_id = any($5::int[])
  ), wanted as (
    insert into event_resource (event_id, resource_id) select $1, unnest($6::int[])
  )`;

function partValues(before: Meeting | null, after: Meeting) {
  const old = new Map(before?.overrides.map((one) => [one.recurrenceId, ownRow(one)]));
  const rows = after.overrides.map(ownRow);
  const kept = new Set(rows.map((row) => row.recurrence_at));
  const [had, wants] = [new Set(before?.resources), new Set(after.resources)];
  return [
    [...old.keys()].filter((at) => !kept.has(at)),
    JSON.stringify(rows.filter((row) => !same(row, old.get(row.recurrence_at)))),
    [...had].filter((id) => !wants.has(id)),
    [...wants].filter((id) => !had.has(id)),
  ];
}

interface Kept {
  /** Up to when occurrences of a series are laid out; null for what happens once. */
  keptUntil: number | null;
  /** Epoch milliseconds, as `keptUntil`. */
  now: number;
}

/** Writes a meeting that is new, people and occurrences aside. */
export async function insertMeeting(
  tx: Transaction,
  meeting: Meeting,
  { createdBy, keptUntil, now }: Kept & { createdBy: number },
): Promise<void> {
  await tx.query(
    `with made as (
       insert into event (id, uid, organizer_id, created_by, created_at, updated_at, ${NAMES.join(', ')})
       select $1, $7, $8, $9, $10, $10, new.* from jsonb_to_record($2) as new (${COLUMNS})
     ), ${PARTS} select 1`,
    [
      meeting.id,
      JSON.stringify(eventRow(meeting, keptUntil)),
      ...partValues(null, meeting),
      meeting.uid,
      meeting.organizerId,
      createdBy,
      new Date(now),
    ],
  );
}

/** Writes what is different about a meeting, people and occurrences aside. */
export async function updateMeeting(
  tx: Transaction,
  before: Meeting,
  after: Meeting,
  { keptUntil, now }: Kept,
): Promise<void> {
  await tx.query(
    `with changed as (
       update event set (${NAMES.join(', ')}) = (
         select new.* from jsonb_to_record($2) as new (${COLUMNS})), updated_at = $7
       where id = $1
     ), ${PARTS} select 1`,
    [
      after.id,
      JSON.stringify(eventRow(after, keptUntil)),
      ...partValues(before, after),
      new Date(now),
    ],
  );
}

/** Deletes a meeting with all that still hangs on it. */
export async function deleteMeeting(tx: Transaction, id: string): Promise<void> {
  await tx.query('delete from event where id = $1', [id]);
}
