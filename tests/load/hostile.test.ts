import fc from 'fast-check';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { z } from 'zod';
import type { Route } from '../../src/contract/route.ts';
import { ROUTES } from '../../src/contract/routes.ts';
import { anything, requestsOf, type Known } from '../support/arbitraries.ts';
import { Client } from '../support/client.ts';
import { startProcess } from '../support/process.ts';
import { isLong } from '../support/effort.ts';
import { noteLoad, percentile } from '../support/load.ts';
import { freePort } from '../support/port.ts';

/*
 * Whoever is signed in sends what they like: requests of the shape the contract asks for with boundary
 * values and nonsense in every place, to every route there is, several at a time.
 */
const REQUESTS = isLong ? 20_000 : 2_500;
const AT_ONCE = 8;
const SLOW_MS = 2_000;
/** Times say nothing beside all other tests, where a database may also not answer in time. */
const isBad = (status: number, took: number) =>
  status === 0 || (status >= 500 && (isLong || status !== 503)) || (isLong && took > SLOW_MS);
/** What the process holds at the end against what it held once it had answered a part of them. */
const MOST_GROWTH = isLong ? 1.1 : 1.5;
const WARMING = 0.4;
/** So long the thread that answers everybody stands still, and others wait: held where nothing else runs. */
const MOST_STALL_MS = 200;
const MOST_P95_MS = 250;
/** Beside other tests every answer is held to its schema, which takes its time. */
const CHECKED = { MARMOT_CHECK_ANSWERS: 'yes' };
/** What somebody else reads meanwhile, and how often. */
const BESIDE = [
  '/api/places',
  '/api/invitations',
  '/api/calendar/fullness?first=2026-11-01&days=60',
];
const EVERY_MS = 50;

/** Text as an address can carry it; halves of characters cannot stand in one. */
const encoded = (value: unknown) =>
  encodeURIComponent(
    (typeof value === 'string' ? value : (JSON.stringify(value) ?? '')).replaceAll(
      /\p{Surrogate}/gu,
      '\ufffd',
    ),
  ).slice(0, 4000);

function queryText(query: unknown): string {
  if (typeof query !== 'object' || query === null) return '';
  const parts = Object.entries(query)
    .filter(([, value]) => value !== undefined)
    .map(([name, value]) => `${encoded(name)}=${encoded(value)}`);
  return parts.length ? `?${parts.join('&')}` : '';
}

interface HostileRequest {
  route: string;
  method: string;
  path: string;
  body: unknown;
}

/** A request of every route, as its entry in the contract says that it reads it. */
function requests(known: Known): fc.Arbitrary<HostileRequest> {
  const each = Object.entries(ROUTES as Record<string, Route>).map(([route, entry]) => {
    const [method, pattern] = route.split(' ') as [string, string];
    const { params, query, body } = entry;
    const nothing = fc.constant(undefined);
    const names = params instanceof z.ZodObject ? (params.shape as z.core.$ZodShape) : {};
    return fc
      .record({
        named: fc.record(
          Object.fromEntries(
            Object.entries(names).map(([name, schema]) => [name, requestsOf(schema, known)]),
          ),
        ),
        query: query ? requestsOf(query, known) : nothing,
        body: body ? requestsOf(body, known) : method === 'GET' ? nothing : anything,
      })
      .map(({ named, query: asked, body: sent }) => ({
        route,
        method,
        path:
          pattern.replaceAll(/:(\w+)/g, (_, name: string) => encoded(named[name])) +
          queryText(asked),
        body: method === 'GET' ? undefined : sent,
      }));
  });
  return fc.oneof(...each);
}

let process: Awaited<ReturnType<typeof startProcess>>;
let sql: pg.Client;
let metricsPort: number;
beforeAll(async () => {
  metricsPort = await freePort();
  process = await startProcess({ MARMOT_METRICS: String(metricsPort), ...(isLong ? {} : CHECKED) });
  sql = new pg.Client({ connectionString: process.database.url });
  await sql.connect();
});
afterAll(async () => {
  await sql.end();
  await process.end();
});

