import { beforeEach, describe, expect, it } from 'vitest';
import type { SessionState } from '../../contract/session.ts';
import type { ProblemBody } from '../../contract/common.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();

describe('signing in', () => {
  it('says no more than that it was wrong, for a wrong password and an unknown address alike', async () => {
    const stranger = server.anonymous();
    const wrong = await stranger.post<ProblemBody>('/api/session', {
      email: 'mei.tanaka@ternrock.example',
      password: 'guess',
    });
    const unknown = await stranger.post<ProblemBody>('/api/session', {
      email: 'nobody@ternrock.example',
      password: 'guess',
    });
    expect(wrong).toMatchObject({ status: 401, body: { code: 'wrong-sign-in' } });
    const { requestId: _, ...told } = wrong.body;
    expect(unknown.body).toMatchObject(told);
  });

  const attempt = (
    mailbox: string,
    password: string,
    headers: Record<string, string> = {},
    client = server.anonymous(),
  ) =>
    client.post<ProblemBody>(
      '/api/session',
      { email: `${mailbox}@ternrock.example`, password },
      headers,
    );
  const cookiesOf = (answer: { headers: Headers }) =>
    answer.headers.getSetCookie().map((cookie) => cookie.split(';')[0]!);
  /** Wrong tries from one network address are few a minute; each test begins anew. */
  beforeEach(() => server.sql('delete from rate_limit'));

  it('is slowed after repeated wrong tries, even with the right password then', async () => {
    const statuses: number[] = [];
    for (let k = 0; k < 11; k++) statuses.push((await attempt('clara.weiss', 'guess')).status);
    expect(statuses).toEqual([...Array<number>(10).fill(401), 429]);
    const right = await attempt('clara.weiss', 'tern-rock');
    expect(right).toMatchObject({ status: 429, body: { code: 'too-many-tries' } });
    expect(Number(right.headers.get('retry-after'))).toBeGreaterThan(0);
    // Others are not made to wait.
    expect((await attempt('idris.kaya', 'tern-rock')).status).toBe(204);
  });

  it('tries at most ten of 200 guesses made at the same moment, and the right person gets in', async () => {
    const device = cookiesOf(await attempt('jonas.vagen', 'tern-rock')).find((one) =>
      one.startsWith('marmot_device='),
    )!;
    let tried = 0;
    const guesses = Array.from({ length: 200 }, async (_, k) => {
      const { status } = await attempt('jonas.vagen', `guess ${k}`);
      if (status === 401) tried++;
      else expect(status).toBe(429);
    });
    const right = await attempt('jonas.vagen', 'tern-rock', { Cookie: device });
    expect(right.status).toBe(204);
    await Promise.all(guesses);
    expect(tried).toBeLessThanOrEqual(10);
    // And once more, when all the guesses have been counted.
    expect((await attempt('jonas.vagen', 'tern-rock', { Cookie: device })).status).toBe(204);
    expect((await attempt('jonas.vagen', 'tern-rock')).status).toBe(429);
  });

  it('tries at most fifty wrong ones a minute from one network address, whomever they are for', async () => {
    const statuses = await Promise.all(
      Array.from({ length: 80 }, (_, k) => attempt(`nobody${k}`, 'guess')),
    );
    expect(statuses.filter((answer) => answer.status === 401)).toHaveLength(50);
    expect(statuses.filter((answer) => answer.status === 429)).toHaveLength(30);
  });

  it('believes no header about where it comes from, unless a proxy is known', async () => {
    const from = (address: string) => ({ 'X-Forwarded-For': address });
    for (let k = 0; k < 50; k++) await attempt(`none${k}`, 'guess', from(`10.0.0.${k}`));
    expect((await attempt('none', 'guess', from('10.1.1.1'))).status).toBe(429);
  });

  it('right ones are not counted: a whole house may sign in at the same moment', async () => {
    const people = await server.sql<{ mailbox: string }>(
      `select split_part(email, '@', 1) as mailbox from person where password_hash is not null limit 58`,
    );
    const answers = await Promise.all(people.map(({ mailbox }) => attempt(mailbox, 'tern-rock')));
    expect(answers.map((answer) => answer.status)).toEqual(people.map(() => 204));
  });

  it('again ends the session that the browser had, and nobody else’s', async () => {
    const first = cookiesOf(await attempt('idris.kaya', 'tern-rock')).join('; ');
    const other = cookiesOf(await attempt('idris.kaya', 'tern-rock')).join('; ');
    const again = await attempt('idris.kaya', 'tern-rock', { Cookie: first });
    expect(again.status).toBe(204);
    const who = async (Cookie: string) =>
      (await server.anonymous().request<SessionState>('GET', '/api/session', undefined, { Cookie }))
        .body.me?.name;
    expect(await who(first)).toBeUndefined();
    expect(await who(other)).toBe('Idris Kaya');
    expect(await who(cookiesOf(again).join('; '))).toBe('Idris Kaya');
  });

  it('out ends the session’s streams', async () => {
    const Cookie = cookiesOf(await attempt('idris.kaya', 'tern-rock')).join('; ');
    const stream = await fetch(`${server.base}/api/live`, { headers: { Cookie } });
    expect(stream.status).toBe(200);
    const ended = (async () => {
      const reader = stream.body!.getReader();
      while (!(await reader.read()).done);
      return true;
    })();
    await server.anonymous().request('DELETE', '/api/session', undefined, { Cookie });
    expect(await ended).toBe(true);
  });

  it('counts guesses at one account together, however its address is written', async () => {
    const statuses: number[] = [];
    for (let k = 0; k < 6; k++) statuses.push((await attempt('CLARA.weiss', 'guess')).status);
    for (let k = 0; k < 5; k++) statuses.push((await attempt('clara.Weiss', 'guess')).status);
    expect(statuses).toEqual([...Array<number>(10).fill(401), 429]);
    // What a database folds to the same letters is another address, and nobody's.
    await server.sql('delete from rate_limit');
    expect((await attempt('clara.we\u0130ss', 'tern-rock')).status).toBe(401);
    expect((await attempt('clara.weiss', 'tern-rock')).status).toBe(204);
  });

  it('does not take over the name of a device that its owner never had', async () => {
    const planted = 'marmot_device=planted-by-somebody-else';
    const answer = await attempt('idris.kaya', 'tern-rock', { Cookie: planted });
    const given = cookiesOf(answer).find((one) => one.startsWith('marmot_device='))!;
    expect(given).not.toBe(planted);
    // One's own stays.
    const again = await attempt('idris.kaya', 'tern-rock', { Cookie: given });
    expect(cookiesOf(again)).toContain(given);
    // And does not become anybody else's who signs in there.
    expect(cookiesOf(await attempt('clara.weiss', 'tern-rock', { Cookie: given }))).not.toContain(
      given,
    );
  });

  it('gives a cookie that scripts cannot read, and signing out ends it', async () => {
    const stranger = server.anonymous();
    const answer = await stranger.post('/api/session', {
      email: 'idris.kaya@ternrock.example',
      password: 'tern-rock',
    });
    expect(answer.headers.get('set-cookie')).toMatch(/httponly/i);
    expect(answer.headers.get('set-cookie')).toMatch(/samesite=lax/i);
    const Cookie = answer.headers.get('set-cookie')!.split(';')[0]!;
    const who = () => stranger.request<SessionState>('GET', '/api/session', undefined, { Cookie });
    expect((await who()).body.me?.name).toBe('Idris Kaya');
    await stranger.request('DELETE', '/api/session', undefined, { Cookie });
    expect((await who()).body.me).toBeNull();
  });

  it('lists the demonstration’s people to whoever is not signed in', async () => {
    const { body } = await server.anonymous().get<SessionState>('/api/session');
    expect(body.demonstration!.people.length).toBeGreaterThan(40);
    expect(JSON.stringify(body)).not.toMatch(/argon2|"role"/);
    expect(body.publicDemonstration).toBe(false);
  });

  it('every address but the session asks for it', async () => {
    for (const path of [
      '/people',
      '/places',
      '/calendar?from=0&to=1',
      '/calendar/search?q=a',
      '/calendar/layers',
      '/calendar/cancelled',
      '/categories',
      '/events/00000000-0000-4000-8000-000000000000',
      '/invitations',
      '/replies',
      '/mailroom',
      '/search?q=a',
      '/live',
    ]) {
      expect((await server.anonymous().get(`/api${path}`)).status).toBe(401);
    }
  });

  it('health says whether the database answers', async () => {
    expect(await server.anonymous().get('/api/health')).toMatchObject({
      status: 200,
      body: { ok: true },
    });
  });
});
