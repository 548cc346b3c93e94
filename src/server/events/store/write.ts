import type { Meeting, OccurrenceOverride } from '../../../core/meetings/meeting.ts';
import { DATE_FIELD_NAMES, FIELD_NAMES } from '../../../core/meetings/fields.ts';
import { same } from '../../../core/same.ts';
import { isoInstant } from '../../db/json.ts';
import type { StatementPart } from '../../db/parts.ts';
import type { Transaction } from '../../db/transaction.ts';
import { columnsWithTypes, fieldsRow } from './fields.ts';

const COLUMNS = `${columnsWithTypes(FIELD_NAMES)}, status text, cancelled_at timestamptz, starts_at timestamp, zone text, fold text,
  length_minutes int, all_day boolean, end_zone text, rule text, except_at timestamp[],
  sequence int, replies_from int, version int, kept_until timestamptz, invitees_change boolean,
  invitees_invite boolean, invitees_list boolean, outsiders_count boolean, draft jsonb,
  date_of jsonb, organizer_id int`;
const NAMES = COLUMNS.split(',').map((column) => column.trim().split(' ')[0]!);

const OWN_COLUMNS = `recurrence_at timestamp, cancelled_at timestamptz, starts_at timestamp,
  zone text, end_zone text, fold text, length_minutes int, all_day boolean,
  ${columnsWithTypes(DATE_FIELD_NAMES)}, resources int[], replies_from int`;
const OWN_NAMES = OWN_COLUMNS.split(',').map((column) => column.trim().split(' ')[0]!);

const eventRow = (meeting: Meeting, expandedUntil: number | null) => ({
  ...fieldsRow(FIELD_NAMES, meeting),
  status: meeting.status,
  draft: meeting.draft,
  date_of: meeting.dateOf ?? null,
  organizer_id: meeting.organizerId,
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
  replies_from: meeting.minReplySequence,
  version: meeting.version,
  kept_until: isoInstant(expandedUntil),
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
  ...fieldsRow(DATE_FIELD_NAMES, details),
  resources: details.resources,
  replies_from: details.minReplySequence,
});

/** What one change makes of a meeting, people and occurrences aside. */
export interface MeetingWrite {
  before: Meeting | null;
  after: Meeting;
  /** Up to when occurrences of a series are laid out; null for what happens once. Epoch milliseconds. */
  expandedUntil: number | null;
}

/** Rows of single dates that are others by now, and the names of those that are gone. */
function overrideRows({ before, after }: MeetingWrite) {
  const old = new Map(before?.overrides.map((one) => [one.recurrenceId, ownRow(one)]));
  const rows = after.overrides.map(ownRow);
  const kept = new Set(rows.map((row) => row.recurrence_at));
  const named = <Row extends object>(row: Row) => ({ event_id: after.id, ...row });
  return {
    own: rows.filter((row) => !same(row, old.get(row.recurrence_at))).map(named),
    gone: [...old.keys()]
      .filter((at) => !kept.has(at))
      .map((recurrence_at) => named({ recurrence_at })),
  };
}

/** Writes what is different about single dates of meetings. */
function writeOverrides(tx: Transaction, writes: readonly MeetingWrite[]): void {
  const rows = writes.map(overrideRows);
  const [own, gone] = [rows.flatMap((one) => one.own), rows.flatMap((one) => one.gone)];
  if (own.length + gone.length > 0) {
    tx.send(
      `with gone as (
         delete from occurrence_override own
         using jsonb_to_recordset($1) as old (event_id uuid, recurrence_at timestamp)
         where own.event_id = old.event_id and own.recurrence_at = old.recurrence_at
           and own.event_id = any($3::uuid[])
       )
       insert into occurrence_override (event_id, ${OWN_NAMES.join(', ')})
       select new.* from jsonb_to_recordset($2) as new (event_id uuid, ${OWN_COLUMNS})
       on conflict (event_id, recurrence_at) do update
         set ${OWN_NAMES.slice(1)
           .map((name) => `${name} = excluded.${name}`)
           .join(', ')}`,
      [JSON.stringify(gone), JSON.stringify(own), writes.map(({ after }) => after.id)],
    );
  }
}

/** Writes which resources are wanted by now, and which no more. */
function writeWanted(tx: Transaction, writes: readonly MeetingWrite[]): void {
  const rows = (from: Meeting | null, to: Meeting | null, id: string) => {
    const there = new Set(to?.resources);
    return [...new Set(from?.resources)]
      .filter((resource) => !there.has(resource))
      .map((resource) => ({ event_id: id, resource_id: resource }));
  };
  const unwanted = writes.flatMap(({ before, after }) => rows(before, after, after.id));
  const wanted = writes.flatMap(({ before, after }) => rows(after, before, after.id));
  if (unwanted.length + wanted.length > 0) {
    tx.send(
      `with unwanted as (
         delete from event_resource
         using jsonb_to_recordset($1) as old (event_id uuid, resource_id int)
         where event_resource.event_id = old.event_id
           and event_resource.resource_id = old.resource_id
           and event_resource.event_id = any($3::uuid[])
       )
       insert into event_resource (event_id, resource_id)
       select * from jsonb_to_recordset($2) as new (event_id uuid, resource_id int)`,
      [JSON.stringify(unwanted), JSON.stringify(wanted), writes.map(({ after }) => after.id)],
    );
  }
}

/** A meeting that is new, people, single dates and occurrences aside. */
export const newMeeting = (
  { after, expandedUntil }: MeetingWrite,
  { createdBy, now }: { createdBy: number; now: number },
): StatementPart => ({
  text: `made_event as (
       insert into event (id, uid, created_by, created_at, updated_at, ${NAMES.join(', ')})
       select $1, $3, $4, $5, $5, new.* from jsonb_to_record($2) as new (${COLUMNS})
     ), wanted_resource as (
       insert into event_resource (event_id, resource_id) select $1, unnest($6::int[])
     )`,
  values: [
    after.id,
    JSON.stringify(eventRow(after, expandedUntil)),
    after.uid,
    createdBy,
    new Date(now),
    [...new Set(after.resources)],
  ],
});

/** Writes what is said of single dates of a meeting that is new. */
export const writeNewOverrides = (tx: Transaction, write: MeetingWrite): void =>
  writeOverrides(tx, [write]);

/** Writes what is different about meetings, people and occurrences aside: three statements, however many. */
export function updateMeetings(
  tx: Transaction,
  writes: readonly MeetingWrite[],
  now: number,
): void {
  if (writes.length === 0) return;
  tx.send(
    `update event set ${NAMES.map((name) => `${name} = new.${name}`).join(', ')}, updated_at = $2,
            is_laid_out_whole = false
     from jsonb_to_recordset($1) as new (id uuid, ${COLUMNS})
     where event.id = new.id and event.id = any($3::uuid[])`,
    [
      JSON.stringify(
        writes.map(({ after, expandedUntil }) => ({
          id: after.id,
          ...eventRow(after, expandedUntil),
        })),
      ),
      new Date(now),
      writes.map(({ after }) => after.id),
    ],
  );
  writeOverrides(tx, writes);
  writeWanted(tx, writes);
}

/** Deletes a meeting with all that still hangs on it. */
export function deleteMeeting(tx: Transaction, id: string): void {
  tx.send('delete from event where id = $1', [id]);
}
