/** A server on the large organisation, and somebody of it who is signed in. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { hash } from '@node-rs/argon2';
import pg from 'pg';
import { isViewAddress } from '../src/contract/views.ts';
import { readConfig } from '../src/server/config.ts';
import { pages } from '../src/server/http/pages.ts';
import { startServer } from '../src/server/server.ts';
import { loadScaleData } from './scaleData.ts';

const JSON_TYPE = { 'Content-Type': 'application/json' };

/** A server with somebody signed in, as a browser needs it. */
export interface BenchServer {
  base: string;
  /** Their session. */
  cookie: string;
  end(): Promise<void>;
}

export interface LargeServer extends BenchServer {
  client: pg.Client;
  get<Body>(path: string): Promise<Body>;
  post<Body>(path: string, body: unknown): Promise<Body>;
}

/** Starts a server on a database that is there, and signs somebody in. */
export async function startServerOn(
  env: NodeJS.ProcessEnv,
  who: { email: string; password: string },
): Promise<BenchServer> {
  const built = path.resolve('dist/web');
  const server = await startServer(readConfig({ ...env, PORT: '0', MARMOT_LOG: 'error' }), {
    transport: () => ({ deliver: () => Promise.resolve() }),
    ...(existsSync(built) && { pages: pages(built, isViewAddress) }),
  });
  const base = `http://127.0.0.1:${server.port}`;
  const signedIn = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: JSON_TYPE,
    body: JSON.stringify(who),
  });
  const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
  return { base, cookie, end: () => server.end() };
}

export async function startLargeServer(): Promise<LargeServer> {
  const url = process.env.MARMOT_DATABASE_URL!;
  await loadScaleData(url, (text) => process.stderr.write(`  ${text}\n`));
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query('update person set password_hash = $1 where subject_id = 1', [
    await hash('scale'),
  ]);
  const server = await startServerOn(process.env, {
    email: 'person0@scale.example',
    password: 'scale',
  });
  const { base, cookie } = server;
  const ask = async <Body>(address: string, init: RequestInit): Promise<Body> => {
    const answer = await fetch(`${base}/api${address}`, {
      ...init,
      headers: { ...JSON_TYPE, Cookie: cookie },
    });
    if (!answer.ok) throw new Error(`${address}: ${answer.status} ${await answer.text()}`);
    return (await answer.json()) as Body;
  };
  return {
    base,
    cookie,
    client,
    get: (address) => ask(address, {}),
    post: (address, body) => ask(address, { method: 'POST', body: JSON.stringify(body) }),
    async end() {
      await client.end();
      await server.end();
    },
  };
}
