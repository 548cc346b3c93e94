import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import type { CalendarResponse } from '../../src/contract/calendar.ts';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import type { PlaceDay } from '../../src/contract/places.ts';
import type { BusyResponse } from '../../src/contract/availability.ts';
import { SHARING_LEVELS, type SharingLevel } from '../../src/core/availability/busy.ts';
import type { Answer, Client } from '../support/client.ts';
import { bergenTimes, meetingRequest } from '../support/requests.ts';
import { useServer } from '../support/server.ts';
import { newPlace } from '../support/requests.ts';
import { ROUTES as TABLE } from '../../src/contract/routes.ts';
import type { Right, Route } from '../../src/contract/route.ts';

const ROUTES = Object.entries(TABLE as Record<string, Route>).map(
  ([route, { may }]): [string, Right] => [route, may],
);

const server = useServer();

const PDF = Buffer.from('%PDF-1.4\n1 0 obj\n<<>>\nendobj\ntrailer\n<<>>\n%%EOF\n').toString(
  'latin1',
);

/** A request to a route of an event that goes as far as being let in, and changes nothing of it. */
function probe(client: Client, route: string, id: string): Promise<Answer<unknown>> {
  const [method = '', path = ''] = route.split(' ');
  const address =
    path.replace(':id', id).replace(':attachment', randomUUID()).replace(':comment', '2000000000') +
    (path.endsWith('/days') ? '?zone=Europe/Oslo' : '');
  const part = { version: 99 };
  if (path.endsWith('/attachments') && method === 'POST') {
    return client.request('POST', `${address}?name=a.pdf`, PDF, {
      'Content-Type': 'application/octet-stream',
    });
  }
  if (method === 'GET' || method === 'DELETE') return client.request(method, address);
  const bodies = {
    '/mine': {},
    '/reply': { reply: 'accepted' },
    // Nobody has this number.
    '/nudge': { attendees: [2_000_000_000] },
    '/resend': { attendees: [2_000_000_000] },
    // Who is asked already.
    '/invite': { attendees: [{ personId: ids.guest, role: 'required' }] },
    '/proposals': { times: [] },
    '/comments': { words: 'Who brings the boat?' },
    '/:comment': { words: 'Who brings the boat?' },
    '/decline': { attendeeId: 2_000_000_000, start: 1, end: 2 },
    '/times': { version: 99, start: 1_900_000_000_000, end: 1_900_003_600_000 },
  };
  const body = Object.entries(bodies).find(([end]) => path.endsWith(end))?.[1] ?? part;
  return client.request(method, address, body);
}

/** An answer as far as it could tell two things apart; the nonce and the date are new every time. */
const told = ({ status, headers, body }: Answer<unknown>) => ({
  status,
  body: typeof body === 'object' && body && 'requestId' in body ? { ...body, requestId: '' } : body,
  headers: [...headers]
    .filter(([name]) => name !== 'date' && name !== 'x-request-id')
    .map(([name, value]) => [name, value.replace(/'nonce-[^']*'/, 'nonce')]),
});

const VISIBILITIES = ['default', 'public', 'private', 'hidden'] as const;
type Visibility = (typeof VISIBILITIES)[number];

/** What a colleague may see of an event, said once more and in the plainest way. */
function expected(level: SharingLevel, visibility: Visibility): SharingLevel {
  if (level === 'acts' || level === 'edit') return level;
  if (level === 'nothing') return 'nothing';
  if (visibility === 'private' || visibility === 'hidden') return 'busy';
  if (level === 'busy') return visibility === 'public' ? 'titles' : 'busy';
  return level;
}

let stewardMailbox: string;
let ids: { organizer: number; guest: number; room: number };
beforeAll(async () => {
  ids = {
    organizer: await server.id('Leila Haddad'),
    guest: await server.id('Mika Sandoval'),
    room: await server.id('Gannet'),
  };
  const [steward] = await server.sql<{ mailbox: string }>(
    `select split_part(email, '@', 1) as mailbox from person where role = 'steward' limit 1`,
  );
  stewardMailbox = steward!.mailbox;
  const colleagues = await server.sql<{ role: string }>(
    `select role from person where email in ('hal.teague@ternrock.example',
       'tomas.okafor@ternrock.example', 'mika.sandoval@ternrock.example')`,
  );
  // Of stewards and administrators more is true; they are looked at by themselves.
  expect(colleagues.map((one) => one.role)).toEqual(['staff', 'staff', 'staff']);
});

const share = (level: SharingLevel, person = ids.organizer) =>
  server.sql('update person set share_organization = $2 where subject_id = $1', [person, level]);

let day = 0;
/** A meeting of Leila's with Mika and a room, on a day of its own, after all that the demonstration lays out. */
async function meeting(visibility: Visibility) {
  const leila = await server.as('leila.haddad');
  const date = new Date(Date.UTC(2031, 0, 6 + day++)).toISOString().slice(0, 10);
  const title = `Secret ${date}`;
  const made = await leila.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title,
      place: `Hidden ${date}`,
      visibility,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      attendees: [{ personId: ids.guest, role: 'required' }],
      resources: [ids.room],
      send: false,
    }),
  );
  expect(made.status).toBe(201);
  return { id: made.body.id, title, date, start: made.body.start };
}

