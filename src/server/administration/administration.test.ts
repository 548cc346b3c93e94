import { createHash, randomBytes } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import type {
  OrganizationDetail,
  PeopleChanged,
  PeopleRead,
  SiteDetail,
  StaffList,
  StaffMember,
  TeamDetail,
} from '../../contract/administration.ts';
import type { ChangesUndone } from '../../contract/changes.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { Directory } from '../../contract/people.ts';
import { DEMONSTRATION_PASSWORD } from '../../../demo/data/load.ts';
import type { Client } from '../../../tests/support/client.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
let admin: Client;
let bergen: SiteDetail;
let number = 0;
const fresh = () => `colleague${number++}@ternrock.example`;
const sites = async () =>
  (
    await admin.get<{ sites: SiteDetail[]; teams: { id: number; name: string }[] }>(
      '/api/administration/sites',
    )
  ).body;
beforeAll(async () => {
  admin = await server.as('aksel.nordvik');
  bergen = (await sites()).sites.find((one) => one.city === 'Bergen')!;
});

const person = (given: object = {}) => ({
  name: 'Nora Flett',
  email: fresh(),
  zone: 'Europe/Oslo',
  siteId: bergen.id,
  ...given,
});
const add = (people: object[], welcome = true) =>
  admin.post<PeopleChanged & ProblemBody>('/api/administration/people', { people, welcome });
async function find(id: number, standing = 'present'): Promise<StaffMember | undefined> {
  const [row] = await server.sql<{ email: string }>(
    'select email from person where subject_id = $1',
    [id],
  );
  const { body } = await admin.get<StaffList>(
    `/api/administration/people?q=${encodeURIComponent(row!.email)}&standing=${standing}`,
  );
  return body.people.find((one) => one.id === id);
}
const chosen = async (id: number, standing = 'present') => [
  { id, version: (await find(id, standing))!.version },
];
const undo = (changes: number[]) =>
  admin.post<ChangesUndone & ProblemBody>('/api/changes/undo', { changes });
const change = async (id: number, values: object) =>
  admin.patch<PeopleChanged & ProblemBody>('/api/administration/people', {
    people: await chosen(id),
    change: values,
  });

