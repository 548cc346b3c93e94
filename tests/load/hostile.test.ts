import fc from 'fast-check';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { z } from 'zod';
import {
  guestDaysQuery,
  guestProposeRequest,
  guestReplyRequest,
} from '../../src/contract/guest.ts';
import * as asking from '../../src/contract/asking.ts';
import * as availability from '../../src/contract/availability.ts';
import * as bookings from '../../src/contract/bookings.ts';
import * as calendar from '../../src/contract/calendar.ts';
import * as catalogue from '../../src/contract/catalogue.ts';
import * as closures from '../../src/contract/closures.ts';
import * as comments from '../../src/contract/comments.ts';
import * as delegates from '../../src/contract/delegates.ts';
import * as notifications from '../../src/contract/notifications.ts';
import { idInPath } from '../../src/contract/common.ts';
import * as events from '../../src/contract/events.ts';
import * as invitations from '../../src/contract/invitations.ts';
import * as ledger from '../../src/contract/ledger.ts';
import * as lineUps from '../../src/contract/lineUps.ts';
import { liveQuery } from '../../src/contract/live.ts';
import * as mailroom from '../../src/contract/mailroom.ts';
import { peopleQuery } from '../../src/contract/people.ts';
import * as places from '../../src/contract/places.ts';
import * as preferences from '../../src/contract/preferences.ts';
import * as waiting from '../../src/contract/waiting.ts';
import * as reminders from '../../src/contract/reminders.ts';
import { searchQuery } from '../../src/contract/search.ts';
import { signInRequest } from '../../src/contract/session.ts';
import { setupRequest } from '../../src/contract/setup.ts';
import { ROUTES } from '../access/routes.ts';
import { anything, requestsOf, type Known } from '../support/arbitraries.ts';
import { Client } from '../support/client.ts';
import { startProcess } from '../support/process.ts';
import { isLong, noteLoad, percentile } from '../support/load.ts';
import { freePort } from '../support/port.ts';

/*
 * Whoever is signed in sends what they like: requests of the shape the contract asks for with boundary
 * values and nonsense in every place, to every route there is, several at a time.
 */
const REQUESTS = isLong ? 20_000 : 2_500;
const AT_ONCE = 8;
const SLOW_MS = 2_000;
/** Times say nothing beside all other tests, where a database may also not answer in time. */
const isBad = (status: number, took: number) =>
  status === 0 || (status >= 500 && (isLong || status !== 503)) || (isLong && took > SLOW_MS);
/** What the process holds at the end against what it held once it had answered a part of them. */
const MOST_GROWTH = isLong ? 1.1 : 1.5;
const WARMING = 0.4;
/** So long the thread that answers everybody stands still, and others wait: held where nothing else runs. */
const MOST_STALL_MS = isLong ? 200 : Infinity;
const MOST_P95_MS = isLong ? 250 : Infinity;
/** What somebody else reads meanwhile, and how often. */
const BESIDE = [
  '/api/places',
  '/api/invitations',
  '/api/calendar/fullness?first=2026-11-01&days=60',
];
const EVERY_MS = 50;

interface Asked {
  path?: z.ZodType;
  query?: z.ZodType;
  body?: z.ZodType;
}