describe('every route', () => {
  it('is in the table, and the table names no other', () => {
    const there = server.running.routes.map(({ method, path }) => `${method} ${path}`).sort();
    expect(there).toEqual(Object.keys(TABLE).sort());
  });

  it('but the open ones asks who it is before anything else', async () => {
    const stranger = server.anonymous();
    for (const [route, right] of ROUTES) {
      if (right === 'anybody') continue;
      const [method = '', path = ''] = route.split(' ');
      const address = path.replace(':id', '1').replace(':attachment', '1');
      const { status } = await stranger.request(
        method,
        address.replace(/events\/1|invitations\/1|mailroom\/1|replies\/1|incoming\/1/, (found) =>
          found.replace('1', randomUUID()),
        ),
        method === 'GET' ? undefined : {},
      );
      expect([route, status]).toEqual([route, 401]);
    }
  });

  it('of something of one’s own by its number treats another’s as if it were not there', async () => {
    const ines = await server.as('hal.teague');
    const tomas = await server.as('tomas.okafor');
    const layers = await tomas.post<{ layers: { id: number }[] }>('/api/calendar/layers', {
      subjectId: ids.organizer,
    });
    const categories = await tomas.post<{ categories: { id: number }[] }>('/api/categories', {
      name: 'Of Tomas',
      colour: 'lake',
      pattern: 'plain',
    });
    const lineUps = await tomas.request<{ lineUps: { id: number }[] }>('PUT', '/api/line-ups', {
      name: 'Of Tomas',
      members: [{ id: ids.guest, role: 'required' }],
    });
    const { id: event } = await meeting('default');
    const [mail] = await server.sql<{ id: string }>(
      `insert into incoming_mail (received_at, message_id, sender, subject, words, state, event_id)
       values (now(), '<of-leila>', '', '', '', 'aside', $1) returning id`,
      [event],
    );
    const [waiting] = await server.sql<{ id: number }>(
      `insert into waiting (resource_id, person_id, starts_at, ends_at, title, wants, asked_at)
       values ($1, $2, now() + interval '9 days', now() + interval '10 days', '', 'told', now())
       returning id`,
      [ids.room, await server.id('Tomas Okafor')],
    );
    const view = await tomas.post<{ id: number }>('/api/ledger/views', { name: 'Mine', query: '' });
    const { body: signedIn } = await tomas.get<{ sessions: { id: number }[] }>(
      '/api/account/sessions',
    );
    const [passkey] = await server.sql<{ id: number }>(
      `insert into passkey (credential_id, person_id, public_key, counter, transports, name, created_at)
       values ('his', $1, '', 0, '{}', 'His', now()) returning id`,
      [await server.id('Tomas Okafor')],
    );
    const numbers: Record<string, number | string | undefined> = {
      sessions: signedIn.sessions[0]?.id,
      views: view.body.id,
      waiting: waiting!.id,
      passkeys: passkey!.id,
      incoming: mail!.id,
      layers: layers.body.layers.at(-1)?.id,
      categories: categories.body.categories.at(-1)?.id,
      'line-ups': lineUps.body.lineUps.at(-1)?.id,
    };
    for (const [route, right] of ROUTES) {
      if (!right.endsWith('own-by-id') || route.includes('mailroom')) continue;
      const [method = '', path = ''] = route.split(' ');
      const number = numbers[path.split('/:id')[0]!.split('/').at(-1)!];
      expect(number).toBeDefined();
      const body =
        method === 'DELETE'
          ? undefined
          : path.includes('layers')
            ? { shown: false }
            : path.includes('incoming')
              ? {}
              : path.includes('passkeys')
                ? { name: 'Taken' }
                : { name: 'Taken', colour: 'lake', pattern: 'plain' };
      const other = await ines.request(method, path.replace(':id', String(number)), body);
      const unknown = typeof number === 'string' ? randomUUID() : '999999';
      const none = await ines.request(method, path.replace(':id', unknown), body);
      expect([route, other.status]).toEqual([route, 404]);
      expect(told(other)).toEqual(told(none));
    }
  });
});

