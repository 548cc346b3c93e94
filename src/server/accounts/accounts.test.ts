import { setTimeout as pause } from 'node:timers/promises';
import PostalMime from 'postal-mime';
import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { LinkShown, OwnSession } from '../../contract/accounts.ts';
import type { PeopleChanged, StaffList } from '../../contract/administration.ts';
import { Client, type Answer } from '../../../tests/support/client.ts';
import { TEST_NOW } from '../../../tests/support/cluster.ts';
import { useServer } from '../../../tests/support/server.ts';
import { mailroomTransport } from '../../../demo/stand-ins/mailroom/transport.ts';
import { readConfig } from '../config.ts';
import { startServer } from '../server.ts';
import { answerForgotten } from './links.ts';

const server = useServer();
let number = 0;
const fresh = () => `new.person${number++}@ternrock.example`;

/** Adds somebody as an administrator, and gives the token of their letter. */
async function invited(email = fresh()) {
  const admin = await server.as('aksel.nordvik');
  const answer = await admin.post<PeopleChanged>('/api/administration/people', {
    people: [{ name: 'Nora Flett', email, zone: 'Europe/Oslo' }],
  });
  expect(answer.status).toBe(201);
  return { id: answer.body.ids[0]!, email, token: await tokenOf(email) };
}
/** The end of the link in the last letter to an address, as its receiver reads it; undefined where none came. */
async function tokenOf(email: string): Promise<string | undefined> {
  const { source, waits } = await last(email);
  if (waits) {
    await pause(50);
    return tokenOf(email);
  }
  const { text = '' } = source ? await PostalMime.parse(source) : {};
  return /account\/link#([\w-]+)/.exec(text)?.[1];
}
async function last(email: string): Promise<{ source: Buffer | null; waits: boolean }> {
  const [row] = await server.sql<{ source: Buffer | null; waits: boolean }>(
    `select source, sent_at is null and failed_at is null as waits
     from mail left join mailroom_message on mail_id = mail.id
     where recipient_email = $1 order by number desc limit 1`,
    [email],
  );
  return row ?? { source: null, waits: false };
}
const PASSWORD = 'seven quiet herons';

/** Whoever was signed in by an answer. */
const signedIn = ({ headers }: Answer<unknown>) =>
  Client.signedIn(server.anonymous().base, headers.get('set-cookie')?.split(';')[0] ?? '');
async function signIn(email: string, password: string) {
  const answer = await server.anonymous().post<ProblemBody>('/api/session', { email, password });
  return { client: signedIn(answer), answer };
}
/** Uses a link, and gives the browser that is signed in by it. */
async function comeBy(token: string | undefined, password = PASSWORD) {
  const answer = await server.anonymous().post('/api/account/link/use', { token, password });
  expect(answer.status).toBe(204);
  return signedIn(answer);
}

