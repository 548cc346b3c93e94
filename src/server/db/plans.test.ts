import { expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { LedgerChanged } from '../../contract/ledger.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { statementsOf } from '../../../tests/support/statements.ts';

const server = useServer({ works: false });
server.writesPastTheRules();

/** Tables that grow with what people do. */
const GROWING = [
  'attendee',
  'claim',
  'event',
  'revision',
  'event_resource',
  'fact',
  'mail',
  'notification',
  'occurrence',
  'occurrence_override',
  'occurrence_reply',
  'reminder',
  'reservation',
];

const FILLERS = 12_000;

/** Some years of a small organization: so many that reading a table through is a second's work, and few enough
 * that whoever guesses how much a statement finds may think it the shorter way. */
async function grow(): Promise<void> {
  // Columns that the database makes cannot be written.
  const columns = await server.sql<{ name: string }>(
    `select column_name as name from information_schema.columns
     where table_name = 'event' and is_generated = 'NEVER'
       and column_name not in ('id', 'uid', 'title')`,
  );
  const names = columns.map((one) => `"${one.name}"`).join(', ');
  await server.sql(
    `insert into event (id, uid, title, ${names})
     select gen_random_uuid(), 'filler-' || k || '@x.example', 'Filler ' || k, ${names}
     from (select * from event where rule is null and status = 'confirmed' limit 1) one,
          generate_series(1, ${FILLERS}) k`,
  );
  const fill = [
    `insert into attendee (event_id, person_id, role, reply, invited_at)
     select id, organizer_id, 'organizer', 'accepted', now() from event where uid like 'filler-%'`,
    `insert into occurrence (event_id, starts_at, ends_at)
     select id, '2100-01-01'::timestamptz + row_number() over () * interval '1 hour',
            '2100-01-01'::timestamptz + row_number() over () * interval '1 hour' + interval '30 min'
     from event where uid like 'filler-%'`,
    `insert into reservation (occurrence_id, event_id, resource_id, unit, state, since, starts_at, ends_at, holder_id)
     select occurrence.id, event.id, (select subject_id from resource limit 1), 1, 'held', now(), occurrence.starts_at,
            occurrence.ends_at, event.organizer_id
     from occurrence join event on event.id = event_id where uid like 'filler-%'`,
    `insert into claim (subject_id, unit, during, occupancy, occurrence_id, exclusive, reservation_id)
     select resource_id, unit, tstzrange(starts_at, ends_at), 'busy', occurrence_id, true, id
     from reservation where starts_at >= '2100-01-01'`,
    `insert into claim (subject_id, during, occupancy, occurrence_id)
     select holder_id, tstzrange(starts_at, ends_at), 'busy', occurrence_id
     from reservation where starts_at >= '2100-01-01'`,
    `insert into fact (at, actor_id, kind, event_id, details)
     select now(), organizer_id, 'invited', id, '{}' from event where uid like 'filler-%'`,
    `insert into event_resource (event_id, resource_id)
     select id, (select subject_id from resource limit 1) from event where uid like 'filler-%'`,
    `insert into revision (event_id, version, at, edits)
     select id, 2, now(), '[]' from event where uid like 'filler-%'`,
    `insert into reminder (event_id, person_id, minutes_before, means)
     select id, organizer_id, 10, 'popup' from event where uid like 'filler-%'`,
    `insert into occurrence_override (event_id, recurrence_at, title)
     select id, '2100-01-01', 'x' from event where uid like 'filler-%'`,
    `insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, asked_at)
     select event_id, '2100-01-01', id, 'accepted', now() from attendee
     where event_id in (select id from event where uid like 'filler-%')`,
    `insert into notification (person_id, kind, what, event_id, version, at, details, how)
     select organizer_id, 'changes', 'changed', id, 1, now(), '{}', 'now'
     from event where uid like 'filler-%'`,
    `insert into mail (event_id, sender_name, sender_email, recipient_name, recipient_email, subject,
                       body_text, body_html, created_at, sent_at)
     select id, 'x', 'x@x.example', 'y', 'y@y.example', 's', 't', 'h', now(), now()
     from event where uid like 'filler-%'`,
  ];
  for (const statement of fill) await server.sql(statement);
  await server.sql('analyze');
}

interface PlanNode {
  'Node Type': string;
  'Relation Name'?: string;
  Plans?: PlanNode[];
}

const readThrough = (node: PlanNode): string[] => [
  ...(node['Node Type'] === 'Seq Scan' && node['Relation Name'] ? [node['Relation Name']] : []),
  ...(node.Plans ?? []).flatMap(readThrough),
];

/** Everything that people do with meetings and bookings, once. */
async function everyAction(): Promise<void> {
  const ines = await server.as('ines.aldabe');
  const tomas = await server.as('tomas.okafor');
  const [gannet, kittiwake, tomasId] = await Promise.all(
    ['Gannet', 'Kittiwake', 'Tomas Okafor'].map((name) => server.id(name)),
  );
  const make = async (day: string, more: object = {}) => {
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: `Looked at ${day}`,
        times: bergenTimes(`${day}T04:00`, `${day}T04:30`),
        attendees: [{ personId: tomasId!, role: 'required' }],
        resources: [gannet!],
        ...more,
      }),
      { 'Idempotency-Key': `looked-at-${day}` },
    );
    expect(made.status).toBe(201);
    return made.body;
  };
  const done = async (answer: Promise<{ status: number; body: unknown }>) => {
    const { status, body } = await answer;
    if (status !== 200) throw new Error(`${status}: ${JSON.stringify(body)}`);
    return body as EventDetail & { undo?: { version: number } };
  };
  const once = await make('2028-03-01');
  const moved = await done(
    ines.patch(`/api/events/${once.id}`, {
      version: 1,
      times: bergenTimes('2028-03-01T05:00', '2028-03-01T05:30'),
      resources: [gannet!, kittiwake!],
      tell: 'everyone',
    }),
  );
  await done(ines.post(`/api/events/${once.id}/undo`, { version: moved.version }));
  await done(tomas.post(`/api/invitations/${once.id}/reply`, { reply: 'accepted' }));
  const series = await make('2028-03-02', { repeats: { rule: 'FREQ=WEEKLY;COUNT=8' } });
  const on = '2028-03-09T04:00';
  await done(
    tomas.post(`/api/invitations/${series.id}/reply`, { reply: 'declined', occurrence: on }),
  );
  const dated = await done(
    ines.patch(`/api/events/${series.id}`, {
      version: series.version,
      scope: 'one',
      occurrence: on,
      title: 'Another name',
      times: bergenTimes('2028-03-09T05:00', '2028-03-09T05:30'),
    }),
  );
  await done(ines.post(`/api/events/${series.id}/undo`, { version: dated.version }));
  const alone = await make('2028-03-03', { attendees: [] });
  const bookings = await server.sql<{ id: string; start: number }>(
    `select reservation.id::text, reservation.starts_at as start
     from reservation join occurrence on occurrence.id = occurrence_id where occurrence.event_id = $1`,
    [alone.id],
  );
  const shifted = (await done(
    ines.post('/api/ledger/change', { bookings, change: { kind: 'shift', minutes: 15 } }),
  )) as unknown as LedgerChanged;
  await done(ines.post('/api/ledger/undo', { changes: shifted.undo }));
  const { body: now } = await ines.get<EventDetail>(`/api/events/${once.id}`);
  await done(
    ines.post(`/api/events/${once.id}/cancel`, { version: now.version, tell: 'everyone' }),
  );
}

it('no action reads a table through that grows with what people do, however much there is of it', async () => {
  await grow();
  const statements = await statementsOf(everyAction);
  expect(statements.length).toBeGreaterThan(30);
  const client = await server.running.platform.pool.connect();
  const found: string[] = [];
  try {
    for (const [k, text] of statements.entries()) {
      const count = new Set(text.match(/\$\d+/g) ?? []).size;
      await client.query(`prepare looked_at_${k} as ${text}`);
      const values = count > 0 ? `(${Array(count).fill('null').join(', ')})` : '';
      const { rows } = await client.query<{ 'QUERY PLAN': { Plan: PlanNode }[] }>(
        `explain (format json) execute looked_at_${k}${values}`,
      );
      const tables = readThrough(rows[0]!['QUERY PLAN'][0]!.Plan).filter((one) =>
        GROWING.includes(one),
      );
      if (tables.length > 0)
        found.push(`${tables.join(', ')}: ${text.replace(/\s+/g, ' ').slice(0, 200)}`);
    }
  } finally {
    client.release(true);
  }
  expect(found).toEqual([]);
});
