import { RESOURCE_KINDS } from '../../contract/resourceKind.ts';
import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import ICAL from 'ical.js';
import type { ProblemBody } from '../../contract/common.ts';
import {
  LEDGER_COLUMNS,
  LEDGER_GROUPS,
  type LedgerColumn,
  type LedgerGroup,
  type LedgerResponse,
} from '../../contract/ledger.ts';

import { eventLevel, showsTitle, type Shown } from '../../core/availability/busy.ts';
import { grouped } from '../../core/grouped.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay, startOfWeek } from '../../core/time/wall.ts';
import { actsOf, Levels } from '../access/index.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { isLong, often } from '../../../tests/support/effort.ts';

/* The ledger against a slow and obvious reading of the same bookings. */
const server = useServer({ works: false });

/** A booking as somebody may see it, read one by one. */
interface Seen extends Record<string, unknown> {
  id: string;
  start: number;
  end: number;
  placeId: number;
  place: string;
  kind: string;
  siteId: number;
  site: string;
  floor: string;
  title: string | null;
  holderId: number | null;
  holder: string | null;
  state: string;
}

const READERS = ['Ines Aldabe', 'Mika Sandoval', 'Hal Teague'] as const;
const mailboxOf = (name: string) => name.toLowerCase().replace(' ', '.');

/** Every booking there is as a reader sees it, by the functions that show a single one. */
async function seenBy(name: string): Promise<Seen[]> {
  const id = await server.id(name);
  const [{ role }] = (await server.sql<{ role: 'staff' | 'steward' }>(
    'select role from person where subject_id = $1',
    [id],
  )) as [{ role: 'staff' | 'steward' }];
  const rows = await server.sql<
    Seen & { visibility: Shown; takesPart: boolean; organizer: number }
  >(
    `select r.id, o.starts_at as start, o.ends_at as "end", r.resource_id as "placeId",
            place.name as place, resource.kind, site.id as "siteId", site.name as site,
            resource.floor, o.title, o.visibility, o.organizer_id as organizer,
            o.organizer_id as "holderId", holder.name as holder, r.state,
            exists (select 1 from attendee
                    where event_id = o.event_id and person_id = $1) as "takesPart"
     from reservation r
     join effective_occurrence o on o.id = r.occurrence_id
     join resource on resource.subject_id = r.resource_id
     join subject place on place.id = r.resource_id
     join site on site.id = resource.site_id
     join subject holder on holder.id = o.organizer_id`,
    [id],
  );
  const levels = await Levels.of(
    server.running.platform.pool,
    {
      me: {
        id,
        acts: actsOf(role, role === 'staff' ? [] : null),
        keeps: role === 'staff' ? [] : null,
      },
    },
    rows.map((row) => row.organizer),
  );
  return rows.map(({ visibility, takesPart, organizer, ...row }) => {
    const about = { organizerId: organizer, visibility, takesPart };
    const showsIt = showsTitle(eventLevel(levels.calendar(organizer), visibility, takesPart));
    const showsWho = levels.seesHolder({ ...about, resourceId: row.placeId });
    return {
      ...row,
      id: String(row.id),
      start: Number(new Date(row.start)),
      end: Number(new Date(row.end)),
      title: showsIt ? row.title : null,
      holder: showsWho ? row.holder : null,
    };
  });
}

const ZONE = 'Europe/Oslo';
const zoneOf = async (name: string) =>
  (
    await server.sql<{ zone: string }>('select zone from person where subject_id = $1', [
      await server.id(name),
    ])
  )[0]!.zone;
const minutesOf = (row: Seen) => (row.end - row.start) / MINUTE;

/** What a column is sorted by, hidden texts as if they were empty. */
const SORTED: Record<LedgerColumn, (row: Seen) => string | number> = {
  start: (row) => row.start,
  length: minutesOf,
  place: (row) => row.place.toLowerCase(),
  kind: (row) => row.kind,
  site: (row) => row.site.toLowerCase(),
  floor: (row) => `${row.site} ${row.floor}`.toLowerCase(),
  title: (row) => (row.title ?? '').toLowerCase(),
  holder: (row) => (row.holder ?? '').toLowerCase(),
  state: (row) => row.state,
};

/** In which group a booking is. */
const GROUPED: Record<LedgerGroup, (row: Seen, zone: string) => string | null> = {
  day: (row, zone) => dateAt(row.start, zone),
  week: (row, zone) => startOfWeek(dateAt(row.start, zone)),
  length: (row) => String(minutesOf(row)),
  place: (row) => row.place,
  kind: (row) => row.kind,
  site: (row) => row.site,
  floor: (row) => (row.floor ? `${row.site}, floor ${row.floor}` : row.site),
  title: (row) => row.title,
  holder: (row) => row.holder,
  state: (row) => row.state,
};