describe('a link of welcome', () => {
  it('shows whom it is for, lets them in with the password they choose, and works once', async () => {
    const { email, token } = await invited();
    const client = server.anonymous();
    const { body: shown } = await client.post<LinkShown>('/api/account/link', { token });
    expect(shown).toMatchObject({ purpose: 'welcome', name: 'Nora Flett', email });
    const common = await client.post<ProblemBody>('/api/account/link/use', {
      token,
      password: 'qwertyuiop',
    });
    expect(common.body.fields).toMatchObject([{ field: 'password' }]);
    const used = await client.post('/api/account/link/use', {
      token,
      password: PASSWORD,
      zone: 'Asia/Tokyo',
    });
    expect(used.status).toBe(204);
    const { body: session } = await signedIn(used).get<{ me: { zone: string } }>('/api/session');
    expect(session.me).toMatchObject({ name: 'Nora Flett', email, zone: 'Asia/Tokyo' });
    const again = await server.anonymous().post<ProblemBody>('/api/account/link/use', {
      token,
      password: 'another long one',
    });
    expect([again.status, again.body.code]).toEqual([403, 'link-not-valid']);
    expect((await signIn(email, PASSWORD)).answer.status).toBe(204);
  });

  it('is used once when it is used twice at the same moment', async () => {
    const { token } = await invited();
    const answers = await Promise.all(
      [1, 2, 3].map((k) =>
        server.anonymous().post('/api/account/link/use', { token, password: `${PASSWORD} ${k}` }),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([204, 403, 403]);
  });

  it('ends with a newer one, with a change of address, and with their access', async () => {
    const admin = await server.as('aksel.nordvik');
    const shows = async (token: unknown) =>
      (await server.anonymous().post('/api/account/link', { token })).status;
    const { id, email, token } = await invited();
    const version = async () => {
      const { body } = await admin.get<StaffList>(
        `/api/administration/people?q=${encodeURIComponent(email)}`,
      );
      return body.people.find((one) => one.id === id)!.version;
    };
    const people = async () => [{ id, version: await version() }];
    await admin.post('/api/administration/people/welcome', { people: await people() });
    const second = await tokenOf(email);
    expect([await shows(token), await shows(second)]).toEqual([403, 200]);
    const { body: link } = await admin.post<{ link: string }>(
      `/api/administration/people/${id}/link`,
      {},
    );
    const third = link.link.split('#')[1];
    expect([await shows(second), await shows(third)]).toEqual([403, 200]);
    await admin.patch('/api/administration/people', {
      people: await people(),
      change: { email: `x${email}` },
    });
    const fourth = await tokenOf(`x${email}`);
    expect([await shows(third), await shows(fourth)]).toEqual([403, 200]);
    await admin.post('/api/administration/people/end', { people: await people() });
    expect(await shows(fourth)).toBe(403);
  });

  it('is kept nowhere: not in the letter, and not where its letter left', async () => {
    const { email, token } = await invited();
    expect(token).toHaveLength(43);
    const rows = await server.sql<{ all: string; secret: string | null; state: string }>(
      `select mail::text as all, secret, case when sent_at is null then 'waits' else 'sent' end as state
       from mail where recipient_email = $1`,
      [email],
    );
    expect(rows).toMatchObject([{ state: 'sent', secret: null }]);
    expect(rows[0]!.all).not.toContain(token);
    expect(JSON.stringify(await server.sql('select details from fact'))).not.toContain(token);
  });
});

describe('a forgotten password', () => {
  const ask = (client: Client, email: string) => client.post('/api/account/forgotten', { email });

  it('is answered the same for anybody, by a letter to whoever has the address', async () => {
    const { email, token } = await invited();
    await comeBy(token);
    const { client: elsewhere } = await signIn(email, PASSWORD);
    const known = await ask(server.anonymous(), email.toUpperCase());
    const unknown = await ask(server.anonymous(), 'nobody@nowhere.example');
    expect([known.status, unknown.status]).toEqual([204, 204]);
    const purposes = async () =>
      (
        await server.sql<{ purpose: string }>(
          `select purpose from mail where recipient_email = any($1) order by number`,
          [[email, 'nobody@nowhere.example']],
        )
      ).map((one) => one.purpose);
    await expect.poll(purposes, { timeout: 10_000 }).toEqual(['welcome', 'password']);
    // Nobody can sign out whoever remembers their password.
    expect((await elsewhere.get('/api/calendar/layers')).status).toBe(200);
  });

  it('lets in whoever has the link, once, and signs out everybody else', async () => {
    const { id, email, token } = await invited();
    await comeBy(token);
    const { client: elsewhere } = await signIn(email, PASSWORD);
    await answerForgotten(server.running.platform, email);
    const another = await tokenOf(email);
    const { body: shown } = await server
      .anonymous()
      .post<LinkShown>('/api/account/link', { token: another });
    expect(shown.purpose).toBe('password');
    const used = await server
      .anonymous()
      .post('/api/account/link/use', { token: another, password: 'nine quiet herons' });
    expect(used.status).toBe(204);
    expect((await elsewhere.get('/api/calendar/layers')).status).toBe(401);
    expect((await signIn(email, PASSWORD)).answer.status).toBe(401);
    expect((await signIn(email, 'nine quiet herons')).answer.status).toBe(204);
    // Asked for again and again, no more than a few letters are written.
    for (let k = 0; k < 6; k++) await answerForgotten(server.running.platform, email);
    const [{ count }] = (await server.sql<{ count: number }>(
      `select count(*) as count from mail where person_id = $1 and purpose = 'password'`,
      [id],
    )) as [{ count: number }];
    expect(count).toBeLessThanOrEqual(3);
  });
});

describe('one’s own password and sessions', () => {
  it('another password wants the old one, and ends other sessions by choice', async () => {
    const { email, token } = await invited();
    const here = await comeBy(token);
    const { client: there } = await signIn(email, PASSWORD);
    const change = (old: string, password: string, endOthers: boolean) =>
      here.post<ProblemBody>('/api/account/password', { old, password, endOthers });
    expect((await change('wrong one here', 'ten loud herons', false)).body.fields).toMatchObject([
      { field: 'old' },
    ]);
    expect((await change(PASSWORD, 'ten loud herons', false)).status).toBe(204);
    expect((await there.get('/api/calendar/layers')).status).toBe(200);
    expect((await change('ten loud herons', 'two loud herons', true)).status).toBe(204);
    expect((await there.get('/api/calendar/layers')).status).toBe(401);
    expect((await here.get('/api/calendar/layers')).status).toBe(200);
  });

  it('lists where one is signed in, and ends one of them, never anybody else’s', async () => {
    const { email, token } = await invited();
    const here = await comeBy(token);
    const { client: there } = await signIn(email, PASSWORD);
    const { body } = await here.get<{ sessions: OwnSession[] }>('/api/account/sessions');
    expect(body.sessions.map((one) => one.isThis).sort()).toEqual([false, true]);
    const other = body.sessions.find((one) => !one.isThis)!;
    const stranger = await server.as('clara.weiss');
    expect((await stranger.request('DELETE', `/api/account/sessions/${other.id}`)).status).toBe(
      404,
    );
    expect((await there.get('/api/calendar/layers')).status).toBe(200);
    expect((await here.request('DELETE', `/api/account/sessions/${other.id}`)).status).toBe(204);
    expect((await there.get('/api/calendar/layers')).status).toBe(401);
  });

  it('guesses at links get nowhere, and are counted', async () => {
    const statuses = new Set<number>();
    const guesser = server.anonymous();
    for (let k = 0; k < 1000; k++) {
      const { status } = await guesser.post('/api/account/link', { token: `guess-${k}` });
      statuses.add(status);
      if (status === 429) break;
    }
    expect([...statuses].sort()).toEqual([403, 429]);
  });
});

it('is over on every server within a second of its end, streams included', async () => {
  const second = await startServer(
    readConfig({
      MARMOT_DATABASE_URL: server.database.url,
      MARMOT_NOW: TEST_NOW,
      MARMOT_LOG: 'error',
      PORT: '0',
    }),
    { transport: mailroomTransport },
  );
  try {
    const admin = await server.as('aksel.nordvik');
    const here = await server.asAgain('tariq.saleh');
    const there = Client.signedIn(`http://127.0.0.1:${second.port}`, here.cookie);
    expect((await there.get('/api/account/sessions')).status).toBe(200);
    const stream = await fetch(`http://127.0.0.1:${second.port}/api/live`, {
      headers: { Cookie: here.cookie },
    });
    expect(stream.status).toBe(200);
    const reader = stream.body!.getReader();
    const over = (async () => {
      while (!(await reader.read()).done);
      return true;
    })();
    const id = await server.id('Tariq Saleh');
    const [row] = await server.sql<{ version: number }>(
      'select version from person where subject_id = $1',
      [id],
    );
    const ended = await admin.post('/api/administration/people/end', {
      people: [{ id, version: row!.version }],
    });
    expect(ended.status).toBe(200);
    const since = performance.now();
    expect((await there.get('/api/account/sessions')).status).toBe(401);
    expect((await here.get('/api/account/sessions')).status).toBe(401);
    expect(performance.now() - since).toBeLessThan(1_000);
    // What was open hears nothing more.
    expect(await Promise.race([over, pause(5_000, false)])).toBe(true);
  } finally {
    await second.end();
  }
}, 30_000);
