import { expect } from 'vitest';
import {
  answerOf,
  ATTENDEES,
  dates,
  instant,
  invited,
  isDraft,
  isGone,
  nameOf,
  wallOf,
  type Asks,
  type Reply,
  type Twin,
} from './together.ts';
import type { useServer } from '../support/server.ts';

type Asked = Pick<ReturnType<typeof useServer>, 'sql'>;
type Ids = Record<'ines' | 'tomas' | 'mika' | 'hal' | 'kit', number>;

/**
 * Holds what is kept of a meeting against the twin: dates, answers, claims, letters, news, times asked for.
 * @param ids of everybody and everything in it, by their names there
 */
export async function expectKept(server: Asked, ids: Ids, id: string, twin: Twin): Promise<void> {
  const live = dates.filter((k) => !isGone(twin, k));
  const [event] = await server.sql<{ sequence: number; version: number; from: number }>(
    'select sequence, version, replies_from as from from event where id = $1',
    [id],
  );
  const { sequence, version, from } = twin;
  expect(event).toEqual({ sequence, version, from });
  const occurrences = await server.sql(
    `select recurrence_at as name, starts_at as start, title, place
     from effective_occurrence where event_id = $1 order by recurrence_at`,
    [id],
  );
  expect(occurrences).toEqual(
    live.map((k) => ({
      name: nameOf(twin, k),
      start: instant(wallOf(twin, k)),
      title: twin.values.get(`${k}.title`) ?? twin.values.get('title'),
      place: twin.values.get('place'),
    })),
  );
  const replies = await server.sql<{ who: string; reply: string }>(
    `select coalesce(participant.person_id::text, 'guest') as who, reply.recurrence_at as name,
            reply.reply
     from effective_reply reply join participant on participant.id = reply.attendee_id
     where reply.event_id = $1 and reply.role <> 'organizer'
     order by reply.recurrence_at, participant.id`,
    [id],
  );
  const named: Record<string, string> = {
    [String(ids.tomas)]: 'tomas',
    [String(ids.mika)]: 'mika',
    [String(ids.hal)]: 'hal',
    guest: 'guest',
  };
  expect(replies.map((row) => ({ ...row, who: named[row.who] }))).toEqual(
    live.flatMap((k) =>
      invited(twin).map((who) => ({
        who,
        name: nameOf(twin, k),
        reply: answerOf(twin, who, k).reply,
      })),
    ),
  );
  const claims = await server.sql<{ subject: number; start: number; occupancy: string }>(
    `select subject_id as subject, lower(during) as start, occupancy
     from claim join occurrence on occurrence.id = claim.occurrence_id
     where event_id = $1 order by occurrence.recurrence_at, subject_id`,
    [id],
  );
  const OCCUPANCY: Record<Reply, string | null> = {
    accepted: 'busy',
    tentative: 'tentative',
    'needs-action': 'tentative',
    declined: null,
  };
  expect(claims).toEqual(
    live.flatMap((k) => {
      const start = instant(wallOf(twin, k));
      const of = (subject: number, occupancy: string | null) =>
        occupancy ? [{ subject, start, occupancy }] : [];
      return [
        ...of(ids.ines, isDraft(twin) ? 'free' : 'busy'),
        ...invited(twin).flatMap((who) =>
          who === 'guest' ? [] : of(ids[who], OCCUPANCY[answerOf(twin, who, k).reply]),
        ),
        ...(isDraft(twin) ? [] : of(ids.kit, 'busy')),
      ].sort((a, b) => a.subject - b.subject);
    }),
  );
  // What stands beside a reservation for the ledger is what its meeting says.
  const apart = await server.sql(
    `select 1 from reservation
     join occurrence on occurrence.id = reservation.occurrence_id
     join event on event.id = occurrence.event_id
     where event.id = $1 and reservation.state <> 'released'
       and (reservation.starts_at, reservation.ends_at, reservation.holder_id)
         is distinct from (occurrence.starts_at, occurrence.ends_at, event.organizer_id)`,
    [id],
  );
  expect(apart).toEqual([]);
  const [letters] = await server.sql<{ count: number; sequence: string }>(
    `select count(*) as count,
            (array_agg(substring(calendar from 'SEQUENCE:(\\d+)') order by created_at desc))[1]
              as sequence
     from mail where event_id = $1`,
    [id],
  );
  expect(letters!.count).toBe(twin.letters);
  if (!isDraft(twin)) expect(letters!.sequence).toBe(String(sequence));
  const bell = await server.sql<{ who: string; version: number; isRead: boolean }>(
    `select person_id::text as who, version, read_at is not null as "isRead"
     from notification where event_id = $1`,
    [id],
  );
  const bellNames: Record<string, string> = { ...named, [String(ids.ines)]: 'ines' };
  const lines = (rows: readonly { who: string; version: number; isRead: boolean }[]) =>
    rows.map((row) => `${row.who} ${row.version} ${row.isRead ? 'read' : 'new'}`).sort();
  expect(lines(bell.map((row) => ({ ...row, who: bellNames[row.who]! })))).toEqual(
    lines(twin.news),
  );
  const asks = await server.sql<{ who: string; occurrence: string; start: number }>(
    `select coalesce(person_id::text, 'guest') as who, asked->>'occurrence' as occurrence,
            (asked->>'start')::float8 as start
     from participant, jsonb_array_elements(proposals) asked where event_id = $1`,
    [id],
  );
  expect(asks.map((row) => `${named[row.who]} ${row.occurrence} ${row.start}`).sort()).toEqual(
    ATTENDEES.flatMap((who) =>
      Object.entries((twin.values.get(`${who}.asks`) as Asks | null) ?? {}).map(
        ([k, start]) => `${who} ${nameOf(twin, Number(k))} ${start}`,
      ),
    ).sort(),
  );
}
