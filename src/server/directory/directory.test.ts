import { beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../../../tests/support/client.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
let admin: Client;
let token = '';
beforeAll(async () => {
  admin = await server.as('aksel.nordvik');
  token = (await admin.post<{ token: string }>('/api/administration/directory', undefined)).body
    .token;
});

interface Scim {
  [attribute: string]: unknown;
  id: string;
  meta: { version: string; location: string; resourceType: string };
  Resources: Scim[];
  totalResults: number;
  scimType: string;
  detail: string;
  members: { value: string; display: string }[];
}

/** A directory, which speaks HTTP and the words of RFC 7644 and knows nothing of Marmot. */
async function ask(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
) {
  const response = await fetch(`${server.base}/scim/v2${path}`, {
    method,
    headers: {
      Authorization: `Bearer ${token}`,
      ...(body !== undefined && { 'Content-Type': 'application/scim+json' }),
      ...headers,
    },
    ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  });
  const text = await response.text();
  return {
    status: response.status,
    headers: response.headers,
    body: (text ? JSON.parse(text) : {}) as Scim,
  };
}

const USER = 'urn:ietf:params:scim:schemas:core:2.0:User';
const GROUP = 'urn:ietf:params:scim:schemas:core:2.0:Group';
const PATCH = 'urn:ietf:params:scim:api:messages:2.0:PatchOp';
const operations = (...Operations: object[]) => ({ schemas: [PATCH], Operations });
let number = 0;
/** As RFC 7644 section 3.3 makes one. */
const bjensen = (more: object = {}) => ({
  schemas: [USER],
  userName: `bjensen${++number}@ternrock.example`,
  externalId: `bjensen-${number}`,
  name: { formatted: 'Ms. Barbara J Jensen III', familyName: 'Jensen', givenName: 'Barbara' },
  ...more,
});
const find = (filter: string, more = '') =>
  ask('GET', `/Users?filter=${encodeURIComponent(filter)}${more}`);

describe('the directory', () => {
  it('is asked with its token alone, which is shown once and ends with the next', async () => {
    for (const wrong of ['', 'Bearer', 'Bearer x', `Basic ${token}`, 'Bearer ' + 'x'.repeat(43)]) {
      const answer = await ask('GET', '/Users', undefined, { Authorization: wrong });
      expect(answer.status, wrong).toBe(401);
      expect(answer.headers.get('www-authenticate')).toContain('Bearer');
      expect(answer.headers.get('content-type')).toContain('application/scim+json');
    }
    const cookie = await fetch(`${server.base}/scim/v2/Users`, {
      headers: { Cookie: admin.cookie },
    });
    expect(cookie.status).toBe(401);
    const shown = await admin.get<{ madeAt: number }>('/api/administration/directory');
    expect(JSON.stringify(shown.body)).not.toContain(token);
    const before = token;
    token = (await admin.post<{ token: string }>('/api/administration/directory', undefined)).body
      .token;
    expect(
      (await ask('GET', '/Users', undefined, { Authorization: `Bearer ${before}` })).status,
    ).toBe(401);
    expect((await ask('GET', '/Users?count=1')).status).toBe(200);
    const staff = await server.as('leila.haddad');
    expect((await staff.post('/api/administration/directory', undefined)).status).toBe(403);
  });

  it('says what it can, and which attributes there are', async () => {
    const config = (await ask('GET', '/ServiceProviderConfig')).body;
    expect(config).toMatchObject({
      patch: { supported: true },
      bulk: { supported: false },
      filter: { supported: true, maxResults: 500 },
      etag: { supported: true },
    });
    const types = (await ask('GET', '/ResourceTypes')).body;
    expect(types.Resources.map((one) => one.endpoint)).toEqual(['/Users', '/Groups']);
    expect((await ask('GET', `/Schemas/${USER}`)).body.attributes).toEqual(
      expect.arrayContaining([expect.objectContaining({ name: 'userName', required: true })]),
    );
    expect((await ask('GET', '/Schemas')).body.totalResults).toBe(2);
    for (const path of ['/Schemas/none', '/Nothing', '/Users/none', '/Users/999999', '/Users/1/x'])
      expect((await ask('GET', path)).status, path).toBe(404);
  });

  it('makes an account, with 201, Location and ETag; twice is 409 uniqueness', async () => {
    const body = bjensen();
    const made = await ask('POST', '/Users', body);
    expect(made.status, JSON.stringify(made.body)).toBe(201);
    expect(made.headers.get('location')).toBe(made.body.meta.location);
    expect(made.headers.get('etag')).toBe(made.body.meta.version);
    expect(made.body).toMatchObject({
      ...{ schemas: [USER], userName: body.userName, externalId: body.externalId, active: true },
      displayName: 'Ms. Barbara J Jensen III',
      emails: [{ value: body.userName, primary: true }],
    });
    const again = await ask('POST', '/Users', body);
    expect([again.status, again.body.scimType, again.body.status]).toEqual([
      409,
      'uniqueness',
      '409',
    ]);
    // She has an account here, and a letter by which she comes.
    const [row] = await server.sql(
      `select account, (select count(*)::int from mail where recipient_email = $1) as letters
       from person where email = $1`,
      [body.userName],
    );
    expect(row).toEqual({ account: 'invited', letters: 1 });
  });

  it('finds by userName eq, externalId, and filters of all kinds, page by page', async () => {
    const body = bjensen({ title: 'Tour guide' });
    const { id } = (await ask('POST', '/Users', body)).body;
    for (const filter of [
      `userName eq "${body.userName}"`,
      `userName eq "${body.userName.toUpperCase()}"`,
      `urn:ietf:params:scim:schemas:core:2.0:User:userName eq "${body.userName}"`,
      `externalId eq "${body.externalId}"`,
      `id eq "${id}"`,
      `userName sw "bjensen" and title pr and userName ew "${body.userName}"`,
      `emails[type eq "work" and value co "${body.userName}"]`,
      `title eq "Tour guide" and not (active eq false)`,
    ])
      expect(
        (await find(filter)).body.Resources.map((one) => one.id),
        filter,
      ).toEqual([id]);
    expect((await find('userName eq "nobody@ternrock.example"')).body).toMatchObject({
      ...{ totalResults: 0, Resources: [], itemsPerPage: 0 },
    });
    const first = (await ask('GET', '/Users?startIndex=1&count=2')).body;
    const next = (await ask('GET', '/Users?startIndex=3&count=2')).body;
    expect(first).toMatchObject({ startIndex: 1, itemsPerPage: 2 });
    expect(next.totalResults).toBe(first.totalResults);
    expect(new Set([...first.Resources, ...next.Resources].map((one) => one.id)).size).toBe(4);
    expect((await ask('GET', '/Users?count=0')).body).toMatchObject({
      Resources: [],
      itemsPerPage: 0,
    });
    expect((await ask('GET', '/Users?count=99999&startIndex=-4')).body.startIndex).toBe(1);
    const some = (await find(`id eq "${id}"`, '&attributes=userName')).body.Resources[0]!;
    expect(Object.keys(some).sort()).toEqual(['id', 'schemas', 'userName']);
    const less = (await ask('GET', `/Users/${id}?excludedAttributes=groups,meta`)).body;
    expect(less.groups ?? less.meta).toBeUndefined();
    const search = await ask('POST', '/Users/.search', {
      schemas: ['urn:ietf:params:scim:api:messages:2.0:SearchRequest'],
      ...{ filter: `id eq "${id}"`, attributes: ['userName'], startIndex: 1, count: 10 },
    });
    expect(search.body.Resources).toHaveLength(1);
  });

  it('refuses what is no filter, and what would take without end', async () => {
    for (const filter of [
      'userName',
      'userName eq',
      'userName eq "a" and',
      'userName zz "a"',
      '('.repeat(900),
      'not '.repeat(200),
      `userName eq "${'a'.repeat(2_000)}"`,
      'a'.repeat(999),
      '"'.repeat(999),
      'emails['.repeat(120),
    ]) {
      const began = performance.now();
      const answer = await find(filter);
      expect([answer.status, answer.body.scimType], filter.slice(0, 40)).toEqual([
        400,
        'invalidFilter',
      ]);
      expect(performance.now() - began).toBeLessThan(2_000);
    }
  });

  it('knows somebody by a name that is no address, as the RFC has it', async () => {
    const made = await ask('POST', '/Users', {
      ...bjensen({ userName: 'bjensen' }),
      emails: [
        { value: 'babs@ternrock.example' },
        { value: 'barbara@ternrock.example', primary: true },
      ],
    });
    expect(made.body).toMatchObject({
      userName: 'bjensen',
      emails: [{ value: 'barbara@ternrock.example' }],
    });
    expect((await find('userName eq "bjensen"')).body.Resources[0]!.id).toBe(made.body.id);
    expect((await find('userName eq "BJensen"')).body.totalResults).toBe(1);
    const other = await ask('POST', '/Users', {
      ...bjensen({ userName: 'BJENSEN' }),
      emails: [{ value: 'another@ternrock.example' }],
    });
    expect([other.status, other.body.scimType]).toEqual([409, 'uniqueness']);
    expect((await ask('POST', '/Users', bjensen({ userName: 'nobody' }))).status).toBe(400);
  });

  it('a filter that is deep and right is answered', async () => {
    const deep = await find(`${'('.repeat(400)}userName eq "a"${')'.repeat(400)}`);
    expect([deep.status, deep.body.totalResults]).toEqual([200, 0]);
  });

  it('changes by PATCH: add, replace, remove, with a path and without', async () => {
    const { id } = (await ask('POST', '/Users', bjensen())).body;
    const patch = (...some: object[]) => ask('PATCH', `/Users/${id}`, operations(...some));
    expect((await patch({ op: 'replace', path: 'title', value: 'Captain' })).body.title).toBe(
      'Captain',
    );
    // A part of the name is another: the whole follows.
    expect(
      (await patch({ op: 'Replace', path: 'name.familyName', value: 'Berg' })).body.displayName,
    ).toBe('Ms. Berg');
    expect(
      (await patch({ op: 'add', value: { title: 'Mate', displayName: 'Babs' } })).body,
    ).toMatchObject({ title: 'Mate', displayName: 'Babs' });
    const removed = await patch({ op: 'remove', path: 'title' });
    expect([removed.status, removed.body.title]).toEqual([200, undefined]);
    expect((await patch({ op: 'replace', value: { active: 'False' } })).body.active).toBe(false);
    expect((await patch({ op: 'replace', path: 'active', value: true })).body.active).toBe(true);
    const taken = await patch({
      ...{ op: 'replace', path: 'userName', value: 'leila.haddad@ternrock.example' },
    });
    expect([taken.status, taken.body.scimType]).toEqual([409, 'uniqueness']);
    for (const [what, type] of [
      [{ op: 'replace', path: 'id', value: '1' }, 'mutability'],
      [{ op: 'replace', path: 'userName', value: '' }, 'invalidValue'],
      [{ op: 'replace', path: 'userName', value: 7 }, 'invalidValue'],
      [{ op: 'move', path: 'title', value: '' }, 'invalidSyntax'],
      [{ op: 'replace', path: '__proto__.polluted', value: true }, 'invalidPath'],
      [
        { op: 'add', value: JSON.parse('{"constructor": {"prototype": {"polluted": true}}}') },
        'invalidPath',
      ],
      [{ op: 'add', value: JSON.parse('{"__proto__": {"polluted": true}}') }, 'invalidPath'],
    ] as [object, string][]) {
      const answer = await patch(what);
      expect([answer.status, answer.body.scimType], JSON.stringify(what)).toEqual([400, type]);
    }
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
    // All or none: the first is not done where the second cannot be.
    await patch(
      { op: 'replace', path: 'title', value: 'Half' },
      { op: 'replace', path: 'userName', value: '' },
    );
    expect((await ask('GET', `/Users/${id}`)).body.title).toBeUndefined();
  });

  it('goes by ETags: 304 where it is known, 412 where it was changed', async () => {
    const made = (await ask('POST', '/Users', bjensen())).body;
    const path = `/Users/${made.id}`;
    const known = { 'If-None-Match': made.meta.version };
    expect((await ask('GET', path, undefined, known)).status).toBe(304);
    const change = operations({ op: 'replace', path: 'title', value: 'Cook' });
    const match = { 'If-Match': made.meta.version };
    const changed = await ask('PATCH', path, change, match);
    expect(changed.status).toBe(200);
    expect(changed.body.meta.version).not.toBe(made.meta.version);
    expect((await ask('PATCH', path, change, match)).status).toBe(412);
    expect((await ask('PUT', path, bjensen(), match)).status).toBe(412);
    expect((await ask('DELETE', path, undefined, match)).status).toBe(412);
    expect((await ask('GET', path, undefined, known)).status).toBe(200);
  });

  it('puts one in the place of another, ends, and deletes: their sessions are over, and who they were stays', async () => {
    const body = bjensen();
    const { id } = (await ask('POST', '/Users', body)).body;
    const put = await ask('PUT', `/Users/${id}`, {
      ...body,
      displayName: 'Barbara Jensen',
      title: 'Cook',
    });
    expect(put.body).toMatchObject({ id, displayName: 'Barbara Jensen', title: 'Cook' });
    await server.sql(`update person set account = 'active' where subject_id = $1`, [Number(id)]);
    const mailbox = body.userName.split('@')[0]!;
    const barbara = await server.as(mailbox);
    expect((await barbara.get('/api/people')).status).toBe(200);
    await ask('PATCH', `/Users/${id}`, operations({ op: 'replace', path: 'active', value: false }));
    expect((await barbara.get('/api/people')).status).toBe(401);
    expect((await ask('DELETE', `/Users/${id}`)).status).toBe(204);
    expect((await ask('GET', `/Users/${id}`)).status).toBe(404);
    expect((await ask('DELETE', `/Users/${id}`)).status).toBe(404);
    expect((await find(`userName eq "${body.userName}"`)).body.totalResults).toBe(0);
    const left = await admin.get<{ people: { id: number }[] }>(
      `/api/administration/people?standing=left&q=${mailbox}`,
    );
    expect(left.body.people.map((one) => String(one.id))).toEqual([id]);
    const again = await ask('POST', '/Users', body);
    expect([again.status, again.body.id, again.body.active]).toEqual([201, id, true]);
  });

  it('keeps the last administrator, and a partner’s people out of it', async () => {
    const [row] = await server.sql<{ id: number }>(
      `select subject_id as id from person where role = 'administrator' and account = 'active'`,
    );
    const end = await ask(
      'PATCH',
      `/Users/${row!.id}`,
      operations({ op: 'replace', path: 'active', value: false }),
    );
    expect(end.status).toBe(409);
    const [partner] = await server.sql<{ id: number }>(
      `select subject_id as id from person join organization on organization.id = organization_id
       where not is_home limit 1`,
    );
    expect((await ask('GET', `/Users/${partner!.id}`)).status).toBe(404);
  });

  it('groups are teams: made, filled, emptied, renamed and removed', async () => {
    const [one, two] = [
      (await ask('POST', '/Users', bjensen())).body,
      (await ask('POST', '/Users', bjensen())).body,
    ];
    const made = await ask('POST', '/Groups', {
      ...{ schemas: [GROUP], displayName: 'Tour Guides', externalId: 'tg' },
      members: [{ value: one.id }],
    });
    expect(made.status, JSON.stringify(made.body)).toBe(201);
    const path = `/Groups/${made.body.id}`;
    const patch = (...some: object[]) => ask('PATCH', path, operations(...some));
    const membersOf = ({ body }: { body: Scim }) => body.members.map((member) => member.value);
    expect(membersOf(made)).toEqual([one.id]);
    // RFC 7644 section 3.5.2.1: what is there already is not added again.
    const added = await patch({
      op: 'add',
      path: 'members',
      value: [{ value: one.id }, { value: two.id }],
    });
    expect(membersOf(added).sort()).toEqual([one.id, two.id].sort());
    expect((await ask('GET', `/Users/${two.id}`)).body.groups).toMatchObject([
      { display: 'Tour Guides' },
    ]);
    const removed = await patch({ op: 'remove', path: `members[value eq "${one.id}"]` });
    expect(membersOf(removed)).toEqual([two.id]);
    expect(
      membersOf(await patch({ op: 'replace', path: 'members', value: [{ value: one.id }] })),
    ).toEqual([one.id]);
    expect(
      membersOf(await patch({ op: 'remove', path: 'members', value: [{ value: one.id }] })),
    ).toEqual([]);
    expect(
      (await patch({ op: 'replace', value: { displayName: 'Guides' } })).body.displayName,
    ).toBe('Guides');
    const nobody = await patch({ op: 'add', path: 'members', value: [{ value: '999999' }] });
    expect([nobody.status, nobody.body.scimType]).toEqual([400, 'invalidValue']);
    const nested = await patch({
      op: 'add',
      path: 'members',
      value: [{ value: '1', type: 'Group' }],
    });
    expect(nested.status).toBe(400);
    const twice = await ask('POST', '/Groups', { schemas: [GROUP], displayName: 'guides' });
    expect([twice.status, twice.body.scimType]).toEqual([409, 'uniqueness']);
    const found = await ask(
      'GET',
      `/Groups?filter=${encodeURIComponent('displayName eq "Guides"')}`,
    );
    expect(found.body.Resources.map((group) => group.id)).toEqual([made.body.id]);
    expect((await ask('DELETE', path)).status).toBe(204);
    expect((await ask('GET', path)).status).toBe(404);
    const log = await admin.get('/api/administration/log?what=team');
    expect(JSON.stringify(log.body)).toContain('Tour Guides');
  });

  it('refuses what is no JSON and what is too long, and answers others meanwhile', async () => {
    expect((await ask('POST', '/Users', '{')).body.scimType).toBe('invalidSyntax');
    expect((await ask('POST', '/Users', '"x"')).status).toBe(400);
    expect((await ask('POST', '/Users', 'null')).status).toBe(400);
    expect((await ask('POST', '/Users', JSON.stringify({ a: 'x'.repeat(1_100_000) }))).status).toBe(
      413,
    );
    expect((await ask('POST', '/Users', bjensen({ userName: undefined }))).body.detail).toContain(
      'userName',
    );
  });
});
