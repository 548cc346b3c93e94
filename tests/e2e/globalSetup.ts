import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, openSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { createTemplate, startTestCluster, TEST_NOW } from '../support/cluster.ts';
import { freePort } from '../support/port.ts';

const DATABASE = 'marmot_e2e';
/** What the server says meanwhile, to look up when a test fails. */
const REPORTS = '.marmot/reports';

/** The real server with the built interface and the demonstration, on a database of its own. */
export default async function setUp() {
  const cluster = await startTestCluster();
  const template = await createTemplate(cluster);
  await cluster.psql(`drop database if exists ${DATABASE} with (force)`);
  await cluster.psql(`create database ${DATABASE} template ${template}`);
  const port = await freePort();
  const base = `http://localhost:${port}`;
  mkdirSync(REPORTS, { recursive: true });
  const log = openSync(path.join(REPORTS, 'browser-tests-server.log'), 'w');
  const server = spawn(process.execPath, ['--import', 'tsx', 'src/server/main.ts'], {
    env: {
      ...process.env,
      MARMOT_DATABASE_URL: cluster.url(DATABASE),
      MARMOT_NOW: TEST_NOW,
      MARMOT_HOLD_SECONDS: '0',
      MARMOT_CHECK_ANSWERS: 'yes',
      PORT: String(port),
    },
    stdio: ['ignore', log, 'inherit'],
  });
  process.env.MARMOT_HOLD_SECONDS = '0';
  process.env.MARMOT_TEST_ADDRESS = base;
  process.env.MARMOT_TEST_DATABASE = cluster.url(DATABASE);
  process.env.MARMOT_TEST_CLUSTER = cluster.url('postgres');
  for (let tries = 0; ; tries++) {
    const up = await fetch(`${base}/api/health`).then(
      (answer) => answer.ok,
      () => false,
    );
    if (up) break;
    if (tries > 200) throw new Error('the server does not start');
    await pause(100);
  }
  return async () => {
    server.kill('SIGTERM');
    await once(server, 'exit');
    await cluster.end();
  };
}