describe('places', () => {
  it('let nobody into another’s booking but who looks after them, as if it were not there', async () => {
    const { id } = await meeting('default');
    for (const [route, right] of ROUTES) {
      if (right !== 'use booking') continue;
      const path = route.split(' ')[1]!;
      const ask = async (mailbox: string, eventId: string) =>
        (await server.as(mailbox)).post<{ code: string }>(path, { eventId, placeId: ids.room });
      const stranger = await ask('hal.teague', id);
      expect([route, stranger.status, stranger.body.code]).toEqual([route, 404, 'no-such-booking']);
      expect(told(stranger)).toEqual(told(await ask('hal.teague', randomUUID())));
      for (const mailbox of ['leila.haddad', 'mika.sandoval', stewardMailbox])
        expect([route, (await ask(mailbox, id)).status]).toEqual([route, 409]);
    }
  });

  it('are looked after by stewards alone', async () => {
    for (const [route, right] of ROUTES) {
      if (right !== 'look-after places') continue;
      const [method = '', shape = ''] = route.split(' ');
      const path =
        shape.replace(':id', String(ids.room)).replace(':closure', '2000000000') +
        (shape.endsWith('/preview') ? '?start=1900000000000&end=1900000900000' : '');
      const body = STEWARDS_ASK[route];
      const staff = await server.as('hal.teague');
      const refused = await staff.request<{ code: string }>(method, path, body);
      expect([route, refused.status, refused.body.code]).toEqual([route, 403, 'not-allowed']);
      const steward = await server.as(stewardMailbox);
      const { status } = await steward.request(method, path, body);
      expect([route, status]).not.toEqual([route, 403]);
    }
  });

  it('are administered by administrators alone, whatever is asked for', async () => {
    const administered = ROUTES.filter(([, right]) => right === 'administer organization');
    expect(administered.length).toBeGreaterThan(10);
    for (const [route] of administered) {
      const [method = '', shape = ''] = route.split(' ');
      const path = shape.replace(':id', '2000000000');
      // Nothing is read of it before it is known who asks.
      const body = method === 'GET' ? undefined : {};
      for (const mailbox of ['hal.teague', stewardMailbox]) {
        const client = await server.as(mailbox);
        const refused = await client.request<{ code: string }>(method, path, body);
        expect([route, refused.status, refused.body.code]).toEqual([route, 403, 'not-allowed']);
      }
      const stranger = await server.anonymous().request(method, path, body);
      expect([route, stranger.status]).toEqual([route, 401]);
      const administrator = await server.as('aksel.nordvik');
      const { status } = await administrator.request(method, path, body);
      expect([route, status]).not.toEqual([route, 403]);
    }
  });
});

describe('nobody gets in', () => {
  it('signed out, invited and not come, ended, taken back: at no route that is not for anybody', async () => {
    const closed = ROUTES.filter(([, right]) => right !== 'anybody');
    expect(closed.length).toBeGreaterThan(100);
    for (const account of ['invited', 'ended', 'removed', 'none']) {
      // A session that was left over, as if its end had been missed.
      const client = await server.asAgain('oskar.lindqvist');
      await server.sql(`update person set account = $1 where email like 'oskar.lindqvist@%'`, [
        account,
      ]);
      for (const [route] of account === 'ended' ? closed : closed.slice(0, 5)) {
        const [method = '', shape = ''] = route.split(' ');
        const path = shape.replace(/:\w+/g, '2000000000');
        const body = method === 'GET' || method === 'DELETE' ? undefined : {};
        for (const asker of [client, server.anonymous()]) {
          const { status } = await asker.request(method, path, body);
          expect([account, route, status]).toEqual([account, route, 401]);
        }
      }
    }
    await server.sql(`update person set account = 'active' where email like 'oskar.lindqvist@%'`);
  });
});

