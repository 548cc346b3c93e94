import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { identityProvider } from '../../../demo/stand-ins/identity/provider.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { Provider } from '../../contract/providers.ts';
import type { SessionState } from '../../contract/session.ts';
import { Client } from '../../../tests/support/client.ts';
import { LyingProvider, type Claims, type Lies } from '../../../tests/support/identities.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
let admin: Client;
let lying: LyingProvider;
let id: number;
const list = async () =>
  (
    await admin.get<{ providers: Provider[]; returnAddress: string }>(
      '/api/administration/providers',
    )
  ).body;
const add = (given: object = {}) =>
  admin.post<{ id: number } & ProblemBody>('/api/administration/providers', {
    ...{
      name: 'House sign-in',
      issuer: lying.issuer,
      clientId: 'marmot',
      clientSecret: 'a secret',
    },
    ...given,
  });

beforeAll(async () => {
  admin = await server.as('aksel.nordvik');
  lying = await LyingProvider.start();
  id = (await add()).body.id;
});
afterAll(() => lying.end());
// What anybody may ask is counted by network address; these are many, from one.
beforeEach(async () => void (await server.sql('delete from rate_limit')));

const cookieIn = (headers: Headers, name: string): string =>
  headers
    .getSetCookie()
    .map((one) => one.split(';')[0]!)
    .find((one) => one.startsWith(`${name}=`)) ?? '';

/** A browser that goes to a provider: where it is sent, and the cookie by which it is known again. */
async function begin(provider = id, leadsTo = '/plan') {
  const answer = await Client.anonymous(server.base).post<{ location: string } & ProblemBody>(
    `/api/sign-in/providers/${provider}`,
    { leadsTo },
  );
  expect(answer.status, JSON.stringify(answer.body)).toBe(200);
  const { location } = answer.body;
  return {
    location,
    cookie: cookieIn(answer.headers, 'marmot_sign_in'),
    state: new URL(location).searchParams.get('state')!,
  };
}

/** A browser that comes back: where it is sent then, and who it is. */
async function comeBack(cookie: string, query: Record<string, string>) {
  const response = await fetch(
    `${server.base}/api/sign-in/return?${new URLSearchParams(query).toString()}`,
    { headers: { Cookie: cookie }, redirect: 'manual' },
  );
  const session = cookieIn(response.headers, 'marmot_session');
  const who = session
    ? (await Client.signedIn(server.base, session).get<SessionState>('/api/session')).body.me
    : null;
  return { to: response.headers.get('location'), who: who?.email ?? null, session };
}

async function signIn(claims: Claims, lies: Lies = {}, given: Record<string, string> = {}) {
  const { location, cookie, state } = await begin();
  const code = lying.agree(location, claims);
  lying.lies = lies;
  const back = await comeBack(cookie, { code, state, iss: lying.issuer, ...given });
  lying.lies = {};
  return back;
}

const leila = { sub: 'l-1', email: 'leila.haddad@ternrock.example', email_verified: true };