describe('people of the organization', () => {
  it('are added with the hours of their site, and found by everybody', async () => {
    const { teams } = await sites();
    const answer = await add([person({ teams: [teams[0]!.id], jobTitle: 'Boatbuilder' })]);
    expect(answer.status).toBe(201);
    const id = answer.body.ids[0]!;
    expect(await find(id)).toMatchObject({
      name: 'Nora Flett',
      jobTitle: 'Boatbuilder',
      site: { id: bergen.id },
      role: 'staff',
      account: 'invited',
      teams: [{ id: teams[0]!.id }],
      seenAt: null,
    });
    const shifts = await server.sql(
      'select weekday, start_minute, end_minute from working_shift where person_id = $1 order by weekday',
      [id],
    );
    expect(shifts).toEqual(
      bergen.hours.flatMap((day, k) =>
        day.map(({ start, end }) => ({ weekday: k + 1, start_minute: start, end_minute: end })),
      ),
    );
    const reader = await server.as('leila.haddad');
    const { body } = await reader.get<Directory>('/api/people?q=Nora%20Flett');
    expect(body.people.map((one) => one.id)).toContain(id);
  });

  it('are added all or none, each fault named', async () => {
    const email = fresh();
    const { body, status } = await add([
      person({ email }),
      person({ email: email.toUpperCase() }),
      person({ email: 'leila.haddad@ternrock.example' }),
      person({ siteId: 2_000_000_000 }),
      person({ teams: [2_000_000_000] }),
    ]);
    expect(status).toBe(400);
    expect(body.fields!.map((one) => one.field)).toEqual([
      'people.1.email',
      'people.2.email',
      'people.3.siteId',
      'people.4.teams',
    ]);
    expect(await server.sql('select from person where lower(email) = lower($1)', [email])).toEqual(
      [],
    );
  });

  it('who are added at the same moment by two have their address once', async () => {
    const email = fresh();
    const answers = await Promise.all([add([person({ email })]), add([person({ email })])]);
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 400]);
  });

  it('go away again when that is taken back, letter and link too, and are the same when they come again', async () => {
    const email = fresh();
    const { body } = await add([person({ email })]);
    const id = body.ids[0]!;
    expect((await undo(body.changes)).body.undone).toBe(1);
    expect(await find(id)).toBeUndefined();
    expect(await server.sql('select from account_link where person_id = $1', [id])).toEqual([]);
    const reader = await server.as('leila.haddad');
    const { body: directory } = await reader.get<Directory>(
      `/api/people?q=${encodeURIComponent('Nora Flett')}`,
    );
    expect(directory.people.map((one) => one.id)).not.toContain(id);
    const { body: found } = await reader.get<{ found: { id: number }[] }>(
      `/api/search?q=${encodeURIComponent(email)}`,
    );
    expect(JSON.stringify(found)).not.toContain(`"id":${id},`);
    const again = await add([person({ email, name: 'Nora Flett-Aziz' })]);
    expect(again.body.ids).toEqual([id]);
    expect(await find(id)).toMatchObject({ name: 'Nora Flett-Aziz', account: 'invited' });
  });

  it('stay when they came before it was taken back', async () => {
    const { body } = await add([person()]);
    const id = body.ids[0]!;
    await server.sql(`update person set account = 'active' where subject_id = $1`, [id]);
    const answer = await undo(body.changes);
    expect([answer.status, answer.body.detail]).toEqual([
      409,
      'It stays as it is: Nora Flett, who has come meanwhile.',
    ]);
    expect(await find(id)).toMatchObject({ account: 'active' });
  });

  it('are changed several at once, what is changed since stays when it is taken back', async () => {
    const { body: added } = await add([person(), person()], false);
    const [first, second] = added.ids as [number, number];
    const { teams } = await sites();
    const done = await admin.patch<PeopleChanged>('/api/administration/people', {
      people: [...(await chosen(first)), ...(await chosen(second))],
      change: { role: 'steward', zone: 'Asia/Kolkata', into: [teams[1]!.id] },
    });
    expect(done.body.changes).toHaveLength(2);
    expect(await find(second)).toMatchObject({
      role: 'steward',
      zone: 'Asia/Kolkata',
      teams: [{ id: teams[1]!.id }],
    });
    await change(first, { role: 'administrator' });
    const back = await undo(done.body.changes);
    expect(back.body).toMatchObject({ undone: 2, left: ['role of Nora Flett, changed since'] });
    expect(await find(first)).toMatchObject({
      role: 'administrator',
      zone: 'Europe/Oslo',
      teams: [],
    });
    expect(await find(second)).toMatchObject({ role: 'staff', zone: 'Europe/Oslo', teams: [] });
  });

  it('are not changed as somebody else left them meanwhile', async () => {
    const { body } = await add([person()], false);
    const id = body.ids[0]!;
    const people = await chosen(id);
    await change(id, { jobTitle: 'Rigger' });
    const late = await admin.patch<ProblemBody>('/api/administration/people', {
      people,
      change: { jobTitle: 'Sailmaker' },
    });
    expect([late.status, late.body.code]).toEqual([409, 'stale']);
    expect((await find(id))!.jobTitle).toBe('Rigger');
  });

  it('never share an address, not by a change and not by taking one back', async () => {
    const [one, two, former] = [fresh(), fresh(), fresh()];
    const { body } = await add([person({ email: former }), person({ email: two })], false);
    const [first, second] = body.ids as [number, number];
    const moved = await change(first, { email: one });
    expect((await change(second, { email: one.toUpperCase() })).body.fields).toMatchObject([
      { field: 'change.email' },
    ]);
    expect((await change(second, { email: former })).status).toBe(200);
    const back = await undo(moved.body.changes);
    expect(back.status).toBe(409);
    expect(back.body.detail).toContain('whose former address is Nora Flett’s by now');
  });

  it('are signed out this moment when their access ends, and come back by their password', async () => {
    const reader = await server.as('emil.rask');
    const id = await server.id('Emil Rask');
    const ended = await admin.post<PeopleChanged>('/api/administration/people/end', {
      people: await chosen(id),
    });
    expect(ended.status).toBe(200);
    expect((await reader.get('/api/calendar/layers')).status).toBe(401);
    expect(await find(id)).toBeUndefined();
    expect(await find(id, 'left')).toMatchObject({ account: 'ended' });
    const signIn = () =>
      server.anonymous().post('/api/session', {
        email: 'emil.rask@ternrock.example',
        password: DEMONSTRATION_PASSWORD,
      });
    expect((await signIn()).status).toBe(401);
    expect((await undo(ended.body.changes)).body.undone).toBe(1);
    expect(await find(id)).toMatchObject({ account: 'active' });
    expect((await signIn()).status).toBe(204);
    await admin.post('/api/administration/people/end', { people: await chosen(id) });
    await admin.post('/api/administration/people/return', { people: await chosen(id, 'left') });
    expect(await find(id)).toMatchObject({ account: 'active' });
  });

  it('keep an administrator, whoever does what, also two at the same moment', async () => {
    const own = await server.id('Aksel Nordvik');
    const self = await admin.post<ProblemBody>('/api/administration/people/end', {
      people: await chosen(own),
    });
    expect(self.body.fields).toMatchObject([{ field: 'people' }]);
    await server.sql(
      `update person set role = 'staff' where role = 'administrator' and subject_id <> $1`,
      [own],
    );
    const last = await change(own, { role: 'staff' });
    expect([last.status, last.body.code]).toEqual([409, 'last-administrator']);
    const other = await server.id('Leila Haddad');
    await change(other, { role: 'administrator' });
    const leila = await server.as('leila.haddad');
    const [a, b] = [await chosen(own), await chosen(other)];
    const answers = await Promise.all([
      leila.post('/api/administration/people/end', { people: a }),
      admin.post('/api/administration/people/end', { people: b }),
    ]);
    const rows = await server.sql(
      `select from person where role = 'administrator' and account = 'active'`,
    );
    expect(rows.length).toBeGreaterThan(0);
    expect(
      answers.map(({ status }) => status).filter((status) => status === 200).length,
    ).toBeLessThan(2);
    await server.sql(`update person set account = 'active' where subject_id = any($1)`, [
      [own, other],
    ]);
    admin = await server.asAgain('aksel.nordvik');
    await change(other, { role: 'staff' });
  });

  it('are listed in parts, in any order, each once', async () => {
    for (const sort of ['name', 'email', 'site', 'zone', 'role', 'seen']) {
      const seen: number[] = [];
      let after = '';
      for (;;) {
        const { body } = await admin.get<StaffList>(
          `/api/administration/people?limit=17&sort=${sort}&order=down${after}`,
        );
        seen.push(...body.people.map((one) => one.id));
        if (body.people.length < 17) {
          expect(seen).toHaveLength(body.total);
          break;
        }
        after = `&after=${seen.at(-1)}`;
      }
      expect(new Set(seen).size).toBe(seen.length);
    }
  });
});