/** What stewards' routes are asked, well formed. */
const STEWARDS_ASK: Record<string, unknown> = {
  // Such a site is none, which is looked at last.
  'POST /api/catalogue/places': { ...newPlace(), siteId: 2_000_000_000 },
  'PATCH /api/catalogue/places/:id': { version: 2_000_000_000 },
  'POST /api/catalogue/places/:id/preview': {},
  'POST /api/catalogue/places/:id/retire': { version: 2_000_000_000 },
  'POST /api/catalogue/import': { rows: [{ name: 'Auk' }] },
  'POST /api/places/:id/closures': {
    start: 1_900_000_000_000,
    end: 1_900_000_900_000,
    reason: 'A leak',
  },
  'POST /api/places/:id/closures/:closure/undo': { changes: [] },
  'PUT /api/places/:id/owner': { personId: null },
  'POST /api/bookings/requests/decide': {
    eventId: randomUUID(),
    placeId: 1,
    version: 1,
    agreed: true,
  },
};

/** How a probe of whoever may change the event ends, where it is not for its old version. */
const REFUSED: Record<string, string> = {
  'POST /api/events/:id/nudge': 'invalid-request',
  'POST /api/events/:id/resend': 'invalid-request',
  'POST /api/events/:id/invite': 'asked-already',
  'POST /api/events/:id/proposals/decline': 'not-asked-for',
  'GET /api/replies/:id/times': 'let in',
  'GET /api/replies/:id/aside': 'let in',
  'GET /api/events/:id/letters': 'let in',
  'GET /api/replies/:id/history': 'let in',
  'GET /api/events/:id/comments': 'let in',
  'POST /api/events/:id/comments': 'let in',
  'PATCH /api/events/:id/comments/:comment': 'no-such-comment',
  'DELETE /api/events/:id/comments/:comment': 'no-such-comment',
  'POST /api/events/:id/comments/:comment/restore': 'no-such-comment',
};