describe('sign-in by a provider', () => {
  it('asks by code with PKCE, state and nonce, and joins by a verified address once', async () => {
    const { location } = await begin();
    const asked = new URL(location).searchParams;
    expect(asked.get('response_type')).toBe('code');
    expect(asked.get('code_challenge_method')).toBe('S256');
    expect(asked.get('scope')).toBe('openid email profile');
    for (const name of ['state', 'nonce', 'code_challenge'])
      expect(asked.get(name)!.length).toBeGreaterThan(40);
    expect(await signIn({ ...leila, email_verified: false })).toMatchObject({
      ...{ to: '/?sign-in=unverified', who: null },
    });
    expect(await signIn(leila)).toMatchObject({ to: '/plan', who: leila.email });
    // From then on the subject is who they are, whatever address it has by now.
    expect(await signIn({ sub: 'l-1' })).toMatchObject({ to: '/plan', who: leila.email });
    expect(await signIn({ ...leila, sub: 'l-2' })).toMatchObject({ to: '/?sign-in=another' });
    const tomas = { ...leila, sub: 'l-1', email: 'tomas.okafor@ternrock.example' };
    expect(await signIn(tomas)).toMatchObject({ who: leila.email });
  });

  const now = () => Math.floor(Date.now() / 1000);
  it.each<[string, Lies, Record<string, string>?]>([
    ['another audience', { claims: { aud: 'somebody-else' } }],
    ['no audience', { claims: { aud: undefined } }],
    ['another nonce', { claims: { nonce: 'another' } }],
    ['no nonce', { claims: { nonce: undefined } }],
    ['another issuer in its token', { claims: { iss: 'https://elsewhere.example' } }],
    ['a token that is over', { claims: { exp: now() - 600 } }],
    ['a key that is not its own', { foreignKey: true }],
    ['no signature', { unsigned: true }],
    ['a subject that is none', { claims: { sub: undefined } }],
    ['a subject without end', { claims: { sub: 'x'.repeat(5_000) } }],
    ['an answer without end', { answers: 'too much' }],
    ['another issuer as it sends back (mixed up)', {}, { iss: 'https://elsewhere.example' }],
    ['no issuer as it sends back', {}, { iss: '' }],
  ])('is refused with %s', async (_what, lies, given) => {
    const back = await signIn(leila, lies, given);
    expect(back).toMatchObject({ to: '/?sign-in=not-right', who: null, session: '' });
  });

  it('is refused for another state, another browser, a code or an attempt used twice, and after its time', async () => {
    const first = await begin();
    const code = lying.agree(first.location, leila);
    const iss = lying.issuer;
    const over = { to: '/?sign-in=over', who: null };
    const other = await begin();
    expect(await comeBack(first.cookie, { code, state: 'another', iss })).toMatchObject(over);
    expect(await comeBack(first.cookie, { code, state: other.state, iss })).toMatchObject(over);
    expect(await comeBack(other.cookie, { code, state: first.state, iss })).toMatchObject(over);
    expect(await comeBack('', { code, state: first.state, iss })).toMatchObject(over);
    // None of that has used it up: it is good for the browser that began it, once.
    expect(await comeBack(first.cookie, { code, state: first.state, iss })).toMatchObject({
      who: leila.email,
    });
    expect(await comeBack(first.cookie, { code, state: first.state, iss })).toMatchObject(over);
    expect(await comeBack(other.cookie, { code, state: other.state, iss })).toMatchObject({
      to: '/?sign-in=not-right',
      who: null,
    });
    const late = await begin();
    await server.sql('update sign_in_attempt set expires_at = $1', [
      new Date(server.running.platform.clock.now()),
    ]);
    expect(
      await comeBack(late.cookie, {
        code: lying.agree(late.location, leila),
        state: late.state,
        iss,
      }),
    ).toMatchObject(over);
    const denied = await begin();
    expect(
      await comeBack(denied.cookie, { error: 'access_denied', state: denied.state, iss }),
    ).toMatchObject({ to: '/?sign-in=refused', who: null });
  });

  it('knows a key that its provider changed to', async () => {
    await signIn({ sub: 'l-1' });
    // The library asks for keys anew at most once a minute; the stand-in for that minute is another discovery.
    lying.rotate();
    const { version } = (await list()).providers.find((one) => one.id === id)!;
    await admin.patch(`/api/administration/providers/${id}`, { version, name: 'Its sign-in' });
    expect(await signIn({ sub: 'l-1' })).toMatchObject({ who: leila.email });
  });

  it('lets in who is unknown only where that is set, and as what is set', async () => {
    const nora = {
      ...{
        sub: 'n-1',
        email: 'nora.flett@ternrock.example',
        email_verified: true,
        name: 'Nora Flett',
      },
      zoneinfo: 'America/Halifax',
    };
    expect(await signIn(nora)).toMatchObject({ to: '/?sign-in=unknown', who: null });
    const { version } = (await list()).providers.find((one) => one.id === id)!;
    const set = await admin.patch(`/api/administration/providers/${id}`, {
      version,
      letsIn: 'staff',
    });
    expect(set.status).toBe(200);
    expect(await signIn({ ...nora, email_verified: 'true' } as never)).toMatchObject({
      to: '/?sign-in=unverified',
    });
    const back = await signIn(nora);
    expect(back.who).toBe(nora.email);
    const [row] = await server.sql(
      'select role, account, zone, password_hash from person where email = $1',
      [nora.email],
    );
    expect(row).toEqual({
      ...{ role: 'staff', account: 'active', zone: 'America/Halifax', password_hash: null },
    });
    // A partner's people are none of ours, whoever vouches for them.
    const [partner] = await server.sql<{ email: string }>(
      `select email from person join organization on organization.id = organization_id where not is_home limit 1`,
    );
    expect(await signIn({ sub: 'p-1', email: partner!.email, email_verified: true })).toMatchObject(
      {
        to: '/?sign-in=unknown',
      },
    );
  });

  it('lets nobody in whose access ended, and lets who was invited come', async () => {
    const [row] = await server.sql<{ id: number; version: number }>(
      `select subject_id as id, version from person where email = 'nora.flett@ternrock.example'`,
    );
    await admin.post('/api/administration/people/end', { people: [row!] });
    expect(await signIn({ sub: 'n-1' })).toMatchObject({ to: '/?sign-in=ended', who: null });
    await admin.post('/api/administration/people/return', {
      people: [{ id: row!.id, version: row!.version + 1 }],
    });
    expect((await signIn({ sub: 'n-1' })).who).toBe('nora.flett@ternrock.example');
  });

  it('leads only to this installation', async () => {
    for (const leadsTo of [
      'https://elsewhere.example',
      '//elsewhere.example',
      '/\\elsewhere.example',
      'plan',
    ])
      expect(
        (await server.anonymous().post(`/api/sign-in/providers/${id}`, { leadsTo })).status,
        leadsTo,
      ).toBe(400);
  });

  it('shows its secret to nobody, and is no longer one once it is removed', async () => {
    expect(JSON.stringify(await list())).not.toContain('a secret');
    for (const issuer of [
      'http://elsewhere.example',
      'ftp://x',
      'https://x.example/?a',
      'no address',
    ])
      expect((await add({ issuer, clientId: 'x' })).status, issuer).toBe(400);
    expect((await add()).body.fields![0]!.field).toBe('clientId');
    const second = (await add({ clientId: 'second' })).body.id;
    const begun = await begin(second);
    expect((await admin.request('DELETE', `/api/administration/providers/${second}`)).status).toBe(
      204,
    );
    const code = lying.agree(begun.location, leila);
    expect(
      await comeBack(begun.cookie, { code, state: begun.state, iss: lying.issuer }),
    ).toMatchObject({ to: '/?sign-in=over' });
    const none = await server.anonymous().post<ProblemBody>(`/api/sign-in/providers/${second}`, {
      leadsTo: '',
    });
    expect([none.status, none.body.code]).toEqual([404, 'no-such-provider']);
    const log = await admin.get<{ entries: { what: string }[] }>(
      '/api/administration/log?what=organization',
    );
    const text = JSON.stringify(log.body);
    expect(text).toContain('lets nobody sign in by House sign-in any more');
    expect(text).not.toContain('a secret');
  });

  it('a provider that is away is said so, within seconds', async () => {
    const dead = (await add({ issuer: 'http://127.0.0.1:9', clientId: 'dead', name: 'Dead' })).body
      .id;
    const answer = await fetch(`${server.base}/api/sign-in/providers/${dead}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ leadsTo: '' }),
    });
    expect(answer.status).toBe(503);
    expect(((await answer.json()) as ProblemBody).detail).toContain('Dead does not answer');
    expect(await signIn(leila, { answers: 'nothing' })).toMatchObject({ to: '/?sign-in=away' });
  }, 20_000);

  it('signs in and out by an independent provider, whose session ends, too', async () => {
    const listener = createServer();
    await new Promise<void>((resolve) => listener.listen(0, '127.0.0.1', resolve));
    const issuer = `http://127.0.0.1:${(listener.address() as AddressInfo).port}`;
    const { returnAddress } = await list();
    const provider = identityProvider({
      ...{ issuer, clientId: 'marmot', clientSecret: 'known to both' },
      redirectUris: [returnAddress],
      signedOutUris: [`${server.running.platform.publicUrl}/`],
      find: (sub) =>
        Promise.resolve({
          ...{ sub, name: 'Tomas Okafor', email: 'tomas.okafor@ternrock.example' },
          emailVerified: true,
        }),
      loginPath: (uid) => `${issuer}/login/${uid}`,
    });
    const answer = provider.callback();
    listener.on('request', (request, response) => {
      if (request.url!.startsWith('/login/'))
        provider
          .interactionFinished(request, response, { login: { accountId: 'tomas' } })
          .catch(() => response.destroy());
      else answer(request, response).catch(() => response.destroy());
    });
    try {
      const { id: its } = (await add({ issuer, clientSecret: 'known to both', name: 'House' }))
        .body;
      const trial = await admin.post<{ endsSessions: boolean }>(
        `/api/administration/providers/${its}/trial`,
        undefined,
      );
      expect(trial.body).toEqual({ endsSessions: true });
      const begun = await begin(its, '');
      const browser = new Map<string, string>();
      let at = begun.location;
      while (!at.startsWith(returnAddress)) {
        const response = await fetch(at, {
          headers: { Cookie: [...browser].map(([name, value]) => `${name}=${value}`).join('; ') },
          redirect: 'manual',
        });
        for (const one of response.headers.getSetCookie()) {
          const [name = '', value = ''] = one.split(';')[0]!.split('=');
          browser.set(name, value);
        }
        expect(response.status, await response.text()).toBeGreaterThanOrEqual(302);
        at = new URL(response.headers.get('location')!, issuer).href;
      }
      const query = Object.fromEntries(new URL(at).searchParams);
      const back = await comeBack(begun.cookie, query);
      expect(back).toMatchObject({ to: '/', who: 'tomas.okafor@ternrock.example' });
      // The same code in another attempt: its provider knows that it was used.
      const again = await begin(its, '');
      expect(await comeBack(again.cookie, { ...query, state: again.state })).toMatchObject({
        to: '/?sign-in=not-right',
      });
      const tomas = Client.signedIn(server.base, back.session);
      const end = await tomas.post<{ location: string }>('/api/sign-in/end', undefined);
      const ending = new URL(end.body.location);
      expect(ending.origin).toBe(issuer);
      expect(ending.searchParams.get('post_logout_redirect_uri')).toBe(
        `${server.running.platform.publicUrl}/`,
      );
      expect((await fetch(ending)).status).toBe(200);
      expect((await tomas.get('/api/calendar?from=0&to=1')).status).toBe(401);
      const kept = await server.sql('select id_token from session where id_token is not null');
      expect(JSON.stringify(kept)).not.toContain('tomas.okafor');
    } finally {
      listener.closeAllConnections();
      listener.close();
    }
  });
});