it(`${REQUESTS} requests over every route: none breaks anything, none takes long`, async () => {
  const { server } = process;
  const column = async <Value>(text: string) =>
    (await sql.query<{ value: Value }>(text)).rows.map((row) => row.value);
  const known: Known = {
    subjects: await column<number>('select id as value from subject order by id limit 100'),
    events: await column<string>(
      `(select id as value from event where rule is not null order by id limit 20)
       union all (select id from event where rule is null order by id limit 20)`,
    ),
  };
  const clients = await Promise.all(
    ['ines.aldabe', 'tomas.okafor', 'mika.sandoval', 'hal.teague'].map((one) =>
      Client.signIn(server.base, one),
    ),
  );
  const list = fc.sample(requests(known), REQUESTS);
  const { pid } = server.child;
  let warm = 0;
  const bad: string[] = [];
  const reached = new Map<string, Set<number>>();
  const times: number[] = [];
  let next = 0;
  const work = async (client: Client) => {
    for (let k = next++; k < list.length; k = next++) {
      const { route, method, path, body } = list[k]!;
      const began = performance.now();
      const status = await send(client, method, path, body);
      const took = performance.now() - began;
      times.push(took);
      if (times.length === Math.floor(list.length * WARMING)) warm = server.memory();
      reached.set(route, (reached.get(route) ?? new Set()).add(status));
      if (isBad(status, took)) {
        const shown = JSON.stringify(body)?.slice(0, 600) ?? '';
        bad.push(`${status} in ${Math.round(took)} ms: ${method} ${path.slice(0, 300)} ${shown}`);
      }
    }
  };
  const neighbour = await Client.signIn(server.base, 'leila.haddad');
  await stall();
  let isOver = false;
  const others: number[] = [];
  const reading = (async () => {
    for (let k = 0; !isOver; k++) {
      const began = performance.now();
      const { status } = await neighbour.get(BESIDE[k % BESIDE.length]!);
      others.push(performance.now() - began);
      // Beside other tests the database may not answer in time.
      if (isLong) expect(status).toBe(200);
      await new Promise((resolve) => setTimeout(resolve, EVERY_MS));
    }
  })();
  await Promise.all(Array.from({ length: AT_ONCE }, (_, k) => work(clients[k % clients.length]!)));
  isOver = true;
  await reading;
  const [stood, beside] = [await stall(), percentile(others, 95)];
  noteLoad(
    'others meanwhile',
    `longest stall ${Math.round(stood)} ms, p95 ${Math.round(beside)} ms of ${others.length} reads`,
    'under 200 and 250 ms',
  );
  const grown = server.memory() / warm;
  noteLoad(
    `${REQUESTS} hostile requests`,
    `slowest ${Math.round(percentile(times, 100))} ms, half within ${Math.round(percentile(times, 50))} ms, memory ${warm.toFixed(0)} MB, then ${(grown * 100 - 100).toFixed(0)} % more`,
    `none over ${SLOW_MS} ms, at most ${(MOST_GROWTH * 100 - 100).toFixed(0)} % more`,
  );
  expect(bad.slice(0, 10)).toEqual([]);
  expect(server.runs && server.child.pid === pid).toBe(true);
  expect(await server.healthy()).toBe(true);
  if (isLong) {
    expect(stood).toBeLessThan(MOST_STALL_MS);
    expect(beside).toBeLessThan(MOST_P95_MS);
  }
  expect(grown).toBeLessThan(MOST_GROWTH);
  // Every route was reached, and many of them with requests that they took.
  expect(Object.keys(ROUTES).filter((route) => !reached.has(route))).toEqual([]);
  const taken = [...reached].filter(([, statuses]) => [...statuses].some((one) => one < 300));
  expect(taken.length).toBeGreaterThan(20);
}, 600_000);

/** How long the server's thread stood still at most since this was asked before. Milliseconds. */
async function stall(): Promise<number> {
  const text = await (await fetch(`http://127.0.0.1:${metricsPort}/metrics`)).text();
  return Number(/^nodejs_eventloop_lag_max_seconds (\S+)$/m.exec(text)![1]) * 1000;
}

/** @returns the status; 0 where there was no answer */
async function send(client: Client, method: string, path: string, body: unknown): Promise<number> {
  // Whoever signs out is let in no more, and gets no further than the door.
  const cookie = path.startsWith('/api/session') ? '' : client.cookie;
  const controller = new AbortController();
  const timer = setTimeout(() => controller.abort(), 20_000);
  try {
    const answer = await fetch(client.base + path, {
      method,
      headers: { Cookie: cookie, 'Content-Type': 'application/json' },
      ...(body !== undefined && method !== 'GET' && { body: JSON.stringify(body) }),
      signal: controller.signal,
    });
    // A stream never ends by itself.
    if (answer.headers.get('content-type')?.includes('event-stream')) await answer.body?.cancel();
    else await answer.arrayBuffer();
    return answer.status;
  } catch {
    return 0;
  } finally {
    clearTimeout(timer);
  }
}
