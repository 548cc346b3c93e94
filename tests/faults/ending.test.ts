import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { Client } from '../support/client.ts';
import { startProcess } from '../support/process.ts';
import { bergenTimes, meetingRequest } from '../support/requests.ts';
import { eventually } from '../support/server.ts';
import { isLong } from '../support/effort.ts';

let process: Awaited<ReturnType<typeof startProcess>>;
beforeAll(async () => {
  process = await startProcess();
});
afterAll(() => process.end());

it('a server that is asked to end answers what it has begun, and takes no more', async () => {
  const { server, database } = process;
  const ines = await Client.signIn(server.base, 'ines.aldabe');
  const stream = await fetch(`${server.base}/api/live`, { headers: { Cookie: ines.cookie } });
  expect(stream.status).toBe(200);
  // Somebody holds the room, so that a booking is under way for as long as the test wants.
  const holder = new pg.Client({ connectionString: database.url });
  await holder.connect();
  const { rows } = await holder.query<{ id: number }>(
    `select id from subject where name = 'Gannet'`,
  );
  const room = rows[0]!.id;
  await holder.query('begin');
  await holder.query('select from resource where subject_id = $1 for update', [room]);
  const booking = ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Under way',
      times: bergenTimes('2027-09-01T10:00', '2027-09-01T11:00'),
      resources: [room],
    }),
  );
  await eventually(async () => {
    const waiting = await holder.query(
      `select from pg_stat_activity where application_name = 'marmot' and wait_event_type = 'Lock'`,
    );
    return waiting.rowCount! > 0;
  });
  const began = performance.now();
  const ended = server.end('SIGTERM');
  await eventually(() =>
    fetch(`${server.base}/api/health`).then(
      () => false,
      () => true,
    ),
  );
  await holder.query('commit');
  expect((await booking).status).toBe(201);
  await ended;
  expect(server.child.exitCode).toBe(0);
  // Browsers keep connections that they do not use, and a stream never ends by itself: neither is waited for.
  if (isLong) expect(performance.now() - began).toBeLessThan(8_000);
  const kept = await holder.query(`select from event where title = 'Under way'`);
  expect(kept.rowCount).toBe(1);
  await holder.end();
});
