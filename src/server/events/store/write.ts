import type { Meeting, OccurrenceOverride } from '../../../core/meetings/meeting.ts';
import { same } from '../../../core/same.ts';
import { isoInstant } from '../../db/json.ts';
import type { Transaction } from '../../db/transaction.ts';

const COLUMNS = `title text, description text, place text, agenda text, notes text, shows_as text,
  visibility text, status text, cancelled_at timestamptz, starts_at timestamp, zone text, fold text,
  length_minutes int, all_day boolean, end_zone text, rule text, except_at timestamp[],
  sequence int, replies_from int, version int, kept_until timestamptz, invitees_change boolean,
  invitees_invite boolean, invitees_list boolean, outsiders_count boolean, draft jsonb`;
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
  draft: meeting.draft,
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
  invitees_change: meeting.rights.change,
  invitees_invite: meeting.rights.invite,
  invitees_list: meeting.rights.list,
  outsiders_count: meeting.rights.count,
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

/** Writes what is different about single dates. */
function writeOverrides(tx: Transaction, before: Meeting | null, after: Meeting): void {
  const old = new Map(before?.overrides.map((one) => [one.recurrenceId, ownRow(one)]));
  const rows = after.overrides.map(ownRow);
  const own = rows.filter((row) => !same(row, old.get(row.recurrence_at)));
  const kept = new Set(rows.map((row) => row.recurrence_at));
  const gone = [...old.keys()].filter((at) => !kept.has(at));
  if (own.length + gone.length > 0) {
    tx.send(
      `with gone as (
         delete from occurrence_override where event_id = $1 and recurrence_at = any($2::timestamp[])
       )
       insert into occurrence_override (event_id, ${OWN_NAMES.join(', ')})
       select $1, new.* from jsonb_to_recordset($3) as new (${OWN_COLUMNS})
       on conflict (event_id, recurrence_at) do update
         set ${OWN_NAMES.slice(1)
           .map((name) => `${name} = excluded.${name}`)
           .join(', ')}`,
      [after.id, gone, JSON.stringify(own)],
    );
  }
}

/** Writes which resources are wanted by now, and which no more. */
function writeWanted(tx: Transaction, before: Meeting, after: Meeting): void {
  const [had, wants] = [new Set(before.resources), new Set(after.resources)];
  const unwanted = [...had].filter((id) => !wants.has(id));
  const wanted = [...wants].filter((id) => !had.has(id));
  if (unwanted.length + wanted.length > 0) {
    tx.send(
      `with unwanted as (
         delete from event_resource where event_id = $1 and resource_id = any($2::int[])
       )
       insert into event_resource (event_id, resource_id) select $1, unnest($3::int[])`,
      [after.id, unwanted, wanted],
    );
  }
}

interface Kept {
  /** Up to when occurrences of a series are laid out; null for what happens once. */
  keptUntil: number | null;
  /** Epoch milliseconds, as `keptUntil`. */
  now: number;
}

/** Writes a meeting that is new, people and occurrences aside. */
export function insertMeeting(
  tx: Transaction,
  meeting: Meeting,
  { createdBy, keptUntil, now }: Kept & { createdBy: number },
): void {
  tx.send(
    `with made as (
       insert into event (id, uid, organizer_id, created_by, created_at, updated_at, ${NAMES.join(', ')})
       select $1, $3, $4, $5, $6, $6, new.* from jsonb_to_record($2) as new (${COLUMNS})
     )
     insert into event_resource (event_id, resource_id) select $1, unnest($7::int[])`,
    [
      meeting.id,
      JSON.stringify(eventRow(meeting, keptUntil)),
      meeting.uid,
      meeting.organizerId,
      createdBy,
      new Date(now),
      [...new Set(meeting.resources)],
    ],
  );
  writeOverrides(tx, null, meeting);
}

/** Writes what is different about a meeting, people and occurrences aside. */
export function updateMeeting(
  tx: Transaction,
  before: Meeting,
  after: Meeting,
  { keptUntil, now }: Kept,
): void {
  tx.send(
    `update event set (${NAMES.join(', ')}) = (
       select new.* from jsonb_to_record($2) as new (${COLUMNS})), updated_at = $3,
       is_laid_out_whole = false
     where id = $1`,
    [after.id, JSON.stringify(eventRow(after, keptUntil)), new Date(now)],
  );
  writeOverrides(tx, before, after);
  writeWanted(tx, before, after);
}

/** Deletes a meeting with all that still hangs on it. */
export function deleteMeeting(tx: Transaction, id: string): void {
  tx.send('delete from event where id = $1', [id]);
}
