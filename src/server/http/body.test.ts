import { connect } from 'node:net';
import { expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import { ServerProcess } from '../../../tests/support/process.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { eventually, useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });

it('a refusal is a page long, however many fields it could name', async () => {
  const unknown = Object.fromEntries(Array.from({ length: 5_000 }, (_, k) => [`k${k}`, 1]));
  const answer = await server.anonymous().post<ProblemBody>('/api/session', unknown);
  expect(answer.status).toBe(400);
  expect(JSON.stringify(answer.body).length).toBeLessThan(2_000);
  const fields = answer.body.fields!.map((one) => one.message);
  expect(fields.filter((one) => one === 'is not a field of this request')).toHaveLength(8);
  expect(fields).toContain('holds 4992 more fields that are not of this request');
  const ines = await server.as('ines.aldabe');
  const many = await ines.post<ProblemBody>('/api/availability/busy', {
    subjects: Array.from({ length: 3_000 }, () => 'x'),
    from: 0,
    to: 1,
  });
  expect(many.status).toBe(400);
  expect(JSON.stringify(many.body).length).toBeLessThan(8_000);
  const long = await ines.post<ProblemBody>('/api/events', { ['k'.repeat(50_000)]: 1 });
  expect(JSON.stringify(long.body).length).toBeLessThan(4_000);
});

it('whoever is not signed in sends little', async () => {
  const answer = await server
    .anonymous()
    .post<ProblemBody>('/api/session', { email: 'x'.repeat(80_000) });
  expect(answer).toMatchObject({ status: 413, body: { code: 'too-large' } });
});

it('half a character is refused where it stands, and nothing is kept', async () => {
  const ines = await server.as('ines.aldabe');
  const half = String.fromCharCode(0xd83d);
  const told = await ines.post<ProblemBody>(
    '/api/events',
    meetingRequest({ title: `Kelp ${half}` }),
  );
  expect(told.status).toBe(400);
  expect(told.body.fields).toEqual([{ field: 'title', message: 'must not hold half a character' }]);
});

it('what somebody broke off, and what they wrote, is not in the log', async () => {
  const process = new ServerProcess(server.database.url, { MARMOT_LOG: 'info' });
  await process.start();
  try {
    const { hostname, port } = new URL(process.base);
    for (const path of ['/api/session', '/api/events']) {
      const socket = connect(Number(port), hostname);
      await new Promise<void>((sent) =>
        socket.write(
          `POST ${path} HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 500\r\n\r\n{"secret`,
          () => sent(),
        ),
      );
      socket.destroy();
    }
    const broken = await fetch(`${process.base}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{"email": "a secret between us',
    });
    expect(broken.status).toBe(400);
    await eventually(() => process.healthy());
    expect(process.log).not.toMatch(/"level":50/);
    expect(process.log).not.toContain('secret');
  } finally {
    await process.end();
  }
});