const address = (query: Record<string, unknown>) =>
  `/api/ledger?${new URLSearchParams(
    Object.entries(query).flatMap(([name, value]) =>
      value === undefined ? [] : [[name, String(value)]],
    ),
  ).toString()}`;

const arbitrary = fc.record({
  whose: fc.constantFrom('mine', 'all'),
  from: fc.option(fc.constantFrom('2026-11-01', '2026-11-23', '2026-12-01'), { nil: undefined }),
  to: fc.option(fc.constantFrom('2026-11-24', '2026-12-04'), { nil: undefined }),
  when: fc.option(fc.constantFrom('coming', 'past'), { nil: undefined }),
  kind: fc.option(fc.constantFrom(...RESOURCE_KINDS.slice(0, 3)), { nil: undefined }),
  site: fc.option(fc.constantFrom(1, 2), { nil: undefined }),
  state: fc.option(fc.constantFrom('held', 'released'), { nil: undefined }),
  q: fc.constantFrom('', '', 'kelp', 'gan', 'ines', 'zzz'),
  sort: fc.constantFrom(...LEDGER_COLUMNS),
  order: fc.constantFrom('up', 'down'),
});

describe('the ledger', () => {
  it('says of every query, sorted and put together, what is said of each booking by itself', async () => {
    const people = new Map(
      await Promise.all(
        READERS.map(
          async (name) =>
            [
              name,
              {
                id: await server.id(name),
                client: await server.as(mailboxOf(name)),
                all: await seenBy(name),
                zone: await zoneOf(name),
              },
            ] as const,
        ),
      ),
    );
    // So that the test says something: some of it is hidden from somebody, and something was cancelled.
    expect(people.get('Mika Sandoval')!.all.some((one) => one.title === null)).toBe(true);
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...READERS),
        arbitrary,
        fc.option(fc.constantFrom(...LEDGER_GROUPS), { nil: undefined }),
        async (name, query, group) => {
          const { id, client, all, zone } = people.get(name)!;
          const today = startOfDay(dateAt(server.running.platform.clock.now(), zone), zone);
          const holds = (text: string | null) =>
            text !== null && text.toLowerCase().includes(query.q);
          const expected = all.filter(
            (row) =>
              (query.state ? row.state === query.state : row.state !== 'released') &&
              (query.whose === 'all' || row.holderId === id) &&
              (!query.kind || row.kind === query.kind) &&
              (!query.site || row.siteId === query.site) &&
              (!query.from || row.start >= startOfDay(query.from, zone)) &&
              (!query.to || row.start < startOfDay(addDays(query.to, 1), zone)) &&
              (query.when !== 'coming' || row.start >= today) &&
              (query.when !== 'past' || row.start < today) &&
              (query.q === '' || [row.place, row.site, row.title, row.holder].some(holds)),
          );
          const page = await client.get<LedgerResponse>(address({ ...query, limit: 40 }));
          expect(page.status).toBe(200);
          expect(page.body.total).toBe(Math.min(expected.length, 10_000));
          const sign = query.order === 'up' ? 1 : -1;
          const by = SORTED[query.sort];
          const ranked = expected
            .map((row) => ({ row, key: by(row) }))
            .sort(
              (a, b) =>
                sign *
                (a.key < b.key
                  ? -1
                  : a.key > b.key
                    ? 1
                    : a.row.start - b.row.start || Number(a.row.id) - Number(b.row.id)),
            );
          const rows = [...page.body.rows];
          if (page.body.next) {
            const more = await client.get<LedgerResponse>(
              address({ ...query, limit: 40, after: page.body.next }),
            );
            rows.push(...more.body.rows);
            expect(more.body.total).toBe(page.body.total);
          }
          // In which order texts stand is the database's to say; that each part goes on is ours.
          const isNumber = query.sort === 'start' || query.sort === 'length';
          if (isNumber)
            expect(rows.map((one) => one.id)).toEqual(ranked.slice(0, 80).map(({ row }) => row.id));
          // What is hidden comes last, whichever way they are sorted.
          if (query.sort === 'title' || query.sort === 'holder') {
            const hidden = rows.map((one) => one[query.sort as 'title' | 'holder'] === null);
            expect(hidden).toEqual([...hidden].sort());
          }
          expect(rows).toHaveLength(Math.min(expected.length, 80));
          expect(new Set(rows.map((one) => one.id)).size).toBe(rows.length);
          for (const row of rows) {
            const one = expected.find(({ id: own }) => own === row.id)!;
            expect({ title: row.title, holder: row.holder }).toEqual({
              title: one.title,
              holder: one.holder,
            });
          }
          if (!group) return;
          const { body } = await client.get<LedgerResponse>(address({ ...query, group }));
          const wanted = [...grouped(expected, (row) => String(GROUPED[group](row, zone)))].map(
            ([label, some]) => ({
              label,
              bookings: some.length,
              minutes: some.reduce((sum, row) => sum + minutesOf(row), 0),
            }),
          );
          const got = body.groups.map(({ label, bookings, minutes }) => ({
            label: String(label),
            bookings,
            minutes,
          }));
          const sorted = (some: typeof got) =>
            some.sort((a, b) => (a.label < b.label ? -1 : a.label > b.label ? 1 : 0));
          // Two holders of one name are two groups; there are none in the demonstration.
          expect(sorted(got)).toEqual(sorted(wanted));
          const [first] = body.groups;
          if (!first) return;
          const inside = await client.get<LedgerResponse>(
            address({ ...query, group, in: first.key, limit: 200 }),
          );
          expect(inside.body.total).toBe(first.bookings);
        },
      ),
      { numRuns: often(60) },
    );
  });

  it('is read on to its end, each booking once and what is hidden last, whichever way words go', async () => {
    const mika = await server.as('mika.sandoval');
    const all = (await seenBy('Mika Sandoval')).filter((row) => row.state !== 'released');
    for (const sort of ['title', 'holder'] as const)
      for (const order of ['up', 'down']) {
        const rows: LedgerResponse['rows'] = [];
        for (let after: string | null | undefined; after !== null;) {
          const query = {
            whose: 'all',
            sort,
            order,
            limit: isLong ? 37 : 113,
            after: after ?? undefined,
          };
          const { body } = await mika.get<LedgerResponse>(address(query));
          rows.push(...body.rows);
          after = body.next;
        }
        expect(new Set(rows.map((one) => one.id))).toEqual(new Set(all.map((one) => one.id)));
        expect(rows).toHaveLength(all.length);
        const hidden = rows.map((one) => one[sort] === null);
        expect(hidden).toEqual([...hidden].sort());
        expect(new Set(hidden).size).toBe(sort === 'title' ? 2 : new Set(hidden).size);
        const alike = rows.filter((one, k) => one[sort] === rows[k - 1]?.[sort]);
        expect(alike.length).toBeGreaterThan(10);
        for (const [k, one] of rows.entries()) {
          const before = rows[k - 1];
          if (!before || before[sort]?.toLowerCase() !== one[sort]?.toLowerCase()) continue;
          expect((order === 'up' ? 1 : -1) * (one.start - before.start)).toBeGreaterThanOrEqual(0);
        }
      }
  });

  it('names what of a query is not understood', async () => {
    const client = await server.as('mika.sandoval');
    for (const [query, field] of [
      [{ sort: 'colour' }, 'sort'],
      [{ in: 'x' }, 'in'],
      [{ after: 'not-a-cursor' }, 'after'],
      [{ from: '2026-13-01' }, 'from'],
    ] as const) {
      const answer = await client.get<ProblemBody>(address(query));
      expect([query, answer.status, answer.body.fields?.[0]?.field]).toEqual([query, 400, field]);
    }
    expect(
      (await client.get<LedgerResponse>(address({ group: 'place', in: 'x' }))).body.rows,
    ).toEqual([]);
  });
});

