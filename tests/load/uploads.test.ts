import { request as ask } from 'node:http';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { Client } from '../support/client.ts';
import { startProcess } from '../support/process.ts';
import { meetingRequest } from '../support/requests.ts';

const FILES = 20;
const BYTES = 9 * 1024 * 1024;

let process: Awaited<ReturnType<typeof startProcess>>;
beforeAll(async () => {
  process = await startProcess();
});
afterAll(() => process.end());

it('memory does not grow with the number of files that are sent at once', async () => {
  const { server } = process;
  const clients = await Promise.all(
    ['ines.aldabe', 'tomas.okafor', 'mika.sandoval', 'hal.teague'].map((one) =>
      Client.signIn(server.base, one),
    ),
  );
  const events = await Promise.all(
    clients.map(
      async (client) => (await client.post<EventDetail>('/api/events', meetingRequest({}))).body.id,
    ),
  );
  const content = new Uint8Array(BYTES).fill(97);
  const before = server.memory();
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, server.memory())), 10);
  const answers = await Promise.all(
    Array.from({ length: FILES }, async (_, k) => {
      const at = k % clients.length;
      const answer = await fetch(
        `${server.base}/api/events/${events[at]}/attachments?name=file${k}.txt`,
        {
          method: 'POST',
          headers: {
            Cookie: clients[at]!.cookie,
            'Content-Type': 'application/octet-stream',
          },
          body: content,
        },
      );
      await answer.arrayBuffer();
      return answer.status;
    }),
  );
  clearInterval(watch);
  expect(answers).toEqual(answers.map(() => 201));
  // All of them at once are 180 MB, and each is held more than once on its way into the database.
  expect(most - before).toBeLessThan(180);
}, 60_000);

it('who may not attach a file is told so before it is sent', async () => {
  const { server } = process;
  const ines = await Client.signIn(server.base, 'ines.aldabe');
  const idris = await Client.signIn(server.base, 'idris.kaya');
  const { id } = (
    await ines.post<EventDetail>('/api/events', meetingRequest({ visibility: 'private' }))
  ).body;
  const { hostname, port } = new URL(server.base);
  const status = await new Promise<number>((resolve, reject) => {
    const sending = ask(
      {
        hostname,
        port,
        method: 'POST',
        path: `/api/events/${id}/attachments?name=a.txt`,
        headers: {
          Cookie: idris.cookie,
          'Content-Type': 'application/octet-stream',
          'Content-Length': 1_000_000,
        },
      },
      (answer) => {
        resolve(answer.statusCode!);
        sending.destroy();
      },
    );
    sending.on('error', reject);
    // A first byte, and then nothing more.
    sending.write('a');
  });
  expect(status).toBe(404);
}, 20_000);