describe('what is pasted', () => {
  it('is read with sites, zones and who is here', async () => {
    const { body } = await admin.post<PeopleRead>('/api/administration/people/read', {
      text: [
        'Leila <leila.haddad@ternrock.example>',
        'Yuki Tanaka (Osaka) yuki@tanaka.example',
        'Greig Mutch (Halifax) <greig@ternrock.example>',
        'jon@ternrock,example',
      ].join('\n'),
      siteId: bergen.id,
    });
    expect(body.people).toMatchObject([
      { line: 1, here: 'present', siteId: bergen.id, zone: 'Europe/Oslo', isPlaceGuessed: false },
      { line: 2, here: null, siteId: null, zone: 'Asia/Tokyo', isPlaceGuessed: true },
      { line: 3, here: null, zone: 'America/Halifax', isPlaceGuessed: true },
    ]);
    expect(body.people[2]!.siteId).not.toBe(bergen.id);
    expect(body.doubts).toMatchObject([{ line: 4, mend: { email: 'jon@ternrock.example' } }]);
  });
});

describe('sites', () => {
  it('are added and changed, with hours and holidays, and that is taken back', async () => {
    const hours = [[{ start: 510, end: 1020 }], [], [], [], [], [], []];
    const site = { name: 'Slip House', city: 'Aberdeen', zone: 'Europe/London', hours };
    const added = await admin.post<{ id: number; change: number }>(
      '/api/administration/sites',
      site,
    );
    expect(added.status).toBe(201);
    const named = async () => (await sites()).sites.find((one) => one.id === added.body.id);
    const twice = await admin.post<ProblemBody>('/api/administration/sites', {
      ...site,
      name: 'SLIP house',
    });
    expect(twice.body.fields).toMatchObject([{ field: 'name' }]);
    const holidays = [{ date: '2026-12-25', name: 'Christmas Day' }];
    const changed = await admin.patch<{ version: number; change: number }>(
      `/api/administration/sites/${added.body.id}`,
      { version: 1, city: 'Torry', holidays },
    );
    expect(await named()).toMatchObject({ city: 'Torry', holidays, hours, version: 2 });
    await admin.patch(`/api/administration/sites/${added.body.id}`, { version: 2, name: 'Slip' });
    expect((await undo([changed.body.change])).body.undone).toBe(1);
    expect(await named()).toMatchObject({ name: 'Slip', city: 'Aberdeen', holidays: [] });
    const { body } = await add([person({ siteId: added.body.id })], false);
    expect((await undo([added.body.change])).body.detail).toContain('where somebody');
    await undo(body.changes);
    expect((await undo([added.body.change])).body.undone).toBe(1);
    expect(await named()).toBeUndefined();
  });
});