/** What each route reads; those not here read nothing. */
const READS: Record<string, Asked> = {
  'POST /api/session': { body: signInRequest },
  'POST /api/setup': { body: setupRequest },
  'GET /api/live': { query: liveQuery },
  'GET /api/search': { query: searchQuery },
  'GET /api/people': { query: peopleQuery },
  'GET /api/places': { query: places.placesQuery },
  'GET /api/places/board': { query: places.boardQuery },
  'GET /api/places/find': { query: places.findQuery },
  'PUT /api/places/:id/owner': { body: places.ownerRequest },
  'PUT /api/bookings/notes/:id': { body: bookings.bookingNote },
  'GET /api/places/:id/day': { query: places.placeDayQuery },
  'POST /api/bookings/check-in': { body: bookings.presenceRequest },
  'POST /api/bookings/check-out': { body: bookings.presenceRequest },
  'POST /api/bookings/requests/decide': { body: bookings.decideRequest },
  'POST /api/catalogue/places': { body: catalogue.newPlaceRequest },
  'PATCH /api/catalogue/places/:id': { body: catalogue.changePlaceRequest },
  'POST /api/catalogue/places/:id/preview': { body: catalogue.placePreviewRequest },
  'POST /api/catalogue/places/:id/retire': { body: catalogue.retireRequest },
  'POST /api/catalogue/import': { body: catalogue.importRequest },
  'GET /api/places/:id/closures/preview': { query: closures.closurePreviewQuery },
  'POST /api/places/:id/closures': { body: closures.closureRequest },
  'POST /api/places/:id/closures/:closure/undo': { body: events.undoTogetherRequest },
  'POST /api/waiting': { body: waiting.waitRequest },
  'GET /api/ledger': { query: ledger.ledgerQuery },
  'GET /api/ledger/bookings.csv': { query: ledger.ledgerExportQuery },
  'GET /api/ledger/bookings.ics': { query: ledger.ledgerExportQuery },
  'POST /api/ledger/change': { body: ledger.ledgerChange },
  'POST /api/ledger/undo': { body: events.undoTogetherRequest },
  'POST /api/ledger/views': { body: ledger.ledgerViewRequest },
  'POST /api/availability/busy': { body: availability.busyRequest },
  'POST /api/availability/rooms': { body: availability.roomsRequest },
  'POST /api/availability/movable': { body: availability.movableRequest },
  'POST /api/availability/history': { body: availability.historyRequest },
  'POST /api/availability/refresh': { body: availability.refreshRequest },
  'POST /api/availability/openings': { body: availability.openingsRequest },
  'POST /api/events': { body: events.createEventRequest },
  'GET /api/events/:id': { query: events.eventQuery },
  'PATCH /api/events/:id': { body: events.changeEventRequest },
  'PUT /api/events/:id/mine': { body: events.myPartRequest },
  'POST /api/events/:id/cancel': { body: events.cancelEventRequest },
  'POST /api/events/:id/restore': { body: events.restoreEventRequest },
  'POST /api/events/:id/send': { body: events.sendEventRequest },
  'POST /api/events/:id/undo': { body: events.undoEventRequest },
  'POST /api/events/:id/comments': { body: comments.commentRequest },
  'PATCH /api/events/:id/comments/:comment': { body: comments.changeCommentRequest },
  'PUT /api/delegates/:id': { body: delegates.delegateRequest },
  'POST /api/notifications/read': { body: notifications.readNotificationsRequest },
  'POST /api/events/:id/nudge': { body: asking.nudgeRequest },
  'POST /api/events/:id/resend': { body: asking.resendRequest },
  'POST /api/events/:id/invite': { body: asking.inviteRequest },
  'POST /api/events/:id/proposals/decline': { body: asking.declineProposalRequest },
  'GET /api/calendar': { query: calendar.calendarQuery },
  'GET /api/calendar/fullness': { query: calendar.fullnessQuery },
  'GET /api/calendar/search': { query: calendar.searchCalendarQuery },
  'POST /api/calendar/layers': { body: calendar.newLayerRequest },
  'PATCH /api/calendar/layers/:id': { body: calendar.changeLayerRequest },
  'PATCH /api/preferences': { body: preferences.changePreferencesRequest },
  'POST /api/categories': { body: preferences.categoryRequest },
  'PATCH /api/categories/:id': { body: preferences.categoryRequest },
  'POST /api/reminders/snooze': { body: reminders.snoozeRequest },
  'POST /api/reminders/dismiss': { body: reminders.dismissRequest },
  'PUT /api/line-ups': { body: lineUps.lineUpRequest },
  'POST /api/line-ups/addresses': { body: lineUps.addressesRequest },
  'GET /api/invitations/:id': { query: events.eventQuery },
  'POST /api/invitations/:id/reply': { body: invitations.replyRequest },
  'POST /api/guest/:token/reply': { body: guestReplyRequest },
  'GET /api/guest/:token/days': { query: guestDaysQuery },
  'PUT /api/guest/:token/proposals': { body: guestProposeRequest },
  'GET /api/invitations/:id/days': { query: invitations.daysQuery },
  'PUT /api/invitations/:id/proposals': { body: asking.proposeRequest },
  'GET /api/replies/:id/times': { query: events.eventQuery },
  'POST /api/replies/:id/times': { body: asking.takeTimeRequest },
  'GET /api/replies': { query: invitations.repliesQuery },
  'GET /api/mailroom': { query: mailroom.mailroomQuery },
  'POST /api/mailroom/:id/answer': { body: invitations.replyRequest },
};

