import { beforeAll, describe, expect, it } from 'vitest';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { ROUTES } from '../../src/contract/routes.ts';
import { bergenTimes, meetingRequest, newPlace } from '../support/requests.ts';
import { useServer } from '../support/server.ts';

/*
 * Every answer there is, looked through by everybody for what is written in a meeting: a route that is new
 * and has no address here fails, so that none is left out.
 */

const server = useServer({ works: false });

/** What is written where, each word to be found nowhere else. */
const MARKS = {
  title: 'Quendel',
  place: 'Schierling',
  description: 'Bilsenkraut',
  comment: 'Tollkirsche',
  note: 'Eisenhut',
  file: 'Stechapfel',
  /** Who is asked besides, from outside, by name and address. */
  guest: 'Herbstzeitlose',
  /** What stewards of its place are told. */
  stewards: 'Fingerhut',
};
type Mark = keyof typeof MARKS;

const DATE = '2027-10-05';
const FROM = Date.UTC(2027, 9, 4);
const TO = FROM + 3 * 86_400_000;

let room: number;
let leila: number;
let shared: EventDetail;
let hidden: EventDetail;
let draft: EventDetail;

/** A meeting of Leila's with every mark in it, with Mika and somebody outside, in a room. */
async function meeting(hour: number, more: object): Promise<EventDetail> {
  const client = await server.as('leila.haddad');
  const made = await client.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: MARKS.title,
      place: MARKS.place,
      description: `<p>${MARKS.description}</p>`,
      visibility: 'default',
      times: bergenTimes(`${DATE}T${hour}:00`, `${DATE}T${hour + 1}:00`),
      attendees: [
        { personId: await server.id('Mika Sandoval'), role: 'required' },
        { email: `${MARKS.guest}@else.example`, name: MARKS.guest, role: 'optional' },
      ],
      resources: [room],
      forStewards: { note: MARKS.stewards },
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

beforeAll(async () => {
  const steward = await server.as('ines.aldabe');
  const place = newPlace({ name: 'Mole', features: [] });
  room = (await steward.post<{ id: number }>('/api/catalogue/places', place)).body.id;
  leila = await server.id('Leila Haddad');
  await server.sql(`update person set share_organization = 'busy' where subject_id = $1`, [leila]);
  shared = await meeting(10, {});
  hidden = await meeting(12, {
    rights: { list: false },
  });
  draft = await meeting(14, { draft: { holds: true } });
  const mika = await server.as('mika.sandoval');
  for (const { id } of [shared, hidden]) {
    const said = await mika.post(`/api/events/${id}/comments`, { words: MARKS.comment });
    expect(said.status).toBe(201);
    const answered = await mika.post(`/api/invitations/${id}/reply`, {
      ...{ reply: 'accepted', note: MARKS.note },
    });
    expect(answered.status).toBe(200);
  }
  const organizer = await server.as('leila.haddad');
  const file = Buffer.from('%PDF-1.4\n1 0 obj\n<<>>\nendobj\ntrailer\n<<>>\n%%EOF\n').toString(
    'latin1',
  );
  const filed = await organizer.request(
    'POST',
    `/api/events/${shared.id}/attachments?name=${MARKS.file}.pdf`,
    file,
    { 'Content-Type': 'application/octet-stream' },
  );
  expect(filed.status).toBe(201);
});

type Addresses = Record<string, string | { path: string; body: object }>;

/** Every way of reading, as far as it could come across a meeting. */
function addresses({ id, start, end }: EventDetail): Addresses {
  const window = { from: FROM, to: TO };
  const days = `from=${DATE}&to=${DATE}`;
  return {
    'GET /api/session': '/api/session',
    'GET /api/search': `/api/search?q=${MARKS.title}`,
    'GET /api/search/names': '/api/search/names',
    'GET /api/people': '/api/people?limit=200',
    'GET /api/administration/organization': '/api/administration/organization',
    'GET /api/administration/sites': '/api/administration/sites',
    'GET /api/administration/people': '/api/administration/people?limit=200',
    'GET /api/administration/people/:id/holdings': `/api/administration/people/${leila}/holdings`,
    'GET /api/sign-in/providers': '/api/sign-in/providers',
    'GET /api/administration/providers': '/api/administration/providers',
    'GET /api/administration/directory': '/api/administration/directory',
    'GET /api/administration/keeping': '/api/administration/keeping',
    'GET /api/administration/running': '/api/administration/running',
    'GET /api/administration/letters': '/api/administration/letters',
    'GET /api/passkeys': '/api/passkeys',
    'GET /api/administration/log': '/api/administration/log',
    'GET /api/administration/log.csv': '/api/administration/log.csv',
    'GET /api/administration/people.csv': '/api/administration/people.csv',
    'POST /api/availability/busy': {
      ...{ path: '/api/availability/busy', body: { subjects: [leila, room], ...window } },
    },
    'POST /api/availability/rooms': {
      path: '/api/availability/rooms',
      body: { siteIds: [1], ...window },
    },
    'POST /api/availability/movable': {
      ...{ path: '/api/availability/movable', body: window },
    },
    'POST /api/availability/history': {
      ...{ path: '/api/availability/history', body: { people: [leila] } },
    },
    'POST /api/availability/refresh': {
      ...{ path: '/api/availability/refresh', body: { people: [leila] } },
    },
    'POST /api/availability/openings': {
      path: '/api/availability/openings',
      body: { lineUp: [{ id: leila, role: 'required' }], ...window, lengthMinutes: 30 },
    },
    'GET /api/events/:id': `/api/events/${id}`,
    'GET /api/events/:id/comments': `/api/events/${id}/comments`,
    'GET /api/calendar': `/api/calendar?from=${FROM}&to=${TO}&subjects=${leila},${room}`,
    'GET /api/calendar/fullness': `/api/calendar/fullness?first=${DATE}&days=7`,
    'GET /api/calendar/holidays': `/api/calendar/holidays?first=${DATE}&last=${DATE}`,
    'GET /api/calendar/search': `/api/calendar/search?q=${MARKS.title}`,
    'GET /api/calendar/cancelled': '/api/calendar/cancelled',
    'GET /api/calendar/layers': '/api/calendar/layers',
    'GET /api/categories': '/api/categories',
    'GET /api/line-ups': '/api/line-ups',
    'GET /api/invitations': '/api/invitations',
    'GET /api/invitations/:id': `/api/invitations/${id}`,
    'GET /api/invitations/:id/days': `/api/invitations/${id}/days?zone=UTC`,
    'GET /api/replies': '/api/replies?limit=200',
    'GET /api/replies/unanswered': '/api/replies/unanswered',
    'GET /api/replies/:id/history': `/api/replies/${id}/history`,
    'GET /api/replies/:id/times': `/api/replies/${id}/times`,
    'GET /api/replies/:id/aside': `/api/replies/${id}/aside`,
    'GET /api/events/:id/letters': `/api/events/${id}/letters`,
    'GET /api/incoming': '/api/incoming',
    'GET /api/reminders': '/api/reminders',
    'GET /api/notifications': '/api/notifications',
    'GET /api/delegates': '/api/delegates',
    'GET /api/places': '/api/places?limit=200',
    'GET /api/places/board': `/api/places/board?date=${DATE}&kind=room`,
    'GET /api/places/find': `/api/places/find?kind=room&date=${DATE}&from=600&to=900`,
    'GET /api/places/:id': `/api/places/${room}`,
    'GET /api/places/:id/day': `/api/places/${room}/day?date=${DATE}`,
    'GET /api/bookings/mine': '/api/bookings/mine',
    'GET /api/bookings/requests': '/api/bookings/requests',
    'GET /api/bookings/contact': '/api/bookings/contact',
    'GET /api/bookings/notes/:id': `/api/bookings/notes/${id}`,
    'GET /api/places/:id/closures/preview': `/api/places/${room}/closures/preview?start=${start}&end=${end}`,
    'GET /api/sites/:id/closure/preview': `/api/sites/1/closure/preview?start=${start}&end=${end}`,
    'GET /api/closures': '/api/closures',
    'GET /api/places/:id/closures/:closure/elsewhere': `/api/places/${room}/closures/1/elsewhere`,
    'GET /api/catalogue/places.csv': '/api/catalogue/places.csv',
    'GET /api/catalogue/choices': '/api/catalogue/choices',
    'GET /api/catalogue/places/:id/retire': `/api/catalogue/places/${room}/retire`,
    'GET /api/changes': `/api/changes?place=${room}`,
    'GET /api/waiting': '/api/waiting',
    'GET /api/ledger': `/api/ledger?whose=all&${days}&q=`,
    'GET /api/ledger/bookings.csv': `/api/ledger/bookings.csv?whose=all&${days}`,
    'GET /api/ledger/bookings.ics': `/api/ledger/bookings.ics?whose=all&${days}`,
    'GET /api/ledger/changes': '/api/ledger/changes',
    'GET /api/ledger/views': '/api/ledger/views',
  };
}

/** What is told of no meeting, or by a secret of its own: not looked through here. */
const OTHERS = [
  'GET /api/sign-in/return',
  'GET /api/health',
  'GET /api/live',
  'GET /api/account/sessions',
  // Somebody's own alone; src/server/archive/archive.test.ts holds it.
  'GET /api/account/archive',
  'GET /api/events/:id/attachments/:attachment',
  'GET /api/places/:id/photo',
  'GET /api/guest/:token',
  'GET /api/guest/:token/days',
  'GET /api/guest/:token/calendar',
  // The mailroom shows letters to whom they are addressed; tests/access/mailroom.test.ts holds it.
  'GET /api/mailroom',
  'GET /api/mailroom/:id',
  'GET /api/mailroom/:id/letter',
  'GET /api/mailroom/:id/source',
];

/** By which answers somebody comes to which marks: `GET /api/calendar title place`. */
async function found(mailbox: string, event: EventDetail): Promise<Map<Mark, string[]>> {
  const client = await server.as(mailbox);
  const marks = new Map<Mark, string[]>();
  const wrong: string[] = [];
  for (const [route, asked] of Object.entries(addresses(event))) {
    const { status, body } =
      typeof asked === 'string'
        ? await client.get(asked)
        : await client.post(asked.path, asked.body);
    if (![200, 403, 404].includes(status)) wrong.push(`${route} ${status} ${JSON.stringify(body)}`);
    const text = JSON.stringify(body);
    for (const [mark, word] of Object.entries(MARKS) as [Mark, string][])
      if (text.toLowerCase().includes(word.toLowerCase()))
        marks.set(mark, [...(marks.get(mark) ?? []), route]);
  }
  expect(wrong).toEqual([]);
  return marks;
}

describe('what is written in a meeting', () => {
  it('is looked for in every answer there is', () => {
    const reads = Object.keys(ROUTES).filter(
      (route) => route.startsWith('GET ') || route.startsWith('POST /api/availability/'),
    );
    expect([...Object.keys(addresses(shared)), ...OTHERS].sort()).toEqual(reads.sort());
  });

  it('is all there for whoever organizes it', async () => {
    const seen = await found('leila.haddad', shared);
    expect([...seen.keys()].sort()).toEqual(Object.keys(MARKS).sort());
  });

  it('is nowhere for a colleague with whom its holder shares busy times', async () => {
    expect(await found('hal.teague', shared)).toEqual(new Map());
    expect(await found('hal.teague', hidden)).toEqual(new Map());
  });

  it('is for whoever looks after its place no more than what they are told of it', async () => {
    expect([...(await found('ines.aldabe', shared)).keys()]).toEqual(['stewards']);
  });

  it('is there for who is asked, but for a list that is hidden and what stewards are told', async () => {
    const seen = await found('mika.sandoval', shared);
    expect([...seen.keys()].sort()).toEqual(
      ['comment', 'description', 'file', 'guest', 'note', 'place', 'title'].sort(),
    );
    const shadowed = await found('mika.sandoval', hidden);
    // Meetings beside each other come in the same lists: only what is of this one is looked at.
    const ofOne = (shadowed.get('guest') ?? []).filter((route) => route.includes(':id'));
    expect(ofOne).toEqual([]);
  });

  it('of a draft is nowhere for those it will ask', async () => {
    for (const mailbox of ['mika.sandoval', 'hal.teague', 'ines.aldabe']) {
      const seen = await found(mailbox, draft);
      const ofOne = [...seen].flatMap(([mark, routes]) =>
        routes
          .filter((route) => /events\/:id|invitations\/:id|replies\/:id/.test(route))
          .map((route) => `${mark} ${route}`),
      );
      expect([mailbox, ofOne]).toEqual([mailbox, []]);
    }
    expect((await found('leila.haddad', draft)).get('title')).toContain('GET /api/events/:id');
  });
});
