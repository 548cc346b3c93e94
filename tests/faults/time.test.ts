import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { HOUR, MINUTE } from '../../src/core/time/interval.ts';
import type { Envelope } from '../../src/server/mail/index.ts';
import { bergenTimes, meetingRequest } from '../support/requests.ts';
import { eventually, TestServer } from '../support/server.ts';

/** Whether the mail server of these tests is away, and whom it took a letter for. */
let away = false;
const taken: string[] = [];
const isGuest = (to: string) => to.endsWith('@harbour.example');
const tried: string[] = [];
const server = new TestServer({
  transport: () => ({
    deliver({ to }: Envelope) {
      tried.push(to);
      if (away) return Promise.reject(new Error('connect ECONNREFUSED'));
      taken.push(to);
      return Promise.resolve();
    },
  }),
});
beforeAll(() => server.start());
afterAll(() => server.end());

/** The letters about a meeting that have not gone out and that nobody is sending at this moment. */
const letters = (title: string) =>
  server.sql<{ due: boolean }>(
    `select job.due_at <= now() as due
     from job join mail on mail.id::text = job.key
     where job.kind = 'letter' and job.leased_until is null and mail.subject like '%' || $1 || '%'`,
    [title],
  );

/** Lets time pass for all that waits. */
const pass = (minutes: number) =>
  server.sql(`update job set due_at = due_at - make_interval(mins => $1) where kind = 'letter'`, [
    minutes,
  ]);

describe('a mail server that is away for an hour', () => {
  it('gets every letter once when it is back, and is not asked all the time meanwhile', async () => {
    away = true;
    const emails = Array.from({ length: 12 }, (_, k) => `guest${k}@harbour.example`);
    const ines = await server.as('ines.aldabe');
    const made = await ines.post(
      '/api/events',
      meetingRequest({
        title: 'Away',
        attendees: emails.map((email) => ({ email, name: '', role: 'required' as const })),
      }),
    );
    expect(made.status).toBe(201);
    for (let minute = 0; minute < 60; minute++) {
      // All that was due has been tried before the clock goes on.
      await eventually(async () => {
        const waiting = await letters('Away');
        return waiting.length === emails.length && waiting.every((one) => !one.due);
      }, 30);
      await pass(1);
    }
    expect(taken.filter(isGuest)).toEqual([]);
    // Tried again at once a few times, and then ever more seldom.
    expect(tried.filter(isGuest).length).toBeGreaterThanOrEqual(3 * emails.length);
    expect(tried.filter(isGuest).length).toBeLessThanOrEqual(10 * emails.length);
    away = false;
    for (let minute = 0; minute < 180; minute += 10) {
      await pass(10);
      await eventually(async () => (await letters('Away')).every((one) => !one.due), 30);
    }
    expect(await letters('Away')).toEqual([]);
    expect(taken.filter(isGuest).sort()).toEqual([...emails].sort());
  }, 120_000);
});

describe('a clock that steps', () => {
  it('forward and back again leaves bookings, changes, letters and sessions as they were meant', async () => {
    const { clock } = server.running.platform;
    const now = clock.now();
    const at = (step: number) => (clock.now = () => now + step);
    const ines = await server.as('ines.aldabe');
    const gannet = await server.id('Gannet');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Steps',
        times: bergenTimes('2027-05-03T10:00', '2027-05-03T11:00'),
        resources: [gannet],
        attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
      }),
    );
    let { version, sequence } = made.body;
    const steps = [2 * HOUR, -3 * HOUR, 5 * MINUTE, -26 * HOUR, 0];
    for (const [k, step] of steps.entries()) {
      at(step);
      const moved = await ines.patch<EventDetail>(`/api/events/${made.body.id}`, {
        version,
        times: bergenTimes(`2027-05-03T1${k}:15`, `2027-05-03T1${k}:45`),
      });
      expect(moved.status).toBe(200);
      // What decides which is later is counted, and never read off a clock.
      expect(moved.body.version).toBe(version + 1);
      expect(moved.body.sequence).toBeGreaterThan(sequence);
      ({ version, sequence } = moved.body);
      const taken = await (
        await server.as('tomas.okafor')
      ).post(
        '/api/events',
        meetingRequest({
          times: bergenTimes(`2027-05-03T1${k}:15`, `2027-05-03T1${k}:45`),
          resources: [gannet],
        }),
      );
      expect(taken.status).toBe(409);
    }
    // An answer that a step back makes older than the question counts all the same.
    at(-26 * HOUR);
    const tomas = await server.as('tomas.okafor');
    const answered = await tomas.post<EventDetail>(`/api/invitations/${made.body.id}/reply`, {
      reply: 'accepted',
    });
    expect(answered.body.myReply).toBe('accepted');
    at(0);
    const read = await ines.get<EventDetail>(`/api/events/${made.body.id}`);
    expect(read.body.attendees.find((one) => one.name === 'Tomas Okafor')!.reply).toBe('accepted');
    // Undo takes back the last change, and not the one that a clock calls the latest.
    const undone = await ines.post<EventDetail>(`/api/events/${made.body.id}/undo`, {
      version: read.body.version,
      tell: 'nobody',
    });
    expect(undone.body.startsAt).toBe('2027-05-03T13:15');
    // A month on, sessions are over; back again, they are what they were.
    at(31 * 24 * HOUR);
    expect((await ines.get('/api/categories')).status).toBe(401);
    at(0);
    expect((await ines.get('/api/categories')).status).toBe(200);
    await eventually(async () => (await letters('Steps')).length === 0, 30);
    const facts = await server.sql<{ kind: string }>(
      'select kind from fact where event_id = $1 order by id',
      [made.body.id],
    );
    expect(facts.map((one) => one.kind)).toEqual([
      'invited',
      ...steps.map(() => 'moved'),
      'replied',
      'changed',
    ]);
  }, 120_000);
});
