import { beforeEach, describe, expect, it } from 'vitest';
import { DEMONSTRATION_PASSWORD } from '../../../demo/data/load.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { Passkey } from '../../contract/passkeys.ts';
import type { SessionState } from '../../contract/session.ts';
import { Authenticator } from '../../../tests/support/authenticator.ts';
import { Client } from '../../../tests/support/client.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
beforeEach(async () => void (await server.sql('delete from rate_limit')));
const device = () => new Authenticator(server.running.platform.publicUrl);
const listOf = async (client: Client) =>
  (await client.get<{ passkeys: Passkey[]; hasPassword: boolean }>('/api/passkeys')).body;

async function ask(client: Client): Promise<string> {
  const answer = await client.post<{ challenge: string }>('/api/passkeys/options', undefined);
  expect(answer.status).toBe(200);
  return answer.body.challenge;
}

const add = async (client: Client, key: Authenticator, name: string, challenge?: string) =>
  client.post<{ id: number } & ProblemBody>('/api/passkeys', {
    name,
    response: key.create(challenge ?? (await ask(client))),
  });

async function challenged(): Promise<string> {
  const { body } = await server
    .anonymous()
    .post<{ challenge: string }>('/api/sign-in/passkey/options', undefined);
  return body.challenge;
}

async function signIn(key: Authenticator, challenge?: string) {
  const answer = await server.anonymous().post<ProblemBody>('/api/sign-in/passkey', {
    response: key.get(challenge ?? (await challenged())),
  });
  const cookie = answer.headers.get('set-cookie')?.split(';')[0];
  if (answer.status !== 204 || !cookie) return { status: answer.status, who: null };
  const { body } = await Client.signedIn(server.base, cookie).get<SessionState>('/api/session');
  return { status: 204, who: body.me?.email ?? null };
}

describe('passkeys', () => {
  it('several, each with a name, sign in by themselves', async () => {
    const leila = await server.as('leila.haddad');
    const [laptop, phone] = [device(), device()];
    expect((await add(leila, laptop, 'Laptop')).status).toBe(201);
    const second = await add(leila, phone, 'Phone');
    expect((await listOf(leila)).passkeys.map(({ name, usedAt }) => [name, usedAt])).toEqual([
      ['Laptop', null],
      ['Phone', null],
    ]);
    expect(await signIn(phone)).toEqual({ status: 204, who: 'leila.haddad@ternrock.example' });
    expect(await signIn(laptop)).toEqual({ status: 204, who: 'leila.haddad@ternrock.example' });
    expect((await listOf(leila)).passkeys.every(({ usedAt }) => usedAt !== null)).toBe(true);
    await leila.patch(`/api/passkeys/${second.body.id}`, { name: 'Old phone' });
    expect((await leila.request('DELETE', `/api/passkeys/${second.body.id}`)).status).toBe(204);
    expect((await listOf(leila)).passkeys.map(({ name }) => name)).toEqual(['Laptop']);
    expect((await signIn(phone)).status).toBe(403);
  });

  it('of somebody else is neither seen, renamed nor removed', async () => {
    const tomas = await server.as('tomas.okafor');
    const { body } = await add(tomas, device(), 'His');
    const mei = await server.as('mei.tanaka');
    expect((await listOf(mei)).passkeys).toEqual([]);
    expect((await mei.patch(`/api/passkeys/${body.id}`, { name: 'Mine' })).status).toBe(404);
    expect((await mei.request('DELETE', `/api/passkeys/${body.id}`)).status).toBe(404);
  });

  it('is refused for what was not asked, asked of somebody else, or answered twice', async () => {
    const hal = await server.as('hal.teague');
    const key = device();
    const challenge = await ask(hal);
    const other = await server.as('mei.tanaka');
    expect((await add(other, device(), 'x', challenge)).status).toBe(400);
    expect((await add(hal, key, 'Mine', challenge)).status).toBe(201);
    expect((await add(hal, device(), 'x', challenge)).status).toBe(400);
    expect((await add(hal, device(), 'x', await challenged())).status).toBe(400);
    expect((await add(hal, key, 'Again')).body.code).toBe('too-much');
    expect((await signIn(key, challenge)).status).toBe(403);
    expect((await signIn(key, await ask(hal))).status).toBe(403);
    const once = await challenged();
    expect((await signIn(key, once)).status).toBe(204);
    expect((await signIn(key, once)).status).toBe(403);
    await server.sql('update passkey_challenge set expires_at = $1', [
      new Date(server.running.platform.clock.now()),
    ]);
    const late = await challenged();
    await server.sql('update passkey_challenge set expires_at = $1', [
      new Date(server.running.platform.clock.now()),
    ]);
    expect((await signIn(key, late)).status).toBe(403);
  });

  it('is refused for another origin, host, key, a copied counter, or a device that makes not sure', async () => {
    const grace = await server.as('grace.paul');
    const key = device();
    expect((await add(grace, key, 'Mine')).status).toBe(201);
    const { publicUrl } = server.running.platform;
    for (const wrong of [
      new Authenticator('https://elsewhere.example'),
      new Authenticator(publicUrl, 'elsewhere.example'),
      new Authenticator(publicUrl),
    ]) {
      Object.assign(wrong, { id: key.id });
      expect((await signIn(wrong)).status).toBe(403);
      expect((await add(grace, new Authenticator(wrong.origin, wrong.host), 'x')).status).toBe(
        wrong.origin === publicUrl && wrong.host === new URL(publicUrl).hostname ? 201 : 400,
      );
    }
    expect((await signIn(key)).status).toBe(204);
    const counter = key.counter;
    key.counter = 1;
    expect((await signIn(key)).status).toBe(403);
    key.counter = counter;
    key.verifies = false;
    expect((await signIn(key)).status).toBe(403);
    key.verifies = true;
    expect((await signIn(key)).status).toBe(204);
  });

  it('alone in place of a password, which is the last way in of nobody', async () => {
    const robine = await server.as('robine.thys');
    const alone = (old: string) => robine.post<ProblemBody>('/api/passkeys/alone', { old });
    expect((await alone(DEMONSTRATION_PASSWORD)).body.code).toBe('last-way-in');
    const key = device();
    const { body } = await add(robine, key, 'Key');
    expect((await alone('another one')).body.fields![0]!.field).toBe('old');
    expect((await alone(DEMONSTRATION_PASSWORD)).status).toBe(204);
    expect(await listOf(robine)).toMatchObject({ hasPassword: false });
    const byPassword = await server.anonymous().post('/api/session', {
      ...{ email: 'robine.thys@ternrock.example', password: DEMONSTRATION_PASSWORD },
    });
    expect(byPassword.status).toBe(401);
    expect((await signIn(key)).who).toBe('robine.thys@ternrock.example');
    const removed = await robine.request<ProblemBody>('DELETE', `/api/passkeys/${body.id}`);
    expect(removed.body.code).toBe('last-way-in');
  });

  it('lets nobody in whose access ended', async () => {
    const idris = await server.as('idris.kaya');
    const key = device();
    await add(idris, key, 'Key');
    const admin = await server.as('aksel.nordvik');
    const [row] = await server.sql(
      `select subject_id as id, version from person where email = 'idris.kaya@ternrock.example'`,
    );
    await admin.post('/api/administration/people/end', { people: [row] });
    expect((await signIn(key)).status).toBe(403);
  });
});
