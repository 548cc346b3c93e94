import { once } from 'node:events';
import { connect, createServer, type AddressInfo } from 'node:net';
import type pg from 'pg';
import { pino } from 'pino';
import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Client } from '../../../tests/support/client.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { eventually, useServer } from '../../../tests/support/server.ts';
import { transaction } from '../db/transaction.ts';
import { LiveHub, type Heard } from './hub.ts';
import { announce } from './queries.ts';
import { CHANNEL, liveNotices } from './subjects.ts';

const server = useServer({ works: false });

/** Opens the stream of somebody's window that shows some subjects. */
async function listen(client: Client, subjects: string[]) {
  const response = await fetch(`${server.base}/api/live?subjects=${subjects.join(',')}`, {
    headers: { Cookie: client.cookie },
  });
  const reader = response.body!.getReader();
  let text = '';
  void (async () => {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      text += new TextDecoder().decode(value);
    }
  })().catch(() => undefined);
  await eventually(async () => text.includes('event: ready'));
  const heard = () =>
    [...text.matchAll(/event: changed\ndata: (.*)/g)].flatMap(
      ([, data]) => JSON.parse(data!) as string[],
    );
  return { heard, close: () => reader.cancel() };
}

describe('a window hears of what it shows', () => {
  it('a calendar of somebody who shares it, a place and a meeting, and of nothing else', async () => {
    const [tomas, robine] = [await server.id('Tomas Okafor'), await server.id('Robine Thys')];
    const [puffin, skua] = [await server.id('Puffin'), await server.id('Skua')];
    const mei = await server.as('mei.tanaka');
    const shows = await listen(mei, [`calendar:${tomas}`, `resource:${puffin}`]);
    const shows2 = await listen(mei, ['resource:all']);
    const client = await server.as('tomas.okafor');
    const made = await client.post<EventDetail>(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-10-04T04:00', '2027-10-04T05:00'),
        resources: [puffin],
      }),
    );
    expect(made.status).toBe(201);
    await (
      await server.as('robine.thys')
    ).post(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-10-04T04:00', '2027-10-04T05:00'),
        resources: [skua],
      }),
    );
    await eventually(async () => shows2.heard().length >= 2);
    expect(shows.heard().sort()).toEqual([`calendar:${tomas}`, `resource:${puffin}`].sort());
    expect(shows2.heard()).toEqual(['resource:all', 'resource:all']);
    expect(robine).not.toBe(tomas);
    await Promise.all([shows.close(), shows2.close()]);
  });

  it('and of what changed while it was about to listen, as far as it may see it', async () => {
    const puffin = await server.id('Puffin');
    const other = await server.id('Kittiwake');
    const made = await (
      await server.as('clara.weiss')
    ).post(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2027-10-11T04:00', '2027-10-11T05:00'),
        attendees: [],
        resources: [puffin],
      }),
    );
    expect(made.status).toBe(201);
    // By now every process has heard of it.
    await eventually(
      async () => server.running.platform.live.changedLately([`resource:${puffin}`]).length > 0,
    );
    const late = await listen(await server.as('mei.tanaka'), [
      `resource:${puffin}`,
      `resource:${other}`,
    ]);
    await eventually(async () => late.heard().length > 0);
    // Of this and nothing else; hearing it twice is reading twice.
    expect([...new Set(late.heard())]).toEqual([`resource:${puffin}`]);
    await late.close();
  });

  it('and not of calendars, meetings and people that it may not see', async () => {
    const oskar = await server.id('Oskar Lindqvist');
    const client = await server.as('oskar.lindqvist');
    const made = await client.post<EventDetail>('/api/events', meetingRequest({ title: 'Quiet' }));
    const mei = await server.as('mei.tanaka');
    const own = await server.id('Mei Tanaka');
    const spies = await listen(mei, [
      `calendar:${oskar}`,
      `meeting:${made.body.id}`,
      `person:${oskar}`,
    ]);
    await client.patch(`/api/events/${made.body.id}`, { version: 1, title: 'Still quiet' });
    await client.patch('/api/preferences', { clock: '12' });
    // Something of Mei's own, heard after all of that.
    await mei.post('/api/events', meetingRequest());
    await eventually(async () => spies.heard().includes(`calendar:${own}`));
    expect(spies.heard()).toEqual([`calendar:${own}`]);
    await spies.close();
  });

  it('as many as one may have open, and one more when one of them closes', async () => {
    const grace = await server.as('grace.paul');
    const open = [];
    for (let k = 0; k < 60; k++) open.push(await listen(grace, []));
    const refused = await grace.get<ProblemBody>('/api/live');
    expect([refused.status, refused.body.code]).toEqual([429, 'too-many-streams']);
    // Others are not kept waiting by that.
    await (await listen(await server.as('mei.tanaka'), [])).close();
    await open.pop()!.close();
    await eventually(async () => {
      const answer = await fetch(`${server.base}/api/live`, { headers: { Cookie: grace.cookie } });
      await answer.body!.cancel();
      return answer.status === 200;
    });
    await Promise.all(open.map((one) => one.close()));
  });

  it('and one that says twice that it has closed takes none of the next ones away', async () => {
    const hub = server.running.platform.live;
    const person = await server.id('Oskar Lindqvist');
    const before = hub.size;
    const leave = hub.join(person, () => undefined)!;
    leave();
    const next = hub.join(person, () => undefined)!;
    leave();
    expect(hub.size).toBe(before + 1);
    next();
    expect(hub.size).toBe(before);
  });

  it('is refused what is no subject by its name', async () => {
    const mei = await server.as('mei.tanaka');
    for (const wrong of ['calendar:x', 'nobody:1', 'resource:-1', "calendar:1' or 1"]) {
      const answer = await mei.get<{ fields: { field: string }[] }>(
        `/api/live?subjects=${encodeURIComponent(wrong)}`,
      );
      expect([wrong, answer.status]).toEqual([wrong, 400]);
      expect(answer.body.fields[0]!.field).toContain('subjects');
    }
  });
});

