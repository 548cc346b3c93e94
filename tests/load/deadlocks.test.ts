import { expect, it } from 'vitest';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import type { LedgerChanged } from '../../src/contract/ledger.ts';
import { retries } from '../../src/server/db/transaction.ts';
import { bergenTimes, meetingRequest } from '../support/requests.ts';
import { isLong } from '../support/effort.ts';
import { useServer } from '../support/server.ts';

const server = useServer({ works: false });

const ROUNDS = isLong ? 60 : 12;
const PLACES = ['Gannet', 'Kittiwake', 'Skua', 'Wet lab A'];

/** The same every run. */
function numbers(seed: number) {
  let state = seed;
  return (below: number) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * below);
  };
}

const named = ({ id, start }: { id: string; start: number }) => ({ id, start });
const day = (k: number) => new Date(Date.UTC(2029, 0, 1 + k)).toISOString().slice(0, 10);
const hours = (k: number, hour: number) =>
  bergenTimes(
    `${day(k)}T${String(hour).padStart(2, '0')}:00`,
    `${day(k)}T${String(hour).padStart(2, '0')}:45`,
  );

/**
 * All that changes several meetings, or several places, in one action, by many at once and in every order:
 * making room and taking it back, changes of many bookings and their undo, bookings of several places, answers,
 * people who come and go, places that go out of use.
 */
it('of those who change the same meetings and places at once, none waits for another in a circle', async () => {
  const random = numbers(7);
  const places: number[] = [];
  for (const name of PLACES) places.push(await server.id(name));
  const ines = await server.as('ines.aldabe');
  const henrik = await server.as('henrik.saether');
  const tomas = await server.as('tomas.okafor');
  const tomasId = await server.id('Tomas Okafor');
  const shuffled = <One>(some: readonly One[]): One[] =>
    some
      .map((one) => [random(1_000_000), one] as const)
      .sort((a, b) => a[0] - b[0])
      .map(([, one]) => one);
  const before = { ...retries };
  const statuses = new Map<number, number>();
  const note = async <Answer extends { status: number }>(answer: Promise<Answer>) => {
    const got = await answer;
    statuses.set(got.status, (statuses.get(got.status) ?? 0) + 1);
    return got;
  };
  for (let round = 0; round < ROUNDS; round++) {
    const made = await Promise.all(
      [8, 10, 12, 14].map((hour, k) =>
        ines.post<EventDetail>(
          '/api/events',
          meetingRequest({
            title: `Circle ${round} ${k}`,
            times: hours(round * 2, hour),
            // What others take part in is not shifted by the ledger.
            attendees: k % 2 === 0 ? [{ personId: tomasId, role: 'required' }] : [],
            resources: [places[k]!, places[(k + 1) % places.length]!],
          }),
        ),
      ),
    );
    for (const { status } of made) expect(status).toBe(201);
    const events = made.map((one) => one.body);
    const alone = new Set(events.filter((_, k) => k % 2 === 1).map((one) => one.id));
    const bookings = await server.sql<{ eventId: string; id: string; start: number }>(
      `select occurrence.event_id as "eventId", reservation.id::text, reservation.starts_at as start
       from reservation join occurrence on occurrence.id = occurrence_id where occurrence.event_id = any($1)`,
      [events.map((one) => one.id)],
    );
    const versions = new Map(events.map((one) => [one.id, one.version]));
    const makeRoom = async (hour: number) => {
      const moving = shuffled(events).slice(0, 2 + random(3));
      const answer = await note(
        ines.post<EventDetail & { moved: { id: string; version: number }[] }>(
          '/api/events',
          meetingRequest({
            title: `Room ${round}`,
            times: hours(round * 2 + 1, hour),
            resources: shuffled(places).slice(0, 3),
            moving: moving.map((one, k) => ({
              eventId: one.id,
              version: versions.get(one.id)!,
              times: hours(round * 2 + 1, 18 + k),
            })),
          }),
        ),
      );
      if (answer.status !== 201) return;
      const { id, version, moved } = answer.body;
      await note(
        ines.post(`/api/events/${id}/cancel`, {
          version,
          takeBack: shuffled(moved),
          tell: 'nobody',
        }),
      );
    };
    const shift = async (minutes: number) => {
      const answer = await note(
        ines.post<LedgerChanged>('/api/ledger/change', {
          bookings: shuffled(bookings.filter((one) => alone.has(one.eventId))).map(named),
          change: { kind: 'shift', minutes },
        }),
      );
      if (answer.status !== 200) return;
      await note(ines.post('/api/ledger/undo', { changes: shuffled(answer.body.undo) }));
    };
    await Promise.all([
      makeRoom(6),
      makeRoom(7),
      shift(30),
      shift(-30),
      note(
        henrik.post('/api/ledger/change', {
          bookings: shuffled(bookings).map(named),
          change: { kind: 'give-back' },
        }),
      ),
      ...[3, 4, 5].map((hour) =>
        note(
          henrik.post(
            '/api/events',
            meetingRequest({
              title: `Several ${round}`,
              times: hours(round * 2, hour),
              resources: shuffled(places),
            }),
          ),
        ),
      ),
      ...shuffled(events).map((one) =>
        note(tomas.post(`/api/invitations/${one.id}/reply`, { reply: 'accepted' })),
      ),
      ...shuffled(events).map((one) =>
        note(
          ines.patch(`/api/events/${one.id}`, {
            version: one.version,
            resources: shuffled(places).slice(0, 2),
          }),
        ),
      ),
    ]);
  }
  // Some of all got through, some were refused since another came first, and nothing broke.
  expect([...statuses.keys()].filter((status) => status >= 500)).toEqual([]);
  expect(statuses.get(200)).toBeGreaterThan(ROUNDS);
  expect(statuses.get(400)).toBeUndefined();
  expect(statuses.get(409)).toBeGreaterThan(0);
  expect(retries.deadlock - before.deadlock).toBe(0);
  const overlapping = await server.sql(
    `select 1 from claim one join claim other
       on one.subject_id = other.subject_id and one.unit = other.unit and one.id < other.id
      and one.during && other.during
     where one.exclusive and other.exclusive`,
  );
  expect(overlapping).toHaveLength(0);
}, 300_000);
