import { createServer, type RequestListener } from 'node:http';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { expect, it } from 'vitest';
import { isPrivateAddress } from './privateAddress.ts';
import { webCalendars } from './source.ts';

/** Reads from a server that answers so. */
async function reading(answer: RequestListener, path = '/'): Promise<string> {
  const server = createServer(answer).listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as AddressInfo;
  try {
    return await webCalendars.read(`http://127.0.0.1:${port}${path}`);
  } finally {
    server.closeAllConnections();
    server.close();
  }
}

it('an address that was entered may lie inside, and may send on within itself', async () => {
  const text = await reading((request, response) => {
    if (request.url === '/old') response.writeHead(302, { Location: '/new' }).end();
    else response.end('BEGIN:VCALENDAR');
  }, '/old');
  expect(text).toBe('BEGIN:VCALENDAR');
});

it('nobody is sent on to a private network, by number or by name', async () => {
  let reached = 0;
  const inside = createServer((_, response) => {
    reached++;
    response.end('secret');
  }).listen(0, '127.0.0.1');
  await once(inside, 'listening');
  const { port } = inside.address() as AddressInfo;
  for (const host of ['127.0.0.1', 'localhost', '[::1]', '[::ffff:127.0.0.1]', '2130706433']) {
    const sent = reading((_, response) => {
      response.writeHead(302, { Location: `http://${host}:${port}/` }).end();
    });
    await expect(sent).rejects.toThrow('sends on to an address that is not public');
  }
  expect(reached).toBe(0);
  inside.close();
});

it('what is too large, sent on for ever, or refused is said so', async () => {
  await expect(reading((_, response) => response.end(Buffer.alloc(3_000_000)))).rejects.toThrow(
    'larger than 2 MB',
  );
  await expect(
    reading((_, response) => response.writeHead(302, { Location: '/again' }).end()),
  ).rejects.toThrow('again and again');
  await expect(reading((_, response) => response.writeHead(403).end())).rejects.toThrow(
    'answers 403',
  );
  await expect(
    reading((_, response) => response.writeHead(302, { Location: 'file:///etc/passwd' }).end()),
  ).rejects.toThrow('not one of the web');
});

it('knows private addresses in all their clothes', () => {
  const inside = ['10.1.2.3', '172.31.0.1', '192.168.1.1', '169.254.169.254', '0.0.0.0', '::1'];
  const dressed = [
    '::ffff:10.0.0.1',
    '::ffff:a00:1',
    '64:ff9b::7f00:1',
    'fd00::1',
    'fe80::1',
    '::',
  ];
  expect([...inside, ...dressed].filter((address) => !isPrivateAddress(address))).toEqual([]);
  const outside = ['8.8.8.8', '172.32.0.1', '2a00:1450::1', '::ffff:8.8.8.8', '64:ff9b::808:808'];
  expect(outside.filter(isPrivateAddress)).toEqual([]);
});
