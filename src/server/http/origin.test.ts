import { request as ask } from 'node:http';
import { describe, expect, it } from 'vitest';
import { isReachedByOthers, readConfig } from '../config.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });

/** A request with headers that fetch does not let one set. */
const send = (path: string, headers: Record<string, string>, method = 'GET') =>
  new Promise<{ status: number; headers: Record<string, unknown> }>((resolve, reject) => {
    const { hostname, port } = new URL(server.base);
    ask({ hostname, port, path, method, headers }, (answer) => {
      answer.resume();
      answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers }));
    })
      .on('error', reject)
      .end();
  });

describe('where a request comes from and goes to', () => {
  it('a name that leads here without being ours is not answered, but for the health', async () => {
    expect((await send('/api/session', { Host: 'evil.example' })).status).toBe(421);
    expect((await send('/', { Host: 'localhost.evil.example' })).status).toBe(421);
    expect((await send('/api/session', { Host: 'localhost:4270' })).status).toBe(200);
    expect((await send('/api/session', { Host: '192.0.2.7:4270' })).status).toBe(200);
    expect((await send('/api/health', { Host: 'probe' })).status).toBe(200);
  });

  it('a page of another site cannot write', async () => {
    const { host } = new URL(server.base);
    const from = (Origin: string) => send('/api/session', { Host: host, Origin }, 'DELETE');
    expect((await from('https://evil.example')).status).toBe(403);
    expect((await from('null')).status).toBe(403);
    expect((await from(server.base)).status).toBe(204);
  });

  it('what the API answers is kept by nobody', async () => {
    for (const path of ['/api/session', '/api/health', '/api/people', '/api/nowhere']) {
      expect((await send(path, { Host: 'localhost' })).headers['cache-control']).toBe('no-store');
    }
  });
});

describe('an address', () => {
  it('of the API is written in small letters, and all that holds for it holds', async () => {
    for (const path of ['/API/session', '/Api/live', '/aPi/health'])
      expect(await send(path, { Host: 'localhost' })).toMatchObject({ status: 404 });
  });
});

describe('settings', () => {
  const read = (env: Record<string, string>) =>
    readConfig({ MARMOT_DATABASE_URL: 'postgres://x', ...env });

  it('name what is wrong with them and what is allowed', () => {
    expect(() => read({ MARMOT_PROXIES: 'nginx' })).toThrow(/MARMOT_PROXIES must be network addr/);
    for (const url of ['marmot', 'ftp://x', 'https://x/path'])
      expect(() => read({ MARMOT_PUBLIC_URL: url })).toThrow(
        /MARMOT_PUBLIC_URL must be an address/,
      );
    expect(() => read({ PORT: '70000' })).toThrow(/PORT must be a number from 0 to 65535/);
    expect(() => read({ MARMOT_NOW: 'noon' })).toThrow(/MARMOT_NOW must be an instant/);
  });

  it('say whether others than this machine reach it', () => {
    const reached = (env: Record<string, string>) => isReachedByOthers(read(env));
    expect(reached({})).toBe(false);
    expect(reached({ HOST: '::1', MARMOT_PUBLIC_URL: 'http://localhost:4270' })).toBe(false);
    expect(reached({ HOST: '0.0.0.0' })).toBe(true);
    expect(reached({ MARMOT_PUBLIC_URL: 'https://marmot.example.org' })).toBe(true);
    expect(reached({ MARMOT_PROXIES: '127.0.0.1' })).toBe(true);
  });

  it('are read', () => {
    expect(read({ MARMOT_PROXIES: '127.0.0.1, 10.0.0.0/8' }).proxies).toEqual([
      '127.0.0.1',
      '10.0.0.0/8',
    ]);
    expect(read({ MARMOT_PUBLIC_URL: 'https://marmot.example.org/' })).toMatchObject({
      publicUrl: 'https://marmot.example.org',
      publicUrlGiven: true,
    });
  });
});
