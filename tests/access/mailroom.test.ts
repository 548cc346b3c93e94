import { expect, it } from 'vitest';
import type { MailroomEntry } from '../../src/contract/mailroom.ts';
import { DEMONSTRATION_PASSWORD } from '../../demo/data/load.ts';
import { Client } from '../support/client.ts';
import { meetingRequest } from '../support/requests.ts';
import { eventually, useServer } from '../support/server.ts';

const server = useServer();

const entriesOf = async (client: Client) =>
  (await client.get<{ entries: MailroomEntry[] }>('/api/mailroom')).body.entries;

it('in the demonstration its own people read all mail, and partners theirs', async () => {
  const [partner] = await server.sql<{ id: number; email: string }>(
    `update person set account = 'active', password_hash = (select password_hash from person
                                        where password_hash is not null limit 1)
     where subject_id = (select subject_id from person
                         join organization on organization.id = organization_id
                         where not is_home order by subject_id limit 1)
     returning subject_id as id, email`,
  );
  const ines = await server.as('ines.aldabe');
  await ines.post(
    '/api/events',
    meetingRequest({
      title: 'For the mailroom',
      attendees: [
        { personId: partner!.id, role: 'required' },
        { email: 'stranger@elsewhere.example', role: 'required' },
      ],
    }),
  );
  const all = await eventually(async () => {
    const entries = await entriesOf(ines);
    return (
      entries.filter((one) => one.subject.includes('For the mailroom')).length === 2 && entries
    );
  });
  const signedIn = await server.anonymous().post('/api/session', {
    email: partner!.email,
    password: DEMONSTRATION_PASSWORD,
  });
  const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
  const ask = (path: string) =>
    server.anonymous().request<{ entries: MailroomEntry[] }>('GET', path, undefined, {
      Cookie: cookie,
    });
  const theirs = (await ask('/api/mailroom')).body.entries;
  expect(theirs.length).toBeGreaterThanOrEqual(1);
  expect(new Set(theirs.map((one) => one.recipient))).toEqual(new Set([partner!.email]));
  expect((await ask(`/api/mailroom?recipient=stranger@elsewhere.example`)).body.entries).toEqual(
    theirs,
  );
  const others = all.find((one) => one.recipient === 'stranger@elsewhere.example')!;
  for (const part of ['', '/letter', '/source'])
    expect((await ask(`/api/mailroom/${others.id}${part}`)).status).toBe(404);
  expect((await ask(`/api/mailroom/${theirs[0]!.id}`)).status).toBe(200);

  // With any other data everybody reads their own alone.
  await server.sql(`delete from setting where key = 'demonstration'`);
  const left = await entriesOf(ines);
  expect(left.every((one) => one.recipient === 'ines.aldabe@ternrock.example')).toBe(true);
});
