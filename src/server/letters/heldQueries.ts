import type { Meeting } from '../../core/meetings/meeting.ts';
import type { Transaction } from '../db/transaction.ts';

/** Which version of which meeting the receivers of held letters last heard of. */
export interface KnownVersion {
  eventId: string;
  version: number;
}

/** Keeps meetings as the receivers of letters that are held now last heard of them. */
export function keepBefore(tx: Transaction, meetings: readonly Meeting[], now: number): void {
  if (meetings.length === 0) return;
  const rows = meetings.map((meeting) => ({
    event_id: meeting.id,
    version: meeting.version,
    meeting,
  }));
  tx.send(
    `insert into held_before (event_id, version, meeting, created_at)
     select event_id, version, meeting, $2
     from jsonb_to_recordset($1) as kept (event_id uuid, version int, meeting jsonb)
     on conflict (event_id, version) do nothing`,
    [JSON.stringify(rows), new Date(now)],
  );
}

/** Meetings as they were kept, by id and version. */
export async function readBefore(
  tx: Transaction,
  versions: readonly KnownVersion[],
): Promise<Map<string, Meeting>> {
  if (versions.length === 0) return new Map();
  const { rows } = await tx.query<KnownVersion & { meeting: Meeting }>(
    `select held.event_id as "eventId", held.version, held.meeting
     from jsonb_to_recordset($1) as asked ("eventId" uuid, version int)
     join held_before held on held.event_id = asked."eventId" and held.version = asked.version`,
    [JSON.stringify(versions)],
  );
  return new Map(rows.map((row) => [versionKey(row), row.meeting]));
}

export const versionKey = ({ eventId, version }: KnownVersion): string => `${eventId} ${version}`;
