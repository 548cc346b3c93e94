import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createServer, request as ask } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test } from '@playwright/test';
import pg from 'pg';
import { TEST_NOW } from '../support/cluster.ts';
import { freePort } from '../support/port.ts';
import { meetingJourney } from './meetingJourney.ts';

const ADMIN = process.env.MARMOT_TEST_CLUSTER!;
const DATABASE = 'marmot_two_servers';

/** A proxy that sends each request to the next of the servers. */
async function alternating(ports: readonly number[]) {
  const counts = ports.map(() => 0);
  let next = 0;
  const proxy = createServer((request, response) => {
    const at = next++ % ports.length;
    counts[at]!++;
    const { method, url: path, headers } = request;
    const onward = ask({ host: '127.0.0.1', port: ports[at], method, path, headers }, (answer) => {
      response.writeHead(answer.statusCode!, answer.headers);
      answer.pipe(response);
      response.on('close', () => answer.destroy());
    });
    onward.on('error', () => response.destroy());
    request.pipe(onward);
  }).listen(0, '127.0.0.1');
  await once(proxy, 'listening');
  return {
    counts,
    base: `http://localhost:${(proxy.address() as AddressInfo).port}`,
    end: () => {
      proxy.closeAllConnections();
      proxy.close();
    },
  };
}

async function startServer(port: number): Promise<ChildProcess> {
  const server = spawn(process.execPath, ['--import', 'tsx', 'src/server/main.ts'], {
    env: {
      ...process.env,
      MARMOT_DATABASE_URL: ADMIN.replace(/\/postgres$/, `/${DATABASE}`),
      MARMOT_NOW: TEST_NOW,
      PORT: String(port),
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const isUp = () =>
    fetch(`http://127.0.0.1:${port}/api/health`).then(
      (answer) => answer.ok,
      () => false,
    );
  await expect.poll(isUp, { timeout: 120_000 }).toBe(true);
  return server;
}

test('a meeting is made, answered and followed live through two servers, a request to each in turn', async ({
  browser,
}) => {
  test.setTimeout(600_000);
  const admin = new pg.Client({ connectionString: ADMIN });
  await admin.connect();
  await admin.query(`drop database if exists ${DATABASE} with (force)`);
  await admin.query(`create database ${DATABASE} template marmot_template`);
  const ports = [await freePort(), await freePort()];
  const servers = await Promise.all(ports.map(startServer));
  const proxy = await alternating(ports);
  const usual = process.env.MARMOT_TEST_ADDRESS;
  process.env.MARMOT_TEST_ADDRESS = proxy.base;
  try {
    await meetingJourney(browser);
    expect(Math.abs(proxy.counts[0]! - proxy.counts[1]!)).toBeLessThanOrEqual(1);
  } finally {
    process.env.MARMOT_TEST_ADDRESS = usual;
    proxy.end();
    for (const server of servers) {
      const gone = once(server, 'exit');
      server.kill('SIGTERM');
      await gone;
    }
    await admin.query(`drop database if exists ${DATABASE} with (force)`);
    await admin.end();
  }
});