/** Text as an address can carry it; halves of characters cannot stand in one. */
const encoded = (value: unknown) =>
  encodeURIComponent(
    (typeof value === 'string' ? value : (JSON.stringify(value) ?? '')).replaceAll(
      /\p{Surrogate}/gu,
      '\ufffd',
    ),
  ).slice(0, 4000);

function queryText(query: unknown): string {
  if (typeof query !== 'object' || query === null) return '';
  const parts = Object.entries(query)
    .filter(([, value]) => value !== undefined)
    .map(([name, value]) => `${encoded(name)}=${encoded(value)}`);
  return parts.length ? `?${parts.join('&')}` : '';
}

interface HostileRequest {
  route: string;
  method: string;
  path: string;
  body: unknown;
}

function requests(known: Known): fc.Arbitrary<HostileRequest> {
  const nothing = fc.constant(undefined);
  const each = Object.keys(ROUTES).map((route) => {
    const [method, pattern] = route.split(' ') as [string, string];
    const { query, body } = READS[route] ?? {};
    const byNumber = /layers|categories|line-ups|places/.test(pattern);
    const number = requestsOf(idInPath, known);
    const uuid = fc.oneof(
      { weight: 5, arbitrary: fc.constantFrom(...known.events) },
      fc.uuid(),
      anything,
    );
    return fc
      .record({
        id: byNumber ? number : uuid,
        attachment: uuid,
        query: query ? requestsOf(query, known) : nothing,
        body: body ? requestsOf(body, known) : method === 'GET' ? nothing : anything,
      })
      .map(({ id, attachment, query: asked, body: sent }) => ({
        route,
        method,
        path:
          pattern.replace(':id', encoded(id)).replace(':attachment', encoded(attachment)) +
          queryText(asked),
        body: method === 'GET' ? undefined : sent,
      }));
  });
  return fc.oneof(...each);
}

let process: Awaited<ReturnType<typeof startProcess>>;
let sql: pg.Client;
let metricsPort: number;
beforeAll(async () => {
  metricsPort = await freePort();
  process = await startProcess({ MARMOT_METRICS: String(metricsPort) });
  sql = new pg.Client({ connectionString: process.database.url });
  await sql.connect();
});
afterAll(async () => {
  await sql.end();
  await process.end();
});