describe('letters', () => {
  it('wait until somebody has seen one arrive', async () => {
    await server.sql(`delete from setting where key = 'letters-arrive'`);
    const { body } = await add([person()]);
    const id = body.ids[0]!;
    expect(await find(id)).toMatchObject({ letter: 'waiting' });
    const organization = async () =>
      (await admin.get<OrganizationDetail>('/api/administration/organization')).body;
    expect((await organization()).mail).toMatchObject({ triedAt: null, waiting: 1, trial: null });
    const early = await admin.post<ProblemBody>('/api/administration/mail/arrived', {});
    expect([early.status, early.body.code]).toEqual([409, 'no-trial']);
    await admin.post('/api/administration/mail/trial', {});
    await expect
      .poll(async () => (await organization()).mail.trial?.state, { timeout: 10_000 })
      .toBe('sent');
    expect(await find(id)).toMatchObject({ letter: 'waiting' });
    const arrived = await admin.post<{ released: number }>('/api/administration/mail/arrived', {});
    expect(arrived.body.released).toBe(1);
    await expect.poll(async () => (await find(id))!.letter, { timeout: 10_000 }).toBe('sent');
    expect((await organization()).mail.triedAt).not.toBeNull();
  });
});

describe('teams', () => {
  const teams = async () => (await sites()).teams as TeamDetail[];
  const named = async (id: number) => (await teams()).find((one) => one.id === id);
  const addTeam = async (name: string, parentId: number | null = null) =>
    admin.post<{ id: number; change: number } & ProblemBody>('/api/administration/teams', {
      name,
      parentId,
    });
  const changeTeam = async (id: number, values: object) =>
    admin.patch<{ version: number; change: number } & ProblemBody>(
      `/api/administration/teams/${id}`,
      { version: (await named(id))!.version, ...values },
    );

  it('have people, one who leads them, and parts one level deep', async () => {
    const { body: people } = await add([person(), person()], false);
    const [first, second] = people.ids as [number, number];
    const yard = (await addTeam('Yard')).body.id;
    const slip = (await addTeam('Slip crew', yard)).body.id;
    expect((await addTeam('yard')).body.fields).toMatchObject([{ field: 'name' }]);
    expect((await addTeam('Winch', slip)).body.fields).toMatchObject([{ field: 'parentId' }]);
    expect((await changeTeam(yard, { parentId: slip })).body.fields).toMatchObject([
      { field: 'parentId' },
    ]);
    expect((await changeTeam(yard, { leadId: first })).body.fields).toMatchObject([
      { field: 'leadId' },
    ]);
    const done = await changeTeam(yard, { into: [first, second], leadId: first });
    expect(await named(yard)).toMatchObject({ members: 2, lead: { id: first } });
    expect(await named(slip)).toMatchObject({ parent: { id: yard } });
    // Whoever is taken out leads it no more; undo puts back whom it took out, and nobody else.
    const out = await changeTeam(yard, { outOf: [first] });
    expect(await named(yard)).toMatchObject({ members: 1, lead: null });
    await changeTeam(yard, { outOf: [second] });
    expect((await undo([out.body.change])).body.undone).toBe(1);
    expect(await named(yard)).toMatchObject({ members: 1, lead: { id: first } });
    expect((await undo([done.body.change])).body.left).toEqual([
      'who is in it of Yard, changed since',
    ]);
  });

  it('are removed with their names free again, and come back with their people', async () => {
    const { body: people } = await add([person()], false);
    const [member] = people.ids as [number];
    const { body: made } = await addTeam('Riggers');
    await changeTeam(made.id, { into: [member] });
    const removed = await admin.post<{ change: number }>(
      `/api/administration/teams/${made.id}/remove`,
      { version: (await named(made.id))!.version },
    );
    expect(await named(made.id)).toBeUndefined();
    expect((await find(member))!.teams).toEqual([]);
    const reader = await server.as('leila.haddad');
    expect(JSON.stringify((await reader.get('/api/people?q=Riggers')).body)).not.toContain(
      'Riggers',
    );
    const { body: other } = await addTeam('Riggers');
    expect((await undo([removed.body.change])).body.detail).toContain('another team’s by now');
    await admin.post(`/api/administration/teams/${other.id}/remove`, { version: 1 });
    expect((await undo([removed.body.change])).body.undone).toBe(1);
    expect(await named(made.id)).toMatchObject({ members: 1 });
  });
});