describe('what is written out', () => {
  it('is all that is asked for, as CSV that no table program runs and as iCalendar', async () => {
    const client = await server.as('hal.teague');
    const made = await client.post(
      '/api/events',
      meetingRequest({
        title: '=HYPERLINK("x")',
        attendees: [],
        resources: [await server.id('Gannet')],
        times: { startsAt: '2027-03-03T10:00', endsAt: '2027-03-03T11:00', zone: ZONE },
      }),
    );
    expect(made.status).toBe(201);
    const { body } = await client.get<LedgerResponse>(address({ when: 'coming', limit: 200 }));
    const csv = await client.get<string>('/api/ledger/bookings.csv?when=coming');
    expect(csv.headers.get('content-disposition')).toContain('bookings.csv');
    const { data } = Papa.parse<Record<string, string>>(csv.body, {
      header: true,
      skipEmptyLines: true,
    });
    expect(data).toHaveLength(body.rows.length);
    expect(data.map((row) => row.place)).toEqual(body.rows.map((row) => row.place));
    expect(data.find((row) => row.title?.includes('HYPERLINK'))!.title).toBe(`'=HYPERLINK("x")`);
    const ics = await client.get<string>('/api/ledger/bookings.ics?when=coming');
    const calendar = new ICAL.Component(ICAL.parse(ics.body) as unknown[]);
    const events = calendar.getAllSubcomponents('vevent');
    // Several places of one date are one entry.
    const dates = new Map(
      body.rows.map((row) => [
        row.eventId && (row.mine || row.others !== null)
          ? `${row.eventId} ${row.occurrence}`
          : row.id,
        row.start,
      ]),
    );
    expect(
      events.map((one) => Number((one.getFirstPropertyValue('dtstart') as ICAL.Time).toJSDate())),
    ).toEqual([...dates.values()]);
  });

  it('is one entry with the letters of a meeting, and stays the same while its places change', async () => {
    const client = await server.as('hal.teague');
    const [gannet, puffin] = [await server.id('Gannet'), await server.id('Puffin')];
    const made = await client.post<{ id: string; uid: string; version: number }>(
      '/api/events',
      meetingRequest({
        title: 'Nets every week',
        attendees: [],
        resources: [gannet, puffin],
        times: { startsAt: '2027-05-05T10:00', endsAt: '2027-05-05T11:00', zone: ZONE },
        repeats: { rule: 'FREQ=WEEKLY;COUNT=2' },
      }),
    );
    expect(made.status).toBe(201);
    const written = async (as = client) => {
      const query = 'from=2027-05-01&to=2027-05-31&whose=all';
      const { body } = await as.get<string>(`/api/ledger/bookings.ics?${query}`);
      const calendar = new ICAL.Component(ICAL.parse(body) as unknown[]);
      return calendar
        .getAllSubcomponents('vevent')
        .map((one) =>
          ['uid', 'recurrence-id', 'location', 'dtstart'].map((name) =>
            String(one.getFirstPropertyValue(name)),
          ),
        )
        .filter(
          ([, , location, start]) =>
            location!.includes('Puffin') && /-(05|12)T08:00:00Z$/.test(start!),
        )
        .map((one) => one.slice(0, 3));
    };
    const { uid } = made.body;
    const places = 'Gannet, Skerry House; Puffin, Skerry House';
    const first = [
      [uid, '2027-05-05T08:00:00Z', places],
      [uid, '2027-05-12T08:00:00Z', places],
    ];
    expect(await written()).toEqual(first);
    // Whoever sees that it is taken alone has a name that tells nothing, and stays.
    const other = await server.as('tomas.okafor');
    const before = await written(other);
    expect(before).toHaveLength(2);
    expect(before.join()).not.toContain(uid);
    expect(new Set(before.map(([name]) => name)).size).toBe(2);
    const moved = await client.patch(`/api/events/${made.body.id}`, {
      version: made.body.version,
      scope: 'all',
      resources: [puffin],
    });
    expect(moved.status).toBe(200);
    expect(await written()).toEqual(
      first.map(([name, date]) => [name, date, 'Puffin, Skerry House']),
    );
    expect(await written(other)).toEqual(before);
  });
});

