import { expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { filesOfZip } from '../../../tests/support/zip.ts';
import { NOT_THEIRS, PARTS } from './parts.ts';

const server = useServer({ works: false });

async function archiveFor(mailbox: string): Promise<Map<string, Buffer>> {
  const client = await server.as(mailbox);
  const answer = await client.bytes('/api/account/archive');
  expect(answer.status).toBe(200);
  expect(answer.headers.get('content-type')).toContain('application/zip');
  return filesOfZip(answer.body);
}

it('looks at every column that names people, and says of each whether it is theirs', async () => {
  const columns = await server.sql<{ name: string; table: string }>(
    `select source.relname || '.' || attribute.attname as name, source.relname as table
     from pg_constraint
     join pg_class source on source.oid = conrelid
     join pg_class target on target.oid = confrelid
     join pg_attribute attribute on attribute.attrelid = conrelid and attribute.attnum = any(conkey)
     where contype = 'f' and target.relname = 'person'`,
  );
  expect(columns.length).toBeGreaterThan(25);
  const parts = new Map(PARTS.map(({ table, of }) => [table, of]));
  const missing = columns
    .filter(({ name, table }) => {
      const column = name.split('.')[1]!;
      const isIn = parts.get(table)?.includes(`${column} = $1`);
      return !isIn && !(name in NOT_THEIRS);
    })
    .map(({ name }) => name);
  expect(missing).toEqual([]);
});

it('holds all that somebody has, made and was asked to, with files, and nothing of others', async () => {
  const leila = await server.as('leila.haddad');
  const [leilaId, tomasId] = [await server.id('Leila Haddad'), await server.id('Tomas Okafor')];
  const made = await leila.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Archived, “all of it”',
      attendees: [{ personId: tomasId, role: 'required' }],
    }),
  );
  const file = 'Depth; height\r\n12; 4\r\n';
  const put = await leila.request(
    'POST',
    `/api/events/${made.body.id}/attachments?name=${encodeURIComponent('a:b?.csv')}`,
    file,
    { 'Content-Type': 'application/octet-stream' },
  );
  expect(put.status, JSON.stringify(put.body)).toBe(201);
  const draft = await leila.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Not sent to him yet',
      attendees: [{ personId: tomasId, role: 'required' }],
      draft: { holds: false },
    }),
  );
  expect(draft.status, JSON.stringify(draft.body)).toBe(201);
  await leila.post(`/api/events/${made.body.id}/comments`, {
    words: 'Words of hers',
    mentions: [],
  });

  const files = await archiveFor('leila.haddad');
  const rows = (table: string) =>
    JSON.parse(files.get(`data/${table}.json`)!.toString()) as Record<string, unknown>[];
  for (const { table } of PARTS) expect([table, Array.isArray(rows(table))]).toEqual([table, true]);
  expect(rows('person')).toHaveLength(1);
  expect(rows('person')[0]).toMatchObject({
    subject_id: leilaId,
    email: 'leila.haddad@ternrock.example',
  });
  expect(rows('event').map(({ title }) => title)).toEqual(
    expect.arrayContaining(['Archived, “all of it”', 'Not sent to him yet']),
  );
  // As many as there are, over the edges of what is read at once.
  const counted = await server.sql<{ events: number; claims: number }>(
    `select (select count(*)::int from event where organizer_id = $1 or draft is null and exists (
               select from attendee where event_id = event.id and person_id = $1)) as events,
            (select count(*)::int from claim where subject_id = $1) as claims`,
    [leilaId],
  );
  expect(rows('event')).toHaveLength(counted[0]!.events);
  expect(rows('claim')).toHaveLength(counted[0]!.claims);
  expect(rows('comment').map(({ words }) => words)).toContain('Words of hers');
  const calendar = files.get('calendar.ics')!.toString();
  expect(calendar.match(/BEGIN:VEVENT/g)).toHaveLength(counted[0]!.claims);
  expect(calendar).toContain('SUMMARY:Archived\\, “all of it”');
  const kept = [...files].find(([path]) => path.startsWith(`files/${made.body.id}/`))!;
  expect(kept[0]).toMatch(/ a_b_\.csv$/);
  expect(kept[1].toString()).toBe(file);
  // No secret of anybody's, and of others no more than they are shown.
  const all = [...files.values()].map(String).join('\n');
  expect(all).not.toMatch(/argon2|password_hash|token_hash|public_key/);
  const his = [...(await archiveFor('tomas.okafor')).values()].map(String).join('\n');
  expect(his).toContain('Archived, “all of it”');
  expect(his).not.toContain('Not sent to him yet');
  const other = [...(await archiveFor('hal.teague')).values()].map(String).join('\n');
  expect(other).not.toMatch(/Archived, “all of it”|Words of hers/);
  expect((await server.anonymous().get('/api/account/archive')).status).toBe(401);
});
