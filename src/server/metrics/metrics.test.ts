import { expect, it } from 'vitest';
import type { Health } from '../../contract/health.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { createMetrics, serveMetrics } from './index.ts';

/** Nobody sends letters here, so that they wait. */
const server = useServer({ works: false });

it('health and metrics say what waits, and for how long', async () => {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post(
    '/api/events',
    meetingRequest({ attendees: [{ email: 'a@elsewhere.example', role: 'required' }] }),
  );
  expect(made.status).toBe(201);
  const { clock } = server.running.platform;
  const { now } = clock;
  clock.now = () => now() + 90_000;
  const { body } = await server.anonymous().get<Health>('/api/health');
  expect(body).toMatchObject({ ok: true, database: 'answers', letters: { oldestSeconds: 90 } });
  expect(body.letters!.count).toBeGreaterThanOrEqual(1);
  expect(body.jobs!.count).toBeGreaterThanOrEqual(1);

  const page = await serveMetrics(createMetrics(server.running.platform), '127.0.0.1', 0);
  const answer = await fetch(`http://127.0.0.1:${page.port}/metrics`);
  const text = await answer.text();
  clock.now = now;
  expect(text).toContain(`marmot_letters_waiting ${body.letters!.count}`);
  expect(text).toContain('marmot_letters_oldest_seconds 90');
  expect(text).toMatch(/^marmot_database_connections \d+$/m);
  expect(text).toMatch(/^nodejs_eventloop_lag_seconds/m);
  expect((await fetch(`http://127.0.0.1:${page.port}/`)).status).toBe(404);
  await page.end();
});

it('a refusal carries the name by which its request is found in the log', async () => {
  const ines = await server.as('ines.aldabe');
  const given = await ines.request<{ requestId: string }>('GET', '/api/nowhere', undefined, {
    'X-Request-Id': 'from-the-proxy',
  });
  expect(given.body.requestId).toBe('from-the-proxy');
  const own = await ines.request<{ requestId: string }>('GET', '/api/nowhere', undefined, {
    'X-Request-Id': 'no\tname',
  });
  expect(own.body.requestId).toMatch(/^[0-9a-f-]{36}$/);
  expect(own.headers.get('x-request-id')).toBe(own.body.requestId);
});