it(`${REQUESTS} requests over every route: none breaks anything, none takes long`, async () => {
  const { server } = process;
  const column = async <Value>(text: string) =>
    (await sql.query<{ value: Value }>(text)).rows.map((row) => row.value);
  const known: Known = {
    subjects: await column<number>('select id as value from subject order by id limit 100'),
    events: await column<string>(
      `(select id as value from event where rule is not null order by id limit 20)
       union all (select id from event where rule is null order by id limit 20)`,
    ),
  };
  const clients = await Promise.all(
    ['ines.aldabe', 'tomas.okafor', 'mika.sandoval', 'hal.teague'].map((one) =>
      Client.signIn(server.base, one),
    ),
  );
  const list = fc.sample(requests(known), REQUESTS);
  const { pid } = server.child;
  let warm = 0;
  const bad: string[] = [];
  const reached = new Map<string, Set<number>>();
  const times: number[] = [];
  let next = 0;
  const work = async (client: Client) => {
    for (let k = next++; k < list.length; k = next++) {
      const { route, method, path, body } = list[k]!;
      const began = performance.now();
      const status = await send(client, method, path, body);
      const took = performance.now() - began;
      times.push(took);
      if (times.length === Math.floor(list.length * WARMING)) warm = server.memory();
      reached.set(route, (reached.get(route) ?? new Set()).add(status));
      if (isBad(status, took)) {
        const shown = JSON.stringify(body)?.slice(0, 600) ?? '';
        bad.push(`${status} in ${Math.round(took)} ms: ${method} ${path.slice(0, 300)} ${shown}`);
      }
    }
  };
  const neighbour = await Client.signIn(server.base, 'leila.haddad');
  await stall();
  let isOver = false;
  const others: number[] = [];
  const reading = (async () => {
    for (let k = 0; !isOver; k++) {
      const began = performance.now();
      const { status } = await neighbour.get(BESIDE[k % BESIDE.length]!);
      others.push(performance.now() - began);
      // Beside other tests the database may not answer in time.
      if (isLong) expect(status).toBe(200);
      await new Promise((resolve) => setTimeout(resolve, EVERY_MS));
    }
  })();
  await Promise.all(Array.from({ length: AT_ONCE }, (_, k) => work(clients[k % clients.length]!)));
  isOver = true;
  await reading;
  const [stood, beside] = [await stall(), percentile(others, 95)];
  noteLoad(
    'others meanwhile',
    `longest stall ${Math.round(stood)} ms, p95 ${Math.round(beside)} ms of ${others.length} reads`,
    'under 200 and 250 ms',
  );
  const grown = server.memory() / warm;
  noteLoad(
    `${REQUESTS} hostile requests`,
    `slowest ${Math.round(percentile(times, 100))} ms, half within ${Math.round(percentile(times, 50))} ms, memory ${warm.toFixed(0)} MB, then ${(grown * 100 - 100).toFixed(0)} % more`,
    `none over ${SLOW_MS} ms, at most ${(MOST_GROWTH * 100 - 100).toFixed(0)} % more`,
  );
  expect(bad.slice(0, 10)).toEqual([]);
  expect(server.runs && server.child.pid === pid).toBe(true);
  expect(await server.healthy()).toBe(true);
  expect(stood).toBeLessThan(MOST_STALL_MS);
  expect(beside).toBeLessThan(MOST_P95_MS);
  expect(grown).toBeLessThan(MOST_GROWTH);
  // Every route was reached, and many of them with requests that they took.
  expect(Object.keys(ROUTES).filter((route) => !reached.has(route))).toEqual([]);
  const taken = [...reached].filter(([, statuses]) => [...statuses].some((one) => one < 300));
  expect(taken.length).toBeGreaterThan(20);
}, 600_000);

/** How long the server's thread stood still at most since this was asked before. Milliseconds. */
async function stall(): Promise<number> {
  const text = await (await fetch(`http://127.0.0.1:${metricsPort}/metrics`)).text();
  return Number(/^nodejs_eventloop_lag_max_seconds (\S+)$/m.exec(text)![1]) * 1000;
}

/** @returns the status; 0 where there was no answer */
async function send(client: Client, method: string, path: string, body: unknown): Promise<number> {
  // Whoever signs out is let in no more, and gets no further than the door.
  const cookie = path.startsWith('/api/session') ? '' : client.cookie;
  const controller = new AbortController();
  const timer = setTimeout(() => controller.abort(), 20_000);
  try {
    const answer = await fetch(client.base + path, {
      method,
      headers: { Cookie: cookie, 'Content-Type': 'application/json' },
      ...(body !== undefined && method !== 'GET' && { body: JSON.stringify(body) }),
      signal: controller.signal,
    });
    // A stream never ends by itself.
    if (answer.headers.get('content-type')?.includes('event-stream')) await answer.body?.cancel();
    else await answer.arrayBuffer();
    return answer.status;
  } catch {
    return 0;
  } finally {
    clearTimeout(timer);
  }
}