describe.each(VISIBILITIES)('a %s event', (visibility) => {
  it.each(SHARING_LEVELS)('of somebody who shares %s lets a colleague in as far', async (level) => {
    await share(level);
    const { id } = await meeting(visibility);
    const colleague = await server.as('hal.teague');
    const seen = expected(level, visibility);
    const reads = ['everything', 'edit', 'acts'].includes(seen);
    const changes = ['edit', 'acts'].includes(seen);
    for (const [route, right] of ROUTES) {
      if (!right.endsWith(' event')) continue;
      const answer = await probe(colleague, route, id);
      const code = (answer.body as { code?: string }).code;
      if (!reads) {
        expect([route, code]).toEqual([route, 'no-such-event']);
        // Not for you and not there are the same in every byte.
        expect(told(answer)).toEqual(told(await probe(colleague, route, randomUUID())));
      } else if (right === 'answer event' || (right === 'discuss event' && !changes)) {
        expect([route, code]).toEqual([route, 'not-invited']);
      } else if (right === 'change event' && !changes) {
        expect([route, answer.status, code]).toEqual([route, 403, 'not-organizer']);
      } else {
        expect([route, code ?? 'let in']).toEqual([
          route,
          right === 'read event'
            ? route.includes(':attachment')
              ? 'no-such-attachment'
              : 'let in'
            : (REFUSED[route] ??
              (route.startsWith('DELETE')
                ? 'no-such-attachment'
                : route.endsWith('/attachments')
                  ? 'let in'
                  : 'stale')),
        ]);
      }
    }
  });

  it.each(SHARING_LEVELS)(
    'of somebody who shares %s shows the same on every other road',
    async (level) => {
      await share(level);
      const { id, title, date, start } = await meeting(visibility);
      const colleague = await server.as('hal.teague');
      const seen = expected(level, visibility);
      const titles = ['titles', 'everything', 'edit', 'acts'].includes(seen);
      const reads = ['everything', 'edit', 'acts'].includes(seen);
      const window = { from: start - 3_600_000, to: start + 7_200_000 };
      const query = `from=${window.from}&to=${window.to}`;

      const own = await colleague.get<CalendarResponse>(
        `/api/calendar?${query}&subjects=${ids.organizer}`,
      );
      const items = own.body.subjects[0]!.items;
      expect(items.map((item) => [item.title, item.eventId])).toEqual(
        level === 'nothing' ? [] : [[titles ? title : null, reads ? id : null]],
      );
      // Through the guest's calendar, and through the room's, it shows no more.
      await share('everything', ids.guest);
      const others = await colleague.get<CalendarResponse>(
        `/api/calendar?${query}&subjects=${ids.guest},${ids.room}`,
      );
      const [guests, rooms] = others.body.subjects.map((layer) =>
        layer.items.map((item) => [item.title, item.eventId]),
      );
      expect(rooms).toEqual([[titles ? title : null, reads ? id : null]]);
      // On a layer a private event needs that its person lets more be seen, too.
      const seesHolder =
        visibility === 'hidden' ? ['edit', 'acts'].includes(level) : level !== 'nothing';
      const closed = ['private', 'hidden'].includes(visibility) && level !== 'acts';
      expect(guests).toEqual([[titles && !closed ? title : null, reads && !closed ? id : null]]);
      const place = await colleague.get<PlaceDay>(`/api/places/${ids.room}/day?date=${date}`);
      expect(place.body.bookings).toMatchObject([
        {
          title: titles ? title : null,
          eventId: reads ? id : null,
          holder: seesHolder ? 'Leila Haddad' : null,
          mine: false,
        },
      ]);
      const refused = await colleague.post<{ taken: unknown[] }>(
        '/api/events',
        meetingRequest({
          times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
          resources: [ids.room],
        }),
      );
      expect(refused).toMatchObject({
        status: 409,
        body: {
          taken: [{ title: titles ? title : null, holder: seesHolder ? 'Leila Haddad' : null }],
        },
      });
      const busy = await colleague.post<BusyResponse>('/api/availability/busy', {
        subjects: [ids.organizer],
        ...window,
      });
      expect(busy.body.subjects[0]!.busy).toHaveLength(level === 'nothing' ? 0 : 1);
      const steward = await server.as(stewardMailbox);
      const kept = await steward.get<PlaceDay>(`/api/places/${ids.room}/day?date=${date}`);
      expect(kept.body.bookings).toMatchObject([{ holder: 'Leila Haddad' }]);
      const search = await colleague.get(`/api/calendar/search?q=${date}`);
      const everything = JSON.stringify([
        own.body,
        others.body,
        place.body,
        refused.body,
        busy.body,
        search.body,
      ]);
      if (!titles) expect(everything).not.toMatch(/Secret|Hidden/);
      if (!reads) expect(everything).not.toContain(id);
    },
  );

  it.each(SHARING_LEVELS)('of somebody who shares %s is read by its guests', async (level) => {
    await share(level);
    await share('busy', ids.guest);
    const { id } = await meeting(visibility);
    const guest = await server.as('mika.sandoval');
    expect((await guest.get(`/api/events/${id}`)).status).toBe(200);
    const changes = ['edit', 'acts'].includes(level);
    expect((await guest.patch(`/api/events/${id}`, { version: 99 })).status).toBe(
      changes ? 409 : 403,
    );
    // Whoever acts for a guest reads what the guest reads, and answers for them.
    const colleague = await server.as('hal.teague');
    const answer = { reply: 'accepted', for: ids.guest };
    const before = await colleague.post(`/api/invitations/${id}/reply`, answer);
    // Whom they act for is looked at first, and says nothing about the event.
    expect(before.status).toBe(403);
    await share('acts', ids.guest);
    expect((await colleague.get(`/api/events/${id}`)).status).toBe(200);
    const after = await colleague.post<EventDetail>(`/api/invitations/${id}/reply`, answer);
    expect(after.status).toBe(200);
    expect(after.body.attendees.find((one) => one.personId === ids.guest)?.reply).toBe('accepted');
    await share('busy', ids.guest);
  });
});