describe('whoever signs in', () => {
  it('hears at their former address that it is another one, and a link to it is good no more', async () => {
    const id = await server.id('Robine Thys');
    const former = 'robine.thys@ternrock.example';
    const token = randomBytes(32).toString('base64url');
    await server.sql(
      `insert into account_link (token_hash, person_id, purpose, created_at, expires_at)
       values ($1, $2, 'password', now(), now() + interval '10 years')`,
      [createHash('sha256').update(token).digest(), id],
    );
    const show = () => server.anonymous().post('/api/account/link', { token });
    expect((await show()).status).toBe(200);
    const done = await change(id, { email: fresh() });
    expect((await show()).status).toBe(403);
    const [letter] = await server.sql<{ subject: string; text: string }>(
      `select subject, body_text as text from mail where recipient_email = $1
       order by number desc limit 1`,
      [former],
    );
    expect(letter!.subject).toContain('is another one');
    expect(letter!.text).toContain('Aksel Nordvik changed the address');
    await undo(done.body.changes);
    expect(await find(id)).toMatchObject({ email: former });
  });
});

describe('the log', () => {
  type Log = {
    entries: {
      id: number;
      actor: string;
      thing: string;
      about: string | null;
      what: string;
      change: number | null;
    }[];
    more: boolean;
  };
  const log = async (query = '') => (await admin.get<Log>(`/api/administration/log${query}`)).body;

  it('says who did what to whom, by kind and by person, and takes it back', async () => {
    const { body } = await add([person({ name: 'Rhona Tait' })], false);
    const id = body.ids[0]!;
    await change(id, { jobTitle: 'Diver' });
    const [last, first] = (await log('?what=person')).entries;
    expect(last).toMatchObject({
      actor: 'Aksel Nordvik',
      thing: 'person',
      about: 'Rhona Tait',
      what: 'changed work none → Diver',
    });
    expect(first).toMatchObject({ about: 'Rhona Tait', what: 'added them' });
    const leila = await server.id('Leila Haddad');
    expect(
      (await log(`?what=person&person=${leila}`)).entries.every(
        (one) => one.actor === 'Leila Haddad',
      ),
    ).toBe(true);
    await undo([last!.change!]);
    expect((await find(id))!.jobTitle).toBe('');
    expect((await log('?what=person')).entries[1]).toMatchObject({ id: last!.id, change: null });
  });

  it('shows of meetings no title, nobody, and no time', async () => {
    const organizer = await server.as('leila.haddad');
    const made = await organizer.post<{ id: string; version: number }>(
      '/api/events',
      meetingRequest({ title: 'Sealed matter', description: 'Sealed words' }),
    );
    await organizer.patch(`/api/events/${made.body.id}`, {
      version: made.body.version,
      title: 'Sealed once more',
    });
    const entries = (await log('?what=meeting')).entries;
    expect(entries[0]).toMatchObject({ actor: 'Leila Haddad', thing: 'meeting', about: null });
    const { body: file } = await admin.request<string>('GET', '/api/administration/log.csv');
    for (const text of [JSON.stringify(await log()), file]) {
      expect(text).not.toContain('Sealed');
      expect(text).not.toContain(made.body.id);
    }
    expect(file.split('\r\n')[0]).toBe('at,who,in whose name,what it is,which,what was done');
  });

  it('is read in parts, each entry once, within its days', async () => {
    const seen: number[] = [];
    for (let after = ''; ;) {
      const part = await log(`?what=person${after}`);
      seen.push(...part.entries.map((one) => one.id));
      if (!part.more) break;
      after = `&after=${seen.at(-1)}`;
    }
    expect(new Set(seen).size).toBe(seen.length);
    expect([...seen].sort((a, b) => b - a)).toEqual(seen);
    expect((await log('?first=2026-11-25')).entries).toEqual([]);
    expect(
      (await log('?what=person&first=2026-11-24&last=2026-11-24')).entries.length,
    ).toBeGreaterThan(0);
  });
});
