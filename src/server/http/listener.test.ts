import { once } from 'node:events';
import type { Server } from 'node:http';
import { connect, type AddressInfo, type Socket } from 'node:net';
import { afterEach, expect, it } from 'vitest';
import { createListener } from './listener.ts';

const LIMITS = {
  headMs: 150,
  requestMs: 400,
  silentMs: 800,
  keptMs: 60_000,
  everyMs: 25,
  mostConnections: 3,
};
/** Far more than any limit, and far less than a connection that nobody ends would last. */
const LONG_MS = 10_000;

let server: Server;
const sockets: Socket[] = [];

afterEach(async () => {
  for (const socket of sockets.splice(0)) socket.destroy();
  server.closeAllConnections();
  server.close();
  await once(server, 'close');
});

async function listen(answer: Parameters<typeof createListener>[0]): Promise<void> {
  server = createListener(answer, LIMITS);
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
}

async function open(): Promise<Socket> {
  const socket = connect((server.address() as AddressInfo).port, '127.0.0.1');
  sockets.push(socket);
  socket.on('error', () => undefined);
  await once(socket, 'connect');
  return socket;
}

/** What a connection says until it is ended. */
async function untilEnded(socket: Socket): Promise<string> {
  let said = '';
  socket.setEncoding('utf8').on('data', (text: string) => (said += text));
  await once(socket, 'close', { signal: AbortSignal.timeout(LONG_MS) });
  return said;
}

it('a head or a body that does not come is not waited for', async () => {
  await listen((request, response) => {
    request.resume().on('end', () => response.end('read'));
  });
  const head = await open();
  head.write('GET / HTTP/1.1\r\nHost: here\r\nX-Slow');
  expect(await untilEnded(head)).toMatch(/^HTTP\/1.1 408 /);

  const body = await open();
  body.write('POST / HTTP/1.1\r\nHost: here\r\nContent-Length: 100\r\n\r\n');
  // Something every now and then keeps a connection from being silent, and not from being slow.
  const drip = setInterval(() => body.write('.'), 50);
  expect(await untilEnded(body)).toMatch(/^HTTP\/1.1 408 /);
  clearInterval(drip);
});

it('a connection on which nothing moves is ended, and one that is kept is answered again', async () => {
  await listen((request, response) => {
    if (request.url === '/now') response.end('answered');
  });
  const kept = await open();
  kept.write('GET /now HTTP/1.1\r\nHost: here\r\n\r\n');
  await once(kept, 'data');
  kept.write('GET /never HTTP/1.1\r\nHost: here\r\n\r\n');
  expect(await untilEnded(kept)).toBe('');
});

it('no more than so many connections are held', async () => {
  await listen((_, response) => void response.end());
  for (let k = 0; k < LIMITS.mostConnections; k++) await open();
  expect(await untilEnded(await open())).toBe('');
});