describe('views that are kept', () => {
  it('are one’s own, at most so many, and the newest of a name', async () => {
    const client = await server.as('mika.sandoval');
    const kept = await client.post<{ id: number }>('/api/ledger/views', {
      name: 'Labs this week',
      query: 'kind=lab&when=coming',
    });
    expect(kept.status).toBe(201);
    await client.post('/api/ledger/views', { name: 'Labs this week', query: 'kind=lab' });
    const views = await client.get<{ views: { name: string; query: string }[] }>(
      '/api/ledger/views',
    );
    expect(views.body.views.map(({ name, query }) => [name, query])).toEqual([
      ['Labs this week', 'kind=lab'],
    ]);
    for (let k = 1; k < 30; k++)
      await client.post('/api/ledger/views', { name: `View ${k}`, query: '' });
    const more = await client.post<ProblemBody>('/api/ledger/views', {
      name: 'One more',
      query: '',
    });
    expect([more.status, more.body.code]).toEqual([409, 'too-many-views']);
    expect((await client.request('DELETE', `/api/ledger/views/${kept.body.id}`)).status).toBe(200);
  });
});

it('asked in many ways, uses up no names of statements', async () => {
  const ines = await server.as('ines.aldabe');
  for (let limit = 1; limit <= 25; limit++)
    for (const sort of ['title', 'start'])
      expect((await ines.get(`/api/ledger?whose=all&limit=${limit}&sort=${sort}`)).status).toBe(
        200,
      );
  const { pool } = server.running.platform;
  const client = await pool.connect();
  try {
    const { rows } = await client.query<{ statement: string }>(
      'select statement from pg_prepared_statements',
    );
    expect(rows.length).toBeGreaterThan(0);
    expect(rows.filter((one) => one.statement.includes('page as materialized'))).toEqual([]);
  } finally {
    client.release();
  }
});