describe('the connection that listens', () => {
  const log = pino({ level: 'silent' });
  const hub = () => new LiveHub(server.database.url, log, { everyMs: 100, withinMs: 300 });

  it('that has gone deaf without a word is noticed, and whoever listens is told', async () => {
    const live = hub();
    await live.start();
    const heard: Heard[] = [];
    live.subscribe(['calendar:1'], (what) => heard.push(what));
    // The connection stands, but nothing reaches it any more.
    const { client } = live as unknown as { client: pg.Client };
    await client.query(`unlisten ${CHANNEL}`);
    await eventually(async () => heard.some((what) => 'missed' in what));
    await transaction(server.running.platform.pool, (tx) => announce(tx, ['calendar:1']));
    await eventually(async () => heard.some((what) => 'changed' in what));
    await live.end();
  });

  it('that is cut is made anew', async () => {
    const live = hub();
    await live.start();
    const heard: Heard[] = [];
    live.subscribe([], (what) => heard.push(what));
    const { client } = live as unknown as { client: pg.Client & { processID: number } };
    await server.sql('select pg_terminate_backend($1)', [client.processID]);
    await eventually(async () => heard.some((what) => 'missed' in what));
    await live.end();
  });

  it('that is made anew and gets no answer is made anew once more', async () => {
    const database = new URL(server.database.url);
    const { hostname, port } = database;
    let isSilent = false;
    let swallowed = 0;
    const between = createServer((from) => {
      const onward = connect(Number(port), hostname);
      onward.pipe(from);
      from.on('data', (sent) => {
        if (isSilent && sent.includes('listen')) swallowed++;
        else onward.write(sent);
      });
      for (const socket of [from, onward]) {
        socket
          .on('error', () => undefined)
          .on('close', () => [from, onward].forEach((one) => one.destroy()));
      }
    }).listen(0, '127.0.0.1');
    await once(between, 'listening');
    database.host = `127.0.0.1:${(between.address() as AddressInfo).port}`;
    const live = new LiveHub(String(database), log, { everyMs: 100, withinMs: 300 });
    await live.start();
    const heard: Heard[] = [];
    live.subscribe([], (what) => heard.push(what));
    isSilent = true;
    const { client } = live as unknown as { client: pg.Client & { processID: number } };
    await server.sql('select pg_terminate_backend($1)', [client.processID]);
    await eventually(async () => swallowed > 0);
    expect(heard).toEqual([]);
    isSilent = false;
    await eventually(async () => heard.some((what) => 'missed' in what));
    await live.end();
    between.close();
  });

  it('gets notices that PostgreSQL can carry, however many they name', () => {
    const subjects = Array.from({ length: 3000 }, (_, k) => `calendar:${100_000 + k}`);
    const notices = liveNotices(subjects);
    expect(Math.max(...notices.map((one) => one.length))).toBeLessThan(8000);
    expect(notices.join(' ').split(' ')).toEqual(subjects);
  });
});
