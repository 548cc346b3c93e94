import type { WallTime } from '../../core/time/wall.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import type { OccurrenceDetails, OccurrenceOverride } from './model.ts';

type OverrideRow = OccurrenceDetails & {
  recurrenceId: WallTime;
  startsAt: WallTime | null;
  zone: string;
  fold: 'earlier' | 'later';
  lengthMinutes: number;
  allDay: boolean;
};

export async function readOverrides(db: Database, eventId: string): Promise<OccurrenceOverride[]> {
  const { rows } = await db.query<OverrideRow>(
    `select recurrence_at as "recurrenceId", cancelled_at as "cancelledAt",
            starts_at as "startsAt", zone, end_zone as "endZone", coalesce(fold, 'earlier') as fold,
            length_minutes as "lengthMinutes", coalesce(all_day, false) as "allDay",
            title, description, place, agenda, notes, shows_as as "showsAs", resources
     from occurrence_override where event_id = $1 order by recurrence_at`,
    [eventId],
  );
  return rows.map(({ recurrenceId, startsAt, zone, fold, lengthMinutes, allDay, ...details }) => ({
    recurrenceId,
    cancelled: details.cancelledAt !== null,
    timing: startsAt === null ? null : { startsAt, zone, fold, lengthMinutes, allDay },
    details,
  }));
}

/** Puts the overrides of an event in the place of those that are there. */
export async function replaceOverrides(
  tx: Transaction,
  eventId: string,
  overrides: readonly OccurrenceOverride[],
): Promise<void> {
  await tx.query('delete from occurrence_override where event_id = $1', [eventId]);
  if (overrides.length === 0) return;
  const rows = overrides.map(({ recurrenceId, timing, details }) => ({
    recurrence_at: recurrenceId,
    cancelled_at: details.cancelledAt && new Date(details.cancelledAt).toISOString(),
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
  }));
  await tx.query(
    `insert into occurrence_override (event_id, recurrence_at, cancelled_at, starts_at, zone, end_zone,
                                      fold, length_minutes, all_day, title, description, place,
                                      agenda, notes, shows_as, resources)
     select $1, new.* from jsonb_to_recordset($2) as new (
       recurrence_at timestamp, cancelled_at timestamptz, starts_at timestamp, zone text,
       end_zone text, fold text, length_minutes int, all_day boolean, title text, description text,
       place text, agenda text, notes text, shows_as text, resources int[])`,
    [eventId, JSON.stringify(rows)],
  );
}

/** Asks everyone again about one occurrence that was moved. */
export async function askAgain(
  tx: Transaction,
  eventId: string,
  at: WallTime,
  now: number,
): Promise<void> {
  await tx.query(
    `insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, asked_at)
     select event_id, $2, id, 'needs-action', $3 from attendee
     where event_id = $1 and role <> 'organizer'
     on conflict (event_id, recurrence_at, attendee_id)
       do update set reply = 'needs-action', note = '', asked_at = $3, replied_at = null`,
    [eventId, at, new Date(now)],
  );
}
