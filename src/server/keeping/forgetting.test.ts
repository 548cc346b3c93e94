import { beforeAll, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Holdings } from '../../contract/leaving.ts';
import type { Client } from '../../../tests/support/client.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { forgetPerson } from './forgetting.ts';

const server = useServer({ works: false });
let admin: Client;
beforeAll(async () => {
  admin = await server.as('aksel.nordvik');
});

/** What is asked for is answered for a day, and a stand-in for programs outside keeps what they got. */
const NOT_KEPT = ['idempotency_key', 'mailroom_message'];

/** Every column of every table that holds a text, as it is or in calendar text that is folded. */
async function columnsWith(words: string): Promise<string[]> {
  const columns = await server.sql<{ table: string; column: string }>(
    `select table_name as table, column_name as column from information_schema.columns
     join information_schema.tables using (table_schema, table_name)
     where table_schema = 'public' and table_type = 'BASE TABLE'
       and data_type in ('text', 'jsonb', 'ARRAY', 'character varying')`,
  );
  const found: string[] = [];
  for (const { table, column } of columns) {
    if (NOT_KEPT.includes(table)) continue;
    const [row] = await server.sql<{ count: number }>(
      `select count(*)::int as count from "${table}"
       where regexp_replace(regexp_replace("${column}"::text, E'\\r?\\n[ \\t]', '', 'g'), '\\s+', ' ', 'g') ilike $1`,
      [`%${words}%`],
    );
    if (row!.count > 0) found.push(`${table}.${column}`);
  }
  return found;
}

const forget = async (id: number) => {
  const [row] = await server.sql<{ version: number }>(
    'select version from person where subject_id = $1',
    [id],
  );
  return admin.post<ProblemBody>(`/api/administration/people/${id}/forget`, {
    version: row!.version,
  });
};

it('lets a name and an address go from everything, letters included, and what happened stays', async () => {
  const [name, email] = ['Leila Haddad', 'leila.haddad@ternrock.example'];
  const id = await server.id(name);
  const leila = await server.as('leila.haddad');
  const made = await leila.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Leila Haddad says goodbye',
      description: `<p>Ask Leila\nHaddad or ${email}</p>`,
      attendees: [
        { personId: await server.id('Tomas Okafor'), role: 'required' },
        { email: 'harbour@dalehaven.example', name: 'Harbour', role: 'required' },
      ],
    }),
  );
  expect(made.status, JSON.stringify(made.body)).toBe(201);
  await leila.post(`/api/events/${made.body.id}/comments`, {
    words: `Write to ${email}`,
    mentions: [],
  });
  const countsOf = () =>
    server.sql(
      `select (select count(*)::int from event) as events, (select count(*)::int from attendance) as people,
              (select count(*)::int from claim) as claims, (select count(*)::int from reservation) as bookings,
              (select count(*)::int from mail) as letters, (select count(*)::int from comment) as comments`,
    );
  expect((await forget(id)).status).toBe(404);
  const held = (await admin.get<Holdings>(`/api/administration/people/${id}/holdings`)).body;
  const left = await admin.post(`/api/administration/people/${id}/leave`, {
    version: held.person.version,
    seen: { meetings: held.meetings.length, bookings: held.bookings.length },
    meetings: { to: { personId: await server.id('Tomas Okafor') } },
    bookings: { end: true },
  });
  expect(left.status).toBe(200);
  expect((await columnsWith(name)).length).toBeGreaterThan(8);
  expect((await columnsWith(email)).length).toBeGreaterThan(3);
  const before = await countsOf();
  expect((await forget(id)).status).toBe(204);
  await forgetPerson(server.running.platform, id);
  expect(await columnsWith(name)).toEqual([]);
  expect(await columnsWith(email)).toEqual([]);
  expect(await countsOf()).toEqual(before);
  const tomas = await server.as('tomas.okafor');
  const seen = await tomas.get<EventDetail>(`/api/events/${made.body.id}`);
  expect(seen.body.title).toBe('somebody who left says goodbye');
  // Nobody finds them any more, and nothing brings them back.
  const log = await admin.get<{
    entries: { what: string; about: string; change: number | null }[];
  }>('/api/administration/log?what=person');
  expect(log.body.entries[0]).toMatchObject({
    ...{ what: 'had them forgotten', about: 'somebody who left', change: null },
  });
  expect(log.body.entries.every(({ change }) => change === null)).toBe(true);
  expect((await forget(id)).status).toBe(404);
}, 120_000);

it('is refused for who is here or has something to come, and leaves a namesake’s name alone', async () => {
  const id = await server.id('Mei Tanaka');
  expect((await forget(id)).status).toBe(404);
  const [row] = await server.sql<{ version: number }>(
    'select version from person where subject_id = $1',
    [id],
  );
  await admin.post('/api/administration/people/end', { people: [{ id, version: row!.version }] });
  expect((await forget(id)).body.code).toBe('has-coming');
  const added = await admin.post<{ ids: number[] }>('/api/administration/people', {
    people: [
      { name: 'Tomas Okafor', email: 'tomas.the.other@ternrock.example', zone: 'Europe/Oslo' },
    ],
  });
  const other = added.body.ids[0]!;
  await admin.post('/api/administration/people/end', { people: [{ id: other, version: 1 }] });
  expect((await forget(other)).status).toBe(204);
  await forgetPerson(server.running.platform, other);
  expect(await columnsWith('tomas.the.other@')).toEqual([]);
  expect(await columnsWith('Tomas Okafor')).toContain('subject.name');
});

it('takes no other word for a name, nor a longer address for one', async () => {
  const added = await admin.post<{ ids: number[] }>('/api/administration/people', {
    people: [
      { name: 'May', email: 'may@ternrock.example', zone: 'Europe/Oslo' },
      { name: 'Ann Lee', email: 'ann@ternrock.example', zone: 'Europe/Oslo' },
    ],
  });
  const mika = await server.as('mika.sandoval');
  const made = await mika.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'We may meet Joann Leeds and Ann Lee in May',
      description: '<p>joann@ternrock.example, ann@ternrock.example.org, ann@ternrock.example.</p>',
    }),
  );
  for (const id of added.body.ids) {
    await admin.post('/api/administration/people/end', { people: [{ id, version: 1 }] });
    expect((await forget(id)).status).toBe(204);
    await forgetPerson(server.running.platform, id);
  }
  const { body } = await mika.get<EventDetail>(`/api/events/${made.body.id}`);
  expect(body.title).toBe('We may meet Joann Leeds and somebody who left in May');
  expect(body.description).toContain(
    'joann@ternrock.example, ann@ternrock.example.org, forgotten-',
  );
  const rows = await server.sql(
    `select 1 from mail where recipient_name = 'May' or recipient_email = 'may@ternrock.example'`,
  );
  expect(rows).toEqual([]);
});
