import { describe, expect, it } from 'vitest';
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
    expect(unknown.body).toEqual(wrong.body);
  });

  it('is slowed after repeated wrong tries, even with the right password then', async () => {
    const stranger = server.anonymous();
    const attempt = (password: string) =>
      stranger.post<ProblemBody>('/api/session', {
        email: 'clara.weiss@ternrock.example',
        password,
      });
    const statuses: number[] = [];
    for (let k = 0; k < 9; k++) statuses.push((await attempt('guess')).status);
    expect(statuses).toEqual([401, 401, 401, 401, 401, 401, 401, 401, 429]);
    const right = await attempt('tern-rock');
    expect(right).toMatchObject({ status: 429, body: { code: 'too-many-tries' } });
    // Others are not made to wait.
    expect(
      (
        await stranger.post('/api/session', {
          email: 'idris.kaya@ternrock.example',
          password: 'tern-rock',
        })
      ).status,
    ).toBe(204);
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
    expect(JSON.stringify(body)).not.toMatch(/argon2/);
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
